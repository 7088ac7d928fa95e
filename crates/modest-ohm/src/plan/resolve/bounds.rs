//! Starts that a stage limits by itself.

use crate::plan::kinds::load::Demand;
use crate::plan::kinds::load_limits::Bound;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;

/// What is behind a stage with a current limit takes no more than that as it starts; several share it as they would
/// take it.
pub(crate) fn bound_starts(plan: &mut Plan) {
    let mut bounds: Vec<(usize, Bound)> = Vec::new();
    for (d, driver) in plan.drivers.iter().enumerate() {
        let Some(limit) = &driver.limit else { continue };
        for (run, _) in plan.runs_of(d) {
            let behind: Vec<usize> = plan.loads_behind(run).collect();
            let starts = |i: &usize| match &plan.loads[*i].demand {
                Demand::Current(states) => states.surge.as_ref().map_or(0.0, |s| s.typical.get()),
                _ => 0.0,
            };
            let all: f64 = behind.iter().map(|i| starts(i) * plan.loads[*i].count as f64).sum();
            let rail_v = rail_v(plan, plan.branches[run].feed.from.id);
            for i in behind.iter().filter(|i| starts(i) > 0.0) {
                let amps = [limit.low, limit.typical, limit.high].map(|a| a.get() * starts(i) / all);
                bounds.push((*i, Bound { amps, rail_v }));
            }
        }
    }
    for (i, bound) in bounds {
        plan.loads[i].limits.bound = Some(bound);
    }
}

/// The highest voltage of the source of a node, V.
fn rail_v(plan: &Plan, from: NodeId) -> f64 {
    match plan.nodes[plan.root(from).0].kind {
        NodeKind::Supply(i) => plan.supplies[i].voltage.high.get(),
        NodeKind::Converter(i) => plan.converters[i].output.high.get(),
        _ => 0.0,
    }
}
