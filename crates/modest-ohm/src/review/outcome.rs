//! Solving every scenario in every corner: what is wanted, and what flows.

use crate::network::{Boards, Case, Layout, Network, State, build, cases};
use crate::plan::Plan;
use crate::quantity::Corner;
use crate::solve::{Limits, Solution, SolveError, solve};

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
    pub net: Network,
    pub solution: Solution,
}

pub(crate) type Solved = Result<Snapshot, SolveError>;

/// One scenario in one corner.
#[derive(Clone, Debug)]
pub(crate) struct Outcome {
    pub case: Case,
    pub corner: Corner,
    /// Limits lifted, boards at their mean: what flows for long if every source could give it.
    pub sustained: Solved,
    /// Limits lifted, boards bursting: what the sources are asked for.
    pub wanted: Solved,
    /// Limits in force, boards bursting: the volts that follow.
    pub actual: Solved,
}

pub(crate) fn solve_all(plan: &Plan, lift: Lift) -> (Layout, Vec<Outcome>) {
    let mut layout = None;
    let mut outcomes = Vec::new();
    for case in cases(plan) {
        for corner in Corner::ALL {
            let (outcome, laid) = solve_case(plan, &case, corner, lift);
            layout.get_or_insert(laid);
            outcomes.push(outcome);
        }
    }
    (layout.unwrap_or_default(), outcomes)
}

fn solve_case(plan: &Plan, case: &Case, corner: Corner, lift: Lift) -> (Outcome, Layout) {
    let free = Limits { sources_limit: false, power_scale: 1.0 };
    let (net, layout) = build(plan, &State { corner, boards: Boards::Mean, demands: &case.demands });
    let sustained = snapshot(net, free);
    let wanted = if case.bursts {
        let (net, _) = build(plan, &State { corner, boards: Boards::Peak, demands: &case.demands });
        snapshot(net, free)
    } else {
        sustained.clone()
    };
    let actual = match &wanted {
        Ok(snapshot) if over_limit(snapshot, &layout, lift) => {
            let mut net = snapshot.net.clone();
            lift_limit(&mut net, &layout, lift);
            self::snapshot(net, Limits { sources_limit: true, power_scale: 1.0 })
        }
        other => other.clone(),
    };
    (Outcome { case: case.clone(), corner, sustained, wanted, actual }, layout)
}

/// Solves; the pixels' own voltages are dropped, what the checks need of them is kept.
fn snapshot(net: Network, limits: Limits) -> Solved {
    let mut solution = solve(&net, limits)?;
    for ladder in &mut solution.ladders {
        ladder.v = Vec::new();
    }
    Ok(Snapshot { net, solution })
}

fn lift_limit(net: &mut Network, layout: &Layout, lift: Lift) {
    let branch = match lift {
        Lift::None => return,
        Lift::Supply(i) => layout.supplies[i],
        Lift::Converter(i) => layout.converters[i].2,
    };
    if let crate::network::Law::Source { limit, .. } = &mut net.branches[branch].law {
        *limit = f64::INFINITY;
    }
}

fn over_limit(snapshot: &Snapshot, layout: &Layout, lift: Lift) -> bool {
    let lifted = match lift {
        Lift::None => None,
        Lift::Supply(i) => layout.supplies.get(i).copied(),
        Lift::Converter(i) => layout.converters.get(i).map(|c| c.2),
    };
    snapshot.net.branches.iter().enumerate().any(|(i, b)| {
        matches!(b.law, crate::network::Law::Source { limit, .. } if Some(i) != lifted && snapshot.solution.current[i] > limit)
    })
}
