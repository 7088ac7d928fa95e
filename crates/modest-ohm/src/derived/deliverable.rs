//! How much constant power a feed can deliver, and whether it can deliver what is asked.

use modest_ohm_solve::network::Network;
use modest_ohm_solve::solve::{Limits, Solution, Workspace, largest_scale, solve};

use super::feed_row::FeedRow;
use crate::network::build::build;
use crate::network::layout::Layout;
use crate::network::state::{Boards, State};
use crate::plan::kinds::load::Demand;
use crate::plan::model::Plan;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Role;
use crate::quantity::units::Watts;
use crate::solved::outcome::Outcome;

/// The search ends here: a feed that could deliver a hundredfold is no concern.
const SEARCH_TO: f64 = 100.0;

/// Finds the largest common scale of all constant-power demands for which the upper branch exists, source limits in
/// force, and the largest for which every input also stays in its range; and the demand that gives way first.
pub(crate) fn feed_row<'a>(plan: &'a Plan, outcome: &Outcome) -> (FeedRow, Option<&'a Name>) {
    let state = State { corner: outcome.corner, boards: Boards::Peak, demands: &outcome.case.demands };
    let (net, layout) = build(plan, &state);
    let mut workspace = Workspace::default();
    let mut row = FeedRow {
        has_solution: outcome.actual.is_ok(),
        largest_scale: None,
        deliverable: None,
        deliverable_in_range: None,
        stays_in_range: None,
    };
    if !net.branches.iter().any(|b| b.law.is_power()) {
        return (row, None);
    }
    let Ok((largest, at_most)) = largest_scale(&net, &[], SEARCH_TO, &mut workspace) else { return (row, None) };
    let minimums = minimums(plan, &layout, outcome);
    let in_range = largest_scale(&net, &minimums, largest.max(1e-6), &mut workspace);
    row.largest_scale = Some(largest);
    row.deliverable = Some(power(&net, &at_most));
    if let Ok((scale, solution)) = in_range {
        row.deliverable_in_range = Some(power(&net, &solution));
        row.stays_in_range = Some(scale >= 1.0);
    }
    let idle = solve(&net, Limits { power_scale: 0.0, ..Limits::IN_FORCE }, &mut workspace).ok();
    let weakest = idle.and_then(|idle| weakest(plan, &net, &layout, &at_most, &idle));
    (row, weakest)
}

/// Branch and smallest input voltage of everything that keeps its power.
fn minimums(plan: &Plan, layout: &Layout, outcome: &Outcome) -> Vec<(usize, f64)> {
    let mut minimums: Vec<(usize, f64)> = Vec::new();
    for (i, c) in plan.converters.iter().enumerate() {
        let set = c.output.at(outcome.corner, Role::Source).get();
        minimums.push((layout.converters[i].intake, c.input_minimum(set)));
    }
    for (i, load) in plan.loads.iter().enumerate() {
        if let (Demand::Power(_), Some(minimum)) = (&load.demand, &load.minimum) {
            minimums.extend(layout.loads[i].iter().map(|d| (d.branch, minimum.low.get())));
        }
    }
    minimums
}

/// What the constant-power demands take together.
fn power(net: &Network, solution: &Solution) -> Watts {
    let powered = net.branches.iter().enumerate().filter(|(_, b)| b.law.is_power());
    Watts::new(powered.map(|(i, _)| solution.current[i] * solution.drop_of(net, i)).sum())
}

/// The demand whose input has fallen furthest from its idle voltage when the feed is at its end.
fn weakest<'a>(
    plan: &'a Plan,
    net: &Network,
    layout: &Layout,
    at_most: &Solution,
    idle: &Solution,
) -> Option<&'a Name> {
    let left = |b: usize| at_most.drop_of(net, b) / idle.drop_of(net, b).max(1e-9);
    let converters = plan.converters.iter().zip(&layout.converters).map(|(c, at)| (at.intake, &c.name));
    let members = plan.loads.iter().zip(&layout.loads);
    let loads = members.flat_map(|(l, members)| members.iter().map(|d| (d.branch, &l.name)));
    converters
        .chain(loads.filter(|(b, _)| net.branches[*b].law.is_power()))
        .filter(|(b, _)| at_most.alive[net.branches[*b].from])
        .min_by(|a, b| left(a.0).total_cmp(&left(b.0)))
        .map(|(_, name)| name)
}
