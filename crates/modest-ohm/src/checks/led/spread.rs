//! led-spread: how sure an LED's current is.

use crate::checks::led::{each, least_a, most_a};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::led::Led;
use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::{Amps, Fraction, Volts};
use crate::size::led::LEAST_SHARE;
use crate::verdict::compare::clearly_below;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for led in &context.plan.leds {
        if led.parallel > 1 {
            shared(context, sink, led);
        } else if !wished(context, sink, led) {
            share(context, sink, led);
        }
    }
}

fn shared(context: &Context<'_>, sink: &mut Sink, led: &Led) {
    let name = &led.name.text;
    let n = led.parallel;
    sink.find(
        Draft::caution(&led.name)
            .says(format!(
                "{n} LEDs of `{name}` share one resistor: the one with the lowest forward voltage draws most of the \
                current, {} at worst",
                context
                    .worst_sustained(|s| most_a(context, led, s))
                    .map_or_else(|| "all".to_owned(), |w| Amps::new(w.value).to_string())
            ))
            .judged("wished_share", Fraction::new(1.0 / n as f64)),
    );
}

/// With less than this of what is required it looks off.
const DARK_SHARE: f64 = 0.1;

/// Says whether less than the required current arrives.
fn wished(context: &Context<'_>, sink: &mut Sink, led: &Led) -> bool {
    let Some(wanted) = &led.wanted else { return false };
    let Some((at, amps)) = least_a(context, led) else { return false };
    let amps = Amps::new(amps);
    if !clearly_below(amps.get(), wanted.low.get()) {
        return false;
    }
    let dark = amps.get() <= DARK_SHARE * wanted.low.get();
    sink.find(
        Draft::of(if dark { Severity::Fault } else { Severity::Caution }, &led.name)
            .at(&at)
            .says(format!("{} may draw only {amps}; {} required", each(context, led), wanted.low))
            .judged("current", amps)
            .at_least("required", wanted.low, &wanted.origin),
    );
    true
}

/// The share of the supply that is left for the resistor, every figure at its nominal.
fn share(context: &Context<'_>, sink: &mut Sink, led: &Led) {
    let name = &led.name.text;
    let load = &context.plan.loads[led.load];
    let typical = context.continuous().filter(|o| o.corner == Corner::Typical);
    let lowest = typical.filter_map(|o| o.sustained.as_ref().ok()?.volts_at(load.feed.from.id)).reduce(f64::min);
    let Some(vs) = lowest.filter(|v| *v > 0.0) else { return };
    let drop = match &load.demand {
        crate::plan::kinds::load::Demand::Leds(d) => {
            d.vf.typical.get() + d.diode.as_ref().map_or(0.0, |v| v.typical.get())
        }
        _ => return,
    };
    let left = (vs - drop) / vs;
    let text = format!("only {} of its {} is across the resistor", Fraction::new(left.max(0.0)), Volts::new(vs));
    if !clearly_below(left, LEAST_SHARE) {
        sink.pass(name, || text);
        return;
    }
    let what = if left <= 0.0 {
        format!(
            "`{name}` needs {} and its rail supplies {}: it stays dark, or nearly so",
            Volts::new(drop),
            Volts::new(vs)
        )
    } else {
        format!("{text}, so forward voltage and supply set the current of {}", each(context, led))
    };
    sink.find(Draft::caution(&led.name).says(what).judged("left", Fraction::new(left)).at_least(
        "minimum",
        Fraction::new(LEAST_SHARE),
        &Origin::Default("a fifth of the supply"),
    ));
}
