//! Preferred values of resistors and capacitors (IEC 60063).

use crate::quantity::units::{Ohms, Quantity};

/// A series of preferred values, by how many there are in a decade.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[allow(missing_docs, reason = "each is what its name says")]
pub enum Series {
    E3,
    E6,
    E12,
    E24,
    E48,
    E96,
    E192,
}

/// The values of E24: made before the series were computed, and not all of them on the curve (IEC 60063, table 1).
const E24: [u32; 24] = [
    100, 110, 120, 130, 150, 160, 180, 200, 220, 240, 270, 300, 330, 360, 390, 430, 470, 510, 560, 620, 680, 750, 820,
    910,
];

impl Series {
    /// All series, the coarsest first.
    pub const ALL: [Series; 7] =
        [Series::E3, Series::E6, Series::E12, Series::E24, Series::E48, Series::E96, Series::E192];

    /// Values in a decade.
    #[must_use]
    pub const fn count(self) -> usize {
        match self {
            Series::E3 => 3,
            Series::E6 => 6,
            Series::E12 => 12,
            Series::E24 => 24,
            Series::E48 => 48,
            Series::E96 => 96,
            Series::E192 => 192,
        }
    }

    /// Its name: `E24`.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Series::E3 => "E3",
            Series::E6 => "E6",
            Series::E12 => "E12",
            Series::E24 => "E24",
            Series::E48 => "E48",
            Series::E96 => "E96",
            Series::E192 => "E192",
        }
    }

    /// The series of a name, `E24` or `e24`.
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|s| s.name().eq_ignore_ascii_case(name))
    }

    /// The values of one decade as three digits, 100 .. 999.
    ///
    /// E24 is a list of the standard, E12, E6 and E3 are every second, fourth and eighth of it. E48, E96 and E192 are
    /// 100 · 10^(k/N) rounded to three digits; in E192 9.20 stands for the computed 9.19 (IEC 60063).
    ///
    /// ```
    /// use modest_ohm::size::Series;
    /// assert_eq!(Series::E6.decade(), [100, 150, 220, 330, 470, 680]);
    /// assert_eq!(Series::E96.decade()[1], 102);
    /// ```
    #[must_use]
    pub fn decade(self) -> Vec<u32> {
        let n = self.count();
        if n <= 24 {
            return E24.iter().step_by(24 / n).copied().collect();
        }
        let value = |k: usize| (100.0 * 10f64.powf(k as f64 / n as f64)).round() as u32;
        (0..n).map(value).map(|v| if self == Series::E192 && v == 919 { 920 } else { v }).collect()
    }

    /// The values from `low` to `high`, in the base unit, both included, in rising order.
    #[must_use]
    pub fn values(self, low: f64, high: f64) -> Vec<f64> {
        if !(low > 0.0 && high >= low && high.is_finite()) {
            return Vec::new();
        }
        let decade = self.decade();
        let (first, last) = (low.log10().floor() as i32 - 1, high.log10().ceil() as i32);
        let value = |mantissa: u32, exponent: i32| scaled(mantissa, exponent);
        (first..=last)
            .flat_map(|e| decade.iter().map(move |m| value(*m, e)))
            .filter(|v| *v >= low * (1.0 - NEAR) && *v <= high * (1.0 + NEAR))
            .collect()
    }
}

/// Nearer than this a computed number is meant to be the value.
const NEAR: f64 = 1e-9;

/// `mantissa` hundredths of ten to the `exponent`, to the last bit as the text would be read.
fn scaled(mantissa: u32, exponent: i32) -> f64 {
    format!("{mantissa}e{}", exponent - 2).parse().unwrap_or(f64::NAN)
}

/// The smallest value of a series that is not below a number; `None` for a number that is none.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::Ohms;
/// assert_eq!(size::next_larger(Ohms::new(440.0), size::Series::E12), Some(Ohms::new(470.0)));
/// assert_eq!(size::next_larger(Ohms::new(270.0), size::Series::E24), Some(Ohms::new(270.0)));
/// ```
#[must_use]
pub fn next_larger(ohms: Ohms, series: Series) -> Option<Ohms> {
    series.values(ohms.get(), ohms.get() * 11.0).first().map(|v| Ohms::from_si(*v))
}

/// The largest value of a series that is not above a number.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::Ohms;
/// assert_eq!(size::next_smaller(Ohms::new(497.5), size::Series::E12), Some(Ohms::new(470.0)));
/// ```
#[must_use]
pub fn next_smaller(ohms: Ohms, series: Series) -> Option<Ohms> {
    series.values(ohms.get() / 11.0, ohms.get()).last().map(|v| Ohms::from_si(*v))
}
