//! Boards and level shifters: `controller`, `shifter`.

use super::feed::{Feed, read_feed, read_terminal_feed};
use super::power::Name;
use crate::quantity::{Amps, Figure, Fraction, Origin, Volts};
use crate::text::{Named, Need, Reader};

/// A logic threshold: fixed volts, or a share of the receiver's VDD.
#[derive(Clone, Debug)]
pub(crate) enum Threshold {
    Volts(Figure<Volts>),
    OfVdd(Figure<Fraction>),
}

impl Threshold {
    /// The threshold at a VDD.
    pub fn at(&self, vdd: f64) -> f64 {
        match self {
            Threshold::Volts(v) => v.typical.get(),
            Threshold::OfVdd(f) => f.typical.get() * vdd,
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

/// `[controller.x]`.
#[derive(Clone, Debug)]
pub(crate) struct Controller {
    pub name: Name,
    pub feed: Feed,
    /// The feed terminal's name; `name.terminal` is its node.
    pub terminal: String,
    /// Mean current of the board itself at its feed terminal.
    pub mean: Figure<Amps>,
    /// Bursts of milliseconds.
    pub peak: Figure<Amps>,
    pub knee: Option<Figure<Volts>>,
    pub recommended: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    /// Below it at the feed terminal the board resets.
    pub brown_out: Option<Figure<Volts>>,
    /// The on-board regulator that makes the logic volts; without one the logic runs on the feed.
    pub regulator: Option<Regulator>,
    /// Pins by name; empty where the class lists none.
    pub pins: Vec<String>,
}

/// The on-board regulator.
#[derive(Clone, Debug)]
pub(crate) struct Regulator {
    pub output: String,
    pub voltage: Figure<Volts>,
    pub dropout: Figure<Volts>,
    /// What the regulator carries altogether, the board's own mean included.
    pub limit: Option<Figure<Amps>>,
}

pub(crate) fn read_controller(reader: &mut Reader<'_>, name: Name) -> Controller {
    let terminal = reader.text("terminal").map_or_else(|| "5v".to_owned(), |t| t.text);
    let feed = read_terminal_feed(reader, &terminal);
    let mean = reader.required::<Amps>("mean", Need::NotNegative);
    let peak = reader.figure::<Amps>("peak", Need::NotNegative);
    let knee = reader.figure::<Volts>("knee", Need::Positive);
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let brown_out = reader.figure::<Volts>("brown-out", Need::Positive);
    let pins = reader.texts("pins").into_iter().map(|n| n.text).collect();
    let regulator = reader.child("regulator").and_then(|mut inner| {
        let output = inner.text("output");
        let voltage = inner.required::<Volts>("voltage", Need::Positive);
        let dropout = inner.figure_or::<Volts>("dropout", Need::NotNegative, Volts::new(1.2), "1.1 V .. 1.3 V typical");
        let limit = inner.figure::<Amps>("limit", Need::Positive);
        if output.is_none() {
            inner.missing("output", "name its output node: `output = \"3v3\"`");
        }
        inner.finish();
        Some(Regulator { output: output?.text, voltage, dropout, limit })
    });
    let peak = peak.unwrap_or_else(|| mean.clone());
    Controller { name, feed, terminal, mean, peak, knee, recommended, absolute, brown_out, regulator, pins }
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
}

pub(crate) fn read_shifter(reader: &mut Reader<'_>, name: Name) -> Shifter {
    let feed = read_feed(reader);
    let current =
        reader.figure_or::<Amps>("current", Need::NotNegative, Amps::new(0.001), "1 mA, typical of one buffer in use");
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let vih = read_threshold(reader, "vih");
    let vil = read_threshold(reader, "vil");
    Shifter { name, feed, current, recommended, absolute, vih, vil }
}

/// One end of a signal as the plan names it: `"keeper.io27"`.
#[derive(Clone, Debug)]
pub(crate) struct PinRef {
    pub name: Named,
    pub controller: usize,
    pub pin: String,
}

/// A default origin for levels of CMOS outputs.
pub(crate) fn cmos_default() -> Origin {
    Origin::Default("a CMOS output into a CMOS input: VDD − 0.1 V and 0.1 V (typical)")
}
