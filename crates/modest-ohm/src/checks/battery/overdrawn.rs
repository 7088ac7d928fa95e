//! battery-overdrawn: wanted continuous current against what the cells give.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Amps;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, supply) in context.plan.supplies.iter().enumerate() {
        let Some(battery) = &supply.battery else { continue };
        let name = &supply.name.text;
        if let Some(protection) = &battery.protection {
            super::trips::trips(context, sink, i, protection);
        }
        let wanted = context.worst_sustained(|s| s.current_of(NodeKind::Supply(i)));
        let Some(wanted) = wanted else { continue };
        let amps = Amps::new(wanted.value);
        let Some(rating) = &supply.current else {
            if amps.get() > 1e-6 {
                sink.unknown(
                    name,
                    supply.name.span,
                    format!("cannot check the current of `{name}` ({amps}): `capacity` not given"),
                    "write `capacity = \"10 Ah\"`, or the continuous rating: `current = \"5 A\"`",
                );
            }
            continue;
        };
        if exceeds(amps.get(), rating.low.get()) {
            // A stated rating is a limit; that of a class only shortens its life, until it is damaged.
            let damaging = battery.damaging_a().filter(|_| rating.origin.is_assumed());
            let is_damaged = damaging.is_none_or(|most| exceeds(amps.get(), most));
            let limit = damaging.filter(|_| is_damaged).map_or(rating.low, Amps::new);
            let (severity, verb) = match (is_damaged, damaging) {
                (true, Some(_)) => (Severity::Danger, "damaged above"),
                (true, None) => (Severity::Danger, "gives"),
                (false, _) => (Severity::Caution, "ages and heats up above"),
            };
            sink.find(
                Draft::of(severity, &supply.name)
                    .at(&wanted)
                    .says(format!("`{name}` must supply {amps}; {verb} {limit} continuous"))
                    .judged("demand", amps)
                    .at_most("rating", limit, &rating.origin),
            );
        } else if context.all_sustained() {
            sink.pass(name, || format!("{amps} of {}", rating.low));
        }
    }
}
