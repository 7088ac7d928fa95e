//! What a check may see.

use std::cell::{Cell, OnceCell};

use crate::network::Layout;
use crate::plan::Plan;
use crate::quantity::Corner;
use crate::review::{Cause, Lift, Outcome, RuntimeRow, Snapshot, cap_causes, lasting, runtimes, solve_all};

/// The plan and its solved scenarios.
pub(crate) struct Context<'a> {
    pub plan: &'a Plan,
    pub layout: &'a Layout,
    /// The scenarios that every check judges.
    pub outcomes: &'a [Outcome],
    /// Those in which a board is plugged into a computer for a while.
    pub programming: &'a [Outcome],
    causes: OnceCell<Vec<Cause>>,
    runtimes: OnceCell<Vec<RuntimeRow>>,
    trials: Cell<usize>,
}

/// Pixels and feeds that the trial solves of one review may go through together: about a second's work.
const TRIAL_WORK: usize = 4_000_000;

/// Checks that find by solving variants; all others solve them only for their cures.
const TRY_THEMSELVES: [&str; 2] = ["back-fed", "switch-bypassed"];

/// Solves that every review may try.
const FIRST_TRIALS: usize = 60;

/// A value with the scenario and corner in which it is largest.
#[derive(Clone, Debug)]
pub(crate) struct Worst {
    pub value: f64,
    pub scenario: String,
    pub corner: Corner,
}

impl<'a> Context<'a> {
    pub fn new(plan: &'a Plan, layout: &'a Layout, outcomes: &'a [Outcome]) -> Self {
        // They stand at the end.
        let first = outcomes.iter().position(|o| o.case.programming).unwrap_or(outcomes.len());
        let (outcomes, programming) = outcomes.split_at(first);
        Self {
            plan,
            layout,
            outcomes,
            programming,
            causes: OnceCell::new(),
            runtimes: OnceCell::new(),
            trials: Cell::new(trial_solves(plan, outcomes)),
        }
    }

    /// As [`new`](Self::new), for a variant in which the checks of some codes are run for what they find and not for what
    /// they say: only what they need for that is solved.
    pub fn of_variant(plan: &'a Plan, layout: &'a Layout, outcomes: &'a [Outcome], codes: &[&str]) -> Self {
        let context = Self::new(plan, layout, outcomes);
        if !codes.iter().any(|code| TRY_THEMSELVES.contains(code)) {
            context.trials.set(0);
        }
        if !codes.contains(&"cap-missing") {
            let _ = context.causes.set(Vec::new());
        }
        context
    }

    /// Takes `count` solves of variants out of what one review may try; false when they are used up. A plan of many
    /// strips with the same trouble would otherwise be solved anew for every one of them.
    pub fn may_try(&self, count: usize) -> bool {
        let left = self.trials.get().checked_sub(count);
        self.trials.set(left.unwrap_or(0));
        left.is_some()
    }

    /// A variant of the plan, solved; `None` once one review has tried enough of them.
    pub fn trial(&self, variant: &Plan) -> Option<(Layout, Vec<Outcome>)> {
        self.may_try(self.outcomes.len() + self.programming.len()).then(|| solve_all(variant, Lift::None))
    }

    /// How long batteries last.
    pub fn runtimes(&self) -> &[RuntimeRow] {
        self.runtimes.get_or_init(|| lasting(self.outcomes).flat_map(|case| runtimes(self.plan, case)).collect())
    }

    /// Groups of uncapped strips that exceed their path.
    pub fn causes(&self) -> &[Cause] {
        self.causes.get_or_init(|| cap_causes(self))
    }

    /// The largest of a value over the scenarios in which what flows flows for long, limits lifted, boards at their
    /// mean, of those that have a solution. Unless [all of them](Self::all_sustained) have one nothing may be called
    /// passed on it.
    pub fn worst_sustained(&self, value: impl Fn(&Snapshot) -> f64) -> Option<Worst> {
        let continuous = || self.outcomes.iter().filter(|o| o.case.continuous);
        let worst = largest(continuous().filter_map(|o| Some((o, value(o.sustained.as_ref().ok()?)))))?;
        Some(worst)
    }

    /// True where a branch hangs on a supply: what is dead is not judged.
    pub fn alive(&self, branch: usize) -> bool {
        self.outcomes.iter().filter_map(|o| o.sustained.as_ref().ok()).any(|s| s.alive(branch))
    }

    /// True where a vertex hangs on a supply.
    pub fn alive_at(&self, vertex: usize) -> bool {
        self.outcomes.iter().filter_map(|o| o.sustained.as_ref().ok()).any(|s| s.solution.alive[vertex])
    }

    /// True where every scenario has a solution in every corner, limits in force: else nothing may be called passed on
    /// the volts of those that have.
    pub fn all_actual(&self) -> bool {
        self.outcomes.iter().all(|o| o.actual.is_ok())
    }

    /// True where every long-lasting scenario has a solution.
    pub fn all_sustained(&self) -> bool {
        self.outcomes.iter().filter(|o| o.case.continuous).all(|o| o.sustained.is_ok())
    }

    /// The largest of a value over the scenarios, limits in force, boards bursting.
    pub fn worst_actual(
        &self,
        wanted: impl Fn(&Outcome) -> bool,
        value: impl Fn(&Outcome, &Snapshot) -> Option<f64>,
    ) -> Option<Worst> {
        largest(
            self.outcomes.iter().filter(|o| wanted(o)).filter_map(|o| Some((o, value(o, o.actual.as_ref().ok()?)?))),
        )
    }
}

fn trial_solves(plan: &Plan, outcomes: &[Outcome]) -> usize {
    let pixels: usize = plan.strips.iter().map(|s| s.pixels).sum();
    // What lies outside the strips costs about a hundred pixels a piece.
    let size = pixels + 100 * (plan.nodes.len() + plan.loads.iter().map(|l| l.count).sum::<usize>());
    // A scenario that collapses takes long to say so.
    let dear = if outcomes.iter().any(|o| o.wanted.is_err() || o.actual.is_err()) { 20 } else { 1 };
    // The first cause is always followed up, however large the plan.
    (TRIAL_WORK / size.max(1) / dear).max(FIRST_TRIALS)
}

fn largest<'o>(values: impl Iterator<Item = (&'o Outcome, f64)>) -> Option<Worst> {
    let mut worst: Option<Worst> = None;
    for (o, value) in values {
        // Equal but for rounding: *worst* is the plainest to speak of, else the first one stays.
        let tolerance = |w: &Worst| 1e-9 * w.value.abs();
        let plainer = |w: &Worst| o.case.name == "worst" && w.scenario != "worst" && value >= w.value - tolerance(w);
        if worst.as_ref().is_none_or(|w| value > w.value + tolerance(w) || plainer(w)) {
            worst = Some(Worst { value, scenario: o.case.name.clone(), corner: o.corner });
        }
    }
    worst
}
