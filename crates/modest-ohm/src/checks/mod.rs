//! The checks: one registry feeds the review, `about`, docs/checks.md and the tests.
//!
//! A check is one entry in its family's folder: a code, a title, its severities, its long text and a function that
//! looks at the solved plan and tells the sink what it found.

pub(crate) mod battery;
pub(crate) mod boards;
pub(crate) mod coils;
pub(crate) mod connector;
pub(crate) mod driver;
pub(crate) mod fuse;
pub(crate) mod grounds;
pub(crate) mod inputs;
pub(crate) mod led;
pub(crate) mod levels;
pub(crate) mod mains;
pub(crate) mod motors;
pub(crate) mod pins;
pub(crate) mod plan;
pub(crate) mod rails;
pub(crate) mod shared;
pub(crate) mod strip;
pub(crate) mod supply;
#[cfg(test)]
mod tests;
pub(crate) mod wire;

use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::findings::finding::{Finding, Passed};
use crate::findings::sink::Sink;
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::solved::outcome::Outcome;
use crate::text::renamed::{What, old_names, renamed};
use crate::verdict::severity::Severity;

/// All checks, family by family, in the order in which equal findings are listed.
///
/// ```
/// let codes: Vec<_> = modest_ohm::checks::registry().iter().map(|c| c.code).collect();
/// assert!(codes.contains(&"supply-overloaded"));
/// ```
#[must_use]
pub fn registry() -> Vec<&'static Check> {
    let families = [
        supply::CHECKS,
        rails::CHECKS,
        boards::CHECKS,
        battery::CHECKS,
        wire::CHECKS,
        fuse::CHECKS,
        connector::CHECKS,
        strip::CHECKS,
        pins::CHECKS,
        levels::CHECKS,
        inputs::CHECKS,
        led::CHECKS,
        driver::CHECKS,
        coils::CHECKS,
        motors::CHECKS,
        grounds::CHECKS,
        mains::CHECKS,
        plan::CHECKS,
    ];
    families.into_iter().flatten().collect()
}

/// Runs every check on a solved plan.
pub(crate) fn run(context: &Context<'_>) -> (Vec<Finding>, Vec<Passed>) {
    let mut sink = Sink::default();
    for check in registry() {
        sink.code = check.code;
        (check.run)(context, &mut sink);
    }
    sink.finish()
}

/// What some checks find in a variant of a plan that is solved.
pub(crate) fn found_in(plan: &Plan, layout: &Layout, outcomes: &[Outcome], codes: &[&str]) -> Vec<Finding> {
    let needed: Vec<Solves> = codes.iter().map(|code| solves(code)).collect();
    run_some(&Context::of_variant(plan, layout, outcomes, &needed), |c| codes.contains(&c.code))
}

/// As [`found_in`], of some parts; there may be findings of others among them.
pub(crate) fn found_of(
    plan: &Plan,
    layout: &Layout,
    outcomes: &[Outcome],
    codes: &[&str],
    parts: &[&str],
) -> Vec<Finding> {
    let needed: Vec<Solves> = codes.iter().map(|code| solves(code)).collect();
    let context = Context::of_variant(plan, layout, outcomes, &needed).about(parts);
    run_some(&context, |c| codes.contains(&c.code))
}

/// What all checks find that judge the solved scenarios alone, but those whose findings name none.
pub(crate) fn found_in_states(plan: &Plan, layout: &Layout, outcomes: &[Outcome]) -> Vec<Finding> {
    let context = &Context::of_variant(plan, layout, outcomes, &[Solves::Nothing]);
    run_some(context, |c| c.solves == Solves::Nothing && !c.names_no_state)
}

fn run_some(context: &Context<'_>, wanted: impl Fn(&Check) -> bool) -> Vec<Finding> {
    let mut sink = Sink::of_findings();
    for check in registry().into_iter().filter(|c| wanted(c)) {
        sink.code = check.code;
        (check.run)(context, &mut sink);
    }
    sink.finish().0
}

/// What one check finds in a variant, each text finished; `shares_unequally` as in the context.
pub(crate) fn found_in_full(
    plan: &Plan,
    layout: &Layout,
    outcomes: &[Outcome],
    code: &'static str,
    shares_unequally: bool,
) -> Vec<Finding> {
    let mut context = Context::new(plan, layout, outcomes);
    context.shares_unequally = shares_unequally;
    let mut sink = Sink::default();
    sink.code = code;
    if let Some(check) = of(code) {
        (check.run)(&context, &mut sink);
    }
    sink.finish().0
}

/// The check of a code.
pub(crate) fn of(code: &str) -> Option<&'static Check> {
    registry().into_iter().find(|c| c.code == code)
}

/// What the check of a code solves.
pub(crate) fn solves(code: &str) -> Solves {
    of(code).map_or(Solves::Nothing, |c| c.solves)
}

/// Worst first, then by place in the text, then in the order of the registry; accepted ones last.
pub(crate) fn sort(plan: &Plan, findings: &mut [Finding]) {
    let order = registry();
    let listed = |f: &Finding| Severity::LISTED.iter().position(|s| *s == f.worst());
    findings.sort_by_cached_key(|f| {
        (
            f.accepted.is_some(),
            listed(f),
            f.span.map_or(usize::MAX, |s| plan.source.place(s.start).line),
            order.iter().position(|c| c.code == f.code),
            f.subject.clone(),
        )
    });
}

/// The name nearest to a misspelt one; `None` where none is near.
///
/// ```
/// assert_eq!(modest_ohm::checks::nearest_name("walll", ["wall", "five"]), Some("wall"));
/// ```
#[must_use]
pub fn nearest_name<'n>(name: &str, names: impl IntoIterator<Item = &'n str>) -> Option<&'n str> {
    crate::text::nearest(name, names)
}

/// The code that is meant by a misspelt one, or by one that earlier versions used.
///
/// ```
/// assert_eq!(modest_ohm::checks::nearest_code("strip-sag"), Some("strip-voltage-low"));
/// ```
#[must_use]
pub fn nearest_code(code: &str) -> Option<&'static str> {
    let codes: Vec<&'static str> = registry().iter().map(|c| c.code).collect();
    let renamed = |old: &str| renamed(What::Code, old, |name| codes.contains(&name));
    renamed(code).or_else(|| {
        let near = crate::text::nearest(code, codes.iter().copied().chain(old_names(What::Code)))?;
        codes.iter().copied().find(|c| *c == near).or_else(|| renamed(near))
    })
}
