//! What a check is: its code, title, severities, long text and the function that runs it.

use super::sink::Sink;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::verdict::severity::Severity;

/// A check.
#[derive(Clone, Copy)]
pub struct Check {
    /// The stable code.
    pub code: &'static str,
    /// The family it belongs to.
    pub family: &'static str,
    /// One line: when it fires.
    pub title: &'static str,
    /// The severities it can have, worst first.
    pub severities: &'static [Severity],
    /// The long text, in Markdown.
    pub about: &'static str,
    pub(crate) solves: Solves,
    pub(crate) run: fn(&Context<'_>, &mut Sink),
}

impl std::fmt::Debug for Check {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Check").field("code", &self.code).field("title", &self.title).finish_non_exhaustive()
    }
}
