//! What the difference between two grounds takes from the margin of a signal.

use super::context::Context;
use super::level_margin::{MARGIN_ONE_RAIL_V, MARGIN_V, Margin, smallest};
use crate::solved::levels::thresholds;
use crate::topology::signals::Hop;

/// What the shift takes from a signal's margin, of one that would have enough without it.
pub(crate) struct Taken {
    pub margin: Margin,
    pub enough: f64,
    pub high: bool,
}

pub(crate) fn taken(context: &Context<'_>, hop: &Hop<'_>, high: bool) -> Option<Taken> {
    let plan = context.plan;
    let (vih, vil) = thresholds(plan, hop);
    let threshold = if high { vih } else { vil }?;
    let one_rail = hop.is_on_one_rail(plan);
    let enough = if one_rail { MARGIN_ONE_RAIL_V } else { MARGIN_V };
    let margin = smallest(context, hop, one_rail, threshold, high)?;
    let without = if high { margin.value + margin.shift } else { margin.value - margin.shift };
    (margin.value < enough - 1e-9 && without >= enough - 1e-9).then_some(Taken { margin, enough, high })
}

/// True where a signal lacks its margin because of the ground alone: then no other check speaks of it.
pub(crate) fn is_why(context: &Context<'_>, hop: &Hop<'_>, high: bool) -> bool {
    taken(context, hop, high).is_some()
}
