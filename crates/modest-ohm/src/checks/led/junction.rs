//! led-heat: the junction of a power LED: what of its power becomes heat, and how that leaves.

use crate::checks::led::{each, most_a, nominal_a};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::enclosure::Held;
use crate::plan::kinds::led::Led;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Celsius, Watts};
use crate::size::regulator::MARGIN_K;
use crate::solved::heat::air_c;
use crate::verdict::severity::Severity;

/// From here on an LED has to shed its heat on purpose, W.
const POWER_W: f64 = 0.3;
/// From here on one without a sink counts as a bare star, W.
const STAR_W: f64 = 1.0;
/// What of its power becomes heat; the rest is light (typical 0.6 .. 0.8).
const HEAT: (f64, f64) = (0.70, 0.80);
/// A bare star of 20 mm, K/W to air (typical 60 .. 110).
const BARE_STAR: (f64, f64) = (80.0, 110.0);
/// Where no sheet says what it withstands, °C (typical).
const MOST_C: f64 = 120.0;

/// Junction to case by what it is rated for, K/W: 1 W and 3 W LEDs (typical).
fn case_k_per_w(rated_w: f64) -> (f64, f64) {
    if rated_w >= 2.0 { (8.0, 10.0) } else { (10.0, 12.0) }
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for led in &context.plan.leds {
        judge(context, sink, led);
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, led: &Led) {
    let rated = led.current.typical.get() * led.vf.typical.get();
    if rated < POWER_W {
        return;
    }
    let (own, bare) = (led.sink.as_ref(), rated >= STAR_W);
    let case = led.theta.as_ref().map_or(case_k_per_w(rated), |t| (t.typical.get(), t.high.get()));
    let to_air = match own {
        Some(sink) => (sink.typical.get(), sink.high.get()),
        None if bare => BARE_STAR,
        // Of small ones without a figure nothing is known, and little is at stake.
        None => return,
    };
    let Some(worst) = context.worst_sustained(|s| most_a(context, led, s)).filter(|w| w.value > 0.0) else { return };
    let most = worst.value / led.parallel as f64;
    let air = |s: &crate::solved::outcome::Snapshot| air_c(context.plan, Held::Load(led.load), s);
    let air = context.worst_sustained(air).map_or(context.plan.warmest_c(), |w| w.value);
    let (watts, hottest) = (HEAT.0 * led.vf.typical.get() * nominal_a(context, led), HEAT.1 * led.vf.high.get() * most);
    let (nominal, at_worst) = (air + watts * (case.0 + to_air.0), air + hottest * (case.1 + to_air.1));
    let limit = led.junction.as_ref().map_or(MOST_C, |t| t.low.get());
    // An assumed path counts as a class's figure: its nominal decides.
    let stated = own.is_some_and(|s| !s.origin.is_assumed());
    let decides = if stated { at_worst } else { nominal };
    let severity = if decides > limit {
        Severity::Danger
    } else if decides > limit - MARGIN_K || at_worst > limit {
        Severity::Caution
    } else {
        sink.pass(&led.name.text, || format!("{} of {}", Celsius::new(nominal), Celsius::new(limit)));
        return;
    };
    let (warm, worst_c, most_c) = (Celsius::new(nominal), Celsius::new(at_worst), Celsius::new(limit));
    let how = if own.is_some() { "on its heatsink" } else { "on a bare star board (assumed)," };
    sink.find(
        Draft::of(severity, &led.name)
            .at(&worst)
            .says(format!(
                "{} dissipates {} {how}: junction {warm} nominal, {worst_c} at worst; limit {most_c}",
                each(context, led),
                Watts::new(watts)
            ))
            .judged(
                "junction",
                if decides > nominal {
                    worst_c
                } else if severity == Severity::Danger {
                    warm
                } else {
                    worst_c
                },
            )
            .at_most("limit", most_c, led.junction.as_ref().map_or(&TYPICAL, |t| &t.origin))
            .with("loss", Watts::new(watts)),
    );
}

const TYPICAL: Origin = Origin::Default("120 °C, typical of power LEDs");
