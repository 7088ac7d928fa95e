//! What all checks say of a plan, each finding by itself: nothing is put under a cause, and no fix is looked for.

use super::{acceptance, mixed};
use crate::checks;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::finding::{Finding, Passed};
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::solved::mixed::Search;
use crate::solved::outcome::Outcome;

/// What the checks say of a plan.
pub(crate) struct Verdicts {
    pub findings: Vec<Finding>,
    pub passed: Vec<Passed>,
    /// False where a scenario has no solution: what is missing among the findings may only be undecided.
    pub all_solved: bool,
}

/// Checks a plan in the four corners, without the combinations of tolerances that are worse.
pub(crate) fn in_corners(plan: &Plan, layout: &Layout, outcomes: &[Outcome]) -> Verdicts {
    judged(plan, layout, outcomes, false)
}

/// Checks a plan in the corners and in the combinations of tolerances that are worse.
pub(crate) fn verdicts(plan: &Plan, layout: &Layout, outcomes: &[Outcome]) -> Verdicts {
    judged(plan, layout, outcomes, true)
}

fn judged(plan: &Plan, layout: &Layout, outcomes: &[Outcome], combinations: bool) -> Verdicts {
    let context = Context::of_variant(plan, layout, outcomes, &[Solves::Variants, Solves::FirmwareLimits]);
    let (mut findings, mut passed) = checks::run(&context);
    let all_solved = outcomes.iter().all(|o| o.wanted.is_ok() && o.actual.is_ok());
    if combinations {
        let movables = plan.movables();
        let mut search = Search::new(plan, &movables, outcomes, context.outcomes.len());
        let _ = mixed::worsen(&context, &mut search, &movables, &mut findings, &mut passed);
    }
    acceptance::mark(plan, &mut findings);
    acceptance::find_stale(plan, all_solved, &mut findings);
    Verdicts { findings, passed, all_solved }
}
