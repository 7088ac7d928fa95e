//! Ways from a sender's level to a receiver's: straight, through a shifter, a divider or a resistor.

use super::divider::{DividerLimits, DividerNeed, divider};
use super::stock::Values;
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Fraction, Hertz, Metres, Ohms, Seconds, Volts};
use crate::tables::input::{ADVICE_A, INPUT_F, LEAD_F_PER_M, PROTECTION_V, RISE};

/// A threshold of an input: voltage, and the share of its supply that is added.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LevelThreshold {
    /// The voltage that do not depend on the supply.
    pub volts: Volts,
    /// The share of the supply.
    pub share: Fraction,
}

impl LevelThreshold {
    /// The threshold at a supply.
    #[must_use]
    pub fn at(self, supply: Volts) -> Volts {
        self.volts + supply * self.share.get()
    }
}

/// A signal that is to go from one supply to another.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LevelNeed {
    /// The sender's supply, at its lowest and its highest.
    pub sender: Range<Volts>,
    /// Its output's resistance.
    pub sender_ohms: Ohms,
    /// The receiver's supply, at its lowest and its highest.
    pub receiver: Range<Volts>,
    /// VIH of the receiver.
    pub vih: LevelThreshold,
    /// VIL of the receiver.
    pub vil: LevelThreshold,
    /// Absolute maximum of the receiver's input, where it does not clamp to its supply.
    pub most: Option<Volts>,
    /// How far their grounds may lie apart, in either direction.
    pub shift: Volts,
    /// How fast the signal changes.
    pub rate: Hertz,
    /// From the last part to the receiver.
    pub length: Metres,
    /// Either end sends; the sender's own input is taken to be of the receiver's kind, at its supply.
    pub bidirectional: bool,
    /// Of the resistors.
    pub tolerance: Fraction,
}

/// A way to do it.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct LevelOption {
    /// What stands between: `straight`, `hct-buffer` …
    pub option: &'static str,
    /// In words.
    pub what: String,
    /// The smallest margin of a high at the receiver, or at the input of what stands between if that is less.
    pub high_margin: Volts,
    /// The same of a low.
    pub low_margin: Volts,
    /// Why it does not do; empty where it does.
    pub why_not: Vec<String>,
}

impl LevelOption {
    /// True where it does.
    #[must_use]
    pub fn works(&self) -> bool {
        self.why_not.is_empty()
    }
}

/// An output into an input loses no more than this (electrical reference, "Boards, pins and levels").
const CMOS_V: f64 = 0.1;
const MARGIN_V: f64 = 0.3;
/// JEDEC HCT: its thresholds, its supply, and how fast it follows (typical of a buffer at 5 V).
const HCT: (f64, f64) = (2.0, 0.8);
const HCT_SUPPLY: (f64, f64) = (4.5, 5.5);
const BUFFER_HZ: f64 = 20e6;
/// A buffer for 1.65 .. 3.6 V whose inputs stand 5.5 V (typical).
const TOLERANT_SUPPLY: (f64, f64) = (1.65, 3.6);
const TOLERANT_MOST: f64 = 5.5;
/// Its thresholds, VIH and VIL, by its supply (JEDEC JESD8, of 3.3, 2.5 and 1.8 V logic).
fn tolerant_at(vdd: f64) -> (f64, f64) {
    match vdd {
        v if v >= 2.7 => (2.0, 0.8),
        v if v >= 2.3 => (1.7, 0.7),
        v => (0.65 * v, 0.35 * v),
    }
}

/// A resistor in a line is no smaller (electrical reference, "Boards, pins and levels").
const LEAST_OHMS: f64 = 220.0;
/// A FET shifter's pull-ups.
const FET_OHMS: f64 = 10e3;
/// A tap of more than this picks up what is near (typical).
const TAP_OHMS: f64 = 10e3;

impl LevelNeed {
    fn vih_at(&self, vdd: f64) -> f64 {
        self.vih.at(Volts::new(vdd)).get()
    }

    fn vil_at(&self, vdd: f64) -> f64 {
        self.vil.at(Volts::new(vdd)).get()
    }

    /// Margins of a level at the receiver, whatever its supply.
    fn margins(&self, high: f64, low: f64) -> (f64, f64) {
        let shift = self.shift.get().abs();
        let (least, most) = (self.receiver.low.get(), self.receiver.high.get());
        let vih = self.vih_at(least).max(self.vih_at(most));
        let vil = self.vil_at(least).min(self.vil_at(most));
        (high - shift - vih, vil - low - shift)
    }

    fn farads(&self) -> f64 {
        INPUT_F + LEAD_F_PER_M * self.length.get()
    }

    /// Half a period.
    fn half(&self) -> f64 {
        0.5 / self.rate.get()
    }

    /// Why an edge through a resistor is too slow.
    fn too_slow(&self, ohms: f64) -> Option<String> {
        let edge = RISE * ohms * self.farads();
        (edge > self.half())
            .then(|| format!("edges take {}; half a period is {}", Seconds::new(edge), Seconds::new(self.half())))
    }

    fn is_up(&self) -> bool {
        self.sender.high < self.receiver.high
    }

    /// The other direction.
    fn back(&self) -> Self {
        LevelNeed { sender: self.receiver, receiver: self.sender, most: None, ..*self }
    }
}

fn short(margins: (f64, f64)) -> Vec<String> {
    let mut why = Vec::new();
    if margins.0 < 0.0 {
        why.push(format!("high level is short by {}", Volts::new(-margins.0)));
    }
    if margins.1 < 0.0 {
        why.push(format!("low level is {} too high", Volts::new(-margins.1)));
    }
    why
}

fn way(way: &'static str, what: impl Into<String>, margins: (f64, f64), mut why_not: Vec<String>) -> LevelOption {
    why_not.splice(0..0, short(margins));
    LevelOption {
        option: way,
        what: what.into(),
        high_margin: Volts::new(margins.0),
        low_margin: Volts::new(margins.1),
        why_not,
    }
}

/// All ways, the simplest first; those that do not do say why.
///
/// ```
/// use modest_ohm::size::{self, LevelThreshold};
/// use modest_ohm::units::{Fraction, Hertz, Metres, Ohms, Range, Volts};
/// let need = size::LevelNeed {
///     sender: Range::new(Volts::new(3.2), Volts::new(3.4)),
///     sender_ohms: Ohms::new(33.0),
///     receiver: Range::new(Volts::new(4.75), Volts::new(5.25)),
///     vih: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.7) },
///     vil: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.3) },
///     most: None,
///     shift: Volts::new(0.0),
///     rate: Hertz::new(800e3),
///     length: Metres::new(0.5),
///     bidirectional: false,
///     tolerance: Fraction::new(0.05),
/// };
/// let ways = size::level(&need, &size::Values::of_series(size::Series::E24));
/// let first = ways.iter().find(|w| w.works()).unwrap();
/// assert_eq!(first.option, "hct-buffer");
/// ```
#[must_use]
pub fn level(need: &LevelNeed, values: &Values) -> Vec<LevelOption> {
    vec![
        both(need, straight),
        resistor(need, values),
        by_divider(need, values),
        hct(need),
        tolerant(need),
        both(need, fet),
    ]
}

/// A way that goes in both directions: the smaller margins of both, and what is against either.
fn both(need: &LevelNeed, way: fn(&LevelNeed) -> LevelOption) -> LevelOption {
    let there = way(need);
    if !need.bidirectional {
        return there;
    }
    let here = way(&need.back());
    let smaller = |a: Volts, b: Volts| if b < a { b } else { a };
    let mut why_not = there.why_not;
    why_not.extend(here.why_not.into_iter().map(|why| format!("in the other direction: {why}")));
    LevelOption {
        high_margin: smaller(there.high_margin, here.high_margin),
        low_margin: smaller(there.low_margin, here.low_margin),
        why_not,
        ..there
    }
}

/// What the receiver's protection would have to carry, behind some ohms.
fn clamp_a(need: &LevelNeed, ohms: f64) -> f64 {
    let arrives = need.sender.high.get() + need.shift.get().abs();
    ((arrives - need.receiver.low.get() - PROTECTION_V) / (need.sender_ohms.get() + ohms).max(1e-3)).max(0.0)
}

fn over(need: &LevelNeed, ohms: f64) -> Option<String> {
    let arrives = need.sender.high.get() + need.shift.get().abs();
    if let Some(most) = need.most {
        return (arrives > most.get()).then(|| format!("{} at the receiver; maximum {most}", Volts::new(arrives)));
    }
    let amps = clamp_a(need, ohms);
    (amps >= ADVICE_A).then(|| {
        format!(
            "{} flows through the receiver's protection diodes; rated {} for years",
            Amps::new(amps),
            Amps::new(ADVICE_A)
        )
    })
}

fn straight(need: &LevelNeed) -> LevelOption {
    let why = over(need, 0.0).into_iter().collect();
    way("straight", "no part between", need.margins(need.sender.low.get() - CMOS_V, CMOS_V), why)
}

/// A resistor alone, where a slow signal comes from a higher supply.
fn resistor(need: &LevelNeed, values: &Values) -> LevelOption {
    let mut why = Vec::new();
    if need.is_up() {
        why.push("it does not raise the level".into());
    }
    if need.bidirectional {
        why.push("it works in one direction only".into());
    }
    let excess = need.sender.high.get() + need.shift.get().abs() - need.receiver.low.get() - PROTECTION_V;
    let exact = (excess / ADVICE_A - need.sender_ohms.get()).max(LEAST_OHMS) / (1.0 - need.tolerance.get()).max(1e-9);
    // What arrives is held by the protection; high is as high as its supply.
    let high = (need.sender.low.get() - CMOS_V).min(need.receiver.high.get() + PROTECTION_V);
    let margins = need.margins(high, CMOS_V);
    let Some(ohms) = values.between(Ohms::new(exact), Ohms::new(f64::MAX)).first().copied() else {
        why.push(format!("{} or more needed; none of these values is that large", Ohms::new(exact)));
        return way("resistor", "one resistor", margins, why);
    };
    if need.most.is_some() {
        why.extend(over(need, ohms.get()));
    }
    why.extend(need.too_slow(ohms.get() * (1.0 + need.tolerance.get())));
    way("resistor", format!("{ohms} in series"), margins, why)
}

fn by_divider(need: &LevelNeed, values: &Values) -> LevelOption {
    let shift = need.shift.get().abs();
    let high = (need.sender.low.get() - CMOS_V - shift, need.sender.high.get() + shift);
    let least = need.vih_at(need.receiver.high.get()).max(need.vih_at(need.receiver.low.get())) + MARGIN_V;
    let asks = DividerNeed {
        input: Range::new(Volts::new(high.0), Volts::new(high.1)),
        tolerance: need.tolerance,
        most: need.most.unwrap_or(need.receiver.low + Volts::new(MARGIN_V)),
        least: Volts::new(least),
    };
    let limits = DividerLimits {
        // As large as the edges allow, so that little flows, and not so large that it picks up what is near.
        source: Ohms::new((need.half() / (RISE * need.farads())).min(TAP_OHMS)),
        current: Amps::new(5e-3),
        top: Ohms::new(470.0),
    };
    let mut why = Vec::new();
    if need.is_up() {
        why.push("it does not raise the level".into());
    }
    if need.bidirectional {
        why.push("it works in one direction only".into());
    }
    let found = if high.0 > 0.0 { divider(&asks, &limits, values, 1) } else { Vec::new() };
    match found.first() {
        Some(pair) => {
            let vih = least - MARGIN_V;
            let (_, low) = need.margins(0.0, CMOS_V);
            let what = format!("{} in series, {} to ground", pair.top, pair.bottom);
            way("divider", what, (pair.worst_low.get() - vih, low), why)
        }
        None => {
            if why.is_empty() {
                why.push(format!(
                    "no pair keeps the level between {} and {} at its limits",
                    Volts::new(least),
                    asks.most
                ));
            }
            way("divider", "two resistors", (0.0, 0.0), why)
        }
    }
}

fn within(volts: Range<Volts>, range: (f64, f64)) -> bool {
    volts.low.get() >= range.0 && volts.high.get() <= range.1
}

/// A buffer on the receiver's rail whose input takes a fixed level as high.
struct Buffer {
    way: &'static str,
    what: &'static str,
    supply: (f64, f64),
    /// VIH and VIL at its supply.
    thresholds: fn(f64) -> (f64, f64),
    most: f64,
    /// Why it stands no more.
    reach: &'static str,
}

fn buffer(need: &LevelNeed, buffer: &Buffer) -> LevelOption {
    let (supply, most, reach) = (buffer.supply, buffer.most, buffer.reach);
    let shift = need.shift.get().abs();
    let (one, other) = ((buffer.thresholds)(need.receiver.low.get()), (buffer.thresholds)(need.receiver.high.get()));
    let at_input = (need.sender.low.get() - CMOS_V - shift - one.0.max(other.0), one.1.min(other.1) - CMOS_V - shift);
    // Behind it both move with one rail.
    let rail = |vdd: f64| (vdd - CMOS_V - need.vih_at(vdd), need.vil_at(vdd) - CMOS_V);
    let (a, b) = (rail(need.receiver.low.get()), rail(need.receiver.high.get()));
    let margins = (at_input.0.min(a.0).min(b.0), at_input.1.min(a.1).min(b.1));
    let mut why = Vec::new();
    if !within(need.receiver, supply) {
        why.push(format!("it needs a supply of {} .. {}", Volts::new(supply.0), Volts::new(supply.1)));
    }
    if need.sender.high.get() + shift > most {
        why.push(format!("its input is rated {}{reach}", Volts::new(most)));
    }
    if need.bidirectional {
        why.push("it works in one direction only".into());
    }
    if need.rate.get() > BUFFER_HZ {
        why.push(format!("it follows up to about {}", Hertz::new(BUFFER_HZ)));
    }
    way(buffer.way, buffer.what, margins, why)
}

fn hct(need: &LevelNeed) -> LevelOption {
    buffer(
        need,
        &Buffer {
            way: "hct-buffer",
            what: "an HCT buffer on the receiver's rail",
            supply: HCT_SUPPLY,
            thresholds: |_| HCT,
            most: need.receiver.low.get() + PROTECTION_V,
            reach: " (its own supply and a diode)",
        },
    )
}

fn tolerant(need: &LevelNeed) -> LevelOption {
    buffer(
        need,
        &Buffer {
            way: "tolerant-buffer",
            what: "a buffer with inputs rated 5.5 V, on the receiver's rail",
            supply: TOLERANT_SUPPLY,
            thresholds: tolerant_at,
            most: TOLERANT_MOST,
            reach: "",
        },
    )
}

fn fet(need: &LevelNeed) -> LevelOption {
    let apart = (need.sender.high.get() - need.receiver.high.get()).abs();
    let mut why: Vec<String> = need.too_slow(FET_OHMS).into_iter().collect();
    if apart < MARGIN_V {
        why.push("both supplies are the same".into());
    }
    // Its output rises to the receiver's rail, and falls to the sender's low and a little.
    let rail = |vdd: f64| (vdd - need.vih_at(vdd), need.vil_at(vdd) - 2.0 * CMOS_V - need.shift.get().abs());
    let (a, b) = (rail(need.receiver.low.get()), rail(need.receiver.high.get()));
    let what = format!("a MOSFET shifter with {} to each rail", Ohms::new(FET_OHMS));
    way("fet-two-way", what, (a.0.min(b.0), a.1.min(b.1)), why)
}
