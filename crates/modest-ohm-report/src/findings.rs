//! Findings as text and as JSON.

use modest_ohm::checks::registry;
use modest_ohm::findings::{Consequence, Evidence, MixedFigure, Obstacle, Passed};
use modest_ohm::units::Origin;
use modest_ohm::{Finding, Review, Scenario, Severity};

use crate::document::entry::{Columns, Entry};
use crate::document::style::{self, QUIET, paint};
use crate::document::wrap::wrap;
use crate::document::{Block, Document, PassedLine};
use crate::first_screen::{counts, first_screen, last, top};
use crate::fixes::left_to_do;
use crate::json::{
    self, AlsoShape, CheckShape, EvidenceShape, FindingShape, HeadShape, MixedShape, PassedShape, SummaryShape,
};
use crate::proposals::proposals;
use crate::{Input, Layout};

/// The findings, worst first: on a terminal what fits on its first screen, else all of them.
#[must_use]
pub fn check_text(input: &Input<'_>, review: &Review, layout: Layout) -> String {
    match layout.rows.filter(|_| !layout.passed) {
        Some(rows) => first_screen(input, review, layout.width, rows),
        None => complete(input, review, layout),
    }
}

/// All findings; with `passed`, also every check and subject that was decided without one.
fn complete(input: &Input<'_>, review: &Review, layout: Layout) -> String {
    let mut page = Document::default();
    page.push(Block::Entries(entries(input, review)));
    if layout.passed {
        let line = |p: &Passed| PassedLine { code: p.code, subject: p.subject.clone(), margin: p.margin.clone() };
        page.push(Block::Passed(review.passed().iter().map(line).collect()));
        page.gap();
    }
    format!("{}\n{}{}", top(input, review, layout.width), page.text(layout.width), last(review, layout.width))
}

/// One finding in full, by its number in the list or its code; `None` where there is none.
#[must_use]
pub fn finding_text(input: &Input<'_>, review: &Review, wanted: &str, layout: Layout) -> Option<String> {
    let number = wanted.parse::<usize>().ok();
    let entry = entries(input, review).into_iter().find(|e| e.number == number || e.code == wanted)?;
    let columns = Columns::of(std::slice::from_ref(&entry), layout.width);
    let about = registry().into_iter().find(|c| c.code == entry.code).map_or("", |c| c.about);
    let part =
        |name: &str| about.split("## ").find_map(|p| p.strip_prefix(name)).unwrap_or_default().replace('\n', " ");
    let mut out = entry.full(columns);
    for text in [part("What"), part("Why it matters")] {
        out.push_str(&format!("\n{}\n", wrap(text.trim(), layout.width, 0)));
    }
    out.push_str(&format!("\n{}\n", paint(QUIET, &format!("More: mohm about {}", entry.code))));
    Some(out)
}

/// One line per finding, with its place, for people who read many plans; the best fix on a second.
#[must_use]
pub fn check_terse(input: &Input<'_>, review: &Review) -> String {
    let line = |f: &Finding| {
        let at = f.span.map(|s| review.plan().source().place(s.start));
        let place = at.map_or_else(String::new, |p| format!(":{}:{}", p.line, p.column));
        let first = f.fixes.first().map(|fix| format!("  > {}\n", fix.text()));
        let fix = first.or_else(|| left_to_do(f).next().map(|task| format!("  · {task}\n"))).unwrap_or_default();
        let word = paint(style::of(f.severity), f.severity.word());
        let under = f.also.iter().map(|c| {
            let number = c.number().map_or_else(String::new, |n| format!(": {n}"));
            format!("  + {} {} {}{number}\n", paint(style::of(c.severity), c.severity.word()), c.code, c.subject)
        });
        let under: String = under.collect();
        format!("{}{place} {word} {} {}: {}\n{fix}{under}", input.path, f.code, f.subject, f.message)
    };
    let open = review.findings().iter().filter(|f| f.accepted.is_none());
    format!("{}{}\n", open.map(line).collect::<String>(), counts(review))
}

/// A finding by itself.
pub(crate) fn finding_block(input: &Input<'_>, review: &Review, finding: &Finding) -> Block {
    Block::Entry(Box::new(entry(input, review, None, finding, &[finding])))
}

/// The findings in the order in which to fix them, those that are alike as one.
pub(crate) fn entries(input: &Input<'_>, review: &Review) -> Vec<Entry> {
    let groups = review.finding_groups();
    groups.iter().enumerate().map(|(i, g)| entry(input, review, Some(i + 1), g.worst, &g.findings)).collect()
}

fn entry(input: &Input<'_>, review: &Review, number: Option<usize>, worst: &Finding, all: &[&Finding]) -> Entry {
    let place = |f: &Finding| {
        let at = f.span.map(|s| review.plan().source().place(s.start));
        at.map(|p| (p.line, p.column))
    };
    let mut lines: Vec<usize> = all.iter().filter_map(|f| place(f)).map(|(line, _)| line).collect();
    lines.dedup();
    // The same on another part is alike, and caused by nothing here.
    let (alike, follows): (Vec<_>, Vec<_>) = all.iter().flat_map(|f| &f.also).partition(|c| c.is_alike(worst));
    Entry {
        number,
        severity: worst.severity,
        code: worst.code,
        subjects: all
            .iter()
            .map(|f| &f.subject)
            .chain(alike.iter().map(|c| &c.subject))
            .map(|subject| review.in_short(subject))
            .collect(),
        lines,
        headline: review.in_short(&worst.message),
        // Commands that they name are complete: with the plan's own path.
        fixes: worst.fixes.iter().map(|fix| review.in_short(&fix.text())).collect(),
        brief_fix: worst.fixes.first().map(|fix| review.in_short(&fix.brief())),
        tasks: left_to_do(worst)
            .map(|task| review.in_short(&task).replace(" PLAN", &format!(" {}", input.path)))
            .collect(),
        causes: causes(review, &follows),
        worst: all.iter().map(|f| f.worst()).fold(worst.severity, Severity::max),
        goes_with: goes_with(review, worst),
        accepted: worst.accepted.clone(),
        about: about(input, worst, place(worst)),
    }
}

/// What follows from a finding, worst first, each part with its number.
fn causes(review: &Review, follows: &[&Consequence]) -> Vec<(&'static str, Vec<String>, Severity)> {
    let mut causes: Vec<(&'static str, Vec<String>, Severity)> = Vec::new();
    for c in follows {
        let subject = review.in_short(&c.subject);
        let part = c.number().map_or_else(|| subject.clone(), |number| format!("{subject} ({number})"));
        match causes.iter_mut().find(|(code, _, severity)| *code == c.code && *severity == c.severity) {
            Some((_, on, _)) => on.push(part),
            None => causes.push((c.code, vec![part], c.severity)),
        }
    }
    causes.sort_by_key(|(.., severity)| std::cmp::Reverse(*severity));
    causes
}

/// The entry whose first fix ends this one too: its number in the list, code and part.
fn goes_with(review: &Review, f: &Finding) -> Option<String> {
    let (code, subject) = f.goes_with.as_ref()?;
    let is_it = |g: &&Finding| g.code == *code && g.subject == *subject;
    let groups = review.finding_groups();
    let at = groups.iter().position(|g| g.findings.iter().any(is_it))?;
    // Those in one list entry are fixed together.
    let own = groups[at].findings.iter().any(|g| g.code == f.code && g.subject == f.subject);
    (!own).then(|| format!("{} ({code} {})", at + 1, review.in_short(subject)))
}

/// Place, worst case and assumed values, on one line.
fn about(input: &Input<'_>, f: &Finding, place: Option<(usize, usize)>) -> String {
    let mut about: Vec<String> =
        place.map(|(line, column)| format!("{}:{line}:{column}", input.path)).into_iter().collect();
    if let (Some(scenario), Some(corner)) = (&f.scenario, f.corner) {
        about.push(match &f.mix {
            Some(mix) => format!("worst case: scenario {scenario}, {}", mix.words()),
            None => format!("worst case: scenario {scenario}, corner {}", corner.name()),
        });
    }
    let mut assumed: Vec<String> = Vec::new();
    // The ends of an assumed value stand in its own sentence.
    let is_end = |e: &Evidence| matches!(e.name, "low" | "high");
    for e in f.evidence.iter().filter(|e| e.origin.is_assumed() && !is_end(e)) {
        let words = match &e.origin {
            Origin::Catalogue { part, .. } => format!("{} of generic part {part}", e.name.replace('_', " ")),
            Origin::Default(why) => (*why).to_owned(),
            _ => e.name.replace('_', " "),
        };
        if !assumed.contains(&words) {
            assumed.push(words);
        }
    }
    if !assumed.is_empty() {
        about.push(format!("assumed: {}", assumed.join("; ")));
    }
    about.join(" · ")
}

/// The findings as JSON; with `passed`, also every check and subject that was decided without one.
#[must_use]
pub fn check_json(input: &Input<'_>, review: &Review, passed: bool) -> String {
    let count = |s| review.count(s);
    json::pretty(&CheckShape {
        format: json::FORMAT,
        plan: input.path,
        title: review.plan().title(),
        summary: SummaryShape {
            danger: count(Severity::Danger),
            fault: count(Severity::Fault),
            caution: count(Severity::Caution),
            advisory: count(Severity::Advisory),
            unknown: count(Severity::Unknown),
            accepted: review.accepted(),
            passed: review.passed().len(),
        },
        findings: review.findings().iter().map(|f| finding_shape(review, f)).collect(),
        passed: passed.then(|| {
            review
                .passed()
                .iter()
                .map(|p| PassedShape { code: p.code, subject: &p.subject, margin: &p.margin })
                .collect()
        }),
    })
}

fn finding_shape<'a>(review: &Review, f: &'a Finding) -> FindingShape<'a> {
    let place = f.span.map(|s| review.plan().source().place(s.start));
    FindingShape {
        code: f.code,
        severity: f.severity.word(),
        subject: &f.subject,
        scenario: f.scenario.as_ref().map(Scenario::name),
        corner: json::corner(f.corner),
        mix: f.mix.as_ref().map(|mix| mix.figures.iter().map(MixedShape::of).collect()),
        message: &f.message,
        line: place.map(|p| p.line),
        column: place.map(|p| p.column),
        evidence: f.evidence.iter().map(evidence_shape).collect(),
        also: {
            let mut codes: Vec<&str> = f.also.iter().map(|c| c.code).collect();
            codes.dedup();
            codes
        },
        also_on: f.also.iter().map(also_shape).collect(),
        goes_with: f.goes_with.as_ref().map(|(code, subject)| HeadShape { code, subject }),
        proposals: proposals(f),
        obstacle: f.obstacle.as_ref().map(Obstacle::text),
        accepted: f.accepted.is_some(),
        because: f.accepted.as_deref(),
    }
}

fn also_shape(c: &Consequence) -> AlsoShape<'_> {
    let pair = c.comparison.iter().flat_map(|(judged, limit)| [judged, limit]);
    let evidence = pair.map(evidence_shape).collect();
    AlsoShape { code: c.code, severity: c.severity.word(), subject: &c.subject, evidence }
}

impl<'a> MixedShape<'a> {
    pub(crate) fn of(f: &'a MixedFigure) -> Self {
        let (item, key, value, unit) = (f.item.as_str(), f.key.as_str(), f.value, f.unit);
        Self { item, key, value, unit, differs: f.differs, decides: f.decides }
    }
}

fn evidence_shape(e: &Evidence) -> EvidenceShape<'_> {
    let source = match &e.origin {
        Origin::Catalogue { part, source } => Some(format!("{part}: {source}")),
        Origin::Default(why) => Some((*why).to_owned()),
        _ => None,
    };
    let unit = json::unit(e.unit);
    let value = e.value.is_finite().then_some(e.value);
    EvidenceShape { name: e.name, role: e.role.word(), value, unit, origin: e.origin.word(), source }
}
