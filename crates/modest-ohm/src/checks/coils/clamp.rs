//! clamp-voltage: a Zener diode or TVS across a switch, against the supply below it and the switch's rating above it.

use crate::derived::coils::{all_switched, highest_v, most_through};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::flyback::Flyback;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Volts, Watts};
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

/// Nearer than this to the supply it leaks, and gets warm (our own figure).
const NEAR: f64 = 1.1;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for what in all_switched(context.plan) {
        let (channel, name) = (what.channel, what.name);
        let Some(Flyback::Diode(diode)) = what.path else { continue };
        let Some(zener) = diode.zener.as_ref().filter(|_| diode.at_switch) else { continue };
        let Some((at, supply)) = highest_v(context, &channel) else { continue };
        let (clamps, top, supply) = (zener.low, zener.high, Volts::new(supply));
        let evidence = vec![
            Evidence::judged_as_given("clamps", clamps, &zener.origin),
            Evidence::at_least("supply", supply, &Origin::Computed),
        ];
        let amps = most_through(context, &what, |o| o.case.continuous).map_or(0.0, |(_, a)| a);
        let (severity, message, evidence) = if is_below(clamps.get(), supply.get()) {
            let watts = Watts::new(clamps.get() * amps);
            (
                Severity::Danger,
                format!(
                    "the clamp at {} conducts from {clamps}; {supply} is across it while the switch is off: it \
                    dissipates up to {watts} and `{name}` stays on",
                    channel.words()
                ),
                evidence,
            )
        } else if let Some(rating) = channel.driver.voltage.as_ref().filter(|r| exceeds(top.get(), r.low.get())) {
            (
                Severity::Danger,
                format!("the clamp at {} limits to {top}; the switch is rated {}", channel.words(), rating.low),
                vec![
                    Evidence::judged_as_given("clamps", top, &zener.origin),
                    Evidence::at_most("rating", rating.low, &rating.origin),
                ],
            )
        } else if is_below(clamps.get(), NEAR * supply.get()) {
            (
                Severity::Caution,
                format!("the clamp at {} conducts from {clamps}, too close to its supply of {supply}", channel.words()),
                evidence,
            )
        } else {
            sink.pass(name, || format!("its clamp conducts from {clamps}; the supply is {supply}"));
            continue;
        };
        sink.find(Draft::of(severity, (name, diode.span)).at(&at).says(message).facts(evidence));
    }
}
