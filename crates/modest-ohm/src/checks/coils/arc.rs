//! contact-arc: a coil behind a contact that nothing damps.

use crate::derived::coils::{most_a, switched};
use crate::derived::context::Context;
use crate::derived::flyback_path::path_of;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::flyback::Flyback;
use crate::quantity::units::Amps;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// An undamped coil of so little only wears the contact (our own figure).
const LITTLE_A: f64 = 0.5;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (channel, i, load) in switched(context.plan).into_iter().filter(|(c, ..)| c.driver.kind.is_contact()) {
        let name = &load.name.text;
        let damped = matches!(path_of(&channel, load), Some(f) if !matches!(f, Flyback::Nothing));
        if !load.is_winding() || damped {
            sink.pass(name, || "no coil, or one with a damping part".into());
            continue;
        }
        let Some((at, amps)) = most_a(context, i, |_| true) else { continue };
        let current = Amps::new(amps);
        sink.find(
            Draft::of(if at_most(amps, LITTLE_A) { Severity::Advisory } else { Severity::Caution }, &load.name)
                .at(&at)
                .says(format!(
                    "nothing damps the coil of `{name}` behind {}: the contact arcs at {current} each time it opens",
                    channel.words()
                ))
                .judged("current", current),
        );
    }
}
