//! A plan without the mistake that this family finds: what is gone in it follows from the mistake.

use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::verdict::severity::Severity;

/// A negotiated source that gives what is asked of it.
pub(crate) fn grant(plan: &mut Plan, finding: &Finding) -> bool {
    if finding.severity != Severity::Fault {
        return false;
    }
    let name = finding.subject.as_str();
    let supply = plan.supplies.iter_mut().find(|s| s.name.text == name);
    let Some((supply, selected)) = supply.and_then(|s| {
        let selected = s.negotiation.as_ref()?.selected.clone();
        Some((s, selected))
    }) else {
        return false;
    };
    supply.voltage = selected;
    true
}
