//! Reading quantities as makers write them: `350mA`, `4k7`, `0.75 Ω`, `9 V .. 14.8 V`, `12 V ± 5 %`.

use std::borrow::Cow;

use super::figure::{Figure, Origin};
use super::units::Quantity;

/// Why a text is not the quantity asked for; the byte range lies inside the parsed text.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ParseProblem {
    /// First byte of the part that is wrong.
    pub start: usize,
    /// One past the last byte of the part that is wrong.
    pub end: usize,
    /// What was found and what was expected.
    pub message: String,
    /// What to write instead.
    pub help: String,
}

impl std::fmt::Display for ParseProblem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{} ({})", self.message, self.help)
    }
}

impl std::error::Error for ParseProblem {}

/// Low, typical and high of a parsed text, and whether it was one bare number.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Spread<Q> {
    pub low: Q,
    pub typical: Q,
    pub high: Q,
    pub bare: bool,
}

/// Reads one number with its unit.
///
/// # Errors
/// Names the wrong part and what to write: an unknown unit, another quantity's unit, no number, a value out of range.
///
/// ```
/// use modest_ohm::units::{Amps, Ohms, parse_quantity};
/// assert_eq!(parse_quantity::<Amps>("350mA").unwrap(), Amps::new(0.35));
/// assert_eq!(parse_quantity::<Ohms>("4k7").unwrap(), Ohms::new(4700.0));
/// assert!(parse_quantity::<Amps>("350 mV").unwrap_err().message.contains("mV"));
/// ```
pub fn parse_quantity<Q: Quantity>(text: &str) -> Result<Q, ParseProblem> {
    let text = &as_typed(text);
    no_decimal_comma(text)?;
    one::<Q>(&Piece::of(text, 0), None)
}

/// A number as our own output prints it, `−22 000`, in the characters of a keyboard.
fn as_typed(text: &str) -> Cow<'_, str> {
    if text.contains(['\u{202f}', '\u{a0}', '\u{2212}']) {
        Cow::Owned(text.replace(['\u{202f}', '\u{a0}'], "").replace('\u{2212}', "-"))
    } else {
        Cow::Borrowed(text)
    }
}

/// A comma between digits is most of Europe's decimal point; read as a separator it would change the value.
fn no_decimal_comma(text: &str) -> Result<(), ParseProblem> {
    let bytes = text.as_bytes();
    let is_digit = |i: usize| bytes.get(i).is_some_and(u8::is_ascii_digit);
    let Some(at) = (1..bytes.len()).find(|i| bytes[*i] == b',' && is_digit(i - 1) && is_digit(i + 1)) else {
        return Ok(());
    };
    let message = format!("`{text}` has a decimal comma");
    let help = format!("write a decimal point: `{}.{}`", &text[..at], &text[at + 1..]);
    Err(ParseProblem { start: 0, end: text.len(), message, help })
}

/// Reads a figure: one number, `a .. b`, `a .. b, typical c`, or `nominal ± tolerance`.
///
/// # Errors
/// As [`parse_quantity`]; also a range whose ends are the wrong way round.
///
/// ```
/// use modest_ohm::units::{Volts, parse_figure};
/// let f = parse_figure::<Volts>("12 V ± 5 %").unwrap();
/// assert!((f.low.get() - 11.4).abs() < 1e-12 && (f.high.get() - 12.6).abs() < 1e-12);
/// assert_eq!(parse_figure::<Volts>("9 .. 14.8 V").unwrap().low, Volts::new(9.0));
/// ```
pub fn parse_figure<Q: Quantity>(text: &str) -> Result<Figure<Q>, ParseProblem> {
    let s = parse_spread::<Q>(text)?;
    Ok(Figure { low: s.low, typical: s.typical, high: s.high, origin: Origin::Computed, bare: s.bare })
}

pub(crate) fn parse_spread<Q: Quantity>(text: &str) -> Result<Spread<Q>, ParseProblem> {
    let text = &*as_typed(text);
    no_decimal_comma(text)?;
    if let Some(at) = text.find("..") {
        return range(text, at);
    }
    for sign in ["±", "+/-", "+-"] {
        if let Some(at) = text.find(sign) {
            return tolerance(text, at, sign.len());
        }
    }
    let value = one::<Q>(&Piece::of(text, 0), None)?;
    Ok(Spread { low: value, typical: value, high: value, bare: true })
}

fn range<Q: Quantity>(text: &str, dots: usize) -> Result<Spread<Q>, ParseProblem> {
    let (left, right) = (&text[..dots], &text[dots + 2..]);
    let (right, typical) = match right.find(',') {
        Some(comma) => (&right[..comma], Some((&right[comma + 1..], dots + 2 + comma + 1))),
        None => (right, None),
    };
    let right_piece = Piece::of(right, dots + 2);
    let high = one::<Q>(&right_piece, None)?;
    // `9 .. 14.8 V`: the unit may stand once, at the end.
    let low = one::<Q>(&Piece::of(left, 0), unit_of(right_piece.text))?;
    if low.si() > high.si() {
        return Err(ParseProblem {
            start: 0,
            end: text.len(),
            message: format!("the range runs from {low} down to {high}"),
            help: "write the smaller value first".into(),
        });
    }
    let typical = match typical {
        None => Q::from_si((low.si() + high.si()) / 2.0),
        Some((words, offset)) => {
            let piece = Piece::of(words, offset);
            let Some(rest) = piece.text.strip_prefix("typical") else {
                return Err(piece.problem(
                    format!("found `{}` after the range", piece.text),
                    format!("after the comma write a typical value: `.., typical {}`", Q::EXAMPLE),
                ));
            };
            let value = one::<Q>(&Piece::of(rest, piece.start + "typical".len()), unit_of(right_piece.text))?;
            if value.si() < low.si() || value.si() > high.si() {
                return Err(piece.problem(
                    format!("the typical value {value} is outside {low} .. {high}"),
                    "write a typical value inside the range".into(),
                ));
            }
            value
        }
    };
    Ok(Spread { low, typical, high, bare: false })
}

fn tolerance<Q: Quantity>(text: &str, at: usize, sign_len: usize) -> Result<Spread<Q>, ParseProblem> {
    let typical = one::<Q>(&Piece::of(&text[..at], 0), None)?;
    let right = Piece::of(&text[at + sign_len..], at + sign_len);
    let half = if let Some(number) = right.text.strip_suffix('%') {
        let share = plain_number(number.trim_end()).ok_or_else(|| {
            right.problem(format!("`{}` is not a percentage", right.text), "write a tolerance as `± 5 %`".into())
        })?;
        typical.si().abs() * share / 100.0
    } else {
        one::<Q>(&right, None)?.si()
    };
    if half < 0.0 {
        return Err(right.problem("a tolerance cannot be negative".into(), "write `± 5 %`".into()));
    }
    let make = |value: f64| in_bounds::<Q>(value, text);
    Ok(Spread { low: make(typical.si() - half)?, typical, high: make(typical.si() + half)?, bare: false })
}

fn in_bounds<Q: Quantity>(value: f64, text: &str) -> Result<Q, ParseProblem> {
    let (low, high) = Q::BOUNDS;
    if value < low || value > high || value.is_nan() {
        return Err(ParseProblem {
            start: 0,
            end: text.len(),
            message: format!("{} is outside the range of {}", Q::from_si(value), Q::NAME),
            help: format!("write {} from {} to {}", Q::NAME, Q::from_si(low), Q::from_si(high)),
        });
    }
    Ok(Q::from_si(value))
}

/// A trimmed piece of a text with its place in the whole.
struct Piece<'a> {
    text: &'a str,
    start: usize,
}

impl<'a> Piece<'a> {
    fn of(text: &'a str, offset: usize) -> Self {
        let trimmed = text.trim_start();
        Self { text: trimmed.trim_end(), start: offset + text.len() - trimmed.len() }
    }

    fn problem(&self, message: String, help: String) -> ParseProblem {
        ParseProblem { start: self.start, end: self.start + self.text.len(), message, help }
    }
}

fn one<Q: Quantity>(piece: &Piece<'_>, unit_if_none: Option<&str>) -> Result<Q, ParseProblem> {
    let help = || format!("write {} such as `{}`", Q::NAME, Q::EXAMPLE);
    let digits = number_len(piece.text);
    if digits == 0 {
        return Err(piece.problem(format!("`{}` is not {}", piece.text, Q::NAME), help()));
    }
    let number = &piece.text[..digits];
    let mut unit = piece.text[digits..].trim_start();
    if unit.is_empty() {
        match unit_if_none {
            Some(given) => unit = given,
            None if plain_number(number) == Some(0.0) => return in_bounds::<Q>(0.0, piece.text),
            None => {
                return Err(piece.problem(format!("`{number}` has no unit"), help()));
            }
        }
    }
    // `4k7`, `2R2`: the prefix or R stands for the decimal point (Q::SYMBOL Ω only).
    if Q::SYMBOL == "Ω"
        && let Some(value) = letter_as_point(piece.text)
    {
        return in_bounds::<Q>(value, piece.text).map_err(|p| piece.problem(p.message, p.help));
    }
    let Some(value) = scaled::<Q>(number, unit) else {
        let start = piece.start + piece.text.len() - piece.text[digits..].trim_start().len();
        let symbol = symbol_of(unit).filter(|symbol| scaled::<Q>(number, symbol).is_some());
        return Err(ParseProblem {
            start,
            end: (piece.start + piece.text.len()).max(start),
            message: format!("`{unit}` is not a unit of {}", bare_name::<Q>()),
            help: symbol.map_or_else(help, |symbol| format!("write the symbol: `{number} {symbol}`")),
        });
    };
    in_bounds::<Q>(value, piece.text).map_err(|p| piece.problem(p.message, p.help))
}

/// The symbol of a unit that is written out.
fn symbol_of(word: &str) -> Option<&'static str> {
    let word = word.to_lowercase();
    let (word, per_metre) = match word.strip_suffix("/m") {
        Some(of) => (of.trim_end().to_owned(), true),
        None => (word, false),
    };
    let plural = |one: &str| word == one || word.strip_suffix('s') == Some(one);
    let words: [(&[&str], &str, &str); 15] = [
        (&["volt"], "V", "V/m"),
        (&["millivolt"], "mV", "mV/m"),
        (&["amp", "ampere"], "A", "A/m"),
        (&["milliamp", "milliampere"], "mA", "mA/m"),
        (&["watt"], "W", "W/m"),
        (&["ohm"], "Ω", "Ω/m"),
        (&["metre", "meter", "mtr"], "m", ""),
        (&["centimetre", "centimeter"], "cm", ""),
        (&["millimetre", "millimeter"], "mm", ""),
        (&["second", "sec"], "s", ""),
        (&["minute"], "min", ""),
        (&["hour"], "h", ""),
        (&["farad"], "F", ""),
        (&["microfarad"], "µF", ""),
        (&["degree", "degree c", "celsius", "deg c"], "°C", ""),
    ];
    let found = words.into_iter().find(|(names, ..)| names.iter().any(|one| plural(one)))?;
    let symbol = if per_metre { found.2 } else { found.1 };
    (!symbol.is_empty()).then_some(symbol)
}

fn bare_name<Q: Quantity>() -> &'static str {
    Q::NAME.split_once(' ').map_or(Q::NAME, |(_, name)| name)
}

fn unit_of(text: &str) -> Option<&str> {
    let unit = text[number_len(text)..].trim_start();
    (!unit.is_empty()).then_some(unit)
}

/// Bytes of a decimal number at the start of a text; 0 if there is none.
fn number_len(text: &str) -> usize {
    let bytes = text.as_bytes();
    let mut i = usize::from(bytes.first().is_some_and(|b| *b == b'-' || *b == b'+'));
    let (mut digits, mut point) = (0, false);
    while let Some(b) = bytes.get(i) {
        match b {
            b'0'..=b'9' => digits += 1,
            // `9 .. 14` has been split before; one point only.
            b'.' if !point => point = true,
            _ => break,
        }
        i += 1;
    }
    if digits == 0 {
        return 0;
    }
    // An exponent only if digits follow, so that `1 eV`-like words stay units.
    if bytes.get(i).is_some_and(|b| *b == b'e' || *b == b'E') {
        let mut j = i + 1;
        if bytes.get(j).is_some_and(|b| *b == b'-' || *b == b'+') {
            j += 1;
        }
        let first = j;
        while bytes.get(j).is_some_and(u8::is_ascii_digit) {
            j += 1;
        }
        if j > first {
            i = j;
        }
    }
    i
}

fn plain_number(text: &str) -> Option<f64> {
    (number_len(text) == text.len()).then(|| text.parse().ok()).flatten().filter(|v: &f64| v.is_finite())
}

/// Folds the power of ten into the text, so that `350 mA` is exactly 0.35.
fn with_power(number: &str, power: i32) -> Option<f64> {
    let (mantissa, exponent) = match number.find(['e', 'E']) {
        Some(at) => (&number[..at], number[at + 1..].parse::<i32>().ok()?),
        None => (number, 0),
    };
    let value: f64 = format!("{mantissa}e{}", exponent.checked_add(power)?).parse().ok()?;
    value.is_finite().then_some(value)
}

fn scaled<Q: Quantity>(number: &str, unit: &str) -> Option<f64> {
    for (spelling, power) in Q::UNITS {
        if unit == *spelling {
            return with_power(number, *power);
        }
        if Q::PREFIXES
            && let Some(prefix) = unit.strip_suffix(spelling)
            && let Some(p) = prefix_power(prefix)
        {
            return with_power(number, *power + p);
        }
    }
    // `10k` for a resistance: the unit is left out.
    if Q::SYMBOL == "Ω"
        && let Some(p) = prefix_power(unit).filter(|p| *p >= 3)
    {
        return with_power(number, p);
    }
    for (spelling, factor) in Q::ODD_UNITS {
        if unit == *spelling {
            return Some(number.parse::<f64>().ok()? * factor).filter(|v| v.is_finite());
        }
    }
    None
}

fn prefix_power(prefix: &str) -> Option<i32> {
    Some(match prefix {
        "p" => -12,
        "n" => -9,
        // u, MICRO SIGN and GREEK SMALL LETTER MU
        "u" | "\u{b5}" | "\u{3bc}" => -6,
        "m" => -3,
        "k" | "K" => 3,
        "M" => 6,
        "G" => 9,
        _ => return None,
    })
}

fn letter_as_point(text: &str) -> Option<f64> {
    let at = text.find(['R', 'k', 'K', 'M'])?;
    let (left, right) = (&text[..at], &text[at + 1..]);
    if left.is_empty() || right.is_empty() || !left.bytes().chain(right.bytes()).all(|b| b.is_ascii_digit()) {
        return None;
    }
    let power = match &text[at..=at] {
        "R" => 0,
        "M" => 6,
        _ => 3,
    };
    with_power(&format!("{left}.{right}"), power)
}
