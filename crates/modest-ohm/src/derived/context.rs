//! What a check may see.
use std::cell::{Cell, OnceCell};
use std::sync::{Arc, OnceLock};

use rayon::prelude::*;

use super::consumers::{Consumer, consumers};
use super::discharge::{RuntimeRow, lasting, runtimes};
use super::firmware_limit::{Cause, limit_causes};
use super::solves::Solves;
use crate::derived::protection::judge::{Protection, protections};
use crate::network::layout::{ConductorInfo, Layout};
use crate::network::state::Case;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Corner;
use crate::solved::heat::air_of_run_c;
use crate::solved::outcome::{Lift, Outcome, Snapshot, solve_near};
use crate::topology::run::Run;

/// The plan and its solved scenarios.
pub(crate) struct Context<'a> {
    pub plan: &'a Plan,
    pub layout: &'a Layout,
    /// The scenarios that every check judges.
    pub outcomes: &'a [Outcome],
    /// Everything that can move at once: only what judges starts looks at it.
    pub at_once: &'a [Outcome],
    /// Those in which a board is plugged into a computer for a while.
    pub programming: &'a [Outcome],
    derived: Arc<Derived>,
    consumers: OnceCell<Vec<Consumer<'a>>>,
    /// Solves that are left to try; counted at first use.
    trials: Cell<Option<usize>>,
    /// False where only what is found matters: texts may be unfinished, and no firmware limit is looked for.
    pub in_full: bool,
    /// True where a source is looked at while others on its rail are low: it would carry less by itself.
    pub shares_unequally: bool,
    /// The parts to judge; `None` for all.
    about: Option<&'a [&'a str]>,
}

/// What is worked out of the solved scenarios once, when it is first asked for.
#[derive(Debug, Default)]
pub(crate) struct Derived {
    causes: OnceLock<Vec<Cause>>,
    runtimes: OnceLock<Vec<RuntimeRow>>,
    protections: OnceLock<Vec<Protection>>,
}

/// Pixels and feeds that the trial solves of one review may go through together: about a second's work.
const TRIAL_WORK: usize = 4_000_000;

/// Solves that every review may try.
const FIRST_TRIALS: usize = 60;

/// A value with the scenario and corner in which it is largest.
#[derive(Clone, Debug)]
pub(crate) struct Worst {
    pub value: f64,
    pub scenario: Scenario,
    pub corner: Corner,
    /// The same in the same scenario with every figure nominal, where that has been asked.
    pub typical: Option<f64>,
    /// What surges there.
    surging: Option<String>,
}

impl Worst {
    /// A value in an outcome.
    pub fn at(outcome: &Outcome, value: f64) -> Self {
        let case = &outcome.case;
        let (scenario, surging) = (case.scenario.clone(), case.surging.clone());
        Self { value, scenario, corner: outcome.corner, typical: None, surging }
    }

    /// A value in a scenario in which nothing surges.
    pub fn lasting(value: f64, scenario: Scenario, corner: Corner) -> Self {
        Self { value, scenario, corner, typical: None, surging: None }
    }
}

/// The outcome with the largest of a value, among those that have one. Of values that are equal but for rounding the
/// one in *worst*, the plainest to speak of, else the first.
pub(crate) fn worst_of<'o>(
    outcomes: impl IntoIterator<Item = &'o Outcome>,
    value: impl Fn(&'o Outcome) -> Option<f64>,
) -> Option<(&'o Outcome, f64)> {
    let mut worst: Option<(&Outcome, f64)> = None;
    for o in outcomes {
        let Some(value) = value(o) else { continue };
        let larger = worst.is_none_or(|(w, most)| {
            let tolerance = 1e-9 * most.abs();
            let plainer =
                o.case.scenario == Scenario::Worst && w.case.scenario != Scenario::Worst && value >= most - tolerance;
            value > most + tolerance || plainer
        });
        if larger {
            worst = Some((o, value));
        }
    }
    worst
}

impl<'a> Context<'a> {
    pub fn new(plan: &'a Plan, layout: &'a Layout, outcomes: &'a [Outcome]) -> Self {
        Self::with(plan, layout, outcomes, Arc::default())
    }

    /// As [`new`](Self::new), with what has been worked out of the same outcomes before.
    pub fn with(plan: &'a Plan, layout: &'a Layout, outcomes: &'a [Outcome], derived: Arc<Derived>) -> Self {
        // They stand at the end.
        let apart = |o: &Outcome| o.case.programming || o.case.scenario == Scenario::AllAtOnce;
        let first = outcomes.iter().position(apart).unwrap_or(outcomes.len());
        let (outcomes, others) = outcomes.split_at(first);
        let first = others.iter().position(|o| o.case.programming).unwrap_or(others.len());
        let (at_once, programming) = others.split_at(first);
        let trials = Cell::new(None);
        let consumers = OnceCell::new();
        Self {
            plan,
            layout,
            outcomes,
            at_once,
            programming,
            derived,
            consumers,
            trials,
            in_full: true,
            shares_unequally: false,
            about: None,
        }
    }

    /// As [`new`](Self::new), for a variant in which some checks are run only to see whether they find anything: of
    /// what checks solve in addition to the scenarios, only what `needed` lists is solved.
    pub fn of_variant(plan: &'a Plan, layout: &'a Layout, outcomes: &'a [Outcome], needed: &[Solves]) -> Self {
        let context = Self { in_full: false, ..Self::new(plan, layout, outcomes) };
        if !needed.contains(&Solves::Variants) {
            context.trials.set(Some(0));
        }
        if !needed.contains(&Solves::FirmwareLimits) {
            let _ = context.derived.causes.set(Vec::new());
        }
        context
    }

    /// The same context for verdicts on some parts only: findings of other parts may be missing, and so may everything
    /// that a finding adds to its verdict. Only the states that the verdicts need are solved.
    pub fn about(self, parts: &'a [&'a str]) -> Self {
        Self { about: Some(parts), ..self }
    }

    /// False where only the verdicts count, and nobody reads the findings.
    pub fn is_read(&self) -> bool {
        self.about.is_none()
    }

    /// Whether a part is to be judged.
    pub fn asks(&self, part: &str) -> bool {
        self.about.is_none_or(|parts| parts.contains(&part))
    }

    /// What has been worked out so far, to be shared.
    pub fn derived(&self) -> Arc<Derived> {
        Arc::clone(&self.derived)
    }

    /// Takes `count` solves of variants out of what one review may try; false when they are used up. A plan of many
    /// strips with the same trouble would otherwise be solved anew for every one of them.
    pub fn may_try(&self, count: usize) -> bool {
        let left = self.trials.get().unwrap_or_else(|| trial_solves(self.plan, self.outcomes)).checked_sub(count);
        self.trials.set(Some(left.unwrap_or(0)));
        left.is_some()
    }

    /// Whether the plan is small enough for so many solves in each variant of it.
    pub fn affords(&self, count: usize) -> bool {
        trial_solves(self.plan, self.outcomes) >= count
    }

    /// A variant of the plan, solved; `None` once one review has tried enough of them.
    pub fn trial(&self, variant: &Plan) -> Option<(Arc<Layout>, Vec<Outcome>)> {
        self.may_try(self.outcomes.len() + self.at_once.len() + self.programming.len()).then(|| {
            let near: Vec<Outcome> = self.all_outcomes().cloned().collect();
            solve_near(variant, Lift::None, &near)
        })
    }

    /// All consumers, with the voltages that they need.
    pub fn consumers(&self) -> &[Consumer<'a>] {
        self.consumers.get_or_init(|| consumers(self.plan, self.layout))
    }

    /// How long batteries last.
    pub fn runtimes(&self) -> &[RuntimeRow] {
        self.derived.runtimes.get_or_init(|| {
            let (plan, cases): (&Plan, Vec<&Case>) = (self.plan, lasting(self.outcomes).collect());
            cases.into_par_iter().flat_map_iter(|case| runtimes(plan, case)).collect()
        })
    }

    /// What protects each cable.
    pub fn protections(&self) -> &[Protection] {
        let conductors = &self.layout.conductors;
        self.derived.protections.get_or_init(|| protections(self.plan, conductors, &|run| self.air_c(run)))
    }

    /// The warmest air around a cable in a scenario that lasts, °C.
    pub fn air_c(&self, run: Run) -> f64 {
        let warmest = self.plan.warmest_c();
        if self.plan.enclosures.is_empty() {
            return warmest;
        }
        let air = |s: &Snapshot| air_of_run_c(self.plan, run, s);
        self.continuous().filter_map(|o| Some(air(o.sustained.as_ref().ok()?))).fold(warmest, f64::max)
    }

    /// The largest current that a cable carries continuously, in its feed and in its return, A, limits lifted.
    pub fn sustained_a(&self, run: Run) -> f64 {
        let own = self.layout.conductors.iter().filter(|c| c.run == run);
        let most = |s: &Snapshot| {
            let amps = |c: &ConductorInfo| {
                let feed = c.feed.map_or(0.0, |b| s.amps(b).abs());
                feed.max(s.amps(c.back).abs())
            };
            own.clone().map(amps).fold(0.0, f64::max)
        };
        self.worst_sustained(most).map_or(0.0, |w| w.value)
    }

    /// Groups of strips without a firmware limit that exceed their path.
    pub fn causes(&self) -> &[Cause] {
        self.derived.causes.get_or_init(|| limit_causes(self))
    }

    /// The largest of a value over the scenarios in which what flows flows continuously, limits lifted, boards at their
    /// mean, of those that have a solution. Unless [all of them](Self::all_sustained) have one nothing may be called
    /// passed on it.
    pub fn worst_sustained(&self, value: impl Fn(&Snapshot) -> f64) -> Option<Worst> {
        let of = |o: &Outcome| Some(value(o.sustained.as_ref().ok()?));
        let (o, value) = worst_of(self.continuous(), of)?;
        Some(self.worst_at(o, value, of))
    }

    /// The scenarios in which what flows flows continuously.
    pub fn continuous(&self) -> impl Iterator<Item = &'a Outcome> {
        self.outcomes.iter().filter(|o| o.case.continuous)
    }

    /// Every outcome, those that only some checks look at included.
    pub fn all_outcomes(&self) -> impl Iterator<Item = &'a Outcome> {
        self.outcomes.iter().chain(self.at_once).chain(self.programming)
    }

    /// The outcome in which a value was largest.
    pub fn outcome(&self, at: &Worst) -> Option<&'a Outcome> {
        let is_it =
            |o: &&Outcome| o.case.scenario == at.scenario && o.corner == at.corner && o.case.surging == at.surging;
        self.all_outcomes().find(is_it)
    }

    /// True where a branch is connected to a supply: what is dead is not judged.
    pub fn alive(&self, branch: usize) -> bool {
        self.outcomes.iter().filter_map(|o| o.sustained.as_ref().ok()).any(|s| s.alive(branch))
    }

    /// True where a vertex is connected to a supply.
    pub fn alive_at(&self, vertex: usize) -> bool {
        self.outcomes.iter().filter_map(|o| o.sustained.as_ref().ok()).any(|s| s.solution.alive[vertex])
    }

    /// True where something feeds a strip in some scenario.
    pub fn strip_is_fed(&self, strip: usize) -> bool {
        self.outcomes.iter().filter_map(|o| o.sustained.as_ref().ok()).any(|s| s.solution.strips[strip].alive)
    }

    /// Solved states of one scenario that can be together, limits in force: of what receives, with its outcome, and of
    /// what sends. On one rail both are of one corner, else every corner goes with every other. The corners of a
    /// scenario stand side by side.
    ///
    /// States in which the source of one of `feeds` has collapsed are left out.
    pub fn together<'f>(
        &self,
        one_rail: bool,
        feeds: &'f [NodeId],
    ) -> impl Iterator<Item = (&'a Outcome, &'a Snapshot, &'a Snapshot)> + use<'a, 'f> {
        let same = |a: &Outcome, b: &Outcome| a.case.scenario == b.case.scenario && a.case.surging == b.case.surging;
        self.outcomes.chunk_by(same).flat_map(move |corners| {
            let stands = |o: &Outcome| !feeds.iter().any(|id| o.is_down(*id));
            let solved = move |o: &'a Outcome| Some((o, o.actual.as_ref().ok()?)).filter(|(o, _)| stands(o));
            corners.iter().filter_map(solved).flat_map(move |(to, here)| {
                let senders = corners.iter().filter(move |from| !one_rail || from.corner == to.corner);
                senders.filter_map(move |from| Some((to, here, solved(from)?.1)))
            })
        })
    }

    /// True where every scenario has a solution in every corner, limits in force: else nothing may be called passed on
    /// the voltage of those that have.
    pub fn all_actual(&self) -> bool {
        self.about.is_some() || self.outcomes.iter().all(|o| o.actual.is_ok())
    }

    /// True where every long-lasting scenario has a solution.
    pub fn all_sustained(&self) -> bool {
        self.about.is_some() || self.continuous().all(|o| o.sustained.is_ok())
    }

    /// The largest of a value over the scenarios, limits in force, boards at peak current.
    pub fn worst_actual(
        &self,
        wanted: impl Fn(&Outcome) -> bool,
        value: impl Fn(&Outcome, &Snapshot) -> Option<f64>,
    ) -> Option<Worst> {
        let those = self.outcomes.iter().filter(|o| wanted(o));
        let of = |o: &Outcome| value(o, o.actual.as_ref().ok()?);
        let (o, value) = worst_of(those, of)?;
        Some(self.worst_at(o, value, of))
    }

    /// A value in an outcome, with the nominal one of the same scenario beside it.
    pub fn worst_at(&self, o: &Outcome, value: f64, of: impl Fn(&Outcome) -> Option<f64>) -> Worst {
        let worst = Worst::at(o, value);
        if self.about.is_some() {
            return worst;
        }
        let at = Worst { corner: Corner::Typical, ..worst.clone() };
        Worst { typical: self.outcome(&at).and_then(of), ..worst }
    }
}

fn trial_solves(plan: &Plan, outcomes: &[Outcome]) -> usize {
    let pixels: usize = plan.strips.iter().map(crate::plan::strip::Strip::work).sum();
    // What lies outside the strips costs about a hundred pixels a piece.
    let size = pixels + 100 * (plan.nodes.len() + plan.loads.iter().map(|l| l.count).sum::<usize>());
    // A scenario that collapses takes long to say so.
    let dear = if outcomes.iter().any(|o| o.wanted.is_err() || o.actual.is_err()) { 20 } else { 1 };
    // The first cause is always followed up, however large the plan.
    (TRIAL_WORK / size.max(1) / dear).max(FIRST_TRIALS)
}
