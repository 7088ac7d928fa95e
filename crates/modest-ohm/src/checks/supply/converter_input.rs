//! converter-input: solved input voltage against the input range and the dropout.

use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::converter::{Converter, ConverterKind};
use crate::quantity::figure::{Origin, Role};
use crate::quantity::units::Volts;
use crate::verdict::compare::exceeds;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, c) in context.plan.converters.iter().enumerate() {
        let input = context.layout.converters[i].input;
        let name = &c.name.text;
        let volts = |s: &crate::solved::outcome::Snapshot| s.volts(input);
        let maximum = c.input_maximum();
        let highest = context.worst_actual(|_| true, |_, s| volts(s));
        // How far below what it needs, with the need at the same corner's set voltage.
        let short = context.worst_actual(
            |_| true,
            |o, s| Some(c.input_minimum(c.output.at(o.corner, Role::Source).get()) - volts(s)?),
        );
        let (Some(highest), Some(short)) = (highest, short) else { continue };
        if exceeds(highest.value, maximum.typical.get()) {
            sink.find(over(c, &highest));
        }
        if short.value > 1e-9 {
            sink.find(under(c, &short));
        } else if highest.value <= maximum.typical.get() && context.all_actual() {
            let lowest = context.worst_actual(|_| true, |_, s| volts(s).map(|v| -v)).map_or(0.0, |w| -w.value);
            let origin = if matches!(maximum.origin, Origin::Default(_)) { ", assumed" } else { "" };
            sink.pass(name, || {
                format!(
                    "input {} .. {}; maximum {}{origin}",
                    Volts::new(lowest),
                    Volts::new(highest.value),
                    maximum.typical
                )
            });
        }
    }
}

fn over(c: &Converter, highest: &Worst) -> Draft {
    let (name, maximum) = (&c.name.text, c.input_maximum());
    let passes_through = c.kind == ConverterKind::Boost && maximum.typical == c.output.typical;
    let v = Volts::new(highest.value);
    Draft::danger(&c.name)
        .at(highest)
        .says(if passes_through {
            format!("converter `{name}` is at {v} input and passes on what exceeds its {}", maximum.typical)
        } else {
            format!("converter `{name}` is at {v} input; maximum {}", maximum.typical)
        })
        .judged("input", v)
        .at_most("maximum", maximum.typical, &maximum.origin)
}

/// `short`: how far below what it needs it gets.
fn under(c: &Converter, short: &Worst) -> Draft {
    let name = &c.name.text;
    let set = c.output.at(short.corner, Role::Source);
    let minimum = c.input_minimum(set.get());
    let (v, need) = (Volts::new(minimum - short.value), Volts::new(minimum));
    let by_range = c.input.as_ref().is_some_and(|r| r.low.get() >= minimum);
    let (why, origin) = match (&c.input, by_range) {
        (Some(range), true) => ("start of its input range".to_owned(), range.origin.clone()),
        _ => (format!("{set} and {} dropout", c.dropout.typical), c.dropout.origin.clone()),
    };
    Draft::fault(&c.name)
        .at(short)
        .says(format!("converter `{name}` is at {v} input; needs {need} ({why})"))
        .judged("input", v)
        .at_least("minimum", need, &origin)
}
