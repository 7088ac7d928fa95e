//! reversal: a motor that is reversed while it runs: its own voltage adds to the supply's.

use crate::derived::coils::most_of;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Nature;
use crate::quantity::units::Amps;
use crate::solved::drivers::channel::channels;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// At speed a motor makes nine tenths of the supply's voltage itself: reversed they add to the supply's (no-load EMF
/// 0.9 V).
const TURNED: f64 = 1.9;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // With one input driven it goes in one direction only.
    let bidirectional = |pins: usize| pins >= 2;
    for channel in channels(plan) {
        let own = &channel.driver.channels[channel.at.channel];
        if channel.driver.bridge().is_none() || !bidirectional(own.pins.len()) {
            continue;
        }
        for i in plan.loads_behind(channel.run) {
            let load = &plan.loads[i];
            let name = &load.name.text;
            if load.nature != Some(Nature::Motor) {
                continue;
            }
            let Some(rating) = channel.driver.surge.as_ref().or(channel.driver.current.as_ref()) else { continue };
            let Some((at, held)) = most_of(context, i) else { continue };
            let turned = Amps::new(TURNED * held);
            if let Some(limit) = channel.driver.limit.as_ref().filter(|l| turned > l.low) {
                sink.pass(name, || format!("reversed at speed, its bridge limits it to {}", limit.high));
                continue;
            }
            if load.limits.stops_first || at_most(turned.get(), rating.low.get()) {
                sink.pass(name, || format!("reversed at speed it draws {turned} of {}", rating.low));
                continue;
            }
            // A bridge that limits by itself lets no more through.
            let severity = if channel.driver.limits { Severity::Advisory } else { Severity::Fault };
            sink.find(
                Draft::of(severity, &load.name)
                    .at(&at)
                    .says(format!(
                        "reversed at speed, `{name}` draws up to {turned}, 1.9 times its stall current; {} is rated \
                        {} peak",
                        channel.words(),
                        rating.low
                    ))
                    .judged("reversal", turned)
                    .at_most("rating", rating.low, &rating.origin),
            );
        }
    }
}
