//! Solving every scenario in every corner: what is wanted, and what flows.

use std::sync::Arc;

use modest_ohm_solve::network::Network;
use modest_ohm_solve::solve::{Limits, Solution, SolveError, Workspace, solve_from};

use super::on_demand::OnDemand;
use super::state::{Question, SharedWorkspace, later};
use crate::network::build::build;
use crate::network::demands::cases;
use crate::network::layout::Layout;
use crate::network::state::{Boards, Case, State};
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Corner;

/// Which current limit is lifted to see what follows from it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Lift {
    None,
    Supply(usize),
    Converter(usize),
}

/// A solved network.
#[derive(Clone, Debug)]
pub(crate) struct Snapshot {
    pub net: Arc<Network>,
    pub solution: Arc<Solution>,
    /// Where the plan's things are in the network.
    pub layout: Arc<Layout>,
    /// Whether the sources' limits were in force.
    pub(super) limited: bool,
    /// Per node: its source has collapsed. Empty where none has.
    pub(super) down: Arc<[bool]>,
}

impl Snapshot {
    pub fn new(net: Network, limits: Limits, solution: Solution, layout: Arc<Layout>) -> Self {
        Self {
            net: Arc::new(net),
            solution: Arc::new(solution),
            layout,
            limited: limits.sources_limit,
            down: Arc::default(),
        }
    }

    /// A network of the same parts with other figures, solved from this state; `None` where it has no solution.
    pub fn near(net: Network, limits: Limits, near: &Self, workspace: &mut Workspace) -> Option<Self> {
        let solution = solve_from(&net, limits, &near.solution, workspace).ok()?;
        Some(Self::new(net, limits, solution, Arc::clone(&near.layout)))
    }

    /// True of the state of this very network.
    pub(super) fn is_of(&self, net: &Network, limits: Limits) -> bool {
        self.limited == limits.sources_limit && *self.net == *net
    }
}

pub(crate) type Solved = Result<Snapshot, SolveError>;

/// One scenario in one corner.
#[derive(Clone, Debug)]
pub(crate) struct Outcome {
    pub case: Arc<Case>,
    pub corner: Corner,
    /// Limits lifted, boards at their mean: what flows continuously if every source could give it.
    pub sustained: OnDemand,
    /// Limits lifted, boards at peak current: what the sources are asked for.
    pub wanted: OnDemand,
    /// Limits in force, boards at peak current: the voltage that follow.
    pub actual: OnDemand,
}

impl Outcome {
    /// True for another corner of the same scenario.
    pub fn is_case_of(&self, other: &Self) -> bool {
        self.case.scenario == other.case.scenario && self.case.surging == other.case.surging
    }

    /// True for the same states of the same scenario.
    pub fn is_same(&self, other: &Self) -> bool {
        self.corner == other.corner && self.is_case_of(other) && self.actual.is_same(&other.actual)
    }

    /// The same state under the name of another corner that has the same network.
    pub fn as_corner(&self, corner: Corner) -> Self {
        Self { corner, ..self.clone() }
    }

    /// True where the source of a node limits its current and has collapsed: only that is reported, not what follows
    /// from it.
    pub fn is_down(&self, node: NodeId) -> bool {
        self.actual.as_ref().is_ok_and(|s| s.down.get(node.0).copied().unwrap_or(false))
    }
}

/// Scenarios that ask for the same stand close together.
const LOOK_BACK: usize = 4;

/// Plans with more pixels than this are solved on several cores; below it, starting a thread costs more than it saves.
const WORTH_THREADS: usize = 20_000;

/// Every scenario in every corner.
pub(crate) fn solve_all(plan: &Plan, lift: Lift) -> (Arc<Layout>, Vec<Outcome>) {
    solve_near(plan, lift, &[])
}

/// As [`solve_all`], of a variant of a plan that is solved: its outcomes are what the variant's are searched from. A
/// corner is solved from start to end by one hand, so that the results do not depend, to the last bit, on how many cores
/// there are.
pub(crate) fn solve_near(plan: &Plan, lift: Lift, near: &[Outcome]) -> (Arc<Layout>, Vec<Outcome>) {
    let cases: Vec<Arc<Case>> = cases(plan).into_iter().map(Arc::new).collect();
    // The same scenario may be on another place in a variant, or be missing.
    let known = |n: usize, corner: Corner| {
        let place = Corner::ALL.iter().position(|c| *c == corner)?;
        near.get(Corner::ALL.len() * n + place).filter(|o| o.corner == corner)
    };
    let corner = |corner: Corner, workspace: &mut Workspace| -> Vec<(Outcome, Arc<Layout>)> {
        let mut solved: Vec<(Outcome, Arc<Layout>)> = Vec::with_capacity(cases.len());
        for (n, case) in cases.iter().enumerate() {
            // Without surges *start* asks for what *worst* asks for.
            let same = |o: &Outcome| o.case.demands == case.demands && o.case.bursts == case.bursts;
            let twin = solved.iter().rev().take(LOOK_BACK).find(|(o, _)| same(o)).cloned();
            let next = match twin {
                Some((outcome, layout)) => (Outcome { case: Arc::clone(case), ..outcome }, layout),
                None => {
                    let near = known(n, corner).or_else(|| solved.last().map(|(o, _)| o));
                    Question { plan, case, corner, lift, near }.solve(workspace)
                }
            };
            solved.push(next);
        }
        solved
    };
    let pixels: usize = plan.strips.iter().map(crate::plan::strip::Strip::work).sum();
    let solved: Vec<Vec<(Outcome, Arc<Layout>)>> = if pixels < WORTH_THREADS {
        let mut workspace = Workspace::default();
        Corner::ALL.into_iter().map(|c| corner(c, &mut workspace)).collect()
    } else {
        std::thread::scope(|scope| {
            let corner = &corner;
            let hands = Corner::ALL.map(|c| scope.spawn(move || corner(c, &mut Workspace::default())));
            hands.into_iter().map(|h| h.join().unwrap_or_else(|e| std::panic::resume_unwind(e))).collect()
        })
    };
    let mut layout = None;
    let mut columns: Vec<_> = solved.into_iter().map(Vec::into_iter).collect();
    let mut outcomes = Vec::with_capacity(cases.len() * columns.len());
    for _ in &cases {
        for (outcome, laid) in columns.iter_mut().filter_map(Iterator::next) {
            layout.get_or_insert(laid);
            outcomes.push(outcome);
        }
    }
    (layout.unwrap_or_default(), outcomes)
}

/// As [`solve_near`], each state solved at first use.
pub(crate) fn solve_later(plan: &Arc<Plan>, near: &[Outcome]) -> (Arc<Layout>, Vec<Outcome>) {
    let workspace = SharedWorkspace::default();
    let cases: Vec<Arc<Case>> = cases(plan).into_iter().map(Arc::new).collect();
    let mut outcomes: Vec<Outcome> = Vec::with_capacity(cases.len() * Corner::ALL.len());
    for (n, case) in cases.iter().enumerate() {
        for (place, corner) in Corner::ALL.into_iter().enumerate() {
            let known = near.get(Corner::ALL.len() * n + place).filter(|o| o.corner == corner);
            let same =
                |o: &&Outcome| o.corner == corner && o.case.demands == case.demands && o.case.bursts == case.bursts;
            let outcome = match outcomes.iter().rev().take(LOOK_BACK * Corner::ALL.len()).find(same) {
                Some(twin) => Outcome { case: Arc::clone(case), ..twin.clone() },
                None => later(plan, case, corner, known, &workspace),
            };
            outcomes.push(outcome);
        }
    }
    let layout = cases.first().map(|case| {
        Arc::new(build(plan, &State { corner: Corner::ALL[0], boards: Boards::Mean, demands: &case.demands }).1)
    });
    (layout.unwrap_or_default(), outcomes)
}

/// One scenario of a plan in one corner, searched from an outcome of a plan with the same parts and other figures.
pub(crate) fn solve_near_one(
    plan: &Plan,
    case: &Arc<Case>,
    corner: Corner,
    near: &Outcome,
    workspace: &mut Workspace,
) -> Outcome {
    Question { plan, case, corner, lift: Lift::None, near: Some(near) }.solve(workspace).0
}
