//! led-no-resistor and led-overcurrent: the largest current of an LED against what it withstands.

use crate::checks::led::{each, most_a, nominal_a};
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::led::Led;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Amps;
use crate::size::led::LED_AT_WORST;
use crate::verdict::compare::{clearly_exceeds, exceeds};
use crate::verdict::severity::Severity;

/// The absolute maximum of an LED is 1.25 .. 2 times what it carries continuously (typical of sheets: 20 mA and 30 mA).
const SURELY_TOO_MUCH: f64 = 2.0;
const ABSOLUTE: Origin = Origin::Default("twice the continuous current where no maximum is given (typical)");

fn worst(context: &Context<'_>, led: &Led) -> Option<Worst> {
    context.worst_sustained(|s| most_a(context, led, s)).filter(|w| w.value > 0.0)
}

/// Amps of one LED, where several share a branch's current as well as they can.
fn one(led: &Led, worst: &Worst) -> Amps {
    Amps::new(worst.value / led.parallel as f64)
}

pub(crate) fn no_resistor(context: &Context<'_>, sink: &mut Sink) {
    for led in &context.plan.leds {
        let name = &led.name.text;
        if let Some(source) = &led.source {
            sink.pass(name, || format!("its driver supplies {}", source.current.typical));
            continue;
        }
        if let Some(resistor) = led.resistor.as_ref().filter(|r| r.low.get() > 0.0) {
            sink.pass(name, || format!("it has a {} resistor", resistor.typical));
            continue;
        }
        let Some(worst) = worst(context, led) else { continue };
        let amps = one(led, &worst);
        let absolute = led.absolute.as_ref().unwrap_or(&led.current);
        let load = &context.plan.loads[led.load];
        let pin = load.feed.pins().0.or(load.feed.pins().1);
        let by = pin.map_or("its supply alone", |_| "the resistance of its pin, which no datasheet guarantees,");
        let severity = if amps > absolute.low { Severity::Danger } else { Severity::Caution };
        sink.find(
            Draft::of(severity, &led.name)
                .at(&worst)
                .says(format!(
                    "no resistor: {by} sets the current of {} to about {amps}; absolute maximum {}",
                    each(context, led),
                    absolute.low
                ))
                .judged("current", amps)
                .at_most("absolute_maximum", absolute.low, &absolute.origin),
        );
    }
}

pub(crate) fn over(context: &Context<'_>, sink: &mut Sink) {
    let set = |l: &&Led| l.source.is_some() || l.resistor.as_ref().is_some_and(|r| r.low.get() > 0.0);
    for led in context.plan.leds.iter().filter(set) {
        let name = &led.name.text;
        let Some(worst) = worst(context, led) else { continue };
        let amps = one(led, &worst);
        let nominal = nominal_a(context, led);
        let recommended = led.current.low.get();
        let beyond_all = led.absolute.is_none() && clearly_exceeds(nominal, SURELY_TOO_MUCH * recommended);
        let absolute = if beyond_all {
            Some(Figure { origin: ABSOLUTE, ..led.current.scaled(SURELY_TOO_MUCH) })
        } else {
            led.absolute.clone()
        };
        let (severity, limit, word) = match &absolute {
            Some(absolute) if amps > absolute.low => (Severity::Danger, absolute, "absolute"),
            _ if clearly_exceeds(nominal, recommended) || exceeds(amps.get(), LED_AT_WORST * recommended) => {
                (Severity::Caution, &led.current, "recommended")
            }
            _ => {
                if context.all_sustained() {
                    sink.pass(name, || format!("{amps} of {}", led.current.low));
                }
                continue;
            }
        };
        let stands = if word == "absolute" { "absolute maximum" } else { "recommended continuous" };
        sink.find(
            Draft::of(severity, &led.name)
                .at(&worst)
                .says(format!(
                    "{} is at {} nominal, {amps} at worst; {stands} {}",
                    each(context, led),
                    Amps::new(nominal),
                    limit.low
                ))
                .with("nominal", Amps::new(nominal))
                .judged("current", amps)
                .at_most(word, limit.low, &limit.origin),
        );
    }
}
