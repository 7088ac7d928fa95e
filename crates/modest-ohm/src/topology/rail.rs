//! A rail: what is fed from one source over conductors, and the resistance of the way to it.

use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;

/// Nodes from one up to the source that it is connected to, both included.
pub(crate) fn way_up(plan: &Plan, from: NodeId) -> Vec<NodeId> {
    let mut path = vec![from];
    loop {
        let at = path[path.len() - 1];
        let next = match plan.nodes[at.0].kind {
            NodeKind::Supply(_) | NodeKind::Converter(_) | NodeKind::BoardOutput(_) => None,
            _ => plan.feeders(at).next(),
        };
        match next {
            // A circle is a problem of the text, and ends here too.
            Some(up) if path.len() <= plan.nodes.len() => path.push(up),
            _ => return path,
        }
    }
}

/// The voltage that a source is made for.
pub(crate) fn nominal_volts(plan: &Plan, root: NodeId) -> Option<Figure<Volts>> {
    match plan.nodes[root.0].kind {
        NodeKind::Supply(i) => Some(plan.supplies[i].voltage.clone()),
        NodeKind::Converter(i) => Some(plan.converters[i].output.clone()),
        NodeKind::BoardOutput(i) => plan.boards[i].regulator.as_ref().map(|r| r.voltage.clone()),
        NodeKind::BoardInput(i) => plan.boards[i].unregulated.as_ref().map(|u| u.makes.clone()),
        _ => None,
    }
}
