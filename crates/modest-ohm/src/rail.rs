//! A rail: what hangs on one source over conductors, and the resistance of the way to it.

use crate::network::{Law, Layout, Run};
use crate::plan::{NodeId, NodeKind, Plan};
use crate::review::Snapshot;

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

/// The resistance of feed and return, fuses, contacts and diodes from a node to its source, Ω.
pub(crate) fn loop_ohms(plan: &Plan, layout: &Layout, from: NodeId, s: &Snapshot) -> f64 {
    let of = |branch: usize| match s.net.branches[branch].law {
        Law::Conductor { ohms, .. } | Law::Diode { ohms, .. } => ohms,
        _ => 0.0,
    };
    let run_ohms = |run: Run| {
        let info = layout.conductors.iter().find(|c| c.run == run);
        info.map_or(0.0, |c| c.feed.map_or(0.0, of) + of(c.back))
    };
    way_up(plan, from)
        .into_iter()
        .map(|id| match plan.nodes[id.0].kind {
            NodeKind::Branch(i) => run_ohms(Run::Branch(i)) + layout.elements[i].map_or(0.0, of),
            NodeKind::BoardInput(i) => run_ohms(Run::Controller(i)),
            _ => 0.0,
        })
        .sum()
}
