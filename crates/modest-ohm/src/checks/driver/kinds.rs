//! solid-state-kind: a triac on direct current, an output the wrong way round, a load that its leak keeps on.

use crate::derived::context::{Context, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::drivers::channel::channels;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::exceeds;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for channel in channels(context.plan) {
        let Some(kind) = channel.driver.solid_state() else { continue };
        let name = channel.name();
        let flows = |o: &Outcome| channel.amps(o.wanted.as_ref().ok()?).filter(|a| *a > 1e-9);
        let least = worst_of(context.continuous(), |o| flows(o).map(|a| -a)).map(|(_, a)| Amps::new(-a));
        let leak = kind.leak.as_ref().zip(least).filter(|(leak, least)| exceeds(leak.high.get(), least.get()));
        let (message, evidence) = if kind.ac {
            (
                format!("{} is a triac: it never turns `{}` off on DC", channel.words(), channel.behind_words()),
                Vec::new(),
            )
        } else if kind.reversed {
            (
                format!(
                    "the output of {} is reversed: its body diode conducts, and {} is always on",
                    channel.words(),
                    channel.behind_words()
                ),
                Vec::new(),
            )
        } else if let Some((leak, least)) = leak {
            (
                format!(
                    "{} leaks {} while off; {} stays off below {least}: it may stay on",
                    channel.words(),
                    leak.high,
                    channel.behind_words()
                ),
                vec![
                    Evidence::judged_as_given("leakage", leak.high, &leak.origin),
                    Evidence::at_most("stays_off_below", least, &Origin::Computed),
                ],
            )
        } else {
            sink.pass(name, || "for DC, right way round".into());
            continue;
        };
        sink.find(Draft::fault((name, channel.span())).says(message).facts(evidence));
    }
}
