//! switch-overloaded: wanted continuous current against the rating of a hand switch or a diode in a feed.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::quantity::units::Amps;
use crate::verdict::compare::exceeds;

/// A switch of unknown rating carries this without a word.
const WORTH_ASKING_A: f64 = 0.5;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (run, element) in context.plan.branches.iter().zip(&context.layout.elements) {
        let (Some(branch), RunKind::Switch(_) | RunKind::Diode(_)) = (*element, &run.kind) else { continue };
        let rating = run.switch().map_or_else(|| run.diode().and_then(|d| d.rating.as_ref()), |s| s.rating.as_ref());
        let name = &run.name.text;
        if !context.alive(branch) {
            continue;
        }
        let Some(wanted) = context.worst_sustained(|s| s.amps(branch).abs()) else { continue };
        let amps = Amps::new(wanted.value);
        let Some(rating) = rating else {
            if exceeds(amps.get(), WORTH_ASKING_A) {
                sink.unknown(
                    name,
                    run.name.span,
                    format!("cannot check the {} `{name}` ({amps}): its rating is not given", run.word()),
                    "write its continuous DC rating: `current = \"5 A\"`",
                );
            }
            continue;
        };
        if exceeds(amps.get(), rating.low.get()) {
            sink.find(
                Draft::danger(&run.name)
                    .at(&wanted)
                    .says(format!("the {} `{name}` carries {amps}; rated {}", run.word(), rating.low))
                    .judged("demand", amps)
                    .at_most("rating", rating.low, &rating.origin),
            );
        } else if context.all_sustained() {
            sink.pass(name, || format!("{amps} of {}", rating.low));
        }
    }
}
