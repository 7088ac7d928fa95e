//! Solving every scenario in every corner: what is wanted, and what flows.

use std::sync::Arc;

use modest_ohm_solve::network::{Law, Network};
use modest_ohm_solve::solve::{Limits, Solution, SolveError, Workspace, solve, solve_from};

use super::collapsed::collapsed;
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
    limited: bool,
}

impl Snapshot {
    pub fn new(net: Network, limits: Limits, solution: Solution, layout: Arc<Layout>) -> Self {
        Self { net: Arc::new(net), solution: Arc::new(solution), layout, limited: limits.sources_limit }
    }

    /// A network of the same parts with other figures, solved from this state; `None` where it has no solution.
    pub fn near(net: Network, limits: Limits, near: &Self, workspace: &mut Workspace) -> Option<Self> {
        let solution = solve_from(&net, limits, &near.solution, workspace).ok()?;
        Some(Self::new(net, limits, solution, Arc::clone(&near.layout)))
    }

    /// True of the state of this very network.
    fn is_of(&self, net: &Network, limits: Limits) -> bool {
        self.limited == limits.sources_limit && *self.net == *net
    }
}

pub(crate) type Solved = Result<Snapshot, SolveError>;

/// One scenario in one corner.
#[derive(Clone, Debug)]
pub(crate) struct Outcome {
    pub case: Case,
    pub corner: Corner,
    /// Limits lifted, boards at their mean: what flows continuously if every source could give it.
    pub sustained: Solved,
    /// Limits lifted, boards at peak current: what the sources are asked for.
    pub wanted: Solved,
    /// Limits in force, boards at peak current: the voltage that follow.
    pub actual: Solved,
    /// Per node: its source has collapsed in `actual`. Empty where none has.
    down: Arc<[bool]>,
}

impl Outcome {
    /// True for another corner of the same scenario.
    pub fn is_case_of(&self, other: &Self) -> bool {
        self.case.scenario == other.case.scenario && self.case.surging == other.case.surging
    }

    /// The same state under the name of another corner that has the same network.
    pub fn as_corner(&self, corner: Corner) -> Self {
        Self { corner, ..self.clone() }
    }

    /// True where the source of a node limits its current and has collapsed: only that is reported, not what follows
    /// from it.
    pub fn is_down(&self, node: NodeId) -> bool {
        self.down.get(node.0).copied().unwrap_or(false)
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
    let cases = cases(plan);
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
                Some((outcome, layout)) => (Outcome { case: case.clone(), ..outcome }, layout),
                None => {
                    let near = known(n, corner).or_else(|| solved.last().map(|(o, _)| o));
                    solve_case(plan, case, corner, lift, near, workspace)
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

impl Outcome {
    /// The same scenario and corner in a variant of the plan.
    pub fn in_variant(&self, plan: &Plan, lift: Lift, workspace: &mut Workspace) -> (Self, Arc<Layout>) {
        solve_case(plan, &self.case, self.corner, lift, Some(self), workspace)
    }
}

/// One scenario of a plan in one corner, searched from an outcome of a plan with the same parts and other figures.
pub(crate) fn solve_near_one(
    plan: &Plan,
    case: &Case,
    corner: Corner,
    near: &Outcome,
    workspace: &mut Workspace,
) -> Outcome {
    solve_case(plan, case, corner, Lift::None, Some(near), workspace).0
}

/// One scenario in one corner, searched from a similar outcome where there is one.
fn solve_case(
    plan: &Plan,
    case: &Case,
    corner: Corner,
    lift: Lift,
    near: Option<&Outcome>,
    workspace: &mut Workspace,
) -> (Outcome, Arc<Layout>) {
    let built = |boards| build(plan, &State { corner, boards, demands: &case.demands });
    let (net, layout) = built(Boards::Mean);
    let layout = Arc::new(layout);
    let mut solved = |net: Network, limits: Limits, same: Option<&Solved>, start: Option<&Solved>| -> Solved {
        // A figure that is not in this network leaves it as it is.
        if let Some(Ok(same)) = same.filter(|s| s.as_ref().is_ok_and(|s| s.is_of(&net, limits))) {
            return Ok(same.clone());
        }
        let solution = match start {
            Some(Ok(start)) => solve_from(&net, limits, &start.solution, workspace)?,
            _ => solve(&net, limits, workspace)?,
        };
        Ok(Snapshot::new(net, limits, solution, Arc::clone(&layout)))
    };
    let known = near.map(|o| &o.sustained);
    let sustained = solved(net, Limits::LIFTED, known, known);
    // Only boards make a difference between what flows continuously and what is drawn in a burst.
    let bursts = case.bursts && !plan.boards.is_empty();
    let wanted = if bursts {
        solved(built(Boards::Peak).0, Limits::LIFTED, near.map(|o| &o.wanted), Some(&sustained))
    } else {
        sustained.clone()
    };
    let within = |s: &Snapshot| !over_limit(s, &layout, lift);
    let mut down: Arc<[bool]> = Arc::default();
    let actual = if wanted.as_ref().is_ok_and(within) {
        wanted.clone()
    } else {
        // A source at its limit may hold up a feed that would collapse without it.
        let mut net = built(if bursts { Boards::Peak } else { Boards::Mean }).0;
        lift_limit(&mut net, &layout, lift);
        let limited = solved(net, Limits::IN_FORCE, near.map(|o| &o.actual), None);
        if let Ok(s) = &limited {
            down = collapsed(plan, s).into();
        }
        limited
    };
    (Outcome { case: case.clone(), corner, sustained, wanted, actual, down }, layout)
}

fn lift_limit(net: &mut Network, layout: &Layout, lift: Lift) {
    let branch = match lift {
        Lift::None => return,
        Lift::Supply(i) => layout.supplies[i],
        Lift::Converter(i) => layout.converters[i].output,
    };
    if let Law::Source { limit, .. } | Law::Regulator { limit, .. } = &mut net.branches[branch].law {
        *limit = f64::INFINITY;
    }
}

fn over_limit(snapshot: &Snapshot, layout: &Layout, lift: Lift) -> bool {
    let lifted = match lift {
        Lift::None => None,
        Lift::Supply(i) => layout.supplies.get(i).copied(),
        Lift::Converter(i) => layout.converters.get(i).map(|c| c.output),
    };
    snapshot.net.branches.iter().enumerate().any(|(i, b)| {
        matches!(b.law, Law::Source { limit, .. } | Law::Regulator { limit, .. }
            if Some(i) != lifted && snapshot.amps(i) > limit)
    })
}
