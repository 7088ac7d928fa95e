//! The direct current that each pin carries in a solved state, out of it and into it.

use std::collections::BTreeMap;

use crate::plan::kinds::bus::BusKind;
use crate::plan::model::Plan;
use crate::plan::wiring::pin::PinAt;
use crate::solved::drivers::drive::{base_amps, drive_of};
use crate::solved::levels::supplied;
use crate::solved::opto::opto_amps;
use crate::solved::outcome::Snapshot;
use crate::topology::signals::hops;

/// Out of a pin while it is high, and into it while it is low, A.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct PinAmps {
    pub out: f64,
    pub into: f64,
}

impl PinAmps {
    pub fn most(self) -> f64 {
        self.out.max(self.into)
    }
}

/// What bases and inputs of drivers draw from the pins that drive them directly, A. A gate draws nothing continuously.
fn bases<'p>(plan: &'p Plan, s: &Snapshot) -> Vec<(&'p PinAt, f64)> {
    let mut all = Vec::new();
    for (d, driver) in plan.drivers.iter().enumerate().filter(|(_, d)| d.line.through.is_empty()) {
        for (c, channel) in driver.channels.iter().enumerate() {
            let Some(pin) = channel.pins.first() else { continue };
            let amps = match driver.base_of() {
                Some(t) => drive_of(plan, d, c).and_then(|drive| {
                    // Without anything on it its ground is its board's.
                    let own = || supplied(plan, drive.hop.from, false, s).map(|v| v.vdd);
                    let volts = drive.volts(plan, s).or_else(own)?;
                    Some(base_amps(t, &drive, volts).1)
                }),
                None => driver.input.draws.as_ref().map(|d| d.high.get()),
            };
            all.extend(amps.map(|a| (&pin.at, a)));
        }
    }
    all
}

/// Board and pin, by the chip's name.
type Key = (usize, String);

/// What all pins carry that carry anything.
pub(crate) fn pin_amps(plan: &Plan, s: &Snapshot) -> BTreeMap<Key, PinAmps> {
    let mut pins: BTreeMap<Key, PinAmps> = BTreeMap::new();
    let mut add = |pin: &PinAt, out: f64, into: f64| {
        let at = pins.entry((pin.board, pin.pin.clone())).or_default();
        at.out += out;
        at.into += into;
    };
    for (load, members) in plan.loads.iter().zip(&s.layout.loads) {
        let (out, into) = load.feed.pins();
        if out.is_some() || into.is_some() {
            let amps: f64 = members.iter().map(|d| s.amps(d.branch).abs()).sum();
            if let Some(pin) = out {
                add(pin, amps, 0.0);
            }
            if let Some(pin) = into {
                add(pin, 0.0, amps);
            }
        }
        let Some(signal) = &load.signal else { continue };
        // A stage between the pin and the input takes what the input draws.
        let Some(draws) = signal.input.draws.as_ref().filter(|_| signal.line.through.is_empty()) else { continue };
        let each = draws.high.get() * load.count as f64 / signal.pins.len().max(1) as f64;
        signal.pins.iter().for_each(|pin| add(&pin.at, each, 0.0));
    }
    for wire in &plan.wires {
        if let (Some(draws), true) = (&wire.input.draws, wire.line.through.is_empty()) {
            add(&wire.pin.at, draws.high.get(), 0.0);
        }
    }
    for (pin, amps) in bases(plan, s) {
        add(pin, amps, 0.0);
    }
    let inputs = plan.loads.iter().filter_map(|l| Some(&l.signal.as_ref()?.input));
    let any_opto = inputs.chain(plan.wires.iter().map(|w| &w.input)).chain(plan.drivers.iter().map(|d| &d.input));
    let any_opto = any_opto.into_iter().any(|i| i.opto.is_some());
    for hop in any_opto.then(|| hops(plan)).into_iter().flatten() {
        let (Some(opto), Some(pin)) = (hop.opto(plan), hop.pins.0) else { continue };
        let high = opto.from.is_none();
        if let Some((_, most)) = opto_amps(plan, &hop, opto, high, s) {
            add(pin, if high { most } else { 0.0 }, if high { 0.0 } else { most });
        }
    }
    for (i, bus) in plan.buses.iter().enumerate().filter(|(_, b)| b.kind == BusKind::I2c) {
        for (_, pin) in &bus.lines {
            // Whoever holds the line low takes what all pull-ups give.
            let amps: f64 = crate::topology::buses::pulls(plan, i, Some(&pin.at))
                .iter()
                .filter_map(|p| Some(crate::solved::pulls::volts_of(p, s)? / p.ohms.low.get().max(1e-9)))
                .sum();
            if amps > 0.0 {
                add(&pin.at, 0.0, amps);
            }
        }
    }
    pins
}
