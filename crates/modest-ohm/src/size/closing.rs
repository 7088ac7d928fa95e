//! A contact that closes on empty capacitors: what flows, what it does to the contact, and how far the voltage
//! overshoots.

use crate::quantity::units::{Amps, Farads, Henries, Joules, Metres, Ohms, Volts};

/// A loop that closes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Closing {
    /// What the source holds.
    pub volts: Volts,
    /// What is charged: the capacitors behind the contact in series with the source's own.
    pub capacitance: Farads,
    /// Source, leads, contacts and the capacitor's own.
    pub ohms: Ohms,
    /// Of the cables, feed and return.
    pub inductance: Henries,
}

/// The inductance of a pair of cables: 0.7 µH a metre (0.4·ln(D/r) + 0.1 µH/m at usual insulation), and 0.05 µH at its
/// ends.
///
/// ```
/// use modest_ohm::{size::pair_inductance, units::Metres};
/// assert!((pair_inductance(Metres::new(2.0)).get() - 1.45e-6).abs() < 1e-12);
/// ```
#[must_use]
pub fn pair_inductance(length: Metres) -> Henries {
    Henries::new(0.05e-6 + 0.7e-6 * length.get())
}

impl Closing {
    /// ζ = R/(2·√(L/C)): below 1 it rings.
    fn damping(&self) -> f64 {
        let (l, c) = (self.inductance.get().max(1e-12), self.capacitance.get().max(1e-15));
        self.ohms.get() / (2.0 * (l / c).sqrt())
    }

    /// The largest current: V/R, or less where the cables' inductance holds it back.
    ///
    /// ```
    /// use modest_ohm::{size::Closing, units::{Farads, Henries, Ohms, Volts}};
    /// let c = Closing { volts: Volts::new(12.0), capacitance: Farads::new(100e-9), ohms: Ohms::new(0.04),
    ///     inductance: Henries::new(0.26e-6) };
    /// assert!(c.peak().get() < 8.0 && c.i2t() < 2e-4);
    /// ```
    #[must_use]
    pub fn peak(&self) -> Amps {
        let ohmic = self.volts.get() / self.ohms.get().max(1e-6);
        let zeta = self.damping();
        if zeta >= 1.0 {
            return Amps::new(ohmic);
        }
        let z0 = (self.inductance.get().max(1e-12) / self.capacitance.get().max(1e-15)).sqrt();
        let ringing = self.volts.get() / z0 * (-zeta * zeta.acos() / (1.0 - zeta * zeta).sqrt()).exp();
        Amps::new(ohmic.min(ringing))
    }

    /// What welds a contact, A²s: V²·C/(2·R), whatever the cables' inductance is.
    #[must_use]
    pub fn i2t(&self) -> f64 {
        self.volts.get().powi(2) * self.capacitance.get() / (2.0 * self.ohms.get().max(1e-6))
    }

    /// What the capacitors take up.
    #[must_use]
    pub fn energy(&self) -> Joules {
        Joules::new(0.5 * self.capacitance.get() * self.volts.get().powi(2))
    }

    /// How high the voltage behind the contact swing: V·(1 + e^(−πζ/√(1−ζ²))); V where nothing rings.
    ///
    /// ```
    /// use modest_ohm::{size::Closing, units::{Farads, Henries, Ohms, Volts}};
    /// let c = Closing { volts: Volts::new(24.0), capacitance: Farads::new(44e-6), ohms: Ohms::new(0.066),
    ///     inductance: Henries::new(1.4e-6) };
    /// assert!((c.swings_to().get() - 37.3).abs() < 0.3);
    /// ```
    #[must_use]
    pub fn swings_to(&self) -> Volts {
        let zeta = self.damping();
        let over = if zeta >= 1.0 { 0.0 } else { (-std::f64::consts::PI * zeta / (1.0 - zeta * zeta).sqrt()).exp() };
        self.volts * (1.0 + over)
    }
}
