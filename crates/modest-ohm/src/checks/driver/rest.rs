//! safe-state: where a load is at power-off, while the board is reset, and while it starts, against where it is
//! required.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::DriverKind;
use crate::plan::driver::figures::GateDriver;
use crate::plan::model::Plan;
use crate::plan::pins::{AtBoot, Level};
use crate::plan::wiring::driven::Contacts;
use crate::solved::drivers::channel::{Channel, channels};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for channel in channels(context.plan) {
        let loads: Vec<usize> = context.plan.loads_behind(channel.run).collect();
        // What it is required: the driver's word, else that of what is fed from it.
        let wished = channel.driver.rests_off.or_else(|| {
            let load = &context.plan.loads[*loads.first()?];
            load.rests_off.then_some(true)
        });
        let Some(off) = wished else { continue };
        judge(context.plan, sink, &channel, off);
    }
}

/// Whether a channel's input is on while nobody drives its pin; `None`: nothing says.
fn on_undriven(channel: &Channel<'_>) -> Option<bool> {
    let driver = channel.driver;
    match driver.kind {
        // No base current, no light in an optocoupler, no coil current.
        DriverKind::Npn
        | DriverKind::Darlington
        | DriverKind::SolidState
        | DriverKind::Relay
        | DriverKind::RelayModule => Some(false),
        DriverKind::Nmos | DriverKind::Pmos | DriverKind::MosfetModule => {
            match driver.fet().map(|f| (&f.gate, &f.pull)) {
                Some((GateDriver::Pin, None)) => None,
                _ => Some(false),
            }
        }
        DriverKind::Bridge => driver.bridge().and_then(|b| b.enable_pull.as_ref()).map(|_| false),
    }
}

/// Whether it is on at a level of its pin.
fn on_at(channel: &Channel<'_>, level: Level) -> bool {
    channel.driver.off_level() != level
}

fn judge(plan: &Plan, sink: &mut Sink, channel: &Channel<'_>, wished_off: bool) {
    let name = channel.name();
    let closed_at_rest = channel.at.contacts == Contacts::Closed;
    let wish = if wished_off { "off" } else { "on" };
    let Some((when, why)) = not_as_wished(plan, channel, wished_off, closed_at_rest) else {
        sink.pass(name, || format!("{wish} at power-on"));
        return;
    };
    sink.find(Draft::caution((name, channel.span())).says(format!(
        "{} behind {} must be {wish}, and {when} it is not: {why}",
        channel.behind_words(),
        channel.words()
    )));
}

/// The first moment at which it is not as required, on a contact, and why; `None` where it always is.
fn not_as_wished(
    plan: &Plan,
    channel: &Channel<'_>,
    wished_off: bool,
    closed_at_rest: bool,
) -> Option<(&'static str, String)> {
    let is_on = |driven: bool| driven != closed_at_rest;
    let bad = |on: bool| on == wished_off;
    // Its contacts rest where the coil has no current; a semiconductor without power is open.
    let off_power = channel.driver.kind.is_contact().then(|| is_on(false));
    let own = &plan.drivers[channel.at.driver].channels[channel.at.channel];
    let by = channel.driver.load.and_then(|l| plan.loads[l].driven.as_ref()).and_then(|d| d.at);
    let pins = match by.filter(|_| own.pins.is_empty()) {
        Some((d, c)) => &plan.drivers[d].channels[c].pins,
        None => &own.pins,
    };
    let boot = pins.first().and_then(|pin| {
        let board = &plan.boards[pin.at.board];
        Some((board.pins.list.get(pin.at.index?)?.boot, pin))
    });
    if let Some(on) = off_power.filter(|on| bad(*on)) {
        let state = if on { "on" } else { "off" };
        return Some(("with the coil de-energised", format!("its contact leaves it {state}")));
    }
    let (boot, pin) = boot?;
    let words = plan.pin_words(&pin.at);
    match boot {
        AtBoot::At(level) if bad(is_on(on_at(channel, level))) => {
            Some(("while the board starts", format!("{words} is {}", level.word())))
        }
        AtBoot::Pulses => Some(("while the board starts", format!("{words} pulses"))),
        AtBoot::Floats => match on_undriven(channel) {
            Some(on) if bad(is_on(on)) => Some(("until the firmware runs", format!("{words} floats"))),
            // Where nothing holds a gate another check says so.
            _ => None,
        },
        _ => None,
    }
}
