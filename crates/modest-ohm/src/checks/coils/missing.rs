//! flyback-missing: a coil that a semiconductor turns off, and no path for its current.

use crate::derived::coils::{most_a, switched};
use crate::derived::context::Context;
use crate::derived::flyback_path::path_of;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::driver::DriverKind;
use crate::plan::kinds::flyback::Flyback;
use crate::plan::kinds::load::Load;
use crate::quantity::units::{Amps, Joules};
use crate::solved::drivers::channel::Channel;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (channel, i, load) in switched(context.plan).into_iter().filter(|(c, ..)| !c.driver.kind.is_contact()) {
        let name = &load.name.text;
        if load.nature.is_none() {
            let message =
                format!("cannot check `{name}` behind {}: its kind (coil or motor) is not given", channel.words());
            let task = "write `kind = \"heater\"` or `\"electronics\"`, or make it a `motor`, `pump` or `solenoid`";
            sink.unknown(name, load.name.span, message, task);
            continue;
        }
        if !load.is_winding() {
            sink.pass(name, || "not an inductive load".into());
            continue;
        }
        match path_of(&channel, load) {
            None | Some(Flyback::Nothing) => find(context, sink, &channel, i, load),
            Some(_) => sink.pass(name, || "its current has a path at turn-off".into()),
        }
    }
}

fn find(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, i: usize, load: &Load) {
    let name = &load.name.text;
    let Some((at, amps)) = most_a(context, i, |_| true) else { return };
    if amps <= 1e-9 {
        return;
    }
    let current = Amps::new(amps);
    let mut evidence = vec![Evidence::judged("current", current)];
    let mut stored = String::new();
    if let Some(l) = &load.inductance {
        let energy = Joules::new(0.5 * l.high.get() * amps * amps);
        stored = format!(" ({energy})");
        evidence.push(Evidence::computed("energy", energy));
    }
    let breaks = channel.driver.voltage.as_ref().map_or_else(String::new, |v| {
        format!(
            " and drives it past its {} \
        rating",
            v.low
        )
    });
    if let Some(v) = &channel.driver.voltage {
        evidence.push(Evidence::context("voltage_rating", v.low, &v.origin));
    }
    let message = match (&channel.driver.common, channel.driver.kind) {
        (Some(common), DriverKind::Darlington) => format!(
            "the flyback diodes of {} lead to `{}`, but `{name}` is fed from another rail: no path for \
            {current}{stored} at turn-off",
            channel.words(),
            common.name.text
        ),
        (None, DriverKind::Darlington) if !channel.driver.channels.iter().any(|c| c.only) => format!(
            "the common pin of {} is open: no path for {current}{stored} of `{name}` at turn-off",
            channel.words()
        ),
        _ => format!(
            "no flyback diode across `{name}`: when {} turns off, {current}{stored} has no path{breaks}",
            channel.words()
        ),
    };
    sink.find(Draft::danger(&load.name).at(&at).says(message).facts(evidence));
}
