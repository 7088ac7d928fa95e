//! A finding in the making: who, how bad, what is wrong, the facts, and what would fix it.

use super::evidence::{Evidence, EvidenceRole};
use super::finding::{Consequence, Finding};
use crate::derived::context::Worst;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Origin;
use crate::quantity::format::{engineering_of, told_apart};
use crate::quantity::units::Quantity;
use crate::source::Span;
use crate::verdict::codes::Code;
use crate::verdict::severity::Severity;

/// The part of the plan that a finding is about, and where the plan says so.
#[derive(Clone, Copy)]
pub(crate) struct Subject<'a> {
    pub name: &'a str,
    pub span: Span,
}

impl<'a> From<&'a Name> for Subject<'a> {
    fn from(name: &'a Name) -> Self {
        Self { name: &name.text, span: name.span }
    }
}

impl<'a> From<(&'a str, Span)> for Subject<'a> {
    fn from((name, span): (&'a str, Span)) -> Self {
        Self { name, span }
    }
}

impl<'a> From<(&'a String, Span)> for Subject<'a> {
    fn from((name, span): (&'a String, Span)) -> Self {
        Self { name, span }
    }
}

/// A finding in the making; [`Sink::find`](super::sink::Sink::find) takes it.
pub(crate) struct Draft {
    finding: Finding,
    /// Other subjects of the same check that it stands for.
    also_on: Vec<(String, Severity)>,
    /// The worst value, and the nominal one of the same scenario.
    beside: Option<(f64, f64)>,
}

impl Draft {
    pub fn of<'a>(severity: Severity, subject: impl Into<Subject<'a>>) -> Self {
        let subject = subject.into();
        Self {
            finding: Finding {
                code: "",
                severity,
                subject: subject.name.to_owned(),
                scenario: None,
                corner: None,
                mix: None,
                message: String::new(),
                tasks: Vec::new(),
                fixes: Vec::new(),
                obstacle: None,
                span: Some(subject.span),
                evidence: Vec::new(),
                also: Vec::new(),
                goes_with: None,
                listed_with: None,
                accepted: None,
            },
            also_on: Vec::new(),
            beside: None,
        }
    }

    pub fn danger<'a>(subject: impl Into<Subject<'a>>) -> Self {
        Self::of(Severity::Danger, subject)
    }

    pub fn fault<'a>(subject: impl Into<Subject<'a>>) -> Self {
        Self::of(Severity::Fault, subject)
    }

    pub fn caution<'a>(subject: impl Into<Subject<'a>>) -> Self {
        Self::of(Severity::Caution, subject)
    }

    pub fn advisory<'a>(subject: impl Into<Subject<'a>>) -> Self {
        Self::of(Severity::Advisory, subject)
    }

    pub fn unknown<'a>(subject: impl Into<Subject<'a>>) -> Self {
        Self::of(Severity::Unknown, subject)
    }

    /// The scenario and corner in which it is worst; leave it out for what depends on neither.
    pub fn at<'w>(mut self, worst: impl Into<Option<&'w Worst>>) -> Self {
        let worst = worst.into();
        self.finding.scenario = worst.map(|w| w.scenario.clone());
        self.finding.corner = worst.map(|w| w.corner);
        self.beside = worst.and_then(|w| Some((w.value, w.typical?)));
        self
    }

    /// The sentence.
    pub fn says(mut self, message: impl Into<String>) -> Self {
        self.finding.message = message.into();
        self
    }

    /// The number that is judged.
    pub fn judged<Q: Quantity>(self, name: &'static str, value: Q) -> Self {
        self.fact(Evidence::judged(name, value))
    }

    /// The number that is judged, where it is a figure of the plan itself.
    pub fn judged_as_given<Q: Quantity>(self, name: &'static str, value: Q, origin: &Origin) -> Self {
        self.fact(Evidence::judged_as_given(name, value, origin))
    }

    /// The most that the judged number may be.
    pub fn at_most<Q: Quantity>(self, name: &'static str, limit: Q, origin: &Origin) -> Self {
        self.fact(Evidence::at_most(name, limit, origin))
    }

    /// The least that the judged number must be.
    pub fn at_least<Q: Quantity>(self, name: &'static str, limit: Q, origin: &Origin) -> Self {
        self.fact(Evidence::at_least(name, limit, origin))
    }

    /// A limit whose side depends on the case.
    pub fn limit<Q: Quantity>(self, side: EvidenceRole, name: &'static str, limit: Q, origin: &Origin) -> Self {
        self.fact(Evidence::limit(side, name, limit, origin))
    }

    /// A computed number that explains the comparison.
    pub fn with<Q: Quantity>(self, name: &'static str, value: Q) -> Self {
        self.fact(Evidence::computed(name, value))
    }

    /// A figure that explains the comparison.
    pub fn given<Q: Quantity>(self, name: &'static str, value: Q, origin: &Origin) -> Self {
        self.fact(Evidence::context(name, value, origin))
    }

    pub fn fact(mut self, fact: Evidence) -> Self {
        self.finding.evidence.push(fact);
        self
    }

    pub fn facts(mut self, facts: impl IntoIterator<Item = Evidence>) -> Self {
        self.finding.evidence.extend(facts);
        self
    }

    /// Something to do that is no edit of the plan, after those named before.
    pub fn task(mut self, task: impl Into<String>) -> Self {
        self.finding.tasks.push(task.into());
        self
    }

    pub fn tasks(mut self, tasks: impl IntoIterator<Item = String>) -> Self {
        self.finding.tasks.extend(tasks);
        self
    }

    /// Names what has the same cause and is not reported by itself, with its own severity.
    pub fn also(mut self, code: Code, subject: &str, severity: Severity) -> Self {
        self.finding.also.push(Consequence::without_number(code.name, subject, severity));
        self
    }

    /// As [`also`](Self::also), as severe as the finding itself.
    pub fn implies(self, code: Code, subject: &str) -> Self {
        let severity = self.finding.severity;
        self.also(code, subject, severity)
    }

    /// Findings of one check with the same cause are listed together, the worst as their head.
    pub fn listed_with(mut self, cause: &str) -> Self {
        self.finding.listed_with = Some(cause.to_owned());
        self
    }

    /// Names other subjects with the same finding and the same cause, each as severe as it is by itself.
    pub fn also_on<'n>(mut self, others: impl IntoIterator<Item = (&'n str, Severity)>) -> Self {
        self.also_on.extend(others.into_iter().map(|(name, severity)| (name.to_owned(), severity)));
        self
    }

    /// The finding, under the code of its check, its text unfinished: for verdicts that nobody reads.
    pub fn finish_unread(self, code: &'static str) -> Finding {
        let mut finding = Finding { code, ..self.finding };
        let others =
            self.also_on.into_iter().map(|(subject, severity)| Consequence::without_number(code, &subject, severity));
        finding.also.splice(0..0, others);
        finding
    }

    /// The finding, under the code of its check.
    pub fn finish(self, code: &'static str) -> Finding {
        let beside = self.beside;
        let mut finding = self.finish_unread(code);
        tell_apart(&mut finding);
        if let Some((worst, typical)) = beside {
            say_both(&mut finding, worst, typical);
        }
        finding.tasks.iter_mut().for_each(|task| *task = sentence(task));
        finding
    }
}

/// A fix is an imperative: it begins with a capital, unless it begins with a name.
pub(crate) fn sentence(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

/// Where the judged number and its limit print alike, both get the digits that tell them apart; the message names the
/// judged number first.
fn tell_apart(finding: &mut Finding) {
    let Some((judged, limit)) = finding.comparison() else { return };
    let short = engineering_of(judged.value, judged.unit);
    let (judged, limit) = told_apart(judged.value, limit.value, judged.unit);
    if judged == short || finding.message.matches(&short).count() < 2 {
        return;
    }
    let message = finding.message.replacen(&short, &judged, 1);
    let rest = message.find(&judged).map_or(0, |at| at + judged.len());
    finding.message = format!("{}{}", &message[..rest], message[rest..].replacen(&short, &limit, 1));
}

/// A nominal number that differs from the worst by less than this share adds nothing.
const MUCH_THE_SAME: f64 = 0.02;

/// A number that is judged at its worst gets the nominal one beside it, where the message prints the number. What was
/// looked for as the largest of a value may have been looked for with its sign turned.
fn say_both(finding: &mut Finding, worst: f64, typical: f64) {
    let Some(judged) = finding.evidence.iter().find(|e| e.role == EvidenceRole::Judged) else { return };
    let is_it = |value: f64| (value - judged.value).abs() <= 1e-9 * judged.value.abs();
    let nominal = match (is_it(worst), is_it(-worst)) {
        (true, _) => typical,
        (_, true) => -typical,
        _ => return,
    };
    let (shown, beside) = (engineering_of(judged.value, judged.unit), engineering_of(nominal, judged.unit));
    let differs = (nominal - judged.value).abs() > MUCH_THE_SAME * judged.value.abs();
    if !differs || beside == shown {
        return;
    }
    let fact = Evidence { name: "typical", role: EvidenceRole::Context, value: nominal, ..judged.clone() };
    // Some messages name it themselves.
    let is_said = [" nominal", "(typical", "typically"].iter().any(|word| finding.message.contains(word));
    if let Some(at) = place_of(&shown, &finding.message).filter(|_| !is_said) {
        finding.message.insert_str(at + shown.len(), &format!(" (typical {beside})"));
    }
    finding.evidence.push(fact);
}

/// Where a number stands in a message by itself: `2 A` is neither in `12 A` nor in `2 AWG`.
fn place_of(number: &str, message: &str) -> Option<usize> {
    let whole = |at: &usize| {
        let before = message[..*at].chars().next_back();
        let after = message[at + number.len()..].chars().next();
        !before.is_some_and(|c| c.is_ascii_digit() || matches!(c, '.' | '−'))
            && !after.is_some_and(char::is_alphanumeric)
    };
    message.match_indices(number).map(|(at, _)| at).find(whole)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::evidence::EvidenceRole;
    use crate::plan::kinds::scenario::Scenario;
    use crate::quantity::figure::Corner;
    use crate::quantity::units::{Amps, Volts};
    use crate::verdict::codes;

    const AT: Span = Span { start: 3, end: 7 };

    #[test]
    fn a_draft_says_what_it_was_told_and_no_more() {
        let bare = Draft::caution(("wall", AT)).finish("supply-overloaded");
        assert_eq!((bare.severity, bare.subject.as_str(), bare.span), (Severity::Caution, "wall", Some(AT)));
        assert!(bare.scenario.is_none() && bare.tasks.is_empty() && bare.evidence.is_empty() && bare.also.is_empty());
        assert!(bare.comparison().is_none());
    }

    #[test]
    fn the_limit_that_is_compared_has_the_unit_of_what_is_judged() {
        let f = Draft::danger(("wall", AT))
            .with("supply", Volts::new(12.0))
            .at_most("rating", Volts::new(30.0), &Origin::Computed)
            .judged("demand", Amps::new(4.0))
            .at_most("rating", Amps::new(3.0), &Origin::Plan(AT))
            .finish("supply-overloaded");
        let (judged, limit) = f.comparison().unwrap();
        assert_eq!((judged.name, limit.name, limit.role), ("demand", "rating", EvidenceRole::AtMost));
        assert_eq!(f.evidence[0].role.word(), "context");
    }

    /// A finding of 2.28 A or what is given, at the worst corner of something whose worst value is `worst`.
    fn beside(message: &str, worst: f64, typical: f64) -> Finding {
        let mut at = Worst::lasting(worst, Scenario::Worst, Corner::Hot);
        at.typical = Some(typical);
        Draft::danger(("wall", AT))
            .at(&at)
            .says(message)
            .judged("demand", Amps::new(2.28))
            .at_most("rating", Amps::new(2.0), &Origin::Computed)
            .finish("supply-overloaded")
    }

    #[test]
    fn the_typical_number_stands_beside_the_worst() {
        let f = beside("it must supply 2.28 A; rated 2 A", 2.28, 1.71);
        assert_eq!(f.message, "it must supply 2.28 A (typical 1.71 A); rated 2 A");
        let typical = f.evidence.last().unwrap();
        assert_eq!((typical.name, typical.role, typical.value), ("typical", EvidenceRole::Context, 1.71));
        // What was looked for with its sign turned.
        assert!(beside("2.28 A", -2.28, -1.71).message.ends_with("(typical 1.71 A)"));
        // The number by itself, not in a longer one.
        let longer = beside("of 12.28 A and 2.28 AWG, 2.28 A", 2.28, 1.71);
        assert_eq!(longer.message, "of 12.28 A and 2.28 AWG, 2.28 A (typical 1.71 A)");
        // Nothing to add: as good as the same, another quantity, or a message without the number.
        assert_eq!(beside("2.28 A", 2.28, 2.25).message, "2.28 A");
        assert_eq!(beside("2.28 A", 1.14, 0.9).message, "2.28 A");
        assert_eq!(beside("1.71 A nominal, 2.28 A at worst", 2.28, 1.71).message, "1.71 A nominal, 2.28 A at worst");
        let silent = beside("too much", 2.28, 1.71);
        assert_eq!((silent.message.as_str(), silent.evidence.len()), ("too much", 3));
    }

    #[test]
    fn others_of_the_check_come_before_what_follows_and_under_its_code() {
        let f = Draft::fault(("a", AT))
            .implies(codes::SUPPLY_VOLTAGE, "b")
            .also_on([("c", Severity::Caution)])
            .finish("motor-voltage");
        let also: Vec<(&str, &str, Severity)> =
            f.also.iter().map(|c| (c.code, c.subject.as_str(), c.severity)).collect();
        let want = [("motor-voltage", "c", Severity::Caution), ("supply-voltage", "b", Severity::Fault)];
        assert_eq!(also, want);
    }
}
