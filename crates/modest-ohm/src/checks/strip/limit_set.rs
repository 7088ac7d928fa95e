//! firmware-limit-too-high and firmware-limit-too-low: a firmware limit against what its strips' way carries.

use crate::derived::context::{Context, Worst};
use crate::derived::firmware_limit::spare_limits;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Fraction};
use crate::verdict::compare::at_least;
use crate::verdict::severity::Severity;

/// A firmware limit below this share of what the way carries leaves most of the light unused.
const LOW_SHARE: f64 = 0.5;

/// What bounds a strip: the firmware limit that it shares, else the strip itself.
fn limited_by(plan: &Plan, strip: usize) -> &Name {
    plan.shared_limit(strip).map_or(&plan.strips[strip].name, |c| &plan.firmware_limits[c].name)
}

/// The firmware limits of a cause, each once: its name, what is set, and its strips among those of the cause.
fn limits_of<'p>(plan: &'p Plan, strips: &[usize]) -> Vec<(&'p Name, Amps)> {
    let mut firmware_limits: Vec<(&Name, Amps)> = Vec::new();
    for i in strips {
        let name = limited_by(plan, *i);
        let set =
            plan.shared_limit(*i).map(|c| &plan.firmware_limits[c].current).or(plan.strips[*i].firmware_limit.as_ref());
        if let Some(set) = set.filter(|_| !firmware_limits.iter().any(|(n, _)| n.text == name.text)) {
            firmware_limits.push((name, set.typical));
        }
    }
    firmware_limits
}

pub(crate) fn too_high(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for cause in context.causes().iter().filter(|c| c.limited) {
        let firmware_limits = limits_of(plan, &cause.strips);
        let Some((name, set)) = firmware_limits.first() else { continue };
        let (element, amps, usable) = &cause.element;
        let severity = if cause.beyond_rating || !amps.is_finite() { Severity::Danger } else { Severity::Caution };
        let others: Vec<&str> = firmware_limits[1..].iter().map(|(n, _)| n.text.as_str()).collect();
        let together = match others.as_slice() {
            [] => String::new(),
            more => format!(" together with those of {}", quoted(more)),
        };
        let through = if amps.is_finite() {
            format!("sends {} through {element}; good for {}", Amps::new(*amps), Amps::new(*usable))
        } else {
            format!("exceeds what {element} can supply")
        };
        let mut evidence = vec![Evidence::computed("firmware_limit", *set)];
        if amps.is_finite() {
            evidence.push(Evidence::judged("through", Amps::new(*amps)));
        }
        if usable.is_finite() {
            evidence.push(Evidence::at_most("usable", Amps::new(*usable), &Origin::Computed));
        }
        evidence.extend(
            cause.limit_a.map(|firmware_limit| Evidence::computed("largest_firmware_limit", Amps::new(firmware_limit))),
        );
        let draft = Draft::of(severity, *name)
            .at(&Worst::lasting(*amps, Scenario::Worst, cause.corner))
            .says(format!("the firmware limit {set} of `{}`{together} {through}", name.text))
            .facts(evidence);
        sink.find(draft.also_on(others.iter().map(|name| (*name, severity))));
    }
    let judged = context.all_sustained();
    for (i, _) in plan.strips.iter().enumerate().filter(|(i, _)| judged && plan.has_firmware_limit(*i)) {
        if context.strip_is_fed(i) && !context.causes().iter().any(|c| c.strips.contains(&i)) {
            sink.pass(&plan.strips[i].name.text, || "its path is rated for the firmware limit".into());
        }
    }
}

fn quoted(names: &[&str]) -> String {
    names.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ")
}

/// Less of its full light than this looks like a strip that is off (our own figure).
const DARK: f64 = 0.02;

pub(crate) fn too_low(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    if !context.all_sustained() {
        return;
    }
    for spare in spare_limits(context) {
        let Some(first) = spare.strips.first() else { continue };
        let name = limited_by(plan, *first);
        let (set, carries) = (Amps::new(spare.set_a), Amps::new(spare.carries_a));
        if at_least(spare.set_a, LOW_SHARE * spare.carries_a) {
            sink.pass(&name.text, || format!("{set} of {carries}"));
            continue;
        }
        let (now, then) = (Fraction::new(spare.light.0), Fraction::new(spare.light.1));
        sink.find(
            Draft::of(if spare.light.0 < DARK { Severity::Caution } else { Severity::Advisory }, name)
                .says(format!(
                    "the firmware limit {set} of `{}` dims full white to {now}; its path is rated {carries}, which \
                    is {then}",
                    name.text
                ))
                .judged("firmware_limit", set)
                .with("carries", carries)
                .with("brightness", now)
                .with("possible_brightness", then)
                .task("raise the firmware limit for more light, or use a smaller supply and thinner cables"),
        );
    }
}
