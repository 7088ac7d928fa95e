//! The margins of a hop in one solved state, as a row.

use super::shapes::SignalRow;
use crate::plan::model::Plan;
use crate::quantity::units::Volts;
use crate::solved::levels::{levels, receiver_of, supplied, thresholds, top_of};
use crate::solved::outcome::Snapshot;
use crate::tables::input::ABOVE_V;
use crate::topology::signals::Hop;

/// The hop's margins in one state (electrical reference, "Boards, pins and levels").
pub(crate) fn link_row(plan: &Plan, hop: &Hop<'_>, s: &Snapshot) -> Option<SignalRow> {
    let sender = supplied(plan, hop.from, false, s)?;
    let receiver = receiver_of(plan, hop, s)?;
    let (voh, vol) = levels(plan, hop, sender.vdd);
    let (vih, vil) = thresholds(plan, hop);
    let shift = receiver.ground - sender.ground;
    let vih = vih.map(|t| t.surely_high(receiver.vdd));
    let most = top_of(plan, hop).map_or(receiver.vdd + ABOVE_V, |v| v.low.get());
    Some(SignalRow {
        from: hop.names.0.clone(),
        to: hop.names.1.clone(),
        vdd: Volts::new(receiver.vdd),
        vih: vih.map(Volts::new),
        shift: Volts::new(shift),
        high_margin: vih.map(|v| Volts::new(voh.low.get() - shift - v)),
        low_margin: vil.map(|t| Volts::new(t.surely_low(receiver.vdd) - vol.high.get() + shift)),
        over_margin: Volts::new(most - (voh.high.get() - shift)),
        below_margin: Volts::new(vol.low.get() - shift + 0.3),
    })
}
