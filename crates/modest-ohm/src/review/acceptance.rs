//! acceptance-stale, and the marking of accepted findings.

use crate::findings::draft::sentence;
use crate::findings::finding::Finding;
use crate::plan::kinds::scenario::Accept;
use crate::plan::model::Plan;
use crate::text::hint::hint;
use crate::text::renamed::What;
use crate::verdict::codes;
use crate::verdict::severity::Severity;

/// Marks what the plan accepts.
pub(crate) fn mark(plan: &Plan, findings: &mut [Finding]) {
    for accept in &plan.accepts {
        for f in findings.iter_mut().filter(|f| matches(plan, accept, f)) {
            f.accepted.get_or_insert_with(|| accept.because.clone());
        }
    }
}

/// Reports acceptances that match nothing.
///
/// Where a scenario has no solution not everything was decided, and nothing is called stale.
pub(crate) fn find_stale(plan: &Plan, all_solved: bool, findings: &mut Vec<Finding>) {
    let is_stale = |accept: &&Accept| all_solved && !findings.iter().any(|f| matches(plan, accept, f));
    let stale: Vec<&Accept> = plan.accepts.iter().filter(is_stale).collect();
    for accept in stale {
        let codes = crate::checks::registry();
        let known = codes.iter().any(|c| c.code == accept.code.text);
        let task = match hint(What::Code, &accept.code.text, codes.iter().map(|c| c.code)) {
            Some(hint) if !known => format!("no check has this code; {hint}"),
            _ => "remove it, so that it cannot hide something later".to_owned(),
        };
        let on = accept.on.as_ref().map_or_else(String::new, |n| format!(" on `{}`", n.text));
        findings.push(Finding {
            code: codes::ACCEPTANCE_STALE.name,
            severity: Severity::Caution,
            subject: accept.on.as_ref().map_or_else(|| accept.code.text.clone(), |n| n.text.clone()),
            scenario: None,
            corner: None,
            mix: None,
            message: format!("the acceptance of `{}`{on} matches no finding", accept.code.text),
            tasks: vec![sentence(&task)],
            fixes: Vec::new(),
            obstacle: None,
            span: accept.code.span.or(Some(accept.span)),
            evidence: Vec::new(),
            also: Vec::new(),
            goes_with: None,
            listed_with: None,
            accepted: None,
        });
    }
}

fn matches(plan: &Plan, accept: &Accept, f: &Finding) -> bool {
    f.code == accept.code.text && accept.on.as_ref().is_none_or(|on| is_on(plan, &on.text, &f.subject))
}

/// True for the subject as it is and as `check` prints it, and for every member of a `count`.
fn is_on(plan: &Plan, on: &str, subject: &str) -> bool {
    let has_one_feed = |name: &&str| plan.strips.iter().any(|s| s.name.text == *name && s.injections.len() == 1);
    let printed = subject.strip_suffix(".inject[0]").filter(has_one_feed).unwrap_or(subject);
    let member = printed.strip_prefix(on).and_then(|rest| rest.strip_prefix('.'));
    subject == on || printed == on || member.is_some_and(|number| number.parse::<usize>().is_ok())
}
