//! Engineering notation: three significant digits, a prefix in steps of a thousand, a space before the unit.

use super::units::{Quantity, Seconds};

const PREFIXES: [(&str, i32); 8] = [("G", 9), ("M", 6), ("k", 3), ("", 0), ("m", -3), ("µ", -6), ("n", -9), ("p", -12)];

/// Prints a quantity in engineering notation.
///
/// Rounds to three significant digits *before* the prefix is chosen, so 0.99996 A is `1.00 A` and never `1000 mA`.
///
/// ```
/// use modest_ohm::units::{Amps, Fraction, Metres, Ohms, SquareMetres, engineering};
/// assert_eq!(engineering(Amps::new(0.35)), "350 mA");
/// assert_eq!(engineering(Amps::new(0.99996)), "1.00 A");
/// assert_eq!(engineering(Ohms::new(4_700.0)), "4.70 kΩ");
/// assert_eq!(engineering(Metres::new(0.008333)), "8.33 mm");
/// assert_eq!(engineering(Ohms::new(3e18)), "3.00e18 Ω");
/// assert_eq!(engineering(Fraction::new(0.9)), "90.0 %");
/// assert_eq!(engineering(SquareMetres::new(0.0392)), "0.0392 m²");
/// ```
#[must_use]
pub fn engineering<Q: Quantity>(quantity: Q) -> String {
    in_engineering(quantity.si(), Q::SYMBOL, Q::PREFIXES || Q::SYMBOL == "m")
}

/// As [`engineering`], for a number in its base unit of which only the symbol is known.
pub(crate) fn engineering_of(value: f64, symbol: &str) -> String {
    in_engineering(value, symbol, matches!(symbol, "V" | "A" | "Ω" | "W" | "m" | "s" | "F" | "Ah"))
}

fn in_engineering(value: f64, unit: &str, prefixed: bool) -> String {
    let value = if unit == "%" { value * 100.0 } else { value };
    if !value.is_finite() {
        return format!("{value} {unit}");
    }
    let rounded = round_significant(value, 3);
    // Below this a number is rounding, or the trace of an ideal lead's nanoohm, not a quantity.
    if rounded.abs() < 2e-12 {
        return format!("0 {unit}");
    }
    let exponent = rounded.abs().log10().floor() as i32;
    // log10 can be off by one rounding step at a power of ten; the mantissa check below settles it.
    let step = if prefixed { (exponent.div_euclid(3) * 3).clamp(-12, 9) } else { 0 };
    let (prefix, power) = PREFIXES.iter().find(|(_, p)| *p == step).copied().unwrap_or(("", 0));
    let mantissa = rounded / 10f64.powi(power);
    // Beyond the largest prefix nobody counts digits.
    if prefixed && mantissa.abs() >= 1e6 {
        return format!("{rounded:.2e} {unit}");
    }
    let digits_before = (mantissa.abs().max(1e-300).log10() + 1e-12).floor() as i32 + 1;
    // Without a prefix a small number has zeros behind its point.
    let decimals = (3 - if prefixed { digits_before.max(1) } else { digits_before }).clamp(0, 9) as usize;
    format!("{mantissa:.decimals$} {prefix}{unit}")
}

/// A time as people say it: seconds in engineering notation below a minute, then minutes, then hours.
///
/// ```
/// use modest_ohm::units::{Seconds, duration};
/// assert_eq!(duration(Seconds::new(0.02)), "20.0 ms");
/// assert_eq!(duration(Seconds::new(5400.0)), "90 min");
/// assert_eq!(duration(Seconds::new(8640.0)), "2.4 h");
/// ```
#[must_use]
pub fn duration(time: Seconds) -> String {
    let minutes = time.get() / 60.0;
    if minutes < 1.0 {
        engineering(time)
    } else if minutes < 120.0 {
        format!("{minutes:.0} min")
    } else if minutes < 6000.0 {
        format!("{:.1} h", minutes / 60.0)
    } else {
        format!("{:.0} h", minutes / 60.0)
    }
}

fn round_significant(value: f64, digits: i32) -> f64 {
    if value == 0.0 {
        return 0.0;
    }
    // The decimal formatter rounds correctly; going through text avoids powi rounding steps.
    format!("{value:.*e}", (digits - 1) as usize).parse().unwrap_or(value)
}
