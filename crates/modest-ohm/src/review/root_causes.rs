//! One cause, one finding: what is gone with a strip's firmware limit set or a source's limit lifted stands under that
//! cause.

use super::mixed::still_found;
use crate::checks;
use crate::checks::shared::consumer_voltage::is_on_wrong_rail;
use crate::derived::consumers::Consumer;
use crate::derived::context::Context;
use crate::derived::firmware_limit::share_of;
use crate::derived::solves::Solves;
use crate::findings::check::Consequences;
use crate::findings::finding::{Consequence, Finding};
use crate::plan::model::Plan;
use crate::quantity::figure::{Figure, Origin};
use crate::solved::outcome::{Lift, Outcome, solve_near};
use crate::verdict::codes;
use crate::verdict::severity::Severity;

/// Gathers findings with one cause under one head.
pub(crate) fn gather(context: &Context<'_>, findings: &mut Vec<Finding>) {
    wrong_rails(context, findings);
    let solves = context.outcomes.len();
    firmware_limits(context, solves, findings);
    for (code, subject, variant) in variants(context.plan, findings) {
        if !context.may_try(solves) {
            break;
        }
        gone_without(context, findings, (code, &subject), &variant, Lift::None);
    }
    limited_sources(context, solves, findings);
}

/// What a firmware limit that is missing, or a lower one, would end.
fn firmware_limits(context: &Context<'_>, solves: usize, findings: &mut Vec<Finding>) {
    for cause in context.causes() {
        if cause.limit_a.is_none() || !context.may_try(solves) {
            continue;
        }
        let code = if cause.limited { codes::FIRMWARE_LIMIT_TOO_HIGH.name } else { codes::FIRMWARE_LIMIT_MISSING.name };
        let mut limited: Plan = context.plan.clone();
        limited.firmware_limits.retain(|c| !c.strips.iter().any(|(_, i)| cause.strips.contains(i)));
        for s in &cause.strips {
            limited.strips[*s].firmware_limit =
                share_of(context.plan, cause, *s).map(|firmware_limit| Figure::exact(firmware_limit, Origin::Computed));
        }
        let is_cause =
            |f: &Finding| f.code == code && cause.strips.iter().any(|s| context.plan.strips[*s].name.text == f.subject);
        let codes = codes_of(findings, code);
        let Some(left) = remaining(context, findings, &limited, Lift::None, &codes) else { continue };
        let gone = take(findings, |f| is_cause(f) || (codes.contains(&f.code) && left.lacks(f)));
        let (gone, apart) = limits_apart(gone);
        // A limit in the firmware is missing because of what it would end: that is the head.
        put_head(findings, gone, |_| false);
        findings.extend(apart);
    }
}

/// What only follows from a source that cannot give more, source by source: continuously first, then briefly.
fn limited_sources(context: &Context<'_>, solves: usize, findings: &mut Vec<Finding>) {
    for check in checks::registry() {
        let Consequences::Lift = check.consequences else { continue };
        let code = check.code;
        let limited: Vec<String> = findings
            .iter()
            .filter(|f| f.code == code && f.severity >= Severity::Fault)
            .map(|f| f.subject.clone())
            .collect();
        for subject in limited {
            let Some(lift) = lift_of(context.plan, &subject) else { continue };
            if !context.may_try(solves) {
                break;
            }
            gone_without(context, findings, (code, &subject), context.plan, lift);
        }
    }
}

/// Puts what is gone in a plan without a mistake under the finding that names the mistake.
fn gone_without(
    context: &Context<'_>,
    findings: &mut Vec<Finding>,
    (code, subject): (&str, &str),
    variant: &Plan,
    lift: Lift,
) {
    let is_cause = |f: &Finding| f.code == code && f.subject == subject;
    let codes = codes_of(findings, code);
    let Some(left) = remaining(context, findings, variant, lift, &codes) else { return };
    let gone = take(findings, |f| is_cause(f) || (codes.contains(&f.code) && left.lacks(f)));
    put_head(findings, gone, is_cause);
}

/// What was solved of a consumer on the wrong rail stands under that; so does what is found of a source and of the way
/// to it, where everything on it has the wrong rail.
fn wrong_rails(context: &Context<'_>, findings: &mut Vec<Finding>) {
    let plan = context.plan;
    let consumers = context.consumers();
    let is_wrong = |c: &Consumer<'_>| is_on_wrong_rail(context, c);
    for c in consumers.iter().filter(|c| is_wrong(c)) {
        let is_head = |f: &Finding| {
            f.subject == c.name && (f.code == codes::SUPPLY_VOLTAGE.name || f.code == codes::MOTOR_VOLTAGE.name)
        };
        let alone = consumers.iter().filter(|o| o.root == c.root).all(is_wrong);
        let way: Vec<&str> = if alone {
            let path = plan.path_up(c.hangs_on).into_iter().filter(|id| plan.root(*id) == c.root);
            path.chain([c.root]).map(|id| plan.nodes[id.0].name.as_str()).collect()
        } else {
            Vec::new()
        };
        let is_of = |subject: &str| {
            let rest = subject.strip_prefix(c.name.as_str());
            rest.is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '['])) || way.contains(&subject)
        };
        let Some(at) = findings.iter().position(is_head) else { continue };
        let mut head = findings.remove(at);
        let solved = |f: &Finding| f.scenario.is_some() && f.severity > Severity::Unknown;
        for f in take(findings, |f| solved(f) && is_of(&f.subject)) {
            head.also.extend(Consequence::all_of(f));
        }
        findings.push(head);
    }
}

/// Of what a firmware limit would end, the limits that each have a fix of their own: a larger supply ends no thin wire.
/// The worst stays as the head, and what is found of one part stays together.
fn limits_apart(gone: Vec<Finding>) -> (Vec<Finding>, Vec<Finding>) {
    let is_limit = |f: &Finding| f.severity >= Severity::Caution && checks::of(f.code).is_some_and(|c| c.own_limit);
    let head = gone.iter().map(|f| f.severity).max();
    let (mut together, mut apart): (Vec<Finding>, Vec<Finding>) = (Vec::new(), Vec::new());
    let first = gone.iter().position(|f| Some(f.severity) == head);
    for (i, f) in gone.into_iter().enumerate() {
        if Some(i) != first && is_limit(&f) { apart.push(f) } else { together.push(f) }
    }
    // Two limits of one part are one matter: a thicker wire takes a larger fuse.
    apart.sort_by_key(|f| std::cmp::Reverse(f.severity));
    let mut told: Vec<Finding> = Vec::new();
    for f in apart {
        match told.iter_mut().find(|known| known.subject == f.subject) {
            Some(known) => known.also.extend(Consequence::all_of(f)),
            None => told.push(f),
        }
    }
    (together, told)
}

/// The limit of a source by its name.
fn lift_of(plan: &Plan, name: &str) -> Option<Lift> {
    let supply = plan.supplies.iter().position(|s| s.name.text == name).map(Lift::Supply);
    supply.or_else(|| plan.converters.iter().position(|c| c.name.text == name).map(Lift::Converter))
}

/// Plans without one mistake each, for findings from which others follow.
fn variants(plan: &Plan, findings: &[Finding]) -> Vec<(&'static str, String, Plan)> {
    let mut variants = Vec::new();
    for f in findings {
        let Some(Consequences::Undo { undo, first }) = checks::of(f.code).map(|c| c.consequences) else { continue };
        let mut variant = plan.clone();
        if undo(&mut variant, f) {
            variants.push((first, (f.code, f.subject.clone(), variant)));
        }
    }
    variants.sort_by_key(|(first, _)| !first);
    variants.into_iter().map(|(_, variant)| variant).collect()
}

/// The codes that a variant is checked for. What takes whole discharges is tried only for a cause that takes them
/// itself.
fn codes_of(findings: &[Finding], cause: &str) -> Vec<&'static str> {
    let mut codes: Vec<&'static str> = findings.iter().map(|f| f.code).collect();
    let whole = |code: &str| checks::solves(code) == Solves::Discharges;
    codes.retain(|code| whole(cause) || !whole(code));
    codes.retain(|code| *code == cause || !checks::of(code).is_some_and(|c| c.stands_alone));
    codes.sort_unstable();
    codes.dedup();
    codes
}

/// What is still found in a variant of the plan; `None` where the variant leaves undecided what
/// the plan decides, for then a finding that is missing is not a finding that is gone.
fn remaining(
    original: &Context<'_>,
    findings: &[Finding],
    plan: &Plan,
    lift: Lift,
    codes: &[&str],
) -> Option<Remaining> {
    let near: Vec<Outcome> = original.all_outcomes().cloned().collect();
    let (layout, outcomes) = solve_near(plan, lift, &near);
    let mut pairs = original.outcomes.iter().zip(&outcomes);
    if pairs.any(|(before, after)| before.actual.is_ok() && after.actual.is_err()) {
        return None;
    }
    let key = |f: &Finding| (f.code, f.subject.clone(), f.severity);
    let before: Vec<_> = findings.iter().map(key).collect();
    let mut left: Vec<_> = checks::found_in(plan, &layout, &outcomes, codes).iter().map(key).collect();
    for f in findings.iter().filter(|f| f.mix.is_some() && codes.contains(&f.code)) {
        left.extend(still_found(plan, lift, &layout, &outcomes, f).iter().map(key));
    }
    Some(Remaining { left, before })
}

/// What is still found in a variant, beside what was found in the plan.
struct Remaining {
    left: Vec<(&'static str, String, Severity)>,
    before: Vec<(&'static str, String, Severity)>,
}

impl Remaining {
    /// Whether a finding is gone. One of another severity on the same part is another one if it was there before: too
    /// many voltage in one scenario are not too few in the next. Else it is the same one, milder or worse.
    fn lacks(&self, f: &Finding) -> bool {
        let same = |(code, subject, severity): &&(&'static str, String, Severity)| {
            *code == f.code && *subject == f.subject && *severity == f.severity
        };
        let changed = |left: &&(&'static str, String, Severity)| {
            // What is left as advice only is no longer the finding.
            let advice = left.2 == Severity::Advisory && f.severity != Severity::Advisory;
            left.0 == f.code && left.1 == f.subject && !advice && !self.before.contains(left)
        };
        !self.left.iter().any(|left| same(&left) || changed(&left))
    }
}

pub(crate) fn take(findings: &mut Vec<Finding>, wanted: impl Fn(&Finding) -> bool) -> Vec<Finding> {
    let (taken, kept) = std::mem::take(findings).into_iter().partition(|f| wanted(f));
    *findings = kept;
    taken
}

/// The head is the cause, which may be milder than what follows from it; the most severe where none of them is. Findings
/// that were undecided stay apart.
pub(crate) fn put_head(findings: &mut Vec<Finding>, group: Vec<Finding>, is_cause: impl Fn(&Finding) -> bool) {
    let (undecided, mut group): (Vec<_>, Vec<_>) = group.into_iter().partition(|f| f.severity == Severity::Unknown);
    findings.extend(undecided);
    let first = |i: &usize| (is_cause(&group[*i]), group[*i].severity, usize::MAX - i);
    let Some(at) = (0..group.len()).max_by_key(first) else { return };
    let mut head = group.remove(at);
    head.also.extend(group.into_iter().flat_map(Consequence::all_of));
    findings.push(head);
}

/// What follows from a finding is named once on each part, at its worst: too little voltage in one scenario and too
/// little to start in another are one consequence.
pub(crate) fn once_each(finding: &mut Finding) {
    let worst = |also: &[Consequence], c: &Consequence| {
        also.iter().any(|o| o.code == c.code && o.subject == c.subject && o.severity > c.severity)
    };
    let (code, subject) = (finding.code, finding.subject.clone());
    let is_itself = |c: &Consequence| c.code == code && c.subject == subject;
    let all = finding.also.clone();
    finding.also.retain(|c| !worst(&all, c) && !is_itself(c));
    let mut told: Vec<Consequence> = Vec::new();
    finding.also.retain(|c| {
        let new = !told.iter().any(|o| o.code == c.code && o.subject == c.subject);
        told.extend(new.then(|| c.clone()));
        new
    });
}
