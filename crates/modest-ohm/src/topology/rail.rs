//! A rail: what hangs on one source over conductors, and the resistance of the way to it.

use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;

/// Nodes from one up to the source that it hangs on, both included.
pub(crate) fn way_up(plan: &Plan, from: NodeId) -> Vec<NodeId> {
    let mut path = vec![from];
    loop {
        let at = path[path.len() - 1];
        let next = match plan.nodes[at.0].kind {
            NodeKind::Supply(_) | NodeKind::Converter(_) | NodeKind::BoardOutput(_) => None,
            _ => plan.feeders(at).first().copied(),
        };
        match next {
            Some(up) if !path.contains(&up) => path.push(up),
            _ => return path,
        }
    }
}
