//! Engineering notation: three significant digits, a prefix in steps of a thousand, a space before the unit; ratings as
//! they are printed on parts.

use super::units::{Quantity, Seconds};

const PREFIXES: [(&str, i32); 8] = [("G", 9), ("M", 6), ("k", 3), ("", 0), ("m", -3), ("µ", -6), ("n", -9), ("p", -12)];

/// Prints a quantity in engineering notation, always with three significant digits: for columns of numbers.
///
/// Rounds to three significant digits *before* the prefix is chosen, so 0.99996 A is `1.00 A` and never `1000 mA`.
/// Lengths are in metres from 0.1 m up, capacitances in µF from 1 µF up, as shops print them; per cent and °C are whole
/// from 10 up.
///
/// ```
/// use modest_ohm::units::{Amps, Celsius, Farads, Fraction, Metres, Ohms, SquareMetres, engineering};
/// assert_eq!(engineering(Amps::new(0.35)), "350 mA");
/// assert_eq!(engineering(Amps::new(0.99996)), "1.00 A");
/// assert_eq!(engineering(Ohms::new(4_700.0)), "4.70 kΩ");
/// assert_eq!(engineering(Metres::new(0.008333)), "8.33 mm");
/// assert_eq!(engineering(Metres::new(0.4)), "0.400 m");
/// assert_eq!(engineering(Farads::new(0.0047)), "4700 µF");
/// assert_eq!(engineering(Ohms::new(3e18)), "3.00e18 Ω");
/// assert_eq!(engineering(Fraction::new(0.298)), "30 %");
/// assert_eq!(engineering(Fraction::new(0.045)), "4.5 %");
/// assert_eq!(engineering(Celsius::new(61.7)), "62 °C");
/// assert_eq!(engineering(SquareMetres::new(0.0392)), "0.0392 m²");
/// ```
#[must_use]
pub fn engineering<Q: Quantity>(quantity: Q) -> String {
    with_digits(quantity.si(), Q::SYMBOL, Q::PREFIXES || Q::SYMBOL == "m", usual_digits(quantity.si(), Q::SYMBOL))
}

/// Prints a quantity for a sentence: as [`engineering`], but what is exact loses its trailing zeros, so that a rating
/// reads as it is printed on the part. This is what `Display` does.
///
/// ```
/// use modest_ohm::units::{Amps, Volts};
/// assert_eq!(Amps::new(5.0).to_string(), "5 A");
/// assert_eq!(Volts::new(4.2).to_string(), "4.2 V");
/// assert_eq!(Volts::new(4.996).to_string(), "5.00 V");
/// assert_eq!(Volts::new(-0.4).to_string(), "−400 mV");
/// ```
pub(crate) fn plain<Q: Quantity>(quantity: Q) -> String {
    plain_of(quantity.si(), Q::SYMBOL, Q::PREFIXES || Q::SYMBOL == "m")
}

/// As `Display`, for a number in its base unit of which only the symbol is known.
///
/// ```
/// assert_eq!(modest_ohm::units::engineering_of(0.0042, "A"), "4.2 mA");
/// ```
#[must_use]
pub fn engineering_of(value: f64, symbol: &str) -> String {
    plain_of(value, symbol, has_prefixes(symbol))
}

fn has_prefixes(symbol: &str) -> bool {
    let simple = matches!(symbol, "V" | "A" | "Ω" | "W" | "m" | "s" | "Hz" | "F" | "H" | "C" | "J" | "Ah");
    simple || matches!(symbol, "Ω/m" | "W/m" | "A/m")
}

fn plain_of(value: f64, symbol: &str, prefixed: bool) -> String {
    let digits = usual_digits(value, symbol);
    let shown = if symbol == "%" { value * 100.0 } else { value };
    with_digits(value, symbol, prefixed, fewest_digits(shown).unwrap_or(digits))
}

/// The digits, up to three, with which a number is itself; `None` where it has more.
fn fewest_digits(value: f64) -> Option<i32> {
    if value == 0.0 || !value.is_finite() {
        return None;
    }
    let first = value.abs().log10().floor() as i32;
    let is_whole = |digits: i32| {
        let scaled = value.abs() * 10f64.powi(digits - 1 - first);
        (scaled - scaled.round()).abs() <= 1e-9 * scaled
    };
    (1..=3).find(|digits| is_whole(*digits))
}

/// Two numbers of one unit that differ, with as many digits as it takes to see it.
///
/// A finding that says "lasts 2.4 h; 2.4 h required" says nothing.
pub(crate) fn told_apart(a: f64, b: f64, symbol: &str) -> (String, String) {
    let prefixed = has_prefixes(symbol);
    let short = (engineering_of(a, symbol), engineering_of(b, symbol));
    let longer = |n| (with_digits(a, symbol, prefixed, n), with_digits(b, symbol, prefixed, n));
    if short.0 != short.1 || (a - b).abs() <= 1e-9 * a.abs() {
        return short;
    }
    (3..=9).map(longer).find(|(a, b)| a != b).unwrap_or(short)
}

/// Per cent and °C are whole: nobody measures them finer. Below 10 they have two digits.
fn usual_digits(value: f64, symbol: &str) -> i32 {
    let shown = if symbol == "%" { value * 100.0 } else { value };
    let whole = matches!(symbol, "%" | "°C");
    match shown.abs() {
        v if whole && v >= 99.5 => 3,
        _ if whole => 2,
        _ => 3,
    }
}

/// Prints a number with so many significant digits, the prefix that suits it and a true minus.
fn with_digits(value: f64, unit: &str, prefixed: bool, digits: i32) -> String {
    let value = if unit == "%" { value * 100.0 } else { value };
    if !value.is_finite() {
        return format!("{value} {unit}");
    }
    let rounded = round_significant(value, digits);
    // Below this a number is rounding, or the trace of an ideal cable's nanoohm, not a quantity.
    if rounded.abs() < 2e-12 {
        return format!("0 {unit}");
    }
    let step = if prefixed { prefix_power(rounded, unit) } else { 0 };
    let (prefix, power) = PREFIXES.iter().find(|(_, p)| *p == step).copied().unwrap_or(("", 0));
    let mantissa = rounded / 10f64.powi(power);
    // Beyond the largest prefix nobody counts digits.
    if prefixed && mantissa.abs() >= 1e6 {
        return format!("{rounded:.2e} {unit}");
    }
    let digits_before = (mantissa.abs().max(1e-300).log10() + 1e-12).floor() as i32 + 1;
    // Without a prefix, or where the unit keeps it, a small number has zeros behind its point.
    let keeps = !prefixed || matches!(unit, "m" | "F");
    let decimals = (digits - if keeps { digits_before } else { digits_before.max(1) }).clamp(0, 9) as usize;
    let number = format!("{:.decimals$}", mantissa.abs());
    let minus = if mantissa < 0.0 { "−" } else { "" };
    format!("{minus}{} {prefix}{unit}", grouped(&number))
}

/// The power of ten of the prefix: in steps of a thousand, but metres from 0.1 m and microfarads from 1 µF up.
fn prefix_power(value: f64, unit: &str) -> i32 {
    let exponent = value.abs().log10().floor() as i32;
    // log10 can be off by one rounding step at a power of ten; the count of digits settles it.
    let step = (exponent.div_euclid(3) * 3).clamp(-12, 9);
    match unit {
        "m" if (0.1..1000.0).contains(&value.abs()) => 0,
        "F" if (-6..0).contains(&step) => -6,
        _ => step,
    }
}

/// Groups of three from five digits on, as capacitors are printed: `22 000`.
fn grouped(number: &str) -> String {
    if number.len() < 5 || number.contains(['.', 'e']) {
        return number.to_owned();
    }
    let (head, tail) = number.split_at(number.len() - 3);
    format!("{head}\u{202f}{tail}")
}

/// A time as people say it: seconds in engineering notation below a minute, then minutes, then hours.
///
/// ```
/// use modest_ohm::units::{Seconds, duration};
/// assert_eq!(duration(Seconds::new(0.02)), "20 ms");
/// assert_eq!(duration(Seconds::new(5400.0)), "90 min");
/// assert_eq!(duration(Seconds::new(8640.0)), "2.4 h");
/// ```
#[must_use]
pub fn duration(time: Seconds) -> String {
    let minutes = time.get() / 60.0;
    if minutes < 1.0 {
        plain(time)
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::quantity::units::{
        AmpHours, Amps, AmpsPerMetre, Bytes, Celsius, Coulombs, Farads, Fraction, Henries, Hertz, Joules,
        KelvinsPerWatt, Metres, Ohms, OhmsPerMetre, PerMetre, Seconds, SquareMetres, Volts, Watts, WattsPerMetre,
    };

    #[test]
    fn a_number_with_its_symbol_reads_as_the_quantity() {
        for value in [0.0, 3.2e-6, 0.05, 0.4, 7.0, 1234.5, 8.1e7] {
            macro_rules! same {
                ($($quantity:ident),+) => {
                    $(assert_eq!(engineering_of(value, $quantity::SYMBOL), $quantity::new(value).to_string());)+
                };
            }
            same!(Volts, Amps, Ohms, Watts, Metres, Seconds, Hertz, Celsius, Fraction, PerMetre, OhmsPerMetre);
            same!(WattsPerMetre, AmpsPerMetre, Bytes, Farads, Henries, Coulombs, Joules, AmpHours);
            same!(KelvinsPerWatt, SquareMetres);
        }
        assert_eq!(engineering_of(0.05, "Ω/m"), "50 mΩ/m");
    }
}
