//! The diode that takes a coil's current when it is turned off.

use crate::catalogue::{Catalogue, Class};
use crate::quantity::units::{Amps, Volts};
use crate::verdict::compare::at_most;

/// A class of diode as the trade sells it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct FlybackClass {
    /// The catalogue's name.
    pub name: &'static str,
    /// What it carries continuously.
    pub current: Amps,
    /// What it carries once for a half wave of mains.
    pub surge: Amps,
    /// What it stands backwards.
    pub reverse: Volts,
    /// Whether it follows PWM above 1 kHz.
    pub fast: bool,
}

/// The classes of the catalogue that say what they carry once, from the smallest.
#[must_use]
pub fn flyback_classes() -> Vec<FlybackClass> {
    let read = |c: &'static Class| {
        Some(FlybackClass {
            name: &c.name,
            current: c.figure::<Amps>("current")?.low,
            surge: c.figure::<Amps>("surge-current")?.low,
            reverse: c.figure::<Volts>("reverse")?.low,
            fast: c.word("speed") == Some("fast"),
        })
    };
    let mut classes: Vec<FlybackClass> = Catalogue.of_kind("diode").filter_map(read).collect();
    let size = |c: &FlybackClass| (c.current.get(), c.surge.get());
    classes.sort_by(|a, b| size(a).partial_cmp(&size(b)).unwrap_or(std::cmp::Ordering::Equal));
    classes
}

/// The share of its surge current that a diode may carry each time a coil is turned off.
pub(crate) const SINGLE_SHARE: f64 = 0.2;
/// What is left below a maximum.
const MARGIN: f64 = 0.8;

/// The smallest class for a coil: single events carry a fifth of I_FSM at most, PWM its I_F; twice the supply
/// backwards, a margin of 20 % (electrical reference, "Letting go of a coil"). `None` where no class does it.
///
/// ```
/// use modest_ohm::units::{Amps, Volts};
/// use modest_ohm::size::flyback_class;
/// assert_eq!(flyback_class(Amps::new(0.07), Volts::new(12.6), false).unwrap().name, "signal-diode-100v");
/// assert_eq!(flyback_class(Amps::new(2.4), Volts::new(12.6), false).unwrap().name, "schottky-1a-40v");
/// assert_eq!(flyback_class(Amps::new(2.4), Volts::new(12.6), true).unwrap().name, "schottky-3a-40v");
/// ```
#[must_use]
pub fn flyback_class(current: Amps, supply: Volts, pwm: bool) -> Option<FlybackClass> {
    let carries = |c: &FlybackClass| {
        let may = if pwm { c.current.get() } else { c.current.get().max(SINGLE_SHARE * c.surge.get()) };
        at_most(current.get(), MARGIN * may)
    };
    let fits = |c: &&FlybackClass| carries(c) && c.reverse.get() >= 2.0 * supply.get() && (!pwm || c.fast);
    flyback_classes().iter().find(fits).copied()
}
