//! Where findings go: one place that takes what is found, and what passed where somebody reads it.

use super::draft::Draft;
use super::finding::{Finding, Passed};
use crate::source::Span;

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

    /// Could not be decided for want of a figure.
    pub fn unknown(&mut self, subject: &str, span: Span, message: String, task: &str) {
        self.find(Draft::unknown((subject, span)).says(message).task(task));
    }

    /// What was decided, with its margin, which is put in words only where it is kept.
    pub fn pass(&mut self, subject: &str, margin: impl FnOnce() -> String) {
        if !self.only_finds {
            self.passed.push(Passed { code: self.code, subject: subject.to_owned(), margin: margin() });
        }
    }

    /// Findings and passes, each by itself.
    pub fn finish(self) -> (Vec<Finding>, Vec<Passed>) {
        (self.findings, self.passed)
    }
}
