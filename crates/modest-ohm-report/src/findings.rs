//! Findings as text and as JSON.

use modest_ohm::findings::{Evidence, Passed};
use modest_ohm::units::Origin;
use modest_ohm::{Finding, Review, Scenario, Severity};

use crate::document::{Block, Document, PassedLine, Summary};
use crate::json::{self, AlsoShape, CheckShape, EvidenceShape, FindingShape, PassedShape, ProposalShape, SummaryShape};
use crate::{Input, Layout};

/// The findings, worst first, and a line that counts them.
#[must_use]
pub fn check_text(input: &Input<'_>, review: &Review, layout: Layout) -> String {
    check(input, review, layout.passed).text(layout.width)
}

/// The findings; with `passed`, also every check and subject that was decided without one.
pub(crate) fn check(input: &Input<'_>, review: &Review, passed: bool) -> Document {
    let mut page = Document::default();
    for finding in review.findings() {
        page.push(finding_block(input, review, finding));
        page.gap();
    }
    if passed {
        let line = |p: &Passed| PassedLine { code: p.code, subject: p.subject.clone(), margin: p.margin.clone() };
        page.push(Block::Passed(review.passed().iter().map(line).collect()));
        page.gap();
    }
    page.push(Block::Summary(summary(review)));
    page
}

/// A finding, with its place in the text.
pub(crate) fn finding_block(input: &Input<'_>, review: &Review, finding: &Finding) -> Block {
    let place = finding.span.map(|span| {
        let at = review.plan().source().place(span.start);
        format!("{}:{}:{}", input.path, at.line, at.column)
    });
    Block::Finding(Box::new(finding.clone()), place)
}

fn summary(review: &Review) -> Summary {
    let found = Severity::LISTED.into_iter().map(|s| (s, review.count(s))).filter(|(_, n)| *n > 0);
    Summary {
        found: found.collect(),
        accepted: review.accepted(),
        passed: review.passed().len(),
        scenarios: review.scenarios().len(),
    }
}

/// One line: how many findings of each severity, and how much passed.
#[must_use]
pub fn verdict_line(review: &Review) -> String {
    Document(vec![Block::Summary(summary(review))]).text(usize::MAX)
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
