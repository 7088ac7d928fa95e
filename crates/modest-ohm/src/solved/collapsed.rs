//! Nodes whose source has collapsed: what hangs there is not judged by its voltage, for the collapse alone is the
//! matter.

use modest_ohm_solve::Groups;
use modest_ohm_solve::network::Law;

use super::outcome::Snapshot;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;

/// A source that limits has collapsed below this share of what it is set to: above it loads still get something like
/// their voltage (our own figure).
const COLLAPSED: f64 = 0.8;

/// Per node of the plan: true where a source that feeds it limits its current and has collapsed. Empty where none has.
pub(crate) fn collapsed(plan: &Plan, s: &Snapshot) -> Vec<bool> {
    let sources: Vec<usize> = (0..s.net.branches.len()).filter(|b| has_collapsed(s, *b)).collect();
    if sources.is_empty() {
        return Vec::new();
    }
    // What conductors, contacts and diodes join at + falls together.
    let mut groups = Groups::new(s.net.vertices);
    for branch in &s.net.branches {
        if matches!(branch.law, Law::Conductor { .. } | Law::Copper { .. } | Law::Diode { .. }) {
            groups.join(branch.from, branch.to);
        }
    }
    let tops: Vec<usize> = sources.iter().map(|b| s.net.branches[*b].to).collect();
    let own: Vec<bool> = s.layout.nodes.iter().map(|t| tops.iter().any(|top| groups.together(*top, t.plus))).collect();
    // And what converters and boards make of it falls as well.
    let above = |i: usize| plan.any_up(NodeId(i), |id| own[id.0]);
    (0..plan.nodes.len()).map(|i| own[i] || above(i)).collect()
}

fn has_collapsed(s: &Snapshot, branch: usize) -> bool {
    let b = &s.net.branches[branch];
    let set = match b.law {
        Law::Source { emf, limit, .. } if s.amps(branch) >= limit * (1.0 - 1e-6) => emf,
        _ => return false,
    };
    s.alive(branch) && s.solution.across(b.to, b.from) < COLLAPSED * set
}
