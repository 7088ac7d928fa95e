//! firmware-limit-too-high and firmware-limit-too-low: a firmware limit against what its strips' way carries.

use super::cap_missing::{LOOK, caps_in_words, in_text, rounded_down};
use crate::derived::context::{Context, Worst};
use crate::derived::firmware_limit::{Cause, spare_caps};
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
fn capped_by(plan: &Plan, strip: usize) -> &Name {
    plan.shared_limit(strip).map_or(&plan.strips[strip].name, |c| &plan.caps[c].name)
}

/// The firmware limits of a cause, each once: its name, what is set, and its strips among those of the cause.
fn caps_of<'p>(plan: &'p Plan, strips: &[usize]) -> Vec<(&'p Name, Amps)> {
    let mut caps: Vec<(&Name, Amps)> = Vec::new();
    for i in strips {
        let name = capped_by(plan, *i);
        let set = plan.shared_limit(*i).map(|c| &plan.caps[c].current).or(plan.strips[*i].cap.as_ref());
        if let Some(set) = set.filter(|_| !caps.iter().any(|(n, _)| n.text == name.text)) {
            caps.push((name, set.typical));
        }
    }
    caps
}

pub(crate) fn too_high(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for cause in context.causes().iter().filter(|c| c.capped) {
        let caps = caps_of(plan, &cause.strips);
        let Some((name, set)) = caps.first() else { continue };
        let (element, amps, usable) = &cause.element;
        let severity = if cause.beyond_rating || !amps.is_finite() { Severity::Danger } else { Severity::Caution };
        let others: Vec<&str> = caps[1..].iter().map(|(n, _)| n.text.as_str()).collect();
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
        evidence.extend(cause.cap_a.map(|cap| Evidence::computed("largest_firmware_limit", Amps::new(cap))));
        let draft = Draft::of(severity, *name)
            .at(&Worst::lasting(*amps, Scenario::Worst, cause.corner))
            .says(format!("the firmware limit {set} of `{}`{together} {through}", name.text))
            .facts(evidence)
            .cure(cure(plan, cause, &caps));
        sink.find(draft.also_on(others.iter().map(|name| (*name, severity))));
    }
    let judged = context.all_sustained();
    for (i, _) in plan.strips.iter().enumerate().filter(|(i, _)| judged && plan.is_capped(*i)) {
        if context.strip_is_fed(i) && !context.causes().iter().any(|c| c.strips.contains(&i)) {
            sink.pass(&plan.strips[i].name.text, "its path is rated for the firmware limit".into());
        }
    }
}

fn quoted(names: &[&str]) -> String {
    names.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ")
}

fn cure(plan: &Plan, cause: &Cause, caps: &[(&Name, Amps)]) -> String {
    let left = Fraction::new(cause.level);
    match (cause.cap_a, caps) {
        (None, _) if !cause.searched => LOOK.into(),
        (None, _) => "no firmware limit is small enough: even the dark strip exceeds the path, or nearly so".into(),
        (Some(cap), [(name, _)]) => {
            let key = if plan.caps.iter().any(|c| c.name.text == name.text) { "current" } else { "firmware-limit" };
            let cap = in_text(rounded_down(Amps::new(cap)).get());
            format!("set `{key} = \"{cap}\"` on `{}`, in the firmware too: full white drops to {left}", name.text)
        }
        (Some(_), _) => caps_in_words(plan, cause),
    }
}

/// Less of its full light than this looks like a strip that is off (our own figure).
const DARK: f64 = 0.02;

pub(crate) fn too_low(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    if !context.all_sustained() {
        return;
    }
    for spare in spare_caps(context) {
        let Some(first) = spare.strips.first() else { continue };
        let name = capped_by(plan, *first);
        let (set, carries) = (Amps::new(spare.set_a), Amps::new(spare.carries_a));
        if at_least(spare.set_a, LOW_SHARE * spare.carries_a) {
            sink.pass(&name.text, format!("{set} of {carries}"));
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
                .cure("raise the firmware limit for more light, or use a smaller supply and thinner cables"),
        );
    }
}
