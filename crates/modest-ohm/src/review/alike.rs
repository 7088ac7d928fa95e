//! Findings of one check with one cause are listed together: the worst as the head, the others under it. Advice of one
//! code is one line, the first of it in the order of the plan.

use crate::findings::finding::{Consequence, Finding};
use crate::verdict::severity::Severity;

/// Puts findings with one cause under the worst of them. What the plan accepts stays by itself.
pub(crate) fn gather(findings: &mut Vec<Finding>) {
    let mut gathered: Vec<Finding> = Vec::new();
    for f in std::mem::take(findings) {
        match gathered.iter_mut().find(|g| belongs(&f, g)) {
            Some(head) if f.severity > head.severity => {
                let milder = std::mem::replace(head, f);
                head.also.extend(Consequence::all_of(milder));
            }
            Some(head) => head.also.extend(Consequence::all_of(f)),
            None => gathered.push(f),
        }
    }
    *findings = gathered;
}

fn is_advice(f: &Finding) -> bool {
    f.severity == Severity::Advisory
}

fn belongs(f: &Finding, head: &Finding) -> bool {
    let is_open = f.accepted.is_none() && head.accepted.is_none();
    let both_advice = is_advice(f) && is_advice(head);
    // What is not known is no milder case of what is.
    let is_unknown = |f: &Finding| f.severity == Severity::Unknown;
    let one_cause = f.listed_with.is_some() && f.listed_with == head.listed_with && is_unknown(f) == is_unknown(head);
    is_open && f.code == head.code && (both_advice || one_cause)
}
