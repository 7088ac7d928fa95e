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

/// What the checks find in the four corners, before the plan's acceptances are looked at.
#[derive(Clone)]
pub(crate) struct InCorners {
    findings: Vec<Finding>,
    passed: Vec<Passed>,
}

/// Checks a plan in the four corners, without the combinations of tolerances that are worse.
pub(crate) fn in_corners(plan: &Plan, layout: &Layout, outcomes: &[Outcome]) -> InCorners {
    let (findings, passed) = checks::run(&context(plan, layout, outcomes));
    InCorners { findings, passed }
}

impl InCorners {
    /// What is found in the corners alone.
    pub fn alone(&self, plan: &Plan, outcomes: &[Outcome]) -> Verdicts {
        self.clone().accepted(plan, outcomes)
    }

    /// What is found in the corners and in the combinations of tolerances that are worse.
    pub fn and_between(&self, plan: &Plan, layout: &Layout, outcomes: &[Outcome]) -> Verdicts {
        let context = context(plan, layout, outcomes);
        let movables = plan.movables();
        let mut search = Search::new(plan, &movables, outcomes, context.outcomes.len());
        let mut all = self.clone();
        let _ = mixed::worsen(&context, &mut search, &movables, &mut all.findings, &mut all.passed);
        all.accepted(plan, outcomes)
    }

    fn accepted(self, plan: &Plan, outcomes: &[Outcome]) -> Verdicts {
        let Self { mut findings, passed } = self;
        let all_solved = outcomes.iter().all(|o| o.wanted.is_ok() && o.actual.is_ok());
        acceptance::mark(plan, &mut findings);
        acceptance::find_stale(plan, all_solved, &mut findings);
        Verdicts { findings, passed, all_solved }
    }
}

fn context<'a>(plan: &'a Plan, layout: &'a Layout, outcomes: &'a [Outcome]) -> Context<'a> {
    Context::of_variant(plan, layout, outcomes, &[Solves::Variants, Solves::FirmwareLimits])
}
