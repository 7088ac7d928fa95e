//! The law's figures of one pixel, or of one group of a plain strip; power and current per metre as labels give them.

use super::label::mapped;
use crate::plan::wiring::threshold::{Threshold, read_threshold};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, AmpsPerMetre, PerMetre, Quantity, Seconds, Volts};
use crate::text::order::at_most;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// How a strip is told what to show.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Protocol {
    /// One wire, no clock.
    OneWire,
    /// Clock and data.
    Clocked,
    /// Not at all: a plain strip.
    None,
}

/// How pixels are told what to show.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Timing {
    pub clocked: bool,
    /// Bits of one pixel; 8 a colour where nothing is said.
    pub bits: Option<usize>,
    #[figures(key = "bit-time")]
    pub bit: Figure<Seconds>,
    /// The pause that ends a frame.
    pub reset: Figure<Seconds>,
}

impl Pixel {
    /// Bits of one pixel.
    pub fn bits(&self) -> usize {
        self.timing.as_ref().map_or(0, |t| t.bits.unwrap_or(if t.clocked { 32 } else { 8 * self.colours.len() }))
    }

    /// Bytes that a board keeps of one pixel.
    pub fn bytes(&self) -> usize {
        if self.plain { 0 } else { self.colours.len() }
    }
}

/// The law's figures of one pixel (electrical reference, "LED strips").
#[derive(Clone, Debug, Figures)]
pub(crate) struct Pixel {
    #[figures(range)]
    pub works: Option<Figure<Volts>>,
    #[figures(range)]
    pub sheet: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    pub quiescent: Figure<Amps>,
    pub quiescent_knee: Figure<Volts>,
    pub colours: Vec<Colour>,
    pub vih: Option<Threshold>,
    /// What its data input stands, where that is not its supply.
    pub input_volts: Option<Figure<Volts>>,
    pub vil: Option<Threshold>,
    /// LEDs on resistors, nothing else: the current goes on rising above the rated voltage.
    pub plain: bool,
    /// The colours hang in series on one regulator: the pixel draws what its brightest colour draws, not the sum.
    pub in_series: bool,
    /// How it is told what to show; `None` of a plain strip.
    #[figures(flat)]
    pub timing: Option<Timing>,
}

/// One colour of a pixel: no current at `vf`, `current` from `vreg` on. Of a plain strip `vf` is what a group's LEDs
/// drop, and `vreg` the rated voltage at which `current` flows.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Colour {
    pub name: String,
    pub current: Figure<Amps>,
    pub vf: Figure<Volts>,
    pub vreg: Figure<Volts>,
}

impl Pixel {
    /// What the colours draw together at their levels, of currents given per colour.
    pub fn together(&self, currents: impl Iterator<Item = f64>) -> f64 {
        if self.in_series { currents.fold(0.0, f64::max) } else { currents.sum() }
    }

    /// The stated absolute maximum, else 1.2 times the upper sheet voltage.
    pub fn absolute_maximum(&self) -> Option<Figure<Volts>> {
        self.absolute.clone().or_else(|| {
            let top = self.sheet.as_ref()?.high * 1.2;
            Some(Figure::exact(top, Origin::Default("1.2 × the upper recommended voltage if no maximum is given")))
        })
    }
}

/// How the strip is driven; `true` for one that is not.
pub(crate) fn read_protocol(reader: &mut Reader<'_>) -> bool {
    protocol(reader) == Protocol::None
}

fn protocol(reader: &mut Reader<'_>) -> Protocol {
    let words = [("one-wire", Protocol::OneWire), ("clocked", Protocol::Clocked), ("none", Protocol::None)];
    reader.choice("protocol", &words).unwrap_or(Protocol::OneWire)
}

/// 800 kHz on one wire; 2 MHz of clock (typical of a clock made in software).
fn read_timing(reader: &mut Reader<'_>, plain: bool) -> Option<Timing> {
    let clocked = protocol(reader) == Protocol::Clocked;
    let bits = reader.whole("bits", 1..=128);
    let (bit, why) = if clocked {
        (Seconds::new(0.5e-6), "2 MHz clock, typical of a clock made in software")
    } else {
        (Seconds::new(1.25e-6), "800 kHz on one wire")
    };
    let bit = reader.figure_or("bit-time", Need::Positive, bit, why);
    let (reset, why) = if clocked {
        (Seconds::new(0.0), "clocked pixels need no pause")
    } else {
        (Seconds::new(300e-6), "300 µs of pause, typical of one-wire pixels")
    };
    let reset = reader.figure_or("reset", Need::NotNegative, reset, why);
    (!plain).then_some(Timing { clocked, bits, bit, reset })
}

pub(crate) fn read_pixel(
    reader: &mut Reader<'_>,
    density: &Figure<PerMetre>,
    voltage: Option<&Figure<Volts>>,
    per_metre: Option<&Figure<AmpsPerMetre>>,
    plain: Option<usize>,
) -> Pixel {
    let (plain, in_group) = (plain.is_some(), plain.unwrap_or(1));
    let works = reader.figure::<Volts>("minimum", Need::Positive);
    let sheet = reader.figure::<Volts>("recommended", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let help = "an absolute maximum is above what the datasheet recommends";
    at_most(
        reader,
        ("recommended", sheet.as_ref().map(|s| s.high)),
        ("absolute", absolute.as_ref().map(|a| a.high)),
        help,
    );
    let quiescent = if plain {
        reader.figure_or("quiescent", Need::NotNegative, Amps::new(0.0), "a plain strip draws nothing when dark")
    } else {
        reader.required::<Amps>("quiescent", Need::NotNegative)
    };
    let quiescent_knee =
        reader.figure_or::<Volts>("quiescent-knee", Need::Positive, Volts::new(1.5), "1.5 V, typical of 5 V pixels");
    let vih = read_threshold(reader, "vih");
    let input_volts = reader.figure::<Volts>("input-voltage", Need::Positive);
    let vil = read_threshold(reader, "vil");
    let timing = read_timing(reader, plain);
    let in_series = reader.flag("colours-in-series", false);
    let count = reader.child("colours").map_or(0, |mut t| t.keys().len());
    let count = if in_series { count.min(1) } else { count };
    let share = per_metre.and_then(|amps| each(reader, amps, density, &quiescent, count));
    let colours = read_colours(reader, density, voltage, share.as_ref(), plain.then_some(in_group));
    Pixel {
        works,
        sheet,
        absolute,
        quiescent,
        quiescent_knee,
        colours,
        vih,
        vil,
        input_volts,
        plain,
        in_series,
        timing,
    }
}

/// What of the current per metre one colour of one pixel draws: all colours alike, the quiescent current taken off.
fn each(
    reader: &Reader<'_>,
    amps: &Figure<AmpsPerMetre>,
    density: &Figure<PerMetre>,
    quiescent: &Figure<Amps>,
    colours: usize,
) -> Option<Figure<Amps>> {
    if colours == 0 || density.is_stand_in() {
        return None;
    }
    let of = |a: AmpsPerMetre| {
        Amps::new((a.get() / density.typical.get() - quiescent.typical.get()).max(0.0) / colours as f64)
    };
    if of(amps.typical).get() <= 0.0 {
        let key = if reader.own_or_class("current") { "current" } else { "power" };
        reader.problem(Problem::new(
            reader.own_span(key).unwrap_or(reader.span),
            format!(
                "{} draws {} per metre in all, but its pixels alone {} when dark",
                reader.what(),
                amps.typical,
                AmpsPerMetre::new(quiescent.typical.get() * density.typical.get())
            ),
            "check its power or current per metre, and `pixels`",
        ));
        return None;
    }
    Some(mapped(amps, of))
}

fn read_colours(
    reader: &mut Reader<'_>,
    density: &Figure<PerMetre>,
    voltage: Option<&Figure<Volts>>,
    share: Option<&Figure<Amps>>,
    plain: Option<usize>,
) -> Vec<Colour> {
    let (plain, in_group) = (plain.is_some(), plain.unwrap_or(1));
    let Some(mut table) = reader.child("colours") else {
        reader.missing("colours", "set `part = \"pixel-5v-rgb\"`, or describe the colours");
        return Vec::new();
    };
    let mut colours = Vec::new();
    let (mut unsaid, mut unrated) = (false, false);
    for (key, _) in table.keys() {
        let Some(mut inner) = table.child_named(&key) else { continue };
        let own = if share.is_some() && inner.own_span("current").is_none() {
            let _ = inner.node("current");
            None
        } else {
            colour_current(&mut inner, density)
        };
        let current = match (own, share) {
            (Some(own), _) => own,
            (None, Some(share)) => share.clone(),
            (None, None) => {
                unsaid |= !inner.own_or_class("current");
                Figure::stand_in()
            }
        };
        let (vf, stated) = if plain {
            knee_of(&mut inner, &key, in_group)
        } else {
            (inner.required::<Volts>("vf", Need::NotNegative), None)
        };
        let vreg = match voltage.filter(|_| plain) {
            Some(rated) => Figure::exact(rated.typical, rated.origin.clone()),
            None if plain => {
                unrated = true;
                Figure::stand_in()
            }
            None => inner.required::<Volts>("vreg", Need::Positive),
        };
        let span = inner.span;
        inner.finish();
        if vf.is_stand_in() || vreg.is_stand_in() || current.is_stand_in() {
            continue;
        }
        if let Some((message, help)) = below_vf(reader.what(), &key, plain, &vreg, stated.as_ref().unwrap_or(&vf)) {
            reader.problem(Problem::new(span, message, help));
            continue;
        }
        colours.push(Colour { name: key, current, vf, vreg });
    }
    // A label that could not be read is reported already.
    if unsaid && !reader.own_or_class("power") && !reader.own_or_class("current") {
        reader.missing("power", "write what its label says: `power = \"14.4 W/m\"`, or `current = \"1.2 A/m\"`");
    }
    if unrated && !reader.own_or_class("voltage") {
        reader.missing("voltage", "the values of a plain strip are at rated voltage: `voltage = \"12 V\"`");
    }
    colours
}

/// What the plan says itself is held against its rated voltage, not the knee that follows from it.
fn below_vf(
    what: &str,
    key: &str,
    plain: bool,
    vreg: &Figure<Volts>,
    vf: &Figure<Volts>,
) -> Option<(String, &'static str)> {
    let is_below = |of: fn(&Figure<Volts>) -> Volts| of(vreg) <= of(vf);
    if !is_below(|f| f.low) && !is_below(|f| f.high) && !is_below(|f| f.typical) {
        return None;
    }
    let (which, help) = if plain {
        ("the rated voltage", "a group's LEDs drop less than its rated voltage; the resistor drops the rest")
    } else {
        ("vreg", "vreg is where the colour reaches its full current")
    };
    let message = format!("`colours.{key}` of {what}: {which} {} is not above vf {}", vreg.typical, vf.typical);
    Some((message, help))
}

/// Below its full current an LED drops less than its datasheet says: so much, V, of a red one and of any other (typical
/// of the straight line through 10 % and 100 % of its curve).
const BELOW_FULL_V: (f64, f64) = (0.17, 0.35);

/// The voltage of a group's string from which its current grows along a straight line: stated, else from what its LEDs
/// drop at full current.
fn knee_of(inner: &mut Reader<'_>, colour: &str, in_group: usize) -> (Figure<Volts>, Option<Figure<Volts>>) {
    let knee = inner.figure::<Volts>("knee", Need::NotNegative);
    let vf = if knee.is_some() {
        inner.figure("vf", Need::NotNegative)
    } else {
        Some(inner.required("vf", Need::NotNegative))
    };
    let below = in_group as f64 * if colour == "red" { BELOW_FULL_V.0 } else { BELOW_FULL_V.1 };
    let lower = |v: Volts| Volts::new((v.get() - below).max(0.0));
    let of_vf = |vf: &Figure<Volts>| if vf.is_stand_in() { vf.clone() } else { mapped(vf, lower) };
    let knee = knee.unwrap_or_else(|| vf.as_ref().map_or_else(Figure::stand_in, of_vf));
    (knee, vf)
}

/// `order = "grb"`: the initials of its colours, as its data takes them.
pub(crate) fn read_order(reader: &mut Reader<'_>, pixel: &Pixel) -> Option<String> {
    let mut said = reader.text("order")?;
    said.text.make_ascii_lowercase();
    let initials = |names: &mut dyn Iterator<Item = char>| {
        let mut letters: Vec<char> = names.collect();
        letters.sort_unstable();
        letters
    };
    let own = initials(&mut pixel.colours.iter().filter_map(|c| c.name.chars().next()));
    // Of a class that is not known the colours are not either.
    if own.is_empty() || initials(&mut said.text.chars()) == own {
        return Some(said.text);
    }
    // A class's order is that of the class's colours.
    reader.own_span("order")?;
    let example: String = own.iter().collect();
    reader.problem(Problem::new(
        said.span,
        format!("`order` of {} is `{}`, which does not name each of its colours once", reader.what(), said.text),
        format!("write the initials of its colours in data order, for example `order = \"{example}\"`"),
    ));
    None
}

/// Amps of a colour: of one pixel, or per metre.
fn colour_current(inner: &mut Reader<'_>, density: &Figure<PerMetre>) -> Option<Figure<Amps>> {
    let per_metre = matches!(inner.node("current").map(|n| &n.value), Some(Value::Text(t, _)) if t.contains('/'));
    if !per_metre {
        return inner.has("current").then(|| inner.figure("current", Need::NotNegative)).flatten();
    }
    let amps = inner.figure::<AmpsPerMetre>("current", Need::NotNegative)?;
    let of = |a: AmpsPerMetre| Amps::from_si(a.get() / density.typical.get());
    Some(mapped(&amps, of))
}
