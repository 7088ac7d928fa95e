//! Cables and fuses as a plan writes them: `"1.2 m 16 AWG"`, `{ feed = "42 mΩ", return = "55 mΩ" }`, `"5 A"`.

use crate::quantity::{Amps, Celsius, Corner, Figure, Metres, Ohms, Origin, Role, parse_quantity};
use crate::tables::{
    FuseFamily, Material, WireSize, ampacity_at, cold_ohms, conductor_ohms_per_metre, temperature_factor,
};
use crate::text::{Need, Node, Problem, Reader, Span, Value};

/// One run of two conductors, feed and return.
#[derive(Clone, Debug)]
pub(crate) struct Cable {
    pub span: Span,
    pub size: Option<WireSize>,
    pub insulation: Option<Figure<Celsius>>,
    pub material: Material,
    pub feed: Conductor,
    pub back: Conductor,
    ampacity: Option<Figure<Amps>>,
}

/// One conductor of a cable.
#[derive(Clone, Debug)]
pub(crate) enum Conductor {
    /// Length and Ω/m at 20 °C; warms with the current.
    Wire { length_m: f64, ohms_per_m: f64 },
    /// Stated resistance, taken as it stands.
    Stated(Figure<Ohms>),
}

/// Numbers of a conductor in one corner, at one ambient.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct ConductorOhms {
    /// At ambient.
    pub ohms: f64,
    /// Relative rise of the resistance at full ampacity; 0 where it does not warm.
    pub rise: f64,
}

impl Cable {
    pub fn ampacity(&self, ambient_c: f64) -> Option<f64> {
        if let Some(stated) = &self.ampacity {
            return Some(stated.low.get());
        }
        ampacity_at(self.size?, self.material, self.insulation.as_ref().map(|t| t.typical.get()), ambient_c)
    }

    pub fn insulation_c(&self) -> f64 {
        match (&self.insulation, self.size) {
            (Some(t), _) => t.typical.get(),
            (None, Some(size)) => size.insulation_c(),
            (None, None) => 60.0,
        }
    }

    /// The length of the feed conductor, if it is known.
    pub fn length_m(&self) -> Option<f64> {
        match self.feed {
            Conductor::Wire { length_m, .. } => Some(length_m),
            Conductor::Stated(_) => None,
        }
    }

    /// Resistance per conductor in a corner. In *low* the conductor warms up to its insulation's temperature.
    pub fn ohms(&self, conductor: &Conductor, ambient_c: f64, corner: Corner) -> ConductorOhms {
        match conductor {
            Conductor::Stated(figure) => ConductorOhms { ohms: figure.at(corner, Role::Resistance).get(), rise: 0.0 },
            Conductor::Wire { length_m, ohms_per_m } => {
                let at_ambient = temperature_factor(ambient_c);
                let hot = temperature_factor(self.insulation_c().max(ambient_c));
                ConductorOhms {
                    ohms: length_m * ohms_per_m * at_ambient,
                    rise: if corner == Corner::Low { hot / at_ambient - 1.0 } else { 0.0 },
                }
            }
        }
    }
}

/// Reads `cable = …` in its short or its table form. `signal` cables need no size.
pub(crate) fn read_cable(reader: &mut Reader<'_>, key: &'static str, signal: bool) -> Option<Cable> {
    let what = format!("`{key}` of {}", reader.what());
    let node = reader.node(key)?;
    match &node.value {
        Value::Text(text, offset) => short_form(reader, node, text, *offset, &what, signal),
        Value::Table(table) => {
            let mut inner = reader.nested(table, what, node.span, None);
            let cable = table_form(&mut inner, node.span, signal);
            inner.finish();
            cable
        }
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("{what} is {}, not a cable", other.kind()),
                "write length and size: `cable = \"1.2 m 16 AWG\"`",
            ));
            None
        }
    }
}

fn short_form(
    reader: &Reader<'_>,
    node: &Node,
    text: &str,
    offset: Option<usize>,
    what: &str,
    signal: bool,
) -> Option<Cable> {
    let fail = |start: usize, end: usize, message: String| {
        let span = offset.map_or(node.span, |o| Span { start: o + start, end: o + end });
        reader.problem(Problem::new(
            span,
            format!("{what}: {message}"),
            "write length and size, such as `1.2 m 16 AWG` or `0.5 m 0.75 mm²`",
        ));
    };
    let trimmed = text.trim_end();
    let (length_text, size) = match split_size(trimmed) {
        Ok(split) => split,
        Err((start, message)) => {
            fail(start, trimmed.len(), message);
            return None;
        }
    };
    let length = match parse_quantity::<Metres>(length_text) {
        Ok(length) => length,
        Err(p) => {
            fail(p.start, p.end.max(p.start + 1).min(text.len().max(1)), p.message);
            return None;
        }
    };
    if size.is_none() && !signal {
        fail(0, text.len(), "the conductor size is missing".into());
        return None;
    }
    Some(from_length(node.span, length.get(), None, size, false, Material::Copper))
}

/// Splits `1.2 m 16 AWG` into the length's text and the size.
fn split_size(text: &str) -> Result<(&str, Option<WireSize>), (usize, String)> {
    let units = [("AWG", true), ("awg", true), ("mm²", false), ("mm2", false), ("mm^2", false)];
    let Some((unit, awg)) = units.iter().find(|(u, _)| text.ends_with(u)) else { return Ok((text, None)) };
    let before = text[..text.len() - unit.len()].trim_end();
    let at = before.rfind(char::is_whitespace).map_or(0, |i| i + 1);
    let number = &before[at..];
    let start = at;
    if *awg {
        let n: i32 = number.parse().map_err(|_| (start, format!("`{number}` is no AWG size")))?;
        size_awg(n).map(|s| (before[..at].trim_end(), Some(s))).map_err(|m| (start, m))
    } else {
        let area: f64 = number.parse().map_err(|_| (start, format!("`{number}` is no cross-section")))?;
        size_mm2(area).map(|s| (before[..at].trim_end(), Some(s))).map_err(|m| (start, m))
    }
}

fn size_awg(n: i32) -> Result<WireSize, String> {
    if (0..=40).contains(&n) { Ok(WireSize::Awg(n)) } else { Err(format!("{n} AWG is outside 0 .. 40 AWG")) }
}

fn size_mm2(area: f64) -> Result<WireSize, String> {
    if (0.01..=300.0).contains(&area) {
        Ok(WireSize::Mm2(area))
    } else {
        Err(format!("{area} mm² is outside 0.01 .. 300 mm²"))
    }
}

fn from_length(
    span: Span,
    length: f64,
    back: Option<f64>,
    size: Option<WireSize>,
    solid: bool,
    material: Material,
) -> Cable {
    let ohms_per_m = size.map_or(0.0, |s| conductor_ohms_per_metre(s, solid, material));
    let wire = |length_m| Conductor::Wire { length_m, ohms_per_m };
    Cable {
        span,
        size,
        insulation: None,
        material,
        feed: wire(length),
        back: wire(back.unwrap_or(length)),
        ampacity: None,
    }
}

fn table_form(inner: &mut Reader<'_>, span: Span, signal: bool) -> Option<Cable> {
    let length = inner.figure::<Metres>("length", Need::NotNegative);
    let return_length = inner.figure::<Metres>("return-length", Need::NotNegative);
    let size = inner.text("size");
    let solid = inner.choice("core", &[("stranded", false), ("solid", true)]).unwrap_or(false);
    let material = inner
        .choice("material", &[("copper", Material::Copper), ("copper-clad", Material::CopperClad)])
        .unwrap_or_default();
    let insulation = inner.figure::<Celsius>("insulation", Need::Any);
    let ampacity = inner.figure::<Amps>("ampacity", Need::Positive);
    let feed = inner.figure::<Ohms>("feed", Need::NotNegative);
    let back = inner.figure::<Ohms>("return", Need::NotNegative);
    if feed.is_some() || back.is_some() {
        let (Some(feed), Some(back)) = (feed, back) else {
            inner.problem(Problem::new(
                span,
                format!("{} states the resistance of one conductor only", inner.what()),
                "write both: `{ feed = \"42 mΩ\", return = \"55 mΩ\" }`",
            ));
            return None;
        };
        let size = size.and_then(|s| named_size(inner, &s));
        return Some(Cable {
            span,
            size,
            insulation,
            material,
            feed: Conductor::Stated(feed),
            back: Conductor::Stated(back),
            ampacity,
        });
    }
    let Some(length) = length else {
        inner.missing("length", "write `length = \"1.2 m\"`, or the measured `feed` and `return`");
        return None;
    };
    let size = match size {
        Some(size) => Some(named_size(inner, &size)?),
        None if signal => None,
        None => {
            inner.missing("size", "write `size = \"16 AWG\"` or `size = \"0.75 mm²\"`");
            return None;
        }
    };
    let back = return_length.map(|f| f.typical.get());
    let mut cable = from_length(span, length.typical.get(), back, size, solid, material);
    cable.insulation = insulation;
    cable.ampacity = ampacity;
    Some(cable)
}

fn named_size(inner: &Reader<'_>, named: &crate::text::Named) -> Option<WireSize> {
    match split_size(named.text.trim()) {
        Ok(("", Some(size))) => Some(size),
        other => {
            let message = match other {
                Err((_, message)) => message,
                Ok(_) => format!("`{}` is no conductor size", named.text),
            };
            inner.problem(Problem::new(
                named.span,
                format!("{}: {message}", inner.what()),
                "write `16 AWG` or `0.75 mm²`",
            ));
            None
        }
    }
}

/// A fuse in a run.
#[derive(Clone, Debug)]
pub(crate) struct Fuse {
    pub rating: Figure<Amps>,
    pub family: FuseFamily,
    pub resistance: Figure<Ohms>,
}

impl Fuse {
    /// What it carries for ever, A.
    pub fn continuous_a(&self) -> f64 {
        self.rating.low.get() * self.family.load_factor()
    }
}

/// Reads `fuse = "5 A"` (a blade fuse) or its table form.
pub(crate) fn read_fuse(reader: &mut Reader<'_>) -> Option<Fuse> {
    let node = reader.node("fuse")?;
    let (rating, family, resistance) = if let Value::Table(table) = &node.value {
        let mut inner = reader.nested(table, format!("`fuse` of {}", reader.what()), node.span, None);
        let rating = inner.required::<Amps>("rating", Need::Positive);
        let family = inner
            .choice("family", &[("blade", FuseFamily::Blade), ("cartridge", FuseFamily::Cartridge)])
            .unwrap_or(FuseFamily::Blade);
        let resistance = inner.figure::<Ohms>("resistance", Need::NotNegative);
        inner.finish();
        (rating, family, resistance)
    } else {
        (reader.figure::<Amps>("fuse", Need::Positive)?, FuseFamily::Blade, None)
    };
    let resistance = resistance.unwrap_or_else(|| {
        Figure::exact(
            Ohms::new(cold_ohms(rating.typical.get())),
            Origin::Default("cold resistance of a blade fuse of this rating (typical)"),
        )
    });
    Some(Fuse { rating, family, resistance })
}

/// A plain lead of a size, for variants of a plan.
pub(crate) fn cable_of_size(span: Span, length_m: f64, size: WireSize) -> Cable {
    from_length(span, length_m, None, Some(size), false, Material::Copper)
}
