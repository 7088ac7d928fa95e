//! reversal: a motor that is turned round while it runs: its own volts add to the supply's.

use crate::derived::coils::most_of;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Nature;
use crate::quantity::units::Amps;
use crate::solved::drivers::channel::channels;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// At speed a motor makes nine tenths of the supply's volts itself: turned round they add to the supply's (no-load EMF 0.9 V).
const TURNED: f64 = 1.9;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // With one input driven it goes one way only.
    let both_ways = |pins: usize| pins >= 2;
    for channel in channels(plan) {
        let own = &channel.driver.channels[channel.at.channel];
        if channel.driver.bridge().is_none() || !both_ways(own.pins.len()) {
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
                sink.pass(name, format!("turned round at speed, its bridge limits it to {}", limit.high));
                continue;
            }
            if load.limits.stops_first || at_most(turned.get(), rating.low.get()) {
                sink.pass(name, format!("turned round at speed it takes {turned} of {}", rating.low));
                continue;
            }
            // A bridge that limits by itself lets no more through.
            let severity = if channel.driver.limits { Severity::Advice } else { Severity::Fault };
            sink.find(
                Draft::of(severity, &load.name)
                    .at(&at)
                    .says(format!(
                        "turned round at speed `{name}` takes up to {turned}, 1.9 times what it takes held; {} \
                         withstands {} for a moment",
                        channel.words(),
                        rating.low
                    ))
                    .judged("turned", turned)
                    .at_most("rating", rating.low, &rating.origin)
                    .cure(
                        "let the firmware stop it, and wait, before it turns it round, and say so: `reverses \
                         = \"from-rest\"`",
                    )
                    .cure(format!("or take a bridge that stands {turned} for a moment")),
            );
        }
    }
}
