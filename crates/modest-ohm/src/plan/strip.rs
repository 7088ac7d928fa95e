//! `[strip.x]`: addressable pixels on two copper tracks, fed at any number of points.

use super::cable_text::read_cable;
use super::feed::{Feed, NodeRef, Return, read_optional_feed};
use super::fuse::read_fuse;
use super::power::Name;
use super::signals::{PinRef, Threshold, read_threshold};
use crate::quantity::{
    Amps, Celsius, Figure, Metres, Ohms, OhmsPerMetre, Origin, PerMetre, Quantity, Volts, parse_quantity,
};
use crate::text::{Named, Need, Problem, Reader, Span, Value};

/// Plans beyond this many pixels are refused.
pub(crate) const MOST_PIXELS: usize = 2_000_000;

#[derive(Clone, Debug)]
pub(crate) struct Strip {
    pub name: Name,
    pub length: Figure<Metres>,
    pub density: Figure<PerMetre>,
    pub pixels: usize,
    pub copper_feed: Figure<OhmsPerMetre>,
    pub copper_return: Figure<OhmsPerMetre>,
    pub pixel: Pixel,
    pub injections: Vec<Injection>,
    pub data: Option<Data>,
    pub cap: Option<Figure<Amps>>,
}

/// The law's figures of one pixel (electrical reference, "LED strips").
#[derive(Clone, Debug)]
pub(crate) struct Pixel {
    pub works: Option<Figure<Volts>>,
    pub sheet: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    pub quiescent: Figure<Amps>,
    pub quiescent_knee: Figure<Volts>,
    pub colours: Vec<Colour>,
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
}

impl Pixel {
    /// The stated absolute maximum, else 1.2 times the upper sheet volts.
    pub fn absolute_maximum(&self) -> Option<Figure<Volts>> {
        self.absolute.clone().or_else(|| {
            let top = self.sheet.as_ref()?.high * 1.2;
            Some(Figure::exact(top, Origin::Default("1.2 × the upper sheet volts where no absolute maximum is given")))
        })
    }
}

#[derive(Clone, Debug)]
pub(crate) struct Colour {
    pub name: String,
    pub current: Figure<Amps>,
    pub vf: Figure<Volts>,
    pub vreg: Figure<Volts>,
}

/// One feed point.
#[derive(Clone, Debug)]
pub(crate) struct Injection {
    pub span: Span,
    pub at_m: f64,
    pub feed: Feed,
}

/// How data reaches the first pixel.
#[derive(Clone, Debug)]
pub(crate) struct Data {
    pub span: Span,
    pub pin: Option<PinRef>,
    pub through: Option<(Named, usize)>,
    /// The strip whose data output feeds this one.
    pub after: Option<(Named, usize)>,
    /// Series resistor in front of the input.
    pub series: Option<Figure<Ohms>>,
    pub voh: Option<Figure<Volts>>,
    pub vol: Option<Figure<Volts>>,
    /// Thresholds of this strip's input, where they differ from its class's.
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
}

impl Strip {
    /// Nominal current at full white, A: what firmware counts.
    pub fn nominal_full_a(&self) -> f64 {
        self.pixels as f64 * (self.pixel.quiescent.typical.get() + self.colours_typical_a())
    }

    /// Nominal current when dark, A.
    pub fn nominal_dark_a(&self) -> f64 {
        self.pixels as f64 * self.pixel.quiescent.typical.get()
    }

    fn colours_typical_a(&self) -> f64 {
        self.pixel.colours.iter().map(|c| c.current.typical.get()).sum()
    }

    /// Position of a pixel from the start.
    pub fn position_m(&self, pixel: usize) -> f64 {
        (pixel as f64 + 0.5) / self.density.typical.get()
    }
}

pub(crate) fn read_strip(reader: &mut Reader<'_>, name: Name) -> Strip {
    let length = reader.required::<Metres>("length", Need::Positive);
    let density = reader.required::<PerMetre>("pixels", Need::Positive);
    let (copper_feed, copper_return) = read_copper(reader);
    let pixel = read_pixel(reader);
    let cap = reader.figure::<Amps>("firmware-cap", Need::Positive);
    let data = read_data(reader);
    let base = read_optional_feed(reader);
    let injections = read_injections(reader, &length, base.as_ref());
    let pixels = count_pixels(reader, &length, &density);
    let strip = Strip { name, length, density, pixels, copper_feed, copper_return, pixel, injections, data, cap };
    check_cap(reader, &strip);
    strip
}

/// No firmware can get below what the pixels draw when they are dark.
fn check_cap(reader: &Reader<'_>, strip: &Strip) {
    let dark = Amps::new(strip.nominal_dark_a());
    if let Some(cap) = strip.cap.as_ref().filter(|c| c.high < dark && !strip.pixel.quiescent.is_stand_in()) {
        reader.problem(Problem::new(
            reader.own_span("firmware-cap").unwrap_or(reader.span),
            format!(
                "`firmware-cap` of {} is {}, and its pixels draw {dark} when they are dark",
                reader.what(),
                cap.high
            ),
            "write what the firmware is set to; it has to be above that",
        ));
    }
}

fn count_pixels(reader: &Reader<'_>, length: &Figure<Metres>, density: &Figure<PerMetre>) -> usize {
    if length.is_stand_in() || density.is_stand_in() {
        return 1;
    }
    let counted = (length.typical.get() * density.typical.get() + 1e-6).floor();
    if (1.0..=MOST_PIXELS as f64).contains(&counted) {
        return counted as usize;
    }
    let message = if counted < 1.0 {
        format!("{} has no pixel: {} at {}", reader.what(), length.typical, density.typical)
    } else {
        format!("{} has {counted} pixels, more than the {MOST_PIXELS} a plan may have", reader.what())
    };
    let span = reader.own_span("length").unwrap_or(reader.span);
    reader.problem(Problem::new(span, message, "check `length` and `pixels`"));
    1
}

fn read_copper(reader: &mut Reader<'_>) -> (Figure<OhmsPerMetre>, Figure<OhmsPerMetre>) {
    let is_table = matches!(reader.node("copper").map(|n| &n.value), Some(Value::Table(_)));
    if is_table && let Some(mut inner) = reader.child("copper") {
        let pair = (inner.required("feed", Need::Positive), inner.required("return", Need::Positive));
        inner.finish();
        return pair;
    }
    let both = if reader.has("copper") {
        reader.required("copper", Need::Positive)
    } else {
        Figure {
            low: OhmsPerMetre::new(0.05),
            typical: OhmsPerMetre::new(0.10),
            high: OhmsPerMetre::new(0.16),
            origin: Origin::Default("strip copper 0.05 .. 0.16 Ω/m per conductor (typical of 10 mm strips)"),
            bare: false,
        }
    };
    (both.clone(), both)
}

fn read_pixel(reader: &mut Reader<'_>) -> Pixel {
    let works = reader.figure::<Volts>("works", Need::Positive);
    let sheet = reader.figure::<Volts>("sheet", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let quiescent = reader.required::<Amps>("quiescent", Need::NotNegative);
    let quiescent_knee =
        reader.figure_or::<Volts>("quiescent-knee", Need::Positive, Volts::new(1.5), "1.5 V typical of 5 V pixels");
    let vih = read_threshold(reader, "vih");
    let vil = read_threshold(reader, "vil");
    let mut colours = Vec::new();
    if let Some(mut table) = reader.child("colours") {
        for (key, _) in table.keys() {
            if let Some(mut inner) = table.child_named(&key) {
                let current = inner.required::<Amps>("current", Need::NotNegative);
                let vf = inner.required::<Volts>("vf", Need::NotNegative);
                let vreg = inner.required::<Volts>("vreg", Need::Positive);
                let span = inner.span;
                inner.finish();
                if vf.is_stand_in() || vreg.is_stand_in() {
                    continue;
                }
                if vreg.low.get() <= vf.low.get()
                    || vreg.high.get() <= vf.high.get()
                    || vreg.typical.get() <= vf.typical.get()
                {
                    reader.problem(Problem::new(
                        span,
                        format!(
                            "`colours.{key}` of {}: vreg {} is not above vf {}",
                            reader.what(),
                            vreg.typical,
                            vf.typical
                        ),
                        "vreg is where the colour reaches its full current",
                    ));
                    continue;
                }
                colours.push(Colour { name: key, current, vf, vreg });
            }
        }
    } else {
        reader.missing("colours", "name its class: `part = \"pixel-5v-rgb\"`, or state the colours");
    }
    Pixel { works, sheet, absolute, quiescent, quiescent_knee, colours, vih, vil }
}

fn read_data(reader: &mut Reader<'_>) -> Option<Data> {
    let mut inner = reader.child("data")?;
    let pin = inner.text("pin").map(|name| PinRef { name, controller: usize::MAX, pin: String::new() });
    let through = inner.text("through").map(|n| (n, usize::MAX));
    let after = inner.text("after").map(|n| (n, usize::MAX));
    let series = inner.figure::<Ohms>("series", Need::NotNegative);
    // Kept for the bench lists: it changes no solved number yet and is checked as text.
    let _ = read_cable(&mut inner, "cable", true);
    let voh = inner.figure::<Volts>("voh", Need::NotNegative);
    let vol = inner.figure::<Volts>("vol", Need::NotNegative);
    let vih = read_threshold(&mut inner, "vih");
    let vil = read_threshold(&mut inner, "vil");
    let span = inner.span;
    let what = inner.what().to_owned();
    inner.finish();
    if pin.is_some() == after.is_some() {
        reader.problem(Problem::new(
            span,
            format!("{what} names {}", if pin.is_some() { "both a pin and a strip before it" } else { "no sender" }),
            "write `pin = \"board.io27\"`, or `after = \"other-strip\"` for a strip that is chained",
        ));
        return None;
    }
    Some(Data { span, pin, through, after, series, voh, vol, vih, vil })
}

fn read_injections(reader: &mut Reader<'_>, length: &Figure<Metres>, base: Option<&Feed>) -> Vec<Injection> {
    // Of a length that could not be read no position is beyond the end.
    let length_m = if length.is_stand_in() { Metres::BOUNDS.1 } else { length.typical.get() };
    let Some(node) = reader.node("inject") else {
        let Some(base) = base else {
            reader.missing("from", "say which node feeds it: `from = \"wall\"`");
            return Vec::new();
        };
        return vec![Injection { span: reader.span, at_m: 0.0, feed: base.clone() }];
    };
    // With injections of their own, a cable or fuse on the strip itself would hang in the air.
    for key in ["cable", "return", "fuse"] {
        if let (true, Some(span)) = (reader.has(key), reader.own_span(key)) {
            reader.problem(Problem::new(
                span,
                format!("`{key}` of {} stands beside `inject`", reader.what()),
                format!("write it inside the injection: `inject = [ {{ at = \"start\", {key} = … }} ]`"),
            ));
        }
    }
    let items = match &node.value {
        Value::List(items) => items.as_slice(),
        Value::Table(_) => std::slice::from_ref(node),
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("`inject` of {} is {}, not a list of feed points", reader.what(), other.kind()),
                "write `inject = [ { at = \"start\", cable = \"0.4 m 18 AWG\" } ]`",
            ));
            return Vec::new();
        }
    };
    if items.is_empty() {
        reader.problem(Problem::new(
            node.span,
            format!("`inject` of {} is empty", reader.what()),
            "leave it out, or list a feed point",
        ));
    }
    let mut injections = Vec::new();
    for (i, item) in items.iter().enumerate() {
        let Value::Table(table) = &item.value else {
            reader.problem(Problem::new(
                item.span,
                format!("feed point {i} of {} is {}, not a table", reader.what(), item.value.kind()),
                "write `{ at = \"start\", cable = \"0.4 m 18 AWG\" }`",
            ));
            continue;
        };
        let mut inner = reader.nested(table, format!("`inject[{i}]` of {}", reader.what()), item.span, None);
        let own = read_optional_feed(&mut inner);
        let cable = if own.is_some() { None } else { read_cable(&mut inner, "cable", false) };
        let fuse = if own.is_some() { None } else { read_fuse(&mut inner) };
        let at_m = read_position(&mut inner, length_m);
        let back: Option<Return> = own.as_ref().and_then(|f| f.back.clone());
        inner.finish();
        let feed = match (own, base) {
            (Some(own), _) => own,
            (None, Some(base)) => Feed { from: base.from.clone(), cable, back, fuse },
            (None, None) => {
                reader.problem(Problem::new(
                    item.span,
                    format!("`inject[{i}]` of {} says no `from`, and neither does the strip", reader.what()),
                    "write `from = \"wall\"` on the strip, or in each feed point",
                ));
                continue;
            }
        };
        if let Some(at_m) = at_m {
            injections.push(Injection { span: item.span, at_m, feed });
        }
    }
    injections
}

fn read_position(inner: &mut Reader<'_>, length_m: f64) -> Option<f64> {
    let Some(at) = inner.text("at") else {
        if !inner.has("at") {
            inner.missing("at", "write `at = \"start\"`, `\"end\"` or a position such as `\"0.5 m\"`");
        }
        return None;
    };
    let span = at.span.unwrap_or(inner.span);
    match at.text.as_str() {
        "start" => return Some(0.0),
        "middle" => return Some(length_m / 2.0),
        "end" => return Some(length_m),
        _ => {}
    }
    match parse_quantity::<Metres>(&at.text) {
        Ok(x) if x.get() <= length_m * (1.0 + 1e-9) => Some(x.get().min(length_m)),
        Ok(x) => {
            inner.problem(Problem::new(
                span,
                format!("{} feeds at {x}, beyond the strip's {}", inner.what(), Metres::new(length_m)),
                "positions count from the start of the strip",
            ));
            None
        }
        Err(p) => {
            inner.problem(Problem::new(
                span,
                format!("`at` of {}: {}", inner.what(), p.message),
                "write `start`, `middle`, `end`, or a position such as `0.5 m`",
            ));
            None
        }
    }
}

/// Every node a strip refers to.
pub(crate) fn node_refs(strip: &mut Strip) -> impl Iterator<Item = &mut NodeRef> {
    strip.injections.iter_mut().flat_map(|i| {
        let back = i.feed.back.as_mut().map(|b| &mut b.to);
        std::iter::once(&mut i.feed.from).chain(back)
    })
}

/// The ambient at which everything is judged.
pub(crate) fn default_ambient() -> Figure<Celsius> {
    Figure::exact(Celsius::new(25.0), Origin::Default("25 °C unless the plan says"))
}
