//! What drives a channel: the voltage of its sender, the ground between, the base current and the gate's voltage that
//! follow.

use super::channel::Channel;
use crate::plan::driver::figures::{Fet, GateDriver, Transistor};
use crate::plan::driver::{Driver, DriverKind};
use crate::plan::model::Plan;
use crate::plan::wiring::pin::{PinAt, PinRef};
use crate::solved::levels::{receiver_of, supplied};
use crate::solved::opto::STAGE_OHMS;
use crate::solved::outcome::Snapshot;
use crate::topology::signals::{End, Hop, Of, hops};

/// The last sender before a channel's input.
pub(crate) struct Drive<'p> {
    pub hop: Hop<'p>,
    /// Its own resistance, from least to most, Ω.
    pub ohms: (f64, f64),
}

/// What drives a channel; `None` where nothing in the plan does.
pub(crate) fn drive_of(plan: &Plan, driver: usize, channel: usize) -> Option<Drive<'_>> {
    let hop =
        hops(plan).into_iter().find(|h| h.of == Of::Driver(driver, channel) && h.to == End::Driver(driver, channel))?;
    let ohms = match hop.from {
        // Bases that are connected to one pin share its resistance.
        End::Pin(c) => {
            let many = hop.pins.0.map_or(1, |pin| bases_on(plan, pin)) as f64;
            (many * plan.boards[c].pins.ohms.low.get(), many * plan.boards[c].pins.ohms.high.get())
        }
        _ => (STAGE_OHMS, STAGE_OHMS),
    };
    Some(Drive { hop, ohms })
}

/// How many bases are connected to a pin directly; at least one.
fn bases_on(plan: &Plan, pin: &PinAt) -> usize {
    let same = |p: &&PinRef| p.at.board == pin.board && p.at.pin == pin.pin;
    let own = |d: &Driver| d.channels.iter().flat_map(|c| &c.pins).filter(same).count();
    let direct = |d: &&Driver| d.base_of().is_some() && d.line.through.is_empty();
    plan.drivers.iter().filter(direct).map(own).sum::<usize>().max(1)
}

impl Drive<'_> {
    /// What it gives while it is high, against the channel's own −, V: its VDD less what the ground between lifts.
    pub fn volts(&self, plan: &Plan, s: &Snapshot) -> Option<f64> {
        let sender = supplied(plan, self.hop.from, false, s)?;
        let receiver = receiver_of(plan, &self.hop, s)?;
        Some(sender.vdd - (receiver.ground - sender.ground))
    }

    /// As [`volts`](Self::voltage), against what the channel's base or gate counts against: on the high side of an
    /// N-channel or NPN stage that is the load's own +, the rail while it is on.
    pub fn volts_of(&self, channel: &Channel<'_>, s: &Snapshot) -> Option<f64> {
        let volts = self.volts(channel.plan, s)?;
        let follows = !channel.is_low_side()
            && matches!(channel.driver.kind, DriverKind::Npn | DriverKind::Darlington | DriverKind::Nmos);
        Some(if follows { volts - channel.holds_v(s)? } else { volts })
    }

    /// The pin that it is, in words; else the part.
    pub fn words(&self, plan: &Plan) -> String {
        self.hop.words(plan).0
    }
}

/// The current into a base, from least to most, A: (V − VBE)/(R_B + R_out).
pub(crate) fn base_amps(t: &Transistor, drive: &Drive<'_>, volts: f64) -> (f64, f64) {
    let resistor = |f: Option<&crate::quantity::figure::Figure<crate::quantity::units::Ohms>>| {
        f.map_or((0.0, 0.0), |r| (r.low.get(), r.high.get()))
    };
    let (base, series) = (resistor(t.base.as_ref()), resistor(drive.hop.series));
    let through = |v: f64, ohms: f64| (v / ohms.max(1e-3)).max(0.0);
    (
        through(volts - t.vbe.high.get(), base.1 + series.1 + drive.ohms.1),
        through(volts - t.vbe.low.get(), base.0 + series.0 + drive.ohms.0),
    )
}

/// V_GS while the channel is on: what its sender gives, or, through a transistor or an optocoupler, the rail.
pub(crate) fn gate_volts(channel: &Channel<'_>, drive: Option<&Drive<'_>>, s: &Snapshot) -> Option<f64> {
    let fet = channel.driver.fet()?;
    let volts = match &fet.gate {
        GateDriver::Pin if is_high_side(channel.driver) => {
            // Its source is at the rail: the pin's low opens it.
            channel.holds_v(s)?
        }
        GateDriver::Pin => drive?.volts_of(channel, s)? * reaches_gate(fet, drive?),
        GateDriver::Rail | GateDriver::Transistor(_) => channel.holds_v(s)?,
    };
    let clamp = fet.clamp.as_ref().map_or(f64::INFINITY, |c| c.low.get());
    Some(volts.min(clamp))
}

/// The most that its gate may get, with the weakest clamp of its class.
pub(crate) fn most_gate_volts(channel: &Channel<'_>, drive: Option<&Drive<'_>>, s: &Snapshot) -> Option<f64> {
    let clamp = channel.driver.fet()?.clamp.as_ref();
    let clamped = gate_volts(channel, drive, s)?;
    let Some(clamp) = clamp.filter(|c| clamped >= c.low.get()) else { return Some(clamped) };
    Some(channel.holds_v(s)?.max(clamped).min(clamp.high.get()))
}

/// The share of its sender's voltage that reaches a gate: the pull-down, at the gate itself, divides what comes through
/// the resistors before it.
fn reaches_gate(fet: &Fet, drive: &Drive<'_>) -> f64 {
    let Some(pull) = fet.pull.as_ref().map(|r| r.low.get()) else { return 1.0 };
    let before = [fet.series.as_ref(), drive.hop.series].into_iter().flatten().map(|r| r.high.get()).sum::<f64>();
    pull / (pull + before + drive.ohms.1)
}

fn is_high_side(driver: &Driver) -> bool {
    driver.kind == DriverKind::Pmos
}
