//! Which motors and coils start in an outcome.

use super::context::{Context, Worst};
use crate::network::state::Member;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::model::Plan;
use crate::solved::outcome::Outcome;

/// Loads with a motor or a coil that start in an outcome.
pub(crate) fn starting(plan: &Plan, o: &Outcome) -> Vec<usize> {
    let surges = |i: &usize| o.case.demands.loads[*i].iter().any(|m| matches!(m, Member::State(LoadState::Surge)));
    let motors = (0..plan.loads.len()).filter(|i| plan.loads[*i].is_motor() || plan.loads[*i].is_winding());
    motors.filter(surges).collect()
}

/// True where motors start at the worst moment.
pub(crate) fn by_motors(context: &Context<'_>, at: &Worst) -> bool {
    context.outcome(at).is_some_and(|o| !starting(context.plan, o).is_empty())
}

/// True where one of the loads that start is switched, or told what to do, by this board.
pub(crate) fn drives(plan: &Plan, board: usize, o: &Outcome) -> bool {
    starting(plan, o).into_iter().any(|l| {
        let load = &plan.loads[l];
        let signal = load.signal.as_ref().is_some_and(|s| s.pins.iter().any(|p| p.at.board == board));
        let driven = load.driven.as_ref().and_then(|d| d.at);
        signal
            || driven.is_some_and(|(d, c)| {
                plan.drivers[d].channels.get(c).is_some_and(|c| c.pins.iter().any(|p| p.at.board == board))
            })
    })
}
