//! contact-overloaded, of the springs that hold battery cells.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::contact::Bears;
use crate::quantity::units::Amps;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, supply) in context.plan.supplies.iter().enumerate() {
        let Some((battery, springs)) = supply.battery.as_ref().and_then(|b| Some((b, b.springs.as_ref()?))) else {
            continue;
        };
        let of_pack = context.worst_sustained(|s| s.current_of(NodeKind::Supply(i)));
        let Some(worst) = of_pack.filter(|w| w.value > 1e-6) else { continue };
        let (name, amps) = (&supply.name.text, Amps::new(worst.value / battery.parallel as f64));
        // A class may have wire springs or leaves: its better end decides what is a danger.
        if !exceeds(amps.get(), springs.low.get()) {
            if context.all_sustained() {
                sink.pass(name, || format!("{amps} of {} through the springs of its holder", springs.low));
            }
            continue;
        }
        let little = at_most(amps.get(), Bears::Contact.share() * springs.high.get());
        sink.find(
            Draft::of(if little { Severity::Caution } else { Severity::Danger }, &supply.name)
                .at(&worst)
                .says(format!(
                    "each cell of `{name}` supplies {amps} through the springs of its holder; rated {} continuous",
                    springs.low
                ))
                .judged("demand", amps)
                .at_most("rating", springs.low, &springs.origin),
        );
    }
}
