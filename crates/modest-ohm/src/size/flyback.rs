//! The diode that takes a winding's current when it is let go.

use crate::quantity::units::{Amps, Volts};

/// A class of diode as the trade sells it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct FlybackClass {
    /// The catalogue's name.
    pub name: &'static str,
    /// What it carries for long.
    pub current: Amps,
    /// What it carries once for a half wave of mains.
    pub surge: Amps,
    /// What it stands backwards.
    pub reverse: Volts,
    /// Whether it follows PWM above 1 kHz.
    pub fast: bool,
}

const fn class(name: &'static str, current: f64, surge: f64, reverse: f64, fast: bool) -> FlybackClass {
    let (current, surge, reverse) = (Amps::new(current), Amps::new(surge), Volts::new(reverse));
    FlybackClass { name, current, surge, reverse, fast }
}

/// The classes, from the smallest (electrical reference, "Letting go of a coil"; typical).
pub const FLYBACK_CLASSES: [FlybackClass; 6] = [
    class("signal-diode-100v", 0.2, 1.0, 100.0, true),
    class("schottky-1a-40v", 1.0, 25.0, 40.0, true),
    class("rectifier-1a", 1.0, 30.0, 400.0, false),
    class("schottky-3a-40v", 3.0, 80.0, 40.0, true),
    class("rectifier-3a", 3.0, 200.0, 400.0, false),
    class("schottky-10a-45v", 10.0, 150.0, 45.0, true),
];

/// The share of its surge current that a diode may carry each time a coil is let go.
pub(crate) const SINGLE_SHARE: f64 = 0.2;
/// What is left below a maximum.
const MARGIN: f64 = 0.8;

/// The smallest class for a winding: single events carry a fifth of I_FSM at most, PWM its I_F; twice the supply
/// backwards, a margin of 20 % (electrical reference, "Letting go of a coil"). `None` where no class does it.
///
/// ```
/// use modest_ohm::{Amps, Volts};
/// use modest_ohm::size::flyback_class;
/// assert_eq!(flyback_class(Amps::new(0.07), Volts::new(12.6), false).unwrap().name, "signal-diode-100v");
/// assert_eq!(flyback_class(Amps::new(2.4), Volts::new(12.6), false).unwrap().name, "schottky-1a-40v");
/// assert_eq!(flyback_class(Amps::new(2.4), Volts::new(12.6), true).unwrap().name, "schottky-3a-40v");
/// ```
#[must_use]
pub fn flyback_class(current: Amps, supply: Volts, pwm: bool) -> Option<FlybackClass> {
    let carries = |c: &FlybackClass| {
        let may = if pwm { c.current.get() } else { c.current.get().max(SINGLE_SHARE * c.surge.get()) };
        current.get() <= MARGIN * may * (1.0 + 1e-9)
    };
    let fits = |c: &&FlybackClass| carries(c) && c.reverse.get() >= 2.0 * supply.get() && (!pwm || c.fast);
    FLYBACK_CLASSES.iter().find(fits).copied()
}
