//! What all checks say of a plan, each finding by itself: nothing is put under a cause, and no fix is looked for.

use std::sync::Arc;

use super::{acceptance, mixed};
use crate::checks;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::finding::{Finding, Passed};
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::solved::mixed::Search;
use crate::solved::outcome::{Lift, Outcome, solve_near};

/// A plan that was checked.
pub(crate) struct Verdicts {
    pub layout: Arc<Layout>,
    pub outcomes: Vec<Outcome>,
    pub findings: Vec<Finding>,
    pub passed: Vec<Passed>,
    /// False where a scenario has no solution: what is missing among the findings may only be undecided.
    pub all_solved: bool,
}

/// Solves and checks a plan; a variant of a solved one is searched from its states.
pub(crate) fn verdicts(plan: &Plan, near: &[Outcome]) -> Verdicts {
    let (layout, outcomes) = solve_near(plan, Lift::None, near);
    let context = Context::of_variant(plan, &layout, &outcomes, &[Solves::Variants, Solves::FirmwareLimits]);
    let (mut findings, mut passed) = checks::run(&context);
    let movables = plan.movables();
    let mut search = Search::new(plan, &movables, &outcomes, context.outcomes.len());
    let _ = mixed::worsen(&context, &mut search, &movables, &mut findings, &mut passed);
    let all_solved = outcomes.iter().all(|o| o.wanted.is_ok() && o.actual.is_ok());
    acceptance::accept(plan, all_solved, &mut findings);
    drop(search);
    Verdicts { layout, outcomes, findings, passed, all_solved }
}
