//! Sources that feed one rail together, each at its highest voltage while the others are at their lowest: then it
//! carries most, and no corner that moves all sources alike shows it.

use modest_ohm_solve::Groups;
use modest_ohm_solve::network::Law;
use modest_ohm_solve::solve::{Limits, Workspace, solve};

use super::context::{Context, Worst};
use crate::network::build::build;
use crate::network::state::{Boards, State};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Corner, Figure};
use crate::quantity::units::Volts;
use crate::solved::currents::source_of;
use crate::solved::outcome::Snapshot;

/// What a source carries while those that it meets are at their lowest.
#[derive(Clone, Debug)]
pub(crate) struct Crossed {
    pub node: NodeKind,
    /// The others, by name.
    pub others: Vec<String>,
    pub worst: Worst,
}

/// A source that the plan states with a tolerance; batteries follow their charge and are left out.
fn volts_of(plan: &mut Plan, kind: NodeKind) -> Option<&mut Figure<Volts>> {
    let figure = match kind {
        NodeKind::Supply(i) => plan.supplies.get_mut(i).filter(|s| s.battery.is_none()).map(|s| &mut s.voltage),
        NodeKind::Converter(i) => plan.converters.get_mut(i).map(|c| &mut c.output),
        _ => None,
    };
    figure.filter(|f| f.high > f.low)
}

/// Sources whose + conductors, diodes or the copper of a strip join.
fn meeting(context: &Context<'_>) -> Vec<Vec<NodeKind>> {
    let plan = context.plan;
    let mut known = plan.clone();
    let kinds = plan.nodes.iter().map(|n| n.kind);
    let sources: Vec<NodeKind> = kinds.filter(|kind| volts_of(&mut known, *kind).is_some()).collect();
    let solved = context.outcomes.iter().find_map(|o| o.sustained.as_ref().ok());
    let Some(s) = solved.filter(|_| sources.len() >= 2) else { return Vec::new() };
    let mut groups = Groups::new(s.net.vertices);
    for b in &s.net.branches {
        if matches!(b.law, Law::Conductor { .. } | Law::Copper { .. } | Law::Diode { .. }) {
            groups.join(b.from, b.to);
        }
    }
    let ladders = s.net.ladders.iter().map(|l| &l.ports).chain(s.net.strips.iter().map(|l| &l.ports));
    for pair in ladders.flat_map(|ports| ports.windows(2)) {
        groups.join(pair[0].plus, pair[1].plus);
    }
    let mut sets: Vec<Vec<NodeKind>> = Vec::new();
    let plus = |kind: NodeKind| plan.node_id(kind).map(|id| s.layout.nodes[id.0].plus);
    for kind in sources {
        let Some(at) = plus(kind) else { continue };
        let same = |set: &&mut Vec<NodeKind>| plus(set[0]).is_some_and(|first| groups.together(first, at));
        match sets.iter_mut().find(same) {
            Some(set) => set.push(kind),
            None => sets.push(vec![kind]),
        }
    }
    sets.retain(|set| set.len() > 1);
    sets
}

/// Every source that meets others, at its own worst combination.
pub(crate) fn crossed(context: &Context<'_>) -> Vec<Crossed> {
    let plan = context.plan;
    let cases = || context.continuous().filter(|o| o.corner == Corner::Typical).map(|o| &o.case);
    let mut found = Vec::new();
    for set in meeting(context) {
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
            let s = Snapshot { net, solution, layout: std::sync::Arc::new(layout) };
            let amps = s.amps(branch);
            if worst.as_ref().is_none_or(|w| amps > w.value) {
                worst = Some(Worst::lasting(amps, case.scenario.clone(), corner));
            }
        }
    }
    worst
}
