//! Findings as text and as JSON.

use std::fmt::Write as _;

use modest_ohm::findings::Evidence;
use modest_ohm::units::Origin;
use modest_ohm::{Finding, Review, Scenario, Severity};

use crate::json::{self, AlsoShape, CheckShape, EvidenceShape, FindingShape, PassedShape, ProposalShape, SummaryShape};
use crate::style::{self, QUIET, SOUND, STRONG, paint, printable};
use crate::table::wrap;
use crate::{Input, Layout};

/// The findings, worst first, and a line that counts them.
#[must_use]
pub fn check_text(input: &Input<'_>, review: &Review, layout: Layout) -> String {
    let mut out = String::new();
    for finding in review.findings() {
        out.push_str(&finding_text(input, review, finding, layout.width));
        out.push('\n');
    }
    if layout.passed {
        let wide = review.passed().iter().map(|p| p.code.len()).max().unwrap_or(0);
        for p in review.passed() {
            let (word, subject) = (paint(SOUND, "passed "), paint(STRONG, &p.subject));
            let _ = writeln!(out, "{word}  {:<wide$}  {subject}: {}", p.code, p.margin);
        }
        out.push('\n');
    }
    out.push_str(&verdict_line(review));
    out
}

pub(crate) fn finding_text(input: &Input<'_>, review: &Review, f: &Finding, width: usize) -> String {
    let indent = 9;
    let word = format!("{:<7}", f.severity.word());
    let accepted = if f.accepted.is_some() { "  (accepted)" } else { "" };
    let mut out = format!(
        "{}  {}  {}{accepted}\n",
        paint(style::of(f.severity), &word),
        paint(STRONG, &f.subject),
        paint(QUIET, f.code)
    );
    let pad = " ".repeat(indent);
    let mut line = |text: &str| {
        let _ = writeln!(out, "{pad}{}", wrap(text, width, indent));
    };
    line(&f.message);
    for cure in &f.cures {
        line(&format!("→ {cure}"));
    }
    if !f.also.is_empty() && f.severity != Severity::Advice {
        let also: Vec<String> = f.also.iter().map(|c| format!("{} on {}", c.code, c.subject)).collect();
        line(&format!("the same cause: {}", also.join(", ")));
    }
    if let Some(because) = &f.accepted {
        line(&format!("accepted because: {}", printable(because)));
    }
    let mut place = Vec::new();
    if let (Some(scenario), Some(corner)) = (&f.scenario, f.corner) {
        place.push(format!("scenario {scenario}, corner {}", corner.name()));
    }
    if let Some(span) = f.span {
        let at = review.plan().source().place(span.start);
        place.push(format!("{}:{}:{}", input.path, at.line, at.column));
    }
    let assumed: Vec<String> = f.evidence.iter().filter(|e| e.origin.is_assumed()).map(assumption).collect();
    if !assumed.is_empty() {
        place.push(format!("assumed: {}", assumed.join("; ")));
    }
    if !place.is_empty() {
        let _ = writeln!(out, "{pad}{}", paint(QUIET, &wrap(&place.join(" · "), width, indent)));
    }
    out
}

fn assumption(e: &Evidence) -> String {
    match &e.origin {
        Origin::Catalogue { part, source } => format!("{} of {part} ({source})", e.name),
        Origin::Default(why) => format!("{} ({why})", e.name),
        _ => e.name.to_owned(),
    }
}

/// One line: how many findings of each severity, and how much passed.
#[must_use]
pub fn verdict_line(review: &Review) -> String {
    let mut parts = Vec::new();
    for severity in Severity::LISTED {
        let n = review.count(severity);
        if n > 0 {
            parts.push(paint(style::of(severity), &format!("{n} {}", severity.word())));
        }
    }
    if review.accepted() > 0 {
        parts.push(format!("{} accepted", review.accepted()));
    }
    let found = if parts.is_empty() { paint(SOUND, "nothing found") } else { parts.join(", ") };
    let scenarios = review.scenarios().len();
    format!("{found} · {} passed · {scenarios} scenarios in 4 corners\n", review.passed().len())
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
            advice: count(Severity::Advice),
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
        message: &f.message,
        line: place.map(|p| p.line),
        column: place.map(|p| p.column),
        evidence: f.evidence.iter().map(evidence_shape).collect(),
        also: {
            let mut codes: Vec<&str> = f.also.iter().map(|c| c.code).collect();
            codes.dedup();
            codes
        },
        also_on: f.also.iter().map(|c| AlsoShape { code: c.code, subject: &c.subject }).collect(),
        proposals: f.cures.iter().map(|text| ProposalShape { text, edits: [], verified: false }).collect(),
        accepted: f.accepted.is_some(),
        because: f.accepted.as_deref(),
    }
}

fn evidence_shape(e: &Evidence) -> EvidenceShape<'_> {
    let source = match &e.origin {
        Origin::Catalogue { part, source } => Some(format!("{part}: {source}")),
        Origin::Default(why) => Some((*why).to_owned()),
        _ => None,
    };
    // Shares are plain ratios in JSON, as every number is in its base unit.
    let unit = if e.unit == "%" { "1" } else { e.unit };
    let value = e.value.is_finite().then_some(e.value);
    EvidenceShape { name: e.name, role: e.role.word(), value, unit, origin: e.origin.word(), source }
}
