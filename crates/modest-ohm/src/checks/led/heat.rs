//! resistor-heat: I²·R of the resistors of LEDs, and of inputs, against what they are rated for.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::led::Led;
use crate::quantity::figure::Role;
use crate::quantity::units::Watts;
use crate::size::led::COMFORT;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for led in &context.plan.leds {
        judge(context, sink, led);
    }
    super::input_heat::run(context, sink);
}

fn judge(context: &Context<'_>, sink: &mut Sink, led: &Led) {
    let Some(resistor) = &led.resistor else { return };
    let name = &led.name.text;
    let heat = |o: &crate::solved::outcome::Outcome| {
        let s = o.sustained.as_ref().ok()?;
        let amps = super::most_a(context, led, s);
        Some(amps * amps * resistor.at(o.corner, Role::LoadOpposite).get())
    };
    let Some((o, value)) = worst_of(context.continuous(), heat).filter(|(_, v)| *v > 0.0) else { return };
    let watts = Watts::new(value);
    let share = value / led.rated.low.get();
    let severity = if share > 1.0 {
        Severity::Danger
    } else if share > COMFORT {
        Severity::Caution
    } else {
        if context.all_sustained() {
            sink.pass(name, format!("{watts} of {}", led.rated.low));
        }
        return;
    };
    let at = Worst::at(o, value);
    // Twice what it has to stand, rounded up to what is sold.
    const SOLD: [f64; 8] = [0.125, 0.25, 0.5, 1.0, 2.0, 3.0, 5.0, 10.0];
    let enough = SOLD.into_iter().find(|w| value <= COMFORT * w);
    let cure = match enough {
        Some(w) => format!("take a resistor for {}, or split the LEDs over more branches", Watts::new(w)),
        None => "split the LEDs over more branches, or feed them from a lower rail".into(),
    };
    sink.find(
        Draft::of(severity, &led.name)
            .at(&at)
            .says(if severity == Severity::Danger {
                format!("the resistor of `{name}` turns {watts} into heat and stands {}", led.rated.low)
            } else {
                format!(
                    "the resistor of `{name}` turns {watts} into heat, more than 60 % of the {} that it stands",
                    led.rated.low
                )
            })
            .judged("heat", watts)
            .at_most("rated", led.rated.low, &led.rated.origin)
            .cure(cure),
    );
}
