//! Trying a change: it is applied to a copy of the text, which is read and checked.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

use super::candidate::Candidate;
use super::keep::Keep;
use super::sheet::{Item, Sheet};
use super::variant::Variant;
use crate::advise::feeds::FeedPlan;
use crate::derived::context::Context;
use crate::edit::Edit;
use crate::findings::finding::{Consequence, Finding};
use crate::findings::fix::{Effect, Fix};
use crate::plan::model::Plan;
use crate::review::verdicts::Verdicts;
use crate::solved::outcome::Outcome;
use crate::source::Span;
use crate::verdict::codes;
use crate::verdict::severity::Severity;

/// A finding may grow by this share of its limit before it counts as worse (our own figure): a larger supply feeds a
/// little more into a short circuit.
const MAY_GROW: f64 = 0.01;
/// A change that leaves more than this share of what is beyond the limit does not help (our own figure).
const LEAVES: f64 = 0.8;

/// A plan that changes are tried on.
pub(crate) struct Bench {
    pub plan: Arc<Plan>,
    own: Arc<Variant>,
    /// Variants by their edits: many findings ask for the same change.
    tried: Mutex<HashMap<Vec<Edit>, Option<Arc<Variant>>>>,
    /// Feed points by strip, once they are asked for.
    feeds: Mutex<HashMap<String, Option<Arc<FeedPlan>>>>,
    keep: Keep,
}

/// What became of a change that does something for a finding.
pub(crate) struct Tried {
    /// The change as a fix; it is none where `worse` is not empty.
    pub fix: Fix,
    /// What is found then as badly as the finding or worse, and was not before.
    pub worse: Vec<Finding>,
    /// What is new and milder than the finding, but more than advice.
    pub milder: Vec<Finding>,
    /// The plan as it is then.
    pub then: Bench,
}

/// What a first look at a change shows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Glance {
    /// It cannot be read, or the finding is as it was.
    Nothing,
    Milder(Severity),
    Gone,
}

impl Bench {
    /// A plan with the states that it was solved in.
    pub fn new(plan: &Plan, solved: &[Outcome], keep: Keep) -> Self {
        Self::of(Arc::new(Variant::of(plan.clone(), solved)), keep)
    }

    fn of(own: Arc<Variant>, keep: Keep) -> Self {
        Self { plan: Arc::clone(&own.plan), own, tried: Mutex::default(), feeds: Mutex::default(), keep }
    }

    /// What is found of the plan.
    pub fn found(&self) -> &Verdicts {
        self.own.found()
    }

    /// The plan with some edits, to try more on it.
    pub fn then(&self, edits: &[Edit]) -> Option<Self> {
        Some(Self::of(self.with(edits)?, self.keep.clone()))
    }

    /// How many findings of each severity there are, worst first.
    pub fn counts(&self) -> [usize; 5] {
        Severity::LISTED.map(|severity| lines(self.found()).filter(|l| l.2 == severity).count())
    }

    pub fn sheet(&self) -> &Sheet {
        self.own.sheet()
    }

    /// The items that a finding is about: where it points, its subject, what it names.
    pub fn items_of(&self, f: &Finding) -> Vec<Item<'_>> {
        let mut items: Vec<Item<'_>> = Vec::new();
        let at = f.span.and_then(|span| self.sheet().item_at(span));
        let named = f.message.split('`').skip(1).step_by(2).filter_map(|name| self.sheet().item_of(name));
        for item in at.into_iter().chain(self.sheet().item_of(&f.subject)).chain(named) {
            if items.iter().all(|known| known.name != item.name || known.kind != item.kind) {
                items.push(item);
            }
        }
        items
    }

    /// What the checks see of the plan.
    pub fn context(&self) -> Context<'_> {
        self.own.context()
    }

    /// What the cable to an item carries continuously, A.
    pub fn carried(&self, item: &str) -> f64 {
        self.own.carried(item)
    }

    /// The value that a place of the text belongs to.
    pub fn path_at(&self, span: Span) -> Option<String> {
        self.sheet().value_at(span).map(|found| found.path)
    }

    /// The plan with a change; `None` where it cannot be read.
    fn with(&self, edits: &[Edit]) -> Option<Arc<Variant>> {
        let lock = || self.tried.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(known) = lock().get(edits) {
            return known.clone();
        }
        let variant = if edits.iter().any(|edit| self.keep.forbids(edit)) { None } else { self.own.with(edits) };
        let variant = variant.map(Arc::new);
        lock().entry(edits.to_vec()).or_insert(variant).clone()
    }

    /// The feed points that are planned for a strip; `None` where none can be.
    pub fn feeds_of(&self, strip: &str) -> Option<Arc<FeedPlan>> {
        // Held while it is worked out: two findings of one strip ask for the same.
        let mut known = self.feeds.lock().unwrap_or_else(PoisonError::into_inner);
        known.entry(strip.to_owned()).or_insert_with(|| self.plan.feed_options(strip).ok().map(Arc::new)).clone()
    }

    /// The item that a change would touch and that is to be kept.
    pub fn kept_by(&self, candidate: &Candidate) -> Option<String> {
        candidate.edits.iter().find_map(|edit| self.keep.item_of(edit)).map(str::to_owned)
    }

    /// Whether a change does anything for a finding where it was found.
    pub fn glance(&self, f: &Finding, candidate: &Candidate) -> Glance {
        match self.with(&candidate.edits).map(|variant| variant.of_check(f)) {
            None => Glance::Nothing,
            Some(None) => Glance::Gone,
            Some(Some(left)) if left.severity < f.severity || shrinks(f, &left) => Glance::Milder(left.severity),
            Some(Some(_)) => Glance::Nothing,
        }
    }

    /// Applies a change and checks the plan that results; `None` where it cannot be read, or does nothing for the
    /// finding.
    pub fn attempt(&self, f: &Finding, candidate: &Candidate) -> Option<Tried> {
        let variant = self.with(&candidate.edits)?;
        let before = self.own.found();
        // Where a corner shows that it is no fix, nobody needs to look in between.
        let corners = variant.in_corners();
        if before.all_solved && !corners.all_solved {
            return None;
        }
        effect(f, before, corners)?;
        let after = if brings(f, before, corners).0.is_empty() { variant.found() } else { corners };
        let effect = effect(f, before, after)?;
        let (worse, milder) = brings(f, before, after);
        let cloned = |found: Vec<&Finding>| found.into_iter().cloned().collect();
        let (worse, milder): (Vec<Finding>, Vec<Finding>) = (cloned(worse), cloned(milder));
        let gone = gone(f, before, after);
        let is_the_same = |g: &Finding| crate::checks::of(f.code).and_then(|c| c.milder) == Some(g.code);
        let new = milder.iter().filter(|g| g.subject != f.subject || !is_the_same(g));
        let new = new.map(|g| (g.severity, g.code, g.subject.clone()));
        // What its check puts under the finding may be left for a reason of its own.
        let left = |c: &Consequence| same(after, c.code, &c.subject).map(|l| (l.2, c.code, c.subject.clone()));
        let is_declared =
            |c: &&Consequence| !before.findings.iter().any(|g| g.code == c.code && g.subject == c.subject);
        let brings = new.chain(f.also.iter().filter(is_declared).filter_map(left)).collect();
        let Candidate { title, edits } = candidate.clone();
        Some(Tried {
            fix: Fix { title, edits, effect, gone, brings },
            worse,
            milder,
            then: Self::of(variant, self.keep.clone()),
        })
    }
}

fn shrinks(f: &Finding, left: &Finding) -> bool {
    left.severity == f.severity && f.excess() > 0.0 && left.excess() < LEAVES * f.excess()
}

/// A finding's check and part, its severity and, where it is by itself, the finding.
type Line<'f> = (&'static str, &'f str, Severity, Option<&'f Finding>);

/// All findings, those that stand under another one too; accepted ones are none.
fn lines(found: &Verdicts) -> impl Iterator<Item = Line<'_>> {
    found.findings.iter().filter(|f| f.accepted.is_none()).flat_map(|f| {
        let own = std::iter::once((f.code, f.subject.as_str(), f.severity, Some(f)));
        own.chain(f.also.iter().map(|c| (c.code, c.subject.as_str(), c.severity, None)))
    })
}

fn same<'f>(found: &'f Verdicts, code: &str, subject: &str) -> Option<Line<'f>> {
    lines(found).filter(|l| l.0 == code && l.1 == subject).max_by_key(|l| l.2)
}

/// What became of a finding; `None` where it is left as it is, or worse, or can no longer be decided.
fn effect(f: &Finding, before: &Verdicts, after: &Verdicts) -> Option<Effect> {
    let Some((_, _, severity, left)) = same(after, f.code, &f.subject) else {
        // Under the code for the same number while it is milder.
        let milder = crate::checks::of(f.code).and_then(|c| c.milder);
        let left = milder.filter(|code| same(before, code, &f.subject).is_none());
        if let Some((_, _, severity, left)) = left.and_then(|code| same(after, code, &f.subject)) {
            return Some(Effect::Helps { severity, then: left.and_then(judged) });
        }
        let margin = after.passed.iter().find(|p| p.code == f.code && p.subject == f.subject);
        return Some(Effect::Ends { margin: margin.map(|p| p.margin.clone()).filter(|m| !m.is_empty()) });
    };
    let is_less = severity < f.severity && severity != Severity::Unknown;
    let shrinks = left.is_some_and(|left| shrinks(f, left));
    (is_less || shrinks).then(|| Effect::Helps { severity, then: left.and_then(judged) })
}

fn judged(f: &Finding) -> Option<(f64, &'static str)> {
    f.comparison().map(|(judged, _)| (judged.value, judged.unit))
}

/// What is found as badly as the finding or worse, and was not found before or not so badly; and what is milder and new,
/// but more than advice.
fn brings<'a>(f: &Finding, before: &Verdicts, after: &'a Verdicts) -> (Vec<&'a Finding>, Vec<&'a Finding>) {
    let is_new = |(code, subject, severity, own): &Line<'_>| {
        let Some((_, _, was, known)) = same(before, code, subject) else {
            // That one more cable has no size is nothing new.
            let was_unknown = |l: Line<'_>| l.0 == *code && l.2 == Severity::Unknown;
            return *severity != Severity::Unknown || !lines(before).any(was_unknown);
        };
        let grows = || own.zip(known).is_some_and(|(own, known)| own.excess() > known.excess() + MAY_GROW);
        // The finding itself was judged already.
        let is_it = *code == f.code && *subject == f.subject;
        !is_it
            && (*severity > was
                || (*severity == was && grows())
                || (*severity == Severity::Unknown && was != *severity))
    };
    let counts = |severity: Severity| severity >= f.severity || severity == Severity::Unknown;
    let (mut worse, mut milder): (Vec<&Finding>, Vec<&Finding>) = (Vec::new(), Vec::new());
    for head in after.findings.iter().filter(|g| g.accepted.is_none()) {
        let own = (head.code, head.subject.as_str(), head.severity, Some(head));
        let also = head.also.iter().map(|c| (c.code, c.subject.as_str(), c.severity, None));
        let all = std::iter::once(own).chain(also).filter(|(code, ..)| *code != codes::ASSUMPTION_DECIDES.name);
        let new: Vec<Severity> = all.filter(is_new).map(|line| line.2).collect();
        if new.iter().any(|severity| counts(*severity)) {
            worse.push(head);
        } else if new.iter().any(|severity| *severity > Severity::Advisory) {
            milder.push(head);
        }
    }
    worse.sort_by_key(|g| std::cmp::Reverse(g.severity));
    milder.sort_by_key(|g| std::cmp::Reverse(g.severity));
    (worse, milder)
}

/// What else is gone.
fn gone(f: &Finding, before: &Verdicts, after: &Verdicts) -> Vec<(&'static str, String)> {
    let is_it = |code: &str, subject: &str| code == f.code && subject == f.subject;
    let gone =
        lines(before).filter(|(code, subject, _, _)| !is_it(code, subject) && same(after, code, subject).is_none());
    let mut gone: Vec<(&'static str, String)> = gone.map(|(code, subject, ..)| (code, subject.to_owned())).collect();
    gone.dedup();
    gone
}
