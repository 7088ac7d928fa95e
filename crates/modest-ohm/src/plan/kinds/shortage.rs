//! What found no free port.

use super::run::RunKind;
use crate::plan::model::Plan;
use crate::source::Span;

/// A consumer that found no free port and stands, for the solve, on the last one of its family.
#[derive(Clone, Debug)]
pub(crate) struct Shortage {
    pub board: usize,
    pub family: String,
    pub wanted_by: String,
    pub span: Span,
}

impl Plan {
    /// True for the ports of a family that is too small: one of them carries, for the solve only, what found no free
    /// one.
    pub(crate) fn is_short_port(&self, branch: usize) -> bool {
        let RunKind::Port(port) = &self.branches[branch].kind else { return false };
        self.shortages.iter().any(|s| s.board == port.board && s.family == port.family)
    }
}
