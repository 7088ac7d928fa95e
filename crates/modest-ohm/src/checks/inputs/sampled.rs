//! sampled-too-slowly: how long a pulse lasts against how often it is looked at.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Sampled;
use crate::quantity::figure::Origin;
use crate::quantity::units::Seconds;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// A level has to be seen twice, so that a look that falls on an edge does no harm.
const LOOKS: f64 = 2.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for input in &context.plan.inputs {
        let Some(rate) = &input.rate else { continue };
        let name = &input.name.text;
        let every = match &input.sampled {
            Some(Sampled::Interrupt | Sampled::Count) => {
                sink.pass(name, || "every edge is detected".into());
                continue;
            }
            Some(Sampled::Every(every)) => every,
            None => {
                sink.unknown(
                    name,
                    input.name.span,
                    format!("cannot check `{name}` (up to {}): its polling interval is not given", rate.high),
                    "write `sampled = \"5 ms\"`, `\"interrupt\"` or `\"count\"`",
                );
                continue;
            }
        };
        // High and low last as long as one another where nothing else is known.
        let lasts = Seconds::new(0.5 / rate.high.get());
        let may = lasts / LOOKS;
        let severity = if every.high > lasts {
            Severity::Fault
        } else if exceeds(every.high.get(), may.get()) {
            Severity::Caution
        } else {
            sink.pass(name, || format!("polled every {}; a level lasts {lasts}", every.high));
            continue;
        };
        sink.find(
            Draft::of(severity, &input.name)
                .says(format!("`{name}` is polled every {}; at {} a level lasts {lasts}", every.high, rate.high))
                .judged_as_given("every", every.high, &every.origin)
                .with("lasts", lasts)
                .at_most("rating", may, &Origin::Computed),
        );
    }
}
