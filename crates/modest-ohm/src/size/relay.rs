//! A relay: whether its coil pulls in and stands its volts, and what its contacts switch.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Celsius, Fraction, Volts};
use crate::verdict::compare::{at_least, at_most, exceeds};

/// The change of copper's resistance per kelvin (IEC 60028), and the temperature of relays' sheets.
const COPPER: f64 = 0.0039;
const SHEET_C: f64 = 23.0;

/// A coil and what feeds it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CoilNeed {
    /// The coil's rated volts.
    pub rated: Volts,
    /// What arrives at it, at the least and at the most, what drives it taken off.
    pub gets: Range<Volts>,
    /// The share of its rated volts at which it surely pulls in, cold.
    pub pull_in: Fraction,
    /// The share that it stands.
    pub most: Fraction,
    /// How warm the coil is when it has to pull in.
    pub warm: Celsius,
}

/// What a coil wants and stands.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct CoilState {
    /// It surely pulls in from here on, warm.
    pub pulls_in: Volts,
    /// It stands up to this.
    pub stands: Volts,
    /// True where it gets enough.
    pub enough: bool,
    /// True where it gets too much.
    pub too_much: bool,
}

/// Whether a coil pulls in: its pull-in volts rise with its resistance, 0.39 % per kelvin above 23 °C (electrical
/// reference, "Switching stages").
///
/// ```
/// use modest_ohm::units::{Celsius, Fraction, Range, Volts};
/// use modest_ohm::size::{CoilNeed, coil};
/// let state = coil(&CoilNeed {
///     rated: Volts::new(5.0), gets: Range::new(Volts::new(3.65), Volts::new(4.5)), pull_in: Fraction::new(0.75),
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
        stands: Volts::new(stands),
        enough: at_least(need.gets.low.get(), pulls_in),
        too_much: exceeds(need.gets.high.get(), stands),
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

/// What a load leaves of a contact's rating: a coil 30 %, a motor 25 % on direct and 30 % on alternating current, a lamp
/// 15 %, what charges capacitors 10 % (electrical reference, "Switching stages"; typical).
///
/// ```
/// use modest_ohm::size::{ContactLoad, contact_share};
/// assert_eq!(contact_share(ContactLoad::Motor, false).get(), 0.25);
/// assert_eq!(contact_share(ContactLoad::Motor, true).get(), 0.3);
/// ```
#[must_use]
pub fn contact_share(load: ContactLoad, alternating: bool) -> Fraction {
    Fraction::new(match load {
        ContactLoad::Resistive => 1.0,
        ContactLoad::Coil => 0.3,
        ContactLoad::Motor => {
            if alternating {
                0.3
            } else {
                0.25
            }
        }
        ContactLoad::Lamp => 0.15,
        ContactLoad::Capacitive => 0.1,
    })
}

/// Above the direct volts for which its rating holds a contact breaks 1 A, up to 48 V.
const ABOVE_A: f64 = 1.0;
const ABOVE_V: f64 = 48.0;

/// What a contact may switch at direct volts; `None` where nothing is promised: above 48 V.
///
/// ```
/// use modest_ohm::units::{Amps, Range, Volts};
/// use modest_ohm::size::{ContactLoad, contact_dc};
/// let may = |v| contact_dc(Amps::new(10.0), Volts::new(30.0), Volts::new(v), ContactLoad::Motor);
/// assert_eq!(may(12.0), Some(Amps::new(2.5)));
/// assert_eq!(may(40.0), Some(Amps::new(0.25)));
/// assert_eq!(may(60.0), None);
/// ```
#[must_use]
pub fn contact_dc(rating: Amps, holds_to: Volts, volts: Volts, load: ContactLoad) -> Option<Amps> {
    let base = if at_most(volts.get(), holds_to.get()) {
        rating.get()
    } else if volts.get() <= ABOVE_V {
        rating.get().min(ABOVE_A)
    } else {
        return None;
    };
    Some(Amps::new(base * contact_share(load, false).get()))
}
