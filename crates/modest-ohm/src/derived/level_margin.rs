//! The smallest margin of a hop: sender and receiver in their worst corners, ground shift signed.

use super::context::{Context, Worst};
use crate::plan::wiring::threshold::Threshold;
use crate::solved::levels::{levels, receiver_of, supplied};
use crate::solved::outcome::Snapshot;
use crate::topology::signals::Hop;

/// Less margin than this is worth a word; parts on one rail move together and need less.
pub(crate) const MARGIN_V: f64 = 0.3;
pub(crate) const MARGIN_ONE_RAIL_V: f64 = 0.1;

/// The smallest margin of a hop, with the numbers that make it.
pub(crate) struct Margin {
    pub value: f64,
    pub at: Worst,
    /// Level at the receiver against its own ground, and the threshold.
    pub level: f64,
    pub threshold: f64,
    pub vdd: f64,
    pub shift: f64,
}

/// Sender and receiver of one scenario, in one corner if they are connected to one rail, else in every pair of corners.
pub(crate) fn smallest(
    context: &Context<'_>,
    hop: &Hop<'_>,
    one_rail: bool,
    threshold: &Threshold,
    high: bool,
) -> Option<Margin> {
    let plan = context.plan;
    let there = |s: &Snapshot| receiver_of(plan, hop, s);
    let here = |s: &Snapshot| supplied(plan, hop.from, false, s);
    let feeds = hop.feeds(plan);
    let mut worst: Option<Margin> = None;
    for (to, snapshot_to, snapshot_from) in context.together(one_rail, &feeds) {
        let (Some(receiver), Some(sender)) = (there(snapshot_to), here(snapshot_from)) else { continue };
        // The shift belongs to one solved state; the worse of the two counts.
        let shifts = [snapshot_to, snapshot_from].map(|s| Some(there(s)?.ground - here(s)?.ground));
        let shifts = shifts.into_iter().flatten();
        let (voh, vol) = levels(plan, hop, sender.vdd);
        let vdd = receiver.vdd;
        let limit = if high { threshold.surely_high(vdd) } else { threshold.surely_low(vdd) };
        let shift = if high { shifts.fold(f64::NEG_INFINITY, f64::max) } else { shifts.fold(f64::INFINITY, f64::min) };
        let level = if high { voh.low.get() } else { vol.high.get() } - shift;
        let value = if high { level - limit } else { limit - level };
        if worst.as_ref().is_none_or(|w| value < w.value - 1e-9) {
            worst = Some(Margin { value, at: Worst::at(to, value), level, threshold: limit, vdd: receiver.vdd, shift });
        }
    }
    worst
}
