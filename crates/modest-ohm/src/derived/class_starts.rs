//! Starts that are the figure of a class: what a usual part of the class takes decides, its worst alone is a caution.

use super::context::Context;
use super::motor_starts::starting;
use crate::plan::kinds::load::Demand;
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;
use crate::solved::outcome::Outcome;

/// The same state with every figure at its nominal, where a start behind a node is the figure of a class; `None` where
/// all of them are stated.
pub(crate) fn nominal<'o>(context: &Context<'o>, o: &Outcome, behind: &dyn Fn(usize) -> bool) -> Option<&'o Outcome> {
    starting(context.plan, o).into_iter().any(|i| behind(i) && is_of_class(context.plan, i)).then_some(())?;
    let same = |other: &&Outcome| {
        other.corner == Corner::Typical
            && other.case.scenario == o.case.scenario
            && other.case.surging == o.case.surging
    };
    context.outcomes.iter().chain(context.at_once).find(same)
}

fn is_of_class(plan: &Plan, load: usize) -> bool {
    let load = &plan.loads[load];
    // An assumed start has a spread of its own.
    let Demand::Current(states) = &load.demand else { return false };
    load.limits.assumed_start.is_none() && states.surge.as_ref().is_some_and(|s| s.origin.is_assumed())
}
