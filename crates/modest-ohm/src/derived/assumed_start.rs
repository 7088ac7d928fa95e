//! What a verdict on a start rests on where the start itself is assumed: the same at both ends of its spread.

use crate::network::state::Member;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::model::Plan;
use crate::solved::outcome::{Outcome, Snapshot};

/// A current in which assumed starts have a part, A.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Spread {
    pub least: f64,
    pub typical: f64,
    pub most: f64,
    /// True where nothing of it is assumed.
    pub stated: bool,
}

/// The spread of a current `total` that flows through `node` in an outcome: of the loads behind it that start with what
/// is assumed, each between the ends of its class.
pub(crate) fn spread(plan: &Plan, o: &Outcome, s: &Snapshot, behind: &dyn Fn(usize) -> bool, total: f64) -> Spread {
    let mut spread = Spread { least: total, typical: total, most: total, stated: true };
    for (i, load) in plan.loads.iter().enumerate() {
        // What a stage limits does not depend on what its coil would take.
        let Some([least, typical, most]) = load.limits.assumed_start.filter(|_| load.limits.bound.is_none()) else {
            continue;
        };
        let starts = |m: &Member| matches!(m, Member::State(LoadState::Surge));
        let own = s.currents_into(i).zip(&o.case.demands.loads[i]).filter(|(_, m)| starts(m));
        let amps: f64 = own.map(|(a, _)| a).sum();
        if amps > 0.0 && behind(i) {
            spread.stated = false;
            spread.least -= amps * (1.0 - least / typical);
            spread.most += amps * (most / typical - 1.0);
        }
    }
    spread
}
