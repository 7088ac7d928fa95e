//! A relay: whether its coil pulls in and stands its voltage, and what its contacts switch.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Celsius, Fraction, Volts};
use crate::verdict::compare::{at_least, at_most, exceeds};

/// The change of copper's resistance per kelvin (IEC 60028), and the temperature of relays' sheets.
const COPPER: f64 = 0.0039;
const SHEET_C: f64 = 23.0;

/// A coil and what feeds it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CoilNeed {
    /// The coil's rated voltage.
    pub rated: Volts,
    /// What arrives at it, at least and at most, what drives it taken off.
    pub coil: Range<Volts>,
    /// The share of its rated voltage at which it surely pulls in, cold.
    pub pull_in: Fraction,
    /// The share that it withstands.
    pub most: Fraction,
    /// How warm the coil is when it has to pull in.
    pub warm: Celsius,
}

/// What a coil needs and stands.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct CoilState {
    /// It surely pulls in from here on, warm.
    pub pulls_in: Volts,
    /// It stands up to this.
    pub max: Volts,
    /// True where it gets enough.
    pub enough: bool,
    /// True where it gets too much.
    pub too_much: bool,
}

/// Whether a coil pulls in: its pull-in voltage rises with its resistance, 0.39 % per kelvin above 23 °C (electrical
/// reference, "Switching stages").
///
/// ```
/// use modest_ohm::units::{Celsius, Fraction, Range, Volts};
/// use modest_ohm::size::{CoilNeed, coil};
/// let state = coil(&CoilNeed {
///     rated: Volts::new(5.0), coil: Range::new(Volts::new(3.65), Volts::new(4.5)), pull_in: Fraction::new(0.75),
///     most: Fraction::new(1.3), warm: Celsius::new(23.0),
/// });
/// assert_eq!(state.pulls_in, Volts::new(3.75));
/// assert!(!state.enough && !state.too_much);
/// ```
#[must_use]
pub fn coil(need: &CoilNeed) -> CoilState {
    let warmer = (need.warm.get() - SHEET_C).max(0.0);
    let pulls_in = need.pull_in.get() * need.rated.get() * (1.0 + COPPER * warmer);
    let stands = need.most.get() * need.rated.get();
    CoilState {
        pulls_in: Volts::new(pulls_in),
        max: Volts::new(stands),
        enough: at_least(need.coil.low.get(), pulls_in),
        too_much: exceeds(need.coil.high.get(), stands),
    }
}

/// What a contact switches.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ContactLoad {
    /// Heaters, LEDs behind resistors: neither coil, lamp nor capacitor.
    Resistive,
    /// A coil, a valve, a lock.
    Coil,
    /// A motor, a pump.
    Motor,
    /// A filament lamp.
    Lamp,
    /// Electronics, converters: their capacitors charge.
    Capacitive,
}

impl ContactLoad {
    /// What it takes as it starts over what it takes continuously, where nothing is stated (typical): a brushed motor
    /// 6, a filament lamp 12.
    #[must_use]
    pub const fn start(self) -> f64 {
        match self {
            ContactLoad::Resistive | ContactLoad::Coil | ContactLoad::Capacitive => 1.0,
            ContactLoad::Motor => 6.0,
            ContactLoad::Lamp => 12.0,
        }
    }
}

/// The share of its rating that a contact breaks at direct voltage (10 A type, typical); log–log between.
const BREAKS: [(f64, f64); 6] = [(30.0, 1.0), (36.0, 0.5), (42.0, 0.25), (48.0, 0.12), (60.0, 0.08), (110.0, 0.03)];

/// The share of its rating that a contact breaks at direct voltage: all of it up to what its datasheet says,
/// `holds_to`, usually 30 V; above that an arc does not go out by itself.
///
/// ```
/// use modest_ohm::units::Volts;
/// use modest_ohm::size::contact_breaks;
/// let of = |v| contact_breaks(Volts::new(30.0), Volts::new(v)).get();
/// assert!(of(24.0) == 1.0 && (of(48.0) - 0.12).abs() < 1e-12);
/// // Half way between 36 V and 42 V on logarithmic scales: √(0.5 · 0.25).
/// assert!((of(1512.0f64.sqrt()) - 0.125f64.sqrt()).abs() < 1e-12);
/// ```
#[must_use]
pub fn contact_breaks(holds_to: Volts, volts: Volts) -> Fraction {
    // A contact whose sheet gives more voltage has the same curve further up.
    let at = volts.get() * BREAKS[0].0 / holds_to.get().max(1e-9);
    let last = BREAKS[BREAKS.len() - 1];
    if at <= BREAKS[0].0 * (1.0 + 1e-9) {
        return Fraction::new(1.0);
    }
    let pair = BREAKS.windows(2).find(|pair| at <= pair[1].0);
    let Some([(v0, s0), (v1, s1)]) = pair else { return Fraction::new(last.1 * last.0 / at) };
    let share = (at / v0).ln() / (v1 / v0).ln();
    Fraction::new((s0.ln() + share * (s1 / s0).ln()).exp())
}

/// The current on which a contact may close: what its datasheet says, else three times its rating, for motors on
/// alternating current 2.5 times, for signal relays of up to 2 A 1.5 times (typical).
///
/// ```
/// use modest_ohm::units::Amps;
/// use modest_ohm::size::{ContactLoad, contact_makes};
/// assert_eq!(contact_makes(Amps::new(10.0), None, ContactLoad::Motor, true), Amps::new(25.0));
/// assert_eq!(contact_makes(Amps::new(1.0), None, ContactLoad::Lamp, false), Amps::new(1.5));
/// ```
#[must_use]
pub fn contact_makes(rating: Amps, stated: Option<Amps>, load: ContactLoad, alternating: bool) -> Amps {
    const SIGNAL_A: f64 = 2.0;
    stated.unwrap_or_else(|| {
        let times = match load {
            _ if at_most(rating.get(), SIGNAL_A) => 1.5,
            ContactLoad::Motor if alternating => 2.5,
            _ => 3.0,
        };
        rating * times
    })
}

/// What a contact may switch at direct voltage for a kind of load: what it breaks, and no more than it may close on as
/// that starts.
///
/// ```
/// use modest_ohm::units::{Amps, Volts};
/// use modest_ohm::size::{ContactLoad, contact_dc};
/// let may = |v, load| contact_dc(Amps::new(10.0), Volts::new(30.0), Volts::new(v), load);
/// assert_eq!(may(12.0, ContactLoad::Resistive), Amps::new(10.0));
/// // 30 A of making current, for a motor that takes six times as much as it starts.
/// assert_eq!(may(12.0, ContactLoad::Motor), Amps::new(5.0));
/// assert!((may(48.0, ContactLoad::Resistive).get() - 1.2).abs() < 1e-12);
/// ```
#[must_use]
pub fn contact_dc(rating: Amps, holds_to: Volts, volts: Volts, load: ContactLoad) -> Amps {
    let breaks = rating.get() * contact_breaks(holds_to, volts).get();
    let makes = contact_makes(rating, None, load, false).get() / load.start();
    Amps::new(breaks.min(makes))
}
