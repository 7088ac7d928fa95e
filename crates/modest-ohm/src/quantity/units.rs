//! The quantity types and the one table of their names, units and allowed ranges.

use std::fmt;
use std::ops::{Add, Div, Mul, Neg, Sub};

/// What every typed quantity can tell about itself.
///
/// Values are in SI base units (`Celsius` in °C, `Fraction` as a plain ratio: `0.9` is `90 %`).
pub trait Quantity: Copy + PartialOrd + fmt::Debug + fmt::Display + Send + Sync + 'static {
    /// The name used in messages: `"a voltage"`.
    const NAME: &'static str;
    /// The unit symbol used when printing: `"V"`.
    const SYMBOL: &'static str;
    /// Accepted spellings of the unit with their factor to the base unit, prefixes not counted.
    const UNITS: &'static [(&'static str, i32)];
    /// Whether SI prefixes (p, n, µ, m, k, M, G) may stand before the first unit.
    const PREFIXES: bool;
    /// Units whose factor is no power of ten: spelling and factor.
    const ODD_UNITS: &'static [(&'static str, f64)];
    /// Smallest and largest value a plan may state; beyond it is a slip of the pen.
    const BOUNDS: (f64, f64);
    /// An example for messages: what to write.
    const EXAMPLE: &'static str;
    /// Makes the quantity from a number in its base unit.
    fn from_si(value: f64) -> Self;
    /// The number in the base unit.
    fn si(self) -> f64;
}

macro_rules! quantity {
    ($(#[$doc:meta])* $name:ident, $long:literal, $symbol:literal, units: $units:expr, prefixes: $prefixes:literal,
     odd: $odd:expr, bounds: $low:expr, $high:expr, example: $example:literal) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Default)]
        pub struct $name(f64);

        impl $name {
            /// Makes the quantity from a number in its base unit.
            #[must_use]
            pub const fn new(value: f64) -> Self {
                Self(value)
            }

            /// The number in the base unit.
            #[must_use]
            pub const fn get(self) -> f64 {
                self.0
            }
        }

        impl Quantity for $name {
            const NAME: &'static str = $long;
            const SYMBOL: &'static str = $symbol;
            const UNITS: &'static [(&'static str, i32)] = $units;
            const PREFIXES: bool = $prefixes;
            const ODD_UNITS: &'static [(&'static str, f64)] = $odd;
            const BOUNDS: (f64, f64) = ($low, $high);
            const EXAMPLE: &'static str = $example;
            fn from_si(value: f64) -> Self {
                Self(value)
            }
            fn si(self) -> f64 {
                self.0
            }
        }

        impl fmt::Display for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                // `{:#}` keeps three digits: for columns.
                let text = if f.alternate() { super::format::engineering(*self) } else { super::format::plain(*self) };
                f.pad(&text)
            }
        }

        impl Add for $name {
            type Output = Self;
            fn add(self, other: Self) -> Self {
                Self(self.0 + other.0)
            }
        }

        impl Sub for $name {
            type Output = Self;
            fn sub(self, other: Self) -> Self {
                Self(self.0 - other.0)
            }
        }

        impl Neg for $name {
            type Output = Self;
            fn neg(self) -> Self {
                Self(-self.0)
            }
        }

        impl Mul<f64> for $name {
            type Output = Self;
            fn mul(self, factor: f64) -> Self {
                Self(self.0 * factor)
            }
        }

        impl Div<f64> for $name {
            type Output = Self;
            fn div(self, divisor: f64) -> Self {
                Self(self.0 / divisor)
            }
        }

        impl Div for $name {
            type Output = f64;
            fn div(self, other: Self) -> f64 {
                self.0 / other.0
            }
        }
    };
}

/// `product!(A * B = C)` gives `A*B`, `B*A`, `C/A` and `C/B`.
macro_rules! product {
    ($a:ident * $b:ident = $c:ident) => {
        impl Mul<$b> for $a {
            type Output = $c;
            fn mul(self, other: $b) -> $c {
                $c(self.0 * other.0)
            }
        }
        impl Mul<$a> for $b {
            type Output = $c;
            fn mul(self, other: $a) -> $c {
                $c(self.0 * other.0)
            }
        }
        impl Div<$a> for $c {
            type Output = $b;
            fn div(self, other: $a) -> $b {
                $b(self.0 / other.0)
            }
        }
        impl Div<$b> for $c {
            type Output = $a;
            fn div(self, other: $b) -> $a {
                $a(self.0 / other.0)
            }
        }
    };
}

quantity!(
    /// A voltage in volts.
    ///
    /// ```
    /// use modest_ohm::units::{Amps, Ohms, Volts};
    /// let drop: Volts = Amps::new(3.0) * Ohms::new(0.05);
    /// assert_eq!(drop.to_string(), "150 mV");
    /// ```
    Volts, "a voltage", "V", units: &[("V", 0)], prefixes: true, odd: &[],
    bounds: -1000.0, 1000.0, example: "5 V");
quantity!(
    /// A current in amperes.
    Amps, "a current", "A", units: &[("A", 0)], prefixes: true, odd: &[],
    bounds: -10_000.0, 10_000.0, example: "350 mA");
quantity!(
    /// A resistance in ohms.
    Ohms, "a resistance", "Ω", units: &[("\u{3a9}", 0), ("\u{2126}", 0), ("ohms", 0), ("ohm", 0), ("Ohm", 0), ("R", 0)],
    prefixes: true, odd: &[], bounds: 0.0, 1e9, example: "330 Ω");
quantity!(
    /// A power in watts.
    Watts, "a power", "W", units: &[("W", 0)], prefixes: true, odd: &[],
    bounds: -1e6, 1e6, example: "15 W");
quantity!(
    /// A length in metres.
    Metres, "a length", "m", units: &[("m", 0), ("km", 3), ("cm", -2), ("mm", -3)], prefixes: false,
    odd: &[("in", 0.0254), ("ft", 0.3048)], bounds: 0.0, 10_000.0, example: "1.2 m");
quantity!(
    /// A duration in seconds.
    Seconds, "a duration", "s", units: &[("s", 0)], prefixes: true, odd: &[("min", 60.0), ("h", 3600.0)],
    bounds: 0.0, 1e9, example: "200 ms");
quantity!(
    /// A frequency in hertz.
    Hertz, "a frequency", "Hz", units: &[("Hz", 0)], prefixes: true, odd: &[("/s", 1.0), ("/min", 1.0 / 60.0)],
    bounds: 0.0, 1e10, example: "100 kHz");
quantity!(
    /// A temperature in degrees Celsius.
    Celsius, "a temperature", "°C", units: &[("°C", 0), ("C", 0), ("degC", 0)], prefixes: false, odd: &[],
    bounds: -60.0, 250.0, example: "28 °C");
quantity!(
    /// A plain ratio; written and printed in per cent.
    Fraction, "a share", "%", units: &[("%", -2)], prefixes: false, odd: &[],
    bounds: 0.0, 10.0, example: "90 %");
quantity!(
    /// A count per metre, such as pixels on a strip.
    PerMetre, "a density", "/m", units: &[("/m", 0), ("per m", 0)], prefixes: false, odd: &[("/ft", 1.0 / 0.3048)],
    bounds: 0.0, 100_000.0, example: "60 /m");
quantity!(
    /// A resistance per length of one conductor, in ohms per metre.
    OhmsPerMetre, "a resistance per metre", "Ω/m",
    units: &[("\u{3a9}/m", 0), ("\u{2126}/m", 0), ("ohm/m", 0), ("R/m", 0), ("\u{3a9}/km", -3), ("ohm/km", -3)],
    prefixes: true, odd: &[], bounds: 0.0, 1e6, example: "0.10 Ω/m");

quantity!(
    /// A power per length, as the labels of strips give it, in watts per metre.
    WattsPerMetre, "a power per metre", "W/m", units: &[("W/m", 0)], prefixes: true, odd: &[("W/ft", 1.0 / 0.3048)],
    bounds: 0.0, 10_000.0, example: "14.4 W/m");
quantity!(
    /// A current per length, as the labels of strips give it, in amperes per metre.
    AmpsPerMetre, "a current per metre", "A/m", units: &[("A/m", 0)], prefixes: true, odd: &[("A/ft", 1.0 / 0.3048)],
    bounds: 0.0, 10_000.0, example: "1.2 A/m");
quantity!(
    /// An amount of memory in bytes; `KiB` and `MiB` are 1024 and 1024².
    Bytes, "an amount of memory", "B", units: &[("B", 0), ("kB", 3), ("MB", 6), ("GB", 9)], prefixes: false,
    odd: &[("KiB", 1024.0), ("MiB", 1_048_576.0)], bounds: 0.0, 1e12, example: "320 KiB");
quantity!(
    /// A capacitance in farads.
    Farads, "a capacitance", "F", units: &[("F", 0)], prefixes: true, odd: &[],
    bounds: 0.0, 1000.0, example: "1000 µF");
quantity!(
    /// An inductance in henries.
    Henries, "an inductance", "H", units: &[("H", 0)], prefixes: true, odd: &[],
    bounds: 0.0, 1000.0, example: "150 mH");
quantity!(
    /// A charge in coulombs, as sheets give that of a gate.
    Coulombs, "a charge", "C", units: &[("C", 0)], prefixes: true, odd: &[],
    bounds: 0.0, 1.0, example: "12 nC");
quantity!(
    /// An energy in joules.
    Joules, "an energy", "J", units: &[("J", 0)], prefixes: true, odd: &[],
    bounds: 0.0, 1e9, example: "2 mJ");
quantity!(
    /// A charge as batteries state it, in ampere-hours.
    AmpHours, "a charge", "Ah", units: &[("Ah", 0)], prefixes: true, odd: &[],
    bounds: 0.0, 100_000.0, example: "2500 mAh");
quantity!(
    /// A thermal resistance in kelvins per watt.
    KelvinsPerWatt, "a thermal resistance", "K/W", units: &[("K/W", 0), ("°C/W", 0)], prefixes: false, odd: &[],
    bounds: 0.0, 10_000.0, example: "62 K/W");
quantity!(
    /// An area in square metres.
    SquareMetres, "an area", "m²", units: &[("m²", 0), ("m2", 0), ("dm²", -2), ("cm²", -4), ("cm2", -4)],
    prefixes: false, odd: &[], bounds: 0.0, 1000.0, example: "0.05 m²");

product!(Amps * Ohms = Volts);
product!(Volts * Amps = Watts);
product!(OhmsPerMetre * Metres = Ohms);
product!(Farads * Ohms = Seconds);
product!(AmpsPerMetre * Metres = Amps);
product!(WattsPerMetre * Metres = Watts);
product!(AmpsPerMetre * Volts = WattsPerMetre);

impl Fraction {
    /// What a current leaves of a rating, as a share of it; `None` of a rating of nothing, which has no shares.
    ///
    /// ```
    /// use modest_ohm::units::{Amps, Fraction};
    /// assert_eq!(Fraction::left_of(Amps::new(3.0), Amps::new(4.0)), Some(Fraction::new(0.25)));
    /// assert_eq!(Fraction::left_of(Amps::new(0.0), Amps::new(0.0)), None);
    /// ```
    #[must_use]
    pub fn left_of(current: Amps, rating: Amps) -> Option<Self> {
        (rating.get() > 0.0).then(|| Self::new(1.0 - current.get() / rating.get()))
    }
}
