//! resistor-heat: I²·R of the resistors of LEDs, and of inputs, against what they are rated for.

use crate::derived::context::{Context, Worst, worst_of};
use crate::derived::input_margin::{front, pairs};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Input;
use crate::plan::kinds::led::Led;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Role};
use crate::quantity::units::Watts;
use crate::size::led::COMFORT;
use crate::solved::input_source::Does;
use crate::solved::outcome::Outcome;
use crate::verdict::severity::Severity;

/// A resistor at its hottest.
struct Resistor<'p> {
    item: &'p Name,
    /// "the resistor", or which of several.
    what: String,
    rated: &'p Figure<Watts>,
    at: Worst,
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for resistor in context.plan.leds.iter().filter_map(|led| of_led(context, led)) {
        judge(sink, &resistor, context.all_sustained());
    }
    for resistor in context.plan.inputs.iter().filter_map(|input| of_input(context, input)) {
        judge(sink, &resistor, context.all_actual());
    }
}

fn of_led<'p>(context: &Context<'p>, led: &'p Led) -> Option<Resistor<'p>> {
    let ohms = led.resistor.as_ref()?;
    let heat = |o: &Outcome| {
        let s = o.sustained.as_ref().ok()?;
        let amps = super::most_a(context, led, s);
        Some(amps * amps * ohms.at(o.corner, Role::LoadOpposite).get())
    };
    let (o, watts) = worst_of(context.continuous(), heat).filter(|(_, w)| *w > 0.0)?;
    Some(Resistor { item: &led.name, what: "the resistor".into(), rated: &led.rated, at: Worst::at(o, watts) })
}

/// A divider in ohms instead of kilohms, a pull-up that a closed contact shorts to ground.
fn of_input<'p>(context: &Context<'p>, input: &'p Input) -> Option<Resistor<'p>> {
    let front = front(context, input);
    let mut most: Option<(&'static str, Worst)> = None;
    for (to, states) in pairs(context, &front) {
        for (what, watts) in [Does::On, Does::Off].into_iter().filter_map(|does| front.hottest(does, states)) {
            if most.as_ref().is_none_or(|(_, worst)| watts > worst.value) {
                most = Some((what, Worst::at(to, watts)));
            }
        }
    }
    let (what, at) = most?;
    Some(Resistor { item: &input.name, what: format!("resistor `{what}`"), rated: &input.rated, at })
}

fn judge(sink: &mut Sink, resistor: &Resistor<'_>, all_known: bool) {
    let Resistor { item, what, at, .. } = resistor;
    let (watts, rated, name) = (Watts::new(at.value), resistor.rated.low, &item.text);
    let severity = match at.value / rated.get() {
        share if share > 1.0 => Severity::Danger,
        share if share > COMFORT => Severity::Caution,
        _ => {
            if all_known {
                sink.pass(name, || format!("{what} dissipates {watts}; rated {rated}"));
            }
            return;
        }
    };
    let limit = if severity == Severity::Danger { "rated" } else { "more than 60 % of its rating," };
    sink.find(
        Draft::of(severity, *item)
            .at(at)
            .says(format!("{what} of `{name}` dissipates {watts}; {limit} {rated}"))
            .judged("heat", watts)
            .at_most("rated", rated, &resistor.rated.origin),
    );
}
