//! Which capacitor holds a dip, and what charging it asks.

use crate::quantity::units::{Amps, Farads, Ohms, Seconds, Volts};
use crate::verdict::compare::at_least;

/// The E6 series (IEC 60063), in which electrolytic capacitors are sold.
const E6: [f64; 6] = [1.0, 1.5, 2.2, 3.3, 4.7, 6.8];

/// Electrolytic capacitors may have a fifth less than they say (typical).
const TOLERANCE: f64 = 0.2;

/// A capacitor for a dip.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct CapacitorSize {
    /// ΔI·Δt/(ΔV − ΔI·ESR).
    pub least: Farads,
    /// The next value of E6 that has it with 20 % less than it says.
    pub usual: Farads,
}

/// The capacitor that holds a rail while its source catches up with a load step; `None` where its own resistance takes
/// more than the dip may be.
///
/// ΔV ≥ ΔI·ESR + ΔI·Δt/C. Typical times: a mains adapter 100–500 µs, a converter or a cable 20–50 µs.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Ohms, Seconds, Volts};
/// let c = size::bulk_capacitor(Amps::new(2.0), Seconds::new(200e-6), Volts::new(0.25), Ohms::new(0.03)).unwrap();
/// assert!((c.least.get() - 2.0 * 200e-6 / 0.19).abs() < 1e-12);
/// assert!((c.usual.get() - 3.3e-3).abs() < 1e-12);
/// ```
#[must_use]
pub fn bulk_capacitor(step: Amps, delay: Seconds, dip: Volts, esr: Ohms) -> Option<CapacitorSize> {
    let room = dip - step * esr;
    if room.get() <= 0.0 {
        return None;
    }
    let least = step.get() * delay.get() / room.get();
    Some(CapacitorSize { least: Farads::new(least), usual: Farads::new(next_e6(least / (1.0 - TOLERANCE))) })
}

pub(crate) fn next_e6(least: f64) -> f64 {
    if least <= 0.0 {
        return 0.0;
    }
    let decade = least.log10().floor();
    let values = (0..2).flat_map(|d| E6.map(|m| m * 10f64.powf(decade + f64::from(d))));
    values.into_iter().find(|v| at_least(*v, least)).unwrap_or(least)
}

/// How long a source at its limit takes to charge a capacitor beside its load: C·V/(I_lim − I_load); `None` where the
/// load takes all.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Farads, Volts};
/// let t = size::charging_time(Farads::new(1e-3), Volts::new(12.0), Amps::new(2.2), Amps::new(1.0)).unwrap();
/// assert!((t.get() - 0.01).abs() < 1e-12);
/// ```
#[must_use]
pub fn charging_time(capacitance: Farads, volts: Volts, limit: Amps, load: Amps) -> Option<Seconds> {
    let left = (limit - load).get();
    (left > 0.0).then(|| Seconds::new(capacitance.get() * volts.get() / left))
}

/// The current when a contact closes on an empty capacitor: V/(Rs + R_loop + ESR).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Ohms, Volts};
/// assert!((size::inrush_peak(Volts::new(12.0), Ohms::new(0.15)).get() - 80.0).abs() < 1e-9);
/// ```
#[must_use]
pub fn inrush_peak(volts: Volts, ohms: Ohms) -> Amps {
    Amps::new(volts.get() / ohms.get().max(1e-6))
}
