//! A coil that is turned off: how long its current goes on, what its path takes, what the switch sees.

use crate::quantity::units::{Amps, Fraction, Henries, Joules, Ohms, Seconds, Volts};

/// A coil, and the path that its current has when the switch opens.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ReleaseNeed {
    /// What feeds it, at most.
    pub supply: Volts,
    /// What flows when it is turned off.
    pub current: Amps,
    /// The coil's resistance.
    pub ohms: Ohms,
    /// Its inductance.
    pub inductance: Henries,
    /// What the path drops: the diode's forward voltage, with a Zener diode those as well.
    pub path: Volts,
    /// The share of its current at which the coil turns off.
    pub partial_power_down: Fraction,
}

/// What follows when it is turned off.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Release {
    /// Until the coil turns off: (L/R)·ln((I + V/R)/(I_do + V/R)).
    pub time: Seconds,
    /// Until nothing flows any more.
    pub until_still: Seconds,
    /// ½·L·I².
    pub energy: Joules,
    /// Across the switch: the supply and the path's drop.
    pub peak: Volts,
}

/// What follows when a coil is turned off through a path of steady voltage (electrical reference, "Letting go of a
/// coil").
///
/// ```
/// use modest_ohm::units::{Amps, Fraction, Henries, Ohms, Volts};
/// use modest_ohm::size::{ReleaseNeed, release};
/// let r = release(&ReleaseNeed {
///     supply: Volts::new(12.0), current: Amps::new(0.03), ohms: Ohms::new(400.0), inductance: Henries::new(0.4),
///     path: Volts::new(0.8), partial_power_down: Fraction::new(0.1),
/// });
/// assert!((r.peak.get() - 12.8).abs() < 1e-12);
/// assert!((r.time.get() - 1e-3 * (32.0f64 / 5.0).ln()).abs() < 1e-12);
/// ```
#[must_use]
pub fn release(need: &ReleaseNeed) -> Release {
    let (i, r, l) = (need.current.get(), need.ohms.get().max(1e-9), need.inductance.get());
    let aside = need.path.get() / r;
    let left = need.partial_power_down.get() * i;
    Release {
        time: Seconds::new(l / r * ((i + aside) / (left + aside).max(1e-15)).ln().max(0.0)),
        until_still: Seconds::new(l / r * ((i + aside) / aside.max(1e-15)).ln().max(0.0)),
        energy: Joules::new(0.5 * l * i * i),
        peak: need.supply + need.path,
    }
}

/// The coil's current a time after it was turned off: (I + V/R)·e^(−tR/L) − V/R, never below 0.
///
/// ```
/// use modest_ohm::units::{Amps, Fraction, Henries, Ohms, Seconds, Volts};
/// use modest_ohm::size::{ReleaseNeed, current_after};
/// let need = ReleaseNeed {
///     supply: Volts::new(12.0), current: Amps::new(0.03), ohms: Ohms::new(400.0), inductance: Henries::new(0.4),
///     path: Volts::new(0.8), partial_power_down: Fraction::new(0.1),
/// };
/// assert_eq!(current_after(&need, Seconds::new(0.0)), Amps::new(0.03));
/// assert_eq!(current_after(&need, Seconds::new(1.0)), Amps::new(0.0));
/// ```
#[must_use]
pub fn current_after(need: &ReleaseNeed, after: Seconds) -> Amps {
    let r = need.ohms.get().max(1e-9);
    let aside = need.path.get() / r;
    let flows = (need.current.get() + aside) * (-after.get() * r / need.inductance.get().max(1e-15)).exp() - aside;
    Amps::new(flows.max(0.0))
}

/// The energy that goes into a switch that is let to break down: ½LI²·V_BR/(V_BR − V); `None` where the supply alone
/// breaks it down.
///
/// ```
/// use modest_ohm::units::{Amps, Henries, Volts};
/// use modest_ohm::size::avalanche;
/// let energy = avalanche(Henries::new(0.4), Amps::new(0.03), Volts::new(12.0), Volts::new(40.0)).unwrap();
/// assert!((energy.get() - 0.5 * 0.4 * 0.0009 * 40.0 / 28.0).abs() < 1e-12);
/// ```
#[must_use]
pub fn avalanche(inductance: Henries, current: Amps, supply: Volts, breaks: Volts) -> Option<Joules> {
    let over = breaks.get() - supply.get();
    (over > 0.0).then(|| Joules::new(0.5 * inductance.get() * current.get().powi(2) * breaks.get() / over))
}
