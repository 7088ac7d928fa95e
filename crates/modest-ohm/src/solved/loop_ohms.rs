//! The resistance of the path from a source to a node and back.

use modest_ohm_solve::network::Law;

use super::outcome::Snapshot;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::topology::rail::way_up;
use crate::topology::run::Run;

/// The resistance of feed and return, fuses, contacts and diodes from a node to its source, Ω.
pub(crate) fn loop_ohms(plan: &Plan, from: NodeId, s: &Snapshot) -> f64 {
    let of = |branch: usize| match s.net.branches[branch].law {
        Law::Conductor { ohms, .. } | Law::Diode { ohms, .. } => ohms,
        _ => 0.0,
    };
    let run_ohms = |run: Run| {
        let info = s.layout.conductors.iter().find(|c| c.run == run);
        info.map_or(0.0, |c| c.feed.map_or(0.0, of) + of(c.back))
    };
    way_up(plan, from)
        .into_iter()
        .map(|id| match plan.nodes[id.0].kind {
            NodeKind::Branch(i) => run_ohms(Run::Branch(i)) + s.layout.elements[i].map_or(0.0, of),
            NodeKind::BoardInput(i) => run_ohms(Run::Board(i)),
            _ => 0.0,
        })
        .sum()
}
