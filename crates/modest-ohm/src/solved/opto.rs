//! The current through an optocoupler's input: from the pin to its own ground, or from a rail into the pin.

use super::levels::supplied;
use super::outcome::Snapshot;
use crate::network::layout::Terminals;
use crate::plan::kinds::signal_lines::Opto;
use crate::plan::model::Plan;
use crate::topology::signals::{End, Hop};

/// What an output leaves while it is low and carries nothing, V.
const LOW_V: f64 = 0.1;
/// A stage's output, Ω: a logic gate's, as its class is (typical).
pub(crate) const STAGE_OHMS: f64 = 40.0;

/// Current through the LED of an optocoupler, from least to most, A, while what drives it is high or low; `None` where
/// that, or the rail from which it hangs, is off.
pub(crate) fn opto_amps(plan: &Plan, hop: &Hop<'_>, opto: &Opto, high: bool, s: &Snapshot) -> Option<(f64, f64)> {
    let sender = supplied(plan, hop.from, false, s)?;
    let (own_least, own_most) = match hop.from {
        End::Pin(c) => {
            let ohms = &plan.boards[c].pins.ohms;
            (ohms.low.get(), ohms.high.get())
        }
        _ => (STAGE_OHMS, STAGE_OHMS),
    };
    let volts = match (&opto.from, high) {
        (None, true) => sender.vdd,
        (None, false) => LOW_V,
        (Some(from), high) => {
            let Terminals { plus, .. } = *s.layout.nodes.get(from.id.0)?;
            if !s.solution.alive[plus] {
                return None;
            }
            s.solution.potential[plus] - sender.ground - if high { sender.vdd } else { 0.0 }
        }
    };
    let (least_v, most_v) = opto.drop_v();
    let series = hop.series.map_or((0.0, 0.0), |r| (r.low.get(), r.high.get()));
    let most = (volts - least_v).max(0.0) / (opto.resistor.low.get() + own_least + series.0).max(1e-3);
    let least = (volts - most_v).max(0.0) / (opto.resistor.high.get() + own_most + series.1).max(1e-3);
    Some((least, most))
}
