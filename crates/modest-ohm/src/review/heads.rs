//! One cause, one finding: what is gone with a strip's cap set or a source's limit lifted stands under that cause.

use super::cap::share_of;
use super::outcome::{Lift, solve_all};
use crate::checks::{self, Context};
use crate::finding::{Finding, Severity};
use crate::plan::Plan;
use crate::quantity::{Figure, Origin};

/// Gathers findings with one cause under one head.
pub(crate) fn gather(context: &Context<'_>, findings: &mut Vec<Finding>) {
    let solves = context.outcomes.len();
    for cause in context.causes() {
        if cause.cap_a.is_none() || !context.may_try(solves) {
            continue;
        }
        let mut capped: Plan = context.plan.clone();
        for s in &cause.strips {
            capped.strips[*s].cap = share_of(context.plan, cause, *s).map(|cap| Figure::exact(cap, Origin::Computed));
        }
        let is_cause = |f: &Finding| {
            f.code == "cap-missing" && cause.strips.iter().any(|s| context.plan.strips[*s].name.text == f.subject)
        };
        let Some(left) = remaining(context, &capped, Lift::None) else { continue };
        let cure = findings.iter().find(|f| is_cause(f)).and_then(|f| f.cures.first().cloned());
        let gone = take(findings, |f| is_cause(f) || !left.contains(&(f.code, f.subject.clone())));
        put_head(findings, gone, cure);
    }
    // What only follows from a source that cannot give more, source by source.
    let overloaded: Vec<String> = findings
        .iter()
        .filter(|f| f.code == "supply-overloaded" && f.severity == Severity::Danger)
        .map(|f| f.subject.clone())
        .collect();
    for subject in overloaded {
        let lift = if let Some(i) = context.plan.supplies.iter().position(|s| s.name.text == subject) {
            Lift::Supply(i)
        } else if let Some(i) = context.plan.converters.iter().position(|c| c.name.text == subject) {
            Lift::Converter(i)
        } else {
            continue;
        };
        if !context.may_try(solves) {
            break;
        }
        let Some(left) = remaining(context, context.plan, lift) else { continue };
        let is_cause = |f: &Finding| f.code == "supply-overloaded" && f.subject == subject;
        let gone = take(findings, |f| is_cause(f) || !left.contains(&(f.code, f.subject.clone())));
        let cure = gone.iter().find(|f| is_cause(f)).and_then(|f| f.cures.first().cloned());
        put_head(findings, gone, cure);
    }
}

/// Codes and subjects of what is still found in a variant of the plan; `None` where the variant leaves undecided what
/// the plan decides, for then a finding that is missing is not a finding that is gone.
fn remaining(original: &Context<'_>, plan: &Plan, lift: Lift) -> Option<Vec<(&'static str, String)>> {
    let (layout, outcomes) = solve_all(plan, lift);
    let mut pairs = original.outcomes.iter().zip(&outcomes);
    if pairs.any(|(before, after)| before.actual.is_ok() && after.actual.is_err()) {
        return None;
    }
    let context = Context::new(plan, &layout, &outcomes);
    Some(checks::run(&context).0.into_iter().map(|f| (f.code, f.subject)).collect())
}

fn take(findings: &mut Vec<Finding>, wanted: impl Fn(&Finding) -> bool) -> Vec<Finding> {
    let (taken, kept) = std::mem::take(findings).into_iter().partition(|f| wanted(f));
    *findings = kept;
    taken
}

/// The head is the most severe of the group; findings that were undecided stay apart.
fn put_head(findings: &mut Vec<Finding>, group: Vec<Finding>, cure: Option<String>) {
    let (undecided, mut group): (Vec<_>, Vec<_>) = group.into_iter().partition(|f| f.severity == Severity::Unknown);
    findings.extend(undecided);
    if group.is_empty() {
        return;
    }
    let worst = (0..group.len()).max_by_key(|i| (group[*i].severity, usize::MAX - i)).unwrap_or(0);
    let mut head = group.remove(worst);
    if let Some(cure) = cure {
        head.cures.retain(|c| *c != cure);
        head.cures.insert(0, cure);
    }
    for f in group {
        head.also.push((f.code, f.subject));
        head.also.extend(f.also);
    }
    findings.push(head);
}
