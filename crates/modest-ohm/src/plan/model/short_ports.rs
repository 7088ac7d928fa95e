//! Ports of a family that has too few of them.

use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;

impl Plan {
    /// True for the ports of a family that is too small: one of them carries, for the solve only, what found no free
    /// one.
    pub(crate) fn is_short_port(&self, branch: usize) -> bool {
        let RunKind::Port(port) = &self.branches[branch].kind else { return false };
        self.shortages.iter().any(|s| s.board == port.board && s.family == port.family)
    }
}
