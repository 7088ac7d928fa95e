//! What protects a cable: which fuses and source limits lie before it, what flows into a short circuit behind it, and
//! what can flow continuously.

use crate::plan::model::Plan;
use crate::plan::wiring::cable::{Cable, Conductor};
use crate::topology::conductors::{cable_of, return_cable_of};
use crate::topology::run::Run;

/// What a cable's feed and return carry together in a short circuit, A: the weaker of the two; and its copper, mm².
/// `None` where no size is known, or where there is no length of it that could burn.
pub(crate) fn wire_of(plan: &Plan, run: Run, air_c: f64) -> Option<(Wire, &Cable)> {
    let feed = cable_of(plan, run)?;
    let back = return_cable_of(plan, run);
    let conductors = [Some((feed, &feed.feed)), back.map(|b| (b, &b.back))];
    let wires = conductors.into_iter().flatten().filter_map(|(cable, conductor)| {
        // Of no length, or stated as ideal: there is nothing that could burn.
        let is_nothing = match conductor {
            Conductor::Wire { length, .. } => length.high.get() <= 0.0,
            Conductor::Stated(ohms) => ohms.high.get() <= 0.0,
        };
        if is_nothing {
            return None;
        }
        // Where the air alone is too hot for it, the air is what is reported.
        if cable.is_out_of_air(air_c) {
            return None;
        }
        Some((Wire { ampacity_a: cable.ampacity(air_c)?, area_mm2: cable.area_mm2() }, cable))
    });
    wires.reduce(|a, b| if b.0.ampacity_a < a.0.ampacity_a { b } else { a })
}

/// The weaker conductor of a cable.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Wire {
    pub ampacity_a: f64,
    pub area_mm2: Option<f64>,
}
