//! A plan without the mistake that this family finds: what is gone in it follows from the mistake.

use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::verdict::severity::Severity;

/// A strip on a supply of too many volts, on one of its own: what it draws and loses at the wrong volts is no matter of its
/// own. A range of a supply stays as wide.
pub(crate) fn rated_volts(plan: &mut Plan, finding: &Finding) -> bool {
    if finding.severity != Severity::Danger {
        return false;
    }
    let strip = plan.strips.iter().find(|s| s.name.text == finding.subject);
    let Some((rated, from)) =
        strip.and_then(|s| Some((s.voltage.as_ref()?.typical, s.injections.first()?.feed.from.id)))
    else {
        return false;
    };
    let NodeKind::Supply(i) = plan.nodes[plan.root(from).0].kind else { return false };
    let volts = &mut plan.supplies[i].voltage;
    let share = rated / volts.typical;
    *volts = volts.scaled(share);
    true
}
