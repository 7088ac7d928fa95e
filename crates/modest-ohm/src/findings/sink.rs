//! Where findings go: one place that counts, merges advice to one line per code, and keeps what passed.

use super::draft::Draft;
use super::finding::{Consequence, Finding, Passed};
use crate::source::Span;
use crate::verdict::severity::Severity;

/// Collects what the checks say.
#[derive(Default)]
pub(crate) struct Sink {
    /// The code of the check that runs.
    pub code: &'static str,
    findings: Vec<Finding>,
    passed: Vec<Passed>,
    /// Only verdicts count: passes are dropped, and nobody reads the findings.
    only_finds: bool,
}

impl Sink {
    /// A sink for verdicts only.
    pub fn of_findings() -> Self {
        Self { only_finds: true, ..Self::default() }
    }

    pub fn find(&mut self, draft: Draft) {
        let finding = if self.only_finds { draft.finish_unread(self.code) } else { draft.finish(self.code) };
        self.findings.push(finding);
    }

    /// True if the running check has given advice already: further advice joins that line.
    pub fn has_advice(&self) -> bool {
        self.findings.iter().any(|f| f.code == self.code && f.severity == Severity::Advisory)
    }

    /// Could not be decided for want of a figure.
    pub fn unknown(&mut self, subject: &str, span: Span, message: String, cure: &str) {
        self.find(Draft::unknown((subject, span)).says(message).cure(cure));
    }

    /// What was decided, with its margin, which is put in words only where it is kept.
    pub fn pass(&mut self, subject: &str, margin: impl FnOnce() -> String) {
        if !self.only_finds {
            self.passed.push(Passed { code: self.code, subject: subject.to_owned(), margin: margin() });
        }
    }

    /// Findings and passes; advice of one code is one line, the first of it in the order of the plan.
    pub fn finish(self) -> (Vec<Finding>, Vec<Passed>) {
        let mut findings: Vec<Finding> = Vec::new();
        for f in self.findings {
            let first = findings
                .iter_mut()
                .find(|g| f.severity == Severity::Advisory && g.severity == f.severity && g.code == f.code);
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
            if f.severity == Severity::Advisory && !f.also.is_empty() {
                let others: Vec<String> = f.also.iter().map(|c| format!("`{}`", c.subject)).collect();
                f.message = format!("{}; likewise {}", f.message, others.join(", "));
            }
        }
        (findings, self.passed)
    }
}
