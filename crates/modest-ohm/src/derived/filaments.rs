//! What cold filaments take above their running current.

use super::context::Context;
use crate::plan::kinds::load::{Load, Nature};
use crate::size::relay::ContactLoad;
use crate::solved::outcome::Snapshot;

/// A cold filament takes so many times its running current, least, typical and most (typical).
const COLD: [f64; 3] = [8.0, ContactLoad::Lamp.start(), 15.0];

/// What lamps take above their running current at the first moment, A: least, typical and most.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Filaments {
    pub above: [f64; 3],
    /// The part of that which flows in the state already, A.
    pub in_state: f64,
    /// Until they are hot, s.
    pub time: f64,
    /// True where the start of one of them is not stated.
    pub assumed: bool,
}

/// The lamps among some loads as a state finds them: what it has them start with where the plan states their start,
/// else what is typical of them if they are `cold`.
pub(crate) fn filaments(
    context: &Context<'_>,
    s: &Snapshot,
    is_behind: &dyn Fn(usize) -> bool,
    cold: bool,
) -> Filaments {
    let lamp = |(i, l): &(usize, &Load)| l.nature == Some(Nature::Lamp) && is_behind(*i);
    let mut out = Filaments::default();
    for (i, load) in context.plan.loads.iter().enumerate().filter(lamp) {
        let runs = context.worst_sustained(|s| s.current_into(i)).map_or(0.0, |w| w.value);
        let now = s.current_into(i);
        if runs <= 0.0 || now <= 0.0 {
            continue;
        }
        out.time = out.time.max(load.start_s());
        if load.demand.has_surge() {
            let above = (now - runs).max(0.0);
            out.in_state += above;
            out.above.iter_mut().for_each(|sum| *sum += above);
        } else if cold {
            out.assumed = true;
            out.above.iter_mut().zip(COLD).for_each(|(above, times)| *above += (times - 1.0) * runs);
        }
    }
    out
}
