//! cap-missing: an uncapped strip whose full white exceeds something on its path.

use crate::checks::context::{Context, Worst};
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::quantity::{Amps, Fraction, Origin};

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for cause in context.causes() {
        let (element, amps, usable) = &cause.element;
        let at = Worst { value: *amps, scenario: "worst".into(), corner: cause.corner };
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
                Some(cap) => {
                    let own = strip.nominal_dark_a() + cause.level * (strip.nominal_full_a() - strip.nominal_dark_a());
                    let own = (own * 100.0).floor() / 100.0;
                    (
                        format!(
                            "set `firmware-cap = \"{own:.2} A\"` on `{}`, {:.2} A over all of them: {} of full light stays",
                            strip.name.text,
                            cap,
                            Fraction::new(cause.level)
                        ),
                        Some(Amps::new(own)),
                    )
                }
                None => ("no cap is small enough: the path is exceeded with the strip dark or nearly so".into(), None),
            };
            let through = if amps.is_finite() {
                format!("puts {} through {element}, which is good for {}", Amps::new(*amps), Amps::new(*usable))
            } else {
                format!("is more than {element} can deliver")
            };
            let mut evidence = vec![Evidence::computed("full_white", full)];
            if amps.is_finite() {
                evidence.push(Evidence::computed("through", Amps::new(*amps)));
            }
            if usable.is_finite() {
                evidence.push(Evidence::computed("usable", Amps::new(*usable)));
            }
            if let Some(cap) = share {
                evidence.push(Evidence::new("largest_cap", cap, &Origin::Computed));
            }
            sink.find(Draft {
                severity: Severity::Caution,
                subject: &strip.name.text,
                span: strip.name.span,
                at: Some(&at),
                message: format!(
                    "strip `{}` at full white ({full}){together} {through}, and no cap is set",
                    strip.name.text
                ),
                cures: vec![cure],
                evidence,
            });
        }
    }
    for (i, strip) in plan.strips.iter().enumerate() {
        let fed = context.outcomes.iter().any(|o| o.sustained.as_ref().is_ok_and(|s| s.solution.ladders[i].alive));
        if fed && !context.causes().iter().any(|c| c.strips.contains(&i)) && context.all_sustained() {
            let how = if strip.cap.is_some() { "a cap is set" } else { "its path carries full white" };
            sink.pass(&strip.name.text, how.into());
        }
    }
}
