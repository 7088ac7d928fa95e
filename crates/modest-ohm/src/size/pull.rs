//! Pull resistors: of a contact or an open collector, and of an I²C bus.

use super::stock::Values;
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Farads, Fraction, Hertz, Metres, Ohms, Seconds, Volts};
use crate::tables::input::{INPUT_F, LEAD_F_PER_M};
use crate::verdict::compare::at_most;

/// A line that a contact or an open collector pulls to one rail, and a resistor to the other.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PullNeed {
    /// The rail, at its lowest and its highest.
    pub rail: Range<Volts>,
    /// VIL and VIH of what reads it, as shares of the rail or voltage at the lowest rail; counted from the rail that
    /// the contact closes to: below the first it is sure to be closed, above the second sure to be open.
    pub thresholds: Range<Volts>,
    /// What is left at the line while the contact is closed: its resistance.
    pub contact: Ohms,
    /// And its voltage, of an open collector.
    pub closed: Volts,
    /// What flows while it is open.
    pub leak: Amps,
    /// The least that has to flow through the closed contact; 0 A: nothing is wanted.
    pub wetting: Amps,
    /// The most that may flow while it is closed: of an open collector, or what a battery can spare.
    pub most: Amps,
    /// Of the resistor.
    pub tolerance: Fraction,
}

/// The range of resistors that does it, and one of them.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct PullSize {
    /// Smaller: closed is no longer sure, or too much flows.
    pub least: Ohms,
    /// Larger: open is no longer sure, or the contact is not wetted.
    pub most: Ohms,
    /// The value nearest to the middle of both on a logarithmic scale, of those that stay between them over their
    /// tolerance.
    pub chosen: Option<Ohms>,
    /// What flows through it while the contact is closed, at the highest rail, nominal.
    pub current: Amps,
}

/// The pull resistor of a line.
///
/// Closed: V = Vc + (V_rail − Vc)·R_c/(R + R_c) ≤ VIL; open: V_rail − I_leak·R ≥ VIH; wetting:
/// (V_rail − Vc)/(R + R_c) ≥ I_wet.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Fraction, Ohms, Range, Volts};
/// let need = size::PullNeed {
///     rail: Range::new(Volts::new(3.2), Volts::new(3.4)),
///     thresholds: Range::new(Volts::new(0.8), Volts::new(2.4)),
///     contact: Ohms::new(100.0),
///     closed: Volts::new(0.0),
///     leak: Amps::new(1e-6),
///     wetting: Amps::new(0.0),
///     most: Amps::new(1e-3),
///     tolerance: Fraction::new(0.05),
/// };
/// let pull = size::pull(&need, &size::Values::of_series(size::Series::E12));
/// // 3.3 kΩ (no more than 1 mA) .. 800 kΩ (no more than 0.8 V lost to leakage); 51.4 kΩ lies in the middle.
/// assert_eq!(pull.chosen, Some(Ohms::new(56e3)));
/// ```
#[must_use]
pub fn pull(need: &PullNeed, values: &Values) -> PullSize {
    let (low, high) = (need.rail.low.get(), need.rail.high.get());
    let (vil, vih) = (need.thresholds.low.get(), need.thresholds.high.get());
    let closed = need.closed.get();
    // Closed: R ≥ R_c·(V − VIL)/(VIL − Vc).
    let sure = if vil > closed { need.contact.get() * (high - vil).max(0.0) / (vil - closed) } else { f64::INFINITY };
    let spared =
        if need.most.get() > 0.0 { (high - closed).max(0.0) / need.most.get() - need.contact.get() } else { 0.0 };
    let open = if need.leak.get() > 0.0 { (low - vih).max(0.0) / need.leak.get() } else { f64::MAX };
    let wet = if need.wetting.get() > 0.0 {
        (low - closed).max(0.0) / need.wetting.get() - need.contact.get()
    } else {
        f64::MAX
    };
    let (least, most) = (Ohms::new(sure.max(spared).max(0.0)), Ohms::new(open.min(wet).max(0.0)));
    let t = need.tolerance.get();
    let (from, to) = (least.get().max(1.0) / (1.0 - t).max(1e-9), most.get().min(MOST_OHMS) / (1.0 + t));
    let chosen = (from <= to).then(|| values.middle(Ohms::new(from), Ohms::new(to))).flatten();
    let current = chosen.map_or(Amps::new(0.0), |r| (need.rail.high - need.closed) / (r + need.contact));
    PullSize { least, most, chosen, current }
}

/// Beyond this a pull picks up whatever is near (typical).
const MOST_OHMS: f64 = 1e6;

/// An I²C bus.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BusPull {
    /// The rail that its lines are pulled to, at its highest.
    pub rail: Volts,
    /// Its clock.
    pub speed: Hertz,
    /// Parts on it, the board included.
    pub devices: usize,
    /// Of all its cables together.
    pub length: Metres,
    /// Of a line, where it is known.
    pub capacitance: Option<Farads>,
}

/// What all pull-ups of a line may make together.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct BusPullRange {
    /// (V − 0.4 V)/3 mA: what an output sinks.
    pub least: Ohms,
    /// t_r/(0.8473·C): what the rise time allows.
    pub most: Ohms,
    /// 10 pF a part and 75 pF/m, where nothing is given.
    pub capacitance: Farads,
}

/// Largest rise times by clock, s (I²C-bus specification, table 11).
const RISES: [(f64, f64); 3] = [(100e3, 1000e-9), (400e3, 300e-9), (1e6, 120e-9)];

fn rise_of(speed: Hertz) -> Seconds {
    let by = RISES.iter().find(|(clock, _)| at_most(speed.get(), *clock));
    Seconds::new(by.map_or(120e-9 * 1e6 / speed.get(), |(_, rise)| *rise))
}

/// The range of pull-ups of an I²C bus (I²C-bus specification, section 7.1).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Hertz, Metres, Range, Volts};
/// let bus = size::BusPull { rail: Volts::new(3.4), speed: Hertz::new(400e3), devices: 3, length: Metres::new(0.4), capacitance: None };
/// let range = size::bus_pull(&bus);
/// assert!((range.least.get() - 1000.0).abs() < 1e-6);
/// assert!((range.most.get() - 300e-9 / (0.8473 * 60e-12)).abs() < 1e-6);
/// ```
#[must_use]
pub fn bus_pull(bus: &BusPull) -> BusPullRange {
    let own = INPUT_F * bus.devices as f64 + LEAD_F_PER_M * bus.length.get();
    let capacitance = bus.capacitance.unwrap_or(Farads::new(own));
    BusPullRange {
        least: Ohms::new((bus.rail.get() - 0.4).max(0.0) / 3e-3),
        most: Ohms::new(rise_of(bus.speed).get() / (0.8473 * capacitance.get().max(1e-15))),
        capacitance,
    }
}

/// The fastest of the bus's clocks that pull-ups allow.
#[must_use]
pub fn bus_speed(ohms: Ohms, capacitance: Farads) -> Hertz {
    let rise = 0.8473 * ohms.get() * capacitance.get();
    match RISES.iter().rev().find(|(_, most)| rise <= *most) {
        Some((clock, _)) => Hertz::new(*clock),
        None => Hertz::new(100e3 * 1000e-9 / rise),
    }
}
