//! converter-input: solved input volts against the input range and the dropout.

use crate::derived::context::Context;
use crate::findings::finding::Evidence;
use crate::findings::sink::{Draft, Sink};
use crate::plan::kinds::converter::ConverterKind;
use crate::quantity::figure::{Origin, Role};
use crate::quantity::units::Volts;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, c) in context.plan.converters.iter().enumerate() {
        let input = context.layout.converters[i].input;
        let name = &c.name.text;
        let volts = |s: &crate::solved::outcome::Snapshot| {
            s.solution.alive[input.plus].then(|| s.solution.across(input.plus, input.minus))
        };
        let maximum = c.input_maximum();
        let passes_through = c.kind == ConverterKind::Boost && maximum.typical == c.output.typical;
        let highest = context.worst_actual(|_| true, |_, s| volts(s));
        // How far below what it needs, with the need at the same corner's set volts.
        let short = context.worst_actual(
            |_| true,
            |o, s| Some(c.input_minimum(c.output.at(o.corner, Role::Source).get()) - volts(s)?),
        );
        let (Some(highest), Some(short)) = (highest, short) else { continue };
        if exceeds(highest.value, maximum.typical.get()) {
            let v = Volts::new(highest.value);
            sink.find(Draft {
                severity: Severity::Danger,
                subject: name,
                span: c.name.span,
                at: Some(&highest),
                message: if passes_through {
                    format!(
                        "converter `{name}` gets {v} at its input and passes on what is above its {}",
                        maximum.typical
                    )
                } else {
                    format!("converter `{name}` gets {v} at its input and takes {} at most", maximum.typical)
                },
                cures: vec![if passes_through {
                    "take one that steps up and down, or a lower supply voltage".into()
                } else {
                    format!("take a converter for {v} or more, or a lower supply voltage")
                }],
                evidence: vec![
                    Evidence::computed("input", v),
                    Evidence::new("maximum", maximum.typical, &maximum.origin),
                ],
            });
        }
        if short.value > 1e-9 {
            let set = c.output.at(short.corner, Role::Source);
            let minimum = c.input_minimum(set.get());
            let (v, need) = (Volts::new(minimum - short.value), Volts::new(minimum));
            let by_range = c.input.as_ref().is_some_and(|r| r.low.get() >= minimum);
            let (why, origin) = match (&c.input, by_range) {
                (Some(range), true) => ("its input range starts there".to_owned(), range.origin.clone()),
                _ => (format!("{set} and {} dropout", c.dropout.typical), c.dropout.origin.clone()),
            };
            sink.find(Draft {
                severity: Severity::Fault,
                subject: name,
                span: c.name.span,
                at: Some(&short),
                message: format!("converter `{name}` gets {v} at its input and needs {need} ({why})"),
                cures: vec![
                    "take a higher supply voltage, a thicker or shorter lead, or a converter that works from less"
                        .into(),
                ],
                evidence: vec![Evidence::computed("input", v), Evidence::new("minimum", need, &origin)],
            });
        } else if highest.value <= maximum.typical.get() && context.all_actual() {
            let lowest = context.worst_actual(|_| true, |_, s| volts(s).map(|v| -v)).map_or(0.0, |w| -w.value);
            let origin = if matches!(maximum.origin, Origin::Default(_)) { ", assumed" } else { "" };
            sink.pass(
                name,
                format!(
                    "{} .. {} at its input, {} at most{origin}",
                    Volts::new(lowest),
                    Volts::new(highest.value),
                    maximum.typical
                ),
            );
        }
    }
}
