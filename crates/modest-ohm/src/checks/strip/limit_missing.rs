//! firmware-limit-missing: a strip without a firmware limit whose full white exceeds something on its path.

use crate::derived::context::{Context, Worst};
use crate::derived::firmware_limit::{Cause, share_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for cause in context.causes().iter().filter(|c| !c.limited) {
        let (element, amps, usable) = &cause.element;
        let at = Worst::lasting(*amps, Scenario::Worst, cause.corner);
        for i in &cause.strips {
            let strip = &plan.strips[*i];
            let full = Amps::new(strip.nominal_full_a());
            let others: Vec<String> =
                cause.strips.iter().filter(|o| *o != i).map(|o| format!("`{}`", plan.strips[*o].name.text)).collect();
            let together =
                if others.is_empty() { String::new() } else { format!(" together with {}", others.join(", ")) };
            let share = limit_of(plan, cause, *i);
            let through = if amps.is_finite() {
                format!("sends {} through {element}; good for {}", Amps::new(*amps), Amps::new(*usable))
            } else {
                format!("exceeds what {element} can supply")
            };
            let mut evidence = vec![Evidence::computed("full_white", full)];
            if amps.is_finite() {
                evidence.push(Evidence::judged("through", Amps::new(*amps)));
            }
            if usable.is_finite() {
                evidence.push(Evidence::at_most("usable", Amps::new(*usable), &Origin::Computed));
            }
            if let Some(firmware_limit) = share {
                evidence.push(Evidence::computed("largest_firmware_limit", firmware_limit));
            }
            sink.find(
                Draft::caution(&strip.name)
                    .at(&at)
                    .says(format!(
                        "{} `{}` at full white ({full}){together} {through}, and no firmware limit is set",
                        strip.word(),
                        strip.name.text
                    ))
                    .facts(evidence),
            );
        }
    }
    for (i, strip) in plan.strips.iter().enumerate() {
        if context.strip_is_fed(i) && !context.causes().iter().any(|c| c.strips.contains(&i)) && context.all_sustained()
        {
            let how =
                if plan.has_firmware_limit(i) { "a firmware limit is set" } else { "its path is rated for full white" };
            sink.pass(&strip.name.text, || how.into());
        }
    }
}

/// The firmware limit to set, in words and in amperes.
fn limit_of(plan: &Plan, cause: &Cause, i: usize) -> Option<Amps> {
    match cause.limit_a {
        Some(firmware_limit) if cause.strips.len() == 1 => Some(Amps::new(firmware_limit)),
        Some(_) => share_of(plan, cause, i).map(rounded_down),
        None => None,
    }
}

/// A share of a firmware limit, in steps of 10 mA.
pub(crate) fn rounded_down(amps: Amps) -> Amps {
    Amps::new((amps.get() * 100.0 + 1e-9).floor() / 100.0)
}
