//! Level shifters (`shifter`), thresholds and pins.

use super::feed::{Feed, read_feed, read_terminal_feeds};
use super::power::Name;
use crate::quantity::{Amps, Figure, Fraction, Metres, Ohms, Origin, Seconds, Volts};
use crate::text::{Named, Need, Problem, Reader, Value};

/// A logic threshold: fixed volts, or a share of the receiver's VDD.
#[derive(Clone, Debug)]
pub(crate) enum Threshold {
    Volts(Figure<Volts>),
    OfVdd(Figure<Fraction>),
}

impl Threshold {
    /// From here on every part of its kind takes a level as high, at a VDD: the upper end of a range that is given.
    pub fn surely_high(&self, vdd: f64) -> f64 {
        match self {
            Threshold::Volts(v) => v.high.get(),
            Threshold::OfVdd(f) => f.high.get() * vdd,
        }
    }

    /// Up to here every part of its kind takes a level as low, at a VDD.
    pub fn surely_low(&self, vdd: f64) -> f64 {
        match self {
            Threshold::Volts(v) => v.low.get(),
            Threshold::OfVdd(f) => f.low.get() * vdd,
        }
    }
}

/// Reads a threshold: `"2.0 V"` or `"70 %"` (of VDD).
pub(crate) fn read_threshold(reader: &mut Reader<'_>, key: &'static str) -> Option<Threshold> {
    let is_share = matches!(reader.node(key).map(|n| &n.value), Some(crate::text::Value::Text(t, _)) if t.trim_end().ends_with('%'));
    if is_share {
        reader.figure(key, Need::Positive).map(Threshold::OfVdd)
    } else {
        reader.figure(key, Need::NotNegative).map(Threshold::Volts)
    }
}

/// `[shifter.x]`: a buffer that lifts levels.
#[derive(Clone, Debug)]
pub(crate) struct Shifter {
    pub name: Name,
    pub feed: Feed,
    pub current: Figure<Amps>,
    pub recommended: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
    /// True where its inputs take no current while it has no supply.
    pub lets_go: bool,
    /// The resistor through which alone its output rises.
    pub pull: Option<Figure<Ohms>>,
    /// How long its output takes to rise.
    pub edge: Option<Figure<Seconds>>,
    /// How data comes to its input.
    pub input: DataLead,
    /// The feed of its low side, of one between two supplies; `feed` is that of its high side.
    pub low: Option<Feed>,
    pub sends: Sends,
    /// What its input stands, where that is not its supply.
    pub input_volts: Option<Figure<Volts>>,
}

/// Which way a shifter between two supplies sends.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Sends {
    /// From the low side to the high side.
    Up,
    Down,
    /// Either way, as its signals go.
    Both,
}

/// The data lead to a part's input: its length, and the resistor at its beginning.
#[derive(Clone, Debug, Default)]
pub(crate) struct DataLead {
    pub length: Option<Figure<Metres>>,
    pub series: Option<Figure<Ohms>>,
}

pub(crate) fn read_data_lead(reader: &mut Reader<'_>) -> DataLead {
    DataLead {
        length: reader.figure::<Metres>("lead", Need::NotNegative),
        series: reader.figure::<Ohms>("series", Need::NotNegative),
    }
}

pub(crate) fn read_shifter(reader: &mut Reader<'_>, name: Name) -> Shifter {
    let (feed, low) = read_sides(reader);
    let current =
        reader.figure_or::<Amps>("current", Need::NotNegative, Amps::new(0.001), "1 mA, typical of one buffer in use");
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let vih = read_threshold(reader, "vih");
    let vil = read_threshold(reader, "vil");
    let lets_go = reader.flag("lets-go", false);
    let pull = reader.figure::<Ohms>("pull", Need::Positive);
    let edge = reader.figure::<Seconds>("edge", Need::Positive);
    let input = read_data_lead(reader);
    let sends =
        reader.choice("sends", &[("up", Sends::Up), ("down", Sends::Down), ("both", Sends::Both)]).unwrap_or(Sends::Up);
    let input_volts = reader.figure::<Volts>("input-volts", Need::Positive);
    Shifter {
        name,
        feed,
        current,
        recommended,
        absolute,
        vih,
        vil,
        lets_go,
        pull,
        edge,
        input,
        low,
        sends,
        input_volts,
    }
}

/// A pin that a plan names.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct PinAt {
    pub controller: usize,
    /// Among the board's pins; `None` where the board lists none, or none of this name.
    pub index: Option<usize>,
    /// The chip's name, `io27`; of a pin that is not listed as it is written.
    pub pin: String,
}

impl PinAt {
    /// True where the plan leaves the pin open: `keeper.any`.
    pub fn is_open(&self) -> bool {
        self.index.is_none() && self.pin == OPEN_PIN
    }
}

impl super::Plan {
    /// A pin by its board and the chip's name: `keeper.io12`.
    pub(crate) fn pin_name(&self, pin: &PinAt) -> String {
        match self.controllers.get(pin.controller) {
            Some(board) => format!("{}.{}", board.name.text, pin.pin),
            None => pin.pin.clone(),
        }
    }

    /// A pin in words, in both numberings where its board has both: `keeper.io12` (p13), with the marks of code.
    pub(crate) fn pin_words(&self, pin: &PinAt) -> String {
        let Some(board) = self.controllers.get(pin.controller) else { return format!("`{}`", pin.pin) };
        let listed = pin.index.and_then(|i| board.pins.list.get(i));
        let position = listed.and_then(|p| p.position.as_deref()).filter(|p| *p != pin.pin);
        let place = position.map_or_else(String::new, |p| format!(" ({p})"));
        format!("`{}`{place}", self.pin_name(pin))
    }
}

/// What stands for a pin that is still to be chosen.
pub(crate) const OPEN_PIN: &str = "any";

/// One end of a signal as the plan names it: `"keeper.io27"`; once names are resolved, by the chip's name.
#[derive(Clone, Debug)]
pub(crate) struct PinRef {
    pub name: Named,
    pub at: PinAt,
}

impl PinRef {
    pub fn new(name: Named) -> Self {
        Self { name, at: PinAt { controller: usize::MAX, index: None, pin: String::new() } }
    }
}

/// `from = "five"`, or `from = { low = "keeper.3v3", high = "five" }` of one between two supplies.
fn read_sides(reader: &mut Reader<'_>) -> (Feed, Option<Feed>) {
    if !matches!(reader.node("from").map(|n| &n.value), Some(Value::Table(_))) {
        return (read_feed(reader), None);
    }
    let span = reader.own_span("from");
    let mut sides = read_terminal_feeds(reader, Some(&["low", "high"]));
    let mut side = |name: &str| sides.iter().position(|(n, _)| n == name).map(|i| sides.swap_remove(i).1);
    let (low, high) = (side("low"), side("high"));
    if low.is_some() != high.is_some() {
        let missing = if low.is_some() { "high" } else { "low" };
        reader.problem(Problem::new(
            span,
            format!("{} says nothing of its {missing} side", reader.what()),
            "write both: `from = { low = \"keeper.3v3\", high = \"five\" }`",
        ));
    }
    (high.unwrap_or_else(Feed::stand_in), low)
}

/// A default origin for levels of CMOS outputs.
pub(crate) fn cmos_default() -> Origin {
    Origin::Default("a CMOS output into a CMOS input: VDD − 0.1 V and 0.1 V (typical)")
}
