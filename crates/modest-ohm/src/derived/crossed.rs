//! Sources that feed one rail together, each at its highest voltage while the others are at their lowest: then it
//! carries most, and no corner that moves all sources alike shows it.

use modest_ohm_solve::solve::{Limits, Workspace, solve};

use super::context::{Context, Worst};
use crate::network::build::build;
use crate::network::state::{Boards, State};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Corner;
use crate::solved::currents::source_of;
use crate::solved::meeting::{meeting, volts_of};
use crate::solved::outcome::Snapshot;

/// What a source carries while those that it meets are at their lowest.
#[derive(Clone, Debug)]
pub(crate) struct Crossed {
    pub node: NodeKind,
    /// The others, by name.
    pub others: Vec<String>,
    pub worst: Worst,
}

/// Every source that meets others, at its own worst combination.
pub(crate) fn crossed(context: &Context<'_>) -> Vec<Crossed> {
    let plan = context.plan;
    let cases = || context.continuous().filter(|o| o.corner == Corner::Typical).map(|o| &*o.case);
    let mut found = Vec::new();
    let Some(solved) = context.outcomes.iter().find_map(|o| o.sustained.as_ref().ok()) else { return found };
    for set in meeting(plan, solved) {
        for kind in &set {
            if !context.affords(set.len() * cases().count() * Corner::ALL.len()) {
                return found;
            }
            let mut variant = plan.clone();
            for other in &set {
                if let Some(volts) = volts_of(&mut variant, *other) {
                    let end = if other == kind { volts.high } else { volts.low };
                    (volts.low, volts.typical, volts.high) = (end, end, end);
                }
            }
            let Some(worst) = worst_of(&variant, *kind, cases()) else { continue };
            let name = |k: &NodeKind| plan.node_id(*k).map(|id| plan.nodes[id.0].name.clone());
            let others = set.iter().filter(|k| *k != kind).filter_map(name).collect();
            found.push(Crossed { node: *kind, others, worst });
        }
    }
    found
}

fn worst_of<'c>(
    variant: &Plan,
    kind: NodeKind,
    cases: impl Iterator<Item = &'c crate::network::state::Case>,
) -> Option<Worst> {
    let mut workspace = Workspace::default();
    let mut worst: Option<Worst> = None;
    for case in cases {
        for corner in Corner::ALL {
            let (net, layout) = build(variant, &State { corner, boards: Boards::Mean, demands: &case.demands });
            let Ok(solution) = solve(&net, Limits::LIFTED, &mut workspace) else { continue };
            let Some(branch) = source_of(&layout, kind) else { continue };
            let s = Snapshot::new(net, Limits::LIFTED, solution, std::sync::Arc::new(layout));
            let amps = s.amps(branch);
            if worst.as_ref().is_none_or(|w| amps > w.value) {
                worst = Some(Worst::lasting(amps, case.scenario.clone(), corner));
            }
        }
    }
    worst
}
