//! How much constant power a feed can deliver, and whether it can deliver what is asked.

use super::outcome::Outcome;
use super::rows::FeedRow;
use crate::network::{Boards, Network, State, build};
use crate::plan::{Demand, Plan};
use crate::quantity::{Role, Watts};
use crate::solve::{Limits, Solution, solve};

/// The search ends here: a feed that could deliver a hundredfold is no concern.
const SEARCH_TO: f64 = 100.0;

/// Finds the largest common scale of all constant-power demands for which the upper branch exists, source limits in
/// force, and the largest for which every input also stays in its range.
pub(crate) fn feed_row(plan: &Plan, outcome: &Outcome) -> FeedRow {
    let state = State { corner: outcome.corner, boards: Boards::Peak, demands: &outcome.case.demands };
    let (net, layout) = build(plan, &state);
    if !net.branches.iter().any(|b| b.law.is_power()) {
        return FeedRow {
            has_solution: outcome.actual.is_ok(),
            largest_scale: None,
            deliverable: None,
            deliverable_in_range: None,
            stays_in_range: None,
        };
    }
    // Branch and smallest input volts of everything that keeps its power.
    let mut minimums: Vec<(usize, f64)> = Vec::new();
    for (i, c) in plan.converters.iter().enumerate() {
        let set = c.output.at(outcome.corner, Role::Source).get();
        minimums.push((layout.converters[i].1, c.input_minimum(set)));
    }
    for (i, load) in plan.loads.iter().enumerate() {
        if let (Demand::Power(_), Some(minimum)) = (&load.demand, &load.minimum) {
            minimums.extend(layout.loads[i].iter().map(|(_, branch)| (*branch, minimum.low.get())));
        }
    }
    let at = |scale: f64| solve(&net, Limits { sources_limit: true, power_scale: scale }).ok();
    let in_range =
        |s: &Solution| minimums.iter().all(|(b, v)| !s.alive[net.branches[*b].from] || s.drop_of(&net, *b) >= v - 1e-9);
    let largest = search(SEARCH_TO, |scale| at(scale).is_some());
    let largest_in_range = search(largest, |scale| at(scale).is_some_and(|s| in_range(&s)));
    let watts = |scale: f64| at(scale).map(|s| Watts::new(power(&net, &s)));
    FeedRow {
        has_solution: outcome.actual.is_ok(),
        largest_scale: Some(largest),
        deliverable: watts(largest),
        deliverable_in_range: watts(largest_in_range),
        stays_in_range: Some(largest_in_range >= 1.0),
    }
}

/// What the constant-power demands take, W.
fn power(net: &Network, solution: &Solution) -> f64 {
    net.branches
        .iter()
        .enumerate()
        .filter(|(_, b)| b.law.is_power())
        .map(|(i, _)| solution.current[i] * solution.drop_of(net, i))
        .sum()
}

/// The largest scale up to `top` that holds, to seven digits; 0 if none does.
fn search(top: f64, holds: impl Fn(f64) -> bool) -> f64 {
    if holds(top) {
        return top;
    }
    let (mut low, mut high) = (0.0, top);
    for _ in 0..60 {
        if high - low <= 1e-8 * high {
            break;
        }
        let middle = 0.5 * (low + high);
        if holds(middle) { low = middle } else { high = middle }
    }
    low
}
