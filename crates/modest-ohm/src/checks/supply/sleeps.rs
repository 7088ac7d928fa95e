//! source-sleeps: a power bank that switches off when little is drawn.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Amps;
use crate::verdict::compare::is_below;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, supply) in context.plan.supplies.iter().enumerate() {
        let Some(below) = &supply.off_below else { continue };
        let name = &supply.name.text;
        let drawn = |o: &crate::solved::outcome::Outcome| {
            Some(-o.sustained.as_ref().ok()?.current_of(NodeKind::Supply(i)).max(0.0))
        };
        let Some((o, least)) = worst_of(context.continuous(), drawn).map(|(o, a)| (o, -a)) else { continue };
        let (amps, stays) = (Amps::new(least), below.high);
        if !is_below(least, stays.get()) {
            if context.all_sustained() {
                sink.pass(name, || format!("{amps} or more is drawn; it stays on above {stays}"));
            }
            continue;
        }
        let surely = least < below.low.get();
        sink.find(
            Draft::caution(&supply.name)
                .at(&Worst::at(o, least))
                .says(format!(
                    "`{name}` {} after some seconds in scenario `{}`: {amps} is drawn, and it stays on above {stays}",
                    if surely { "switches off" } else { "may switch off" },
                    o.case.scenario
                ))
                .judged("drawn", amps)
                .at_least("stays_on", stays, &below.origin)
                .task("or use a power bank that stays on at low current, or another kind of supply, and write its `off-below`"),
        );
    }
}
