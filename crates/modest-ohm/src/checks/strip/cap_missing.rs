//! cap-missing: an uncapped strip whose full white exceeds something on its path.

use crate::derived::context::{Context, Worst};
use crate::derived::firmware_limit::{Cause, share_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Fraction};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for cause in context.causes().iter().filter(|c| !c.capped) {
        let (element, amps, usable) = &cause.element;
        let at = Worst::lasting(*amps, Scenario::Worst, cause.corner);
        for i in &cause.strips {
            let strip = &plan.strips[*i];
            let full = Amps::new(strip.nominal_full_a());
            let others: Vec<String> =
                cause.strips.iter().filter(|o| *o != i).map(|o| format!("`{}`", plan.strips[*o].name.text)).collect();
            let together =
                if others.is_empty() { String::new() } else { format!(" together with {}", others.join(", ")) };
            let (cure, share) = match cause.cap_a {
                Some(cap) if others.is_empty() => (
                    format!(
                        "set `firmware-cap = \"{:.2} A\"` on `{}`: {} of full light stays",
                        cap,
                        strip.name.text,
                        Fraction::new(cause.level)
                    ),
                    Some(Amps::new(cap)),
                ),
                Some(_) => (caps_in_words(plan, cause), share_of(plan, cause, *i).map(rounded_down)),
                None if !cause.searched => (LOOK.to_owned(), None),
                None => ("no cap is small enough: the path is exceeded with the strip dark or nearly so".into(), None),
            };
            let through = if amps.is_finite() {
                format!("puts {} through {element}, which is good for {}", Amps::new(*amps), Amps::new(*usable))
            } else {
                format!("is more than {element} can deliver")
            };
            let mut evidence = vec![Evidence::computed("full_white", full)];
            if amps.is_finite() {
                evidence.push(Evidence::judged("through", Amps::new(*amps)));
            }
            if usable.is_finite() {
                evidence.push(Evidence::at_most("usable", Amps::new(*usable), &Origin::Computed));
            }
            if let Some(cap) = share {
                evidence.push(Evidence::computed("largest_cap", cap));
            }
            sink.find(
                Draft::caution(&strip.name)
                    .at(&at)
                    .says(format!(
                        "{} `{}` at full white ({full}){together} {through}, and no cap is set",
                        strip.word(),
                        strip.name.text
                    ))
                    .facts(evidence)
                    .cure(cure),
            );
        }
    }
    for (i, strip) in plan.strips.iter().enumerate() {
        if context.strip_is_fed(i) && !context.causes().iter().any(|c| c.strips.contains(&i)) && context.all_sustained()
        {
            let how = if plan.is_capped(i) { "a cap is set" } else { "its path carries full white" };
            sink.pass(&strip.name.text, how.into());
        }
    }
}

/// Said where a plan has too many such strips to find the cap of each.
pub(crate) const LOOK: &str =
    "set a firmware cap; its size is not looked for in a plan of so many such strips: plan one strip alone for it";

/// Strips named one by one in a cure; of more than these the sum is told.
const MOST_NAMED: usize = 4;

/// A share of a cap, in steps of 10 mA.
pub(crate) fn rounded_down(amps: Amps) -> Amps {
    Amps::new((amps.get() * 100.0 + 1e-9).floor() / 100.0)
}

/// The caps of strips that exceed their path together.
pub(crate) fn caps_in_words(plan: &Plan, cause: &Cause) -> String {
    let own = |i: usize| share_of(plan, cause, i).map_or(0.0, |a| rounded_down(a).get());
    let name = |i: usize| &plan.strips[i].name.text;
    let left = Fraction::new(cause.level);
    if cause.strips.len() > MOST_NAMED {
        let first = cause.strips[0];
        let others = cause.strips.len() - 1;
        return format!(
            "set `firmware-cap = \"{:.2} A\"` on `{}`, and {others} others in proportion: {left} of full light stays",
            own(first),
            name(first)
        );
    }
    let caps: Vec<String> =
        cause.strips.iter().map(|i| format!("`firmware-cap = \"{:.2} A\"` on `{}`", own(*i), name(*i))).collect();
    format!("set {}: {left} of full light stays", caps.join(", "))
}
