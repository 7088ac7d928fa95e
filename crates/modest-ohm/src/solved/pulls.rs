//! The voltage that a pull-up goes to, in a solved state.

use super::outcome::Snapshot;
use crate::network::layout::Terminals;
use crate::topology::buses::PullUp;

/// The voltage that a pull-up goes to.
pub(crate) fn volts_of(pull: &PullUp<'_>, s: &Snapshot) -> Option<f64> {
    let Terminals { plus, minus } = s.layout.nodes[pull.to?.0];
    s.solution.alive[plus].then(|| s.solution.across(plus, minus))
}
