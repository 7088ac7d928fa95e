//! Where findings go: one place that counts, merges advice to one line per code, and keeps what passed.

use super::finding::{Consequence, Evidence, Finding, Passed};
use crate::derived::context::Worst;
use crate::source::Span;
use crate::verdict::codes::Code;
use crate::verdict::severity::Severity;

/// Collects what the checks say.
#[derive(Default)]
pub(crate) struct Sink {
    /// The code of the check that runs.
    pub code: &'static str,
    findings: Vec<Finding>,
    passed: Vec<Passed>,
}

/// A finding in the making.
pub(crate) struct Draft<'a> {
    pub severity: Severity,
    pub subject: &'a str,
    pub span: Span,
    pub at: Option<&'a Worst>,
    pub message: String,
    pub cures: Vec<String>,
    pub evidence: Vec<Evidence>,
}

impl Sink {
    pub fn find(&mut self, draft: Draft<'_>) {
        self.findings.push(Finding {
            code: self.code,
            severity: draft.severity,
            subject: draft.subject.to_owned(),
            scenario: draft.at.map(|w| w.scenario.clone()),
            corner: draft.at.map(|w| w.corner),
            message: draft.message,
            cures: draft.cures,
            span: Some(draft.span),
            evidence: draft.evidence,
            also: Vec::new(),
            accepted: None,
        });
    }

    /// As [`find`](Self::find), for a finding that stands for others of its code and cause, by their subjects.
    pub fn find_with(&mut self, draft: Draft<'_>, others: &[&str]) {
        let severity = draft.severity;
        self.find_group(draft, &others.iter().map(|name| (*name, severity)).collect::<Vec<_>>());
    }

    /// As [`find_with`](Self::find_with), where the others are not all as severe.
    pub fn find_group(&mut self, draft: Draft<'_>, others: &[(&str, Severity)]) {
        self.find(draft);
        let code = self.code;
        if let Some(f) = self.findings.last_mut() {
            f.also.extend(others.iter().map(|(s, severity)| Consequence {
                code,
                subject: (*s).to_owned(),
                severity: *severity,
            }));
        }
    }

    /// Puts a code under the last finding, as a consequence of it that is as severe.
    pub fn stands_under(&mut self, code: Code, subject: &str) {
        if let Some(head) = self.findings.last_mut() {
            head.also.push(Consequence { code: code.name, subject: subject.to_owned(), severity: head.severity });
        }
    }

    /// True if the running check has given advice already: further advice joins that line.
    pub fn has_advice(&self) -> bool {
        self.findings.iter().any(|f| f.code == self.code && f.severity == Severity::Advice)
    }

    /// Could not be decided for want of a figure.
    pub fn unknown(&mut self, subject: &str, span: Span, message: String, cure: &str) {
        self.find(Draft {
            severity: Severity::Unknown,
            subject,
            span,
            at: None,
            message,
            cures: vec![cure.to_owned()],
            evidence: Vec::new(),
        });
    }

    pub fn pass(&mut self, subject: &str, margin: String) {
        self.passed.push(Passed { code: self.code, subject: subject.to_owned(), margin });
    }

    /// Findings and passes; advice of one code is one line, the first of it in the order of the plan.
    pub fn finish(self) -> (Vec<Finding>, Vec<Passed>) {
        let mut findings: Vec<Finding> = Vec::new();
        for f in self.findings {
            let first = findings
                .iter_mut()
                .find(|g| f.severity == Severity::Advice && g.severity == f.severity && g.code == f.code);
            match first {
                Some(first) => {
                    let also = f.also.clone();
                    first.also.push(Consequence::of(f));
                    first.also.extend(also);
                }
                None => findings.push(f),
            }
        }
        for f in &mut findings {
            if f.severity == Severity::Advice && !f.also.is_empty() {
                let others: Vec<String> = f.also.iter().map(|c| format!("`{}`", c.subject)).collect();
                f.message = format!("{}; likewise {}", f.message, others.join(", "));
            }
        }
        (findings, self.passed)
    }
}
