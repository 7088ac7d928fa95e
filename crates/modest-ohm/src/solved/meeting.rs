//! Sources that feed one rail together.

use modest_ohm_solve::Groups;
use modest_ohm_solve::network::Law;

use super::outcome::Snapshot;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;

/// A source that the plan states with a tolerance; batteries follow their charge and are left out.
fn volts_of(plan: &Plan, kind: NodeKind) -> Option<&Figure<Volts>> {
    let figure = match kind {
        NodeKind::Supply(i) => plan.supplies.get(i).filter(|s| s.battery.is_none()).map(|s| &s.voltage),
        NodeKind::Converter(i) => plan.converters.get(i).map(|c| &c.output),
        _ => None,
    };
    figure.filter(|f| f.high > f.low)
}

/// Sources whose + conductors, diodes or the copper of a strip join.
pub(crate) fn meeting(plan: &Plan, s: &Snapshot) -> Vec<Vec<NodeKind>> {
    let kinds = plan.nodes.iter().map(|n| n.kind);
    let sources: Vec<NodeKind> = kinds.filter(|kind| volts_of(plan, *kind).is_some()).collect();
    if sources.len() < 2 {
        return Vec::new();
    }
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
