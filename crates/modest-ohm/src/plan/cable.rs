//! Cables as a plan writes them: `"1.2 m 16 AWG"`, `{ feed = "42 mΩ", return = "55 mΩ" }`.

use super::contact::{Contact, LeadEnd, contact_of, lead_end, read_contacts};
use crate::quantity::{Amps, Celsius, Corner, Figure, Metres, Ohms, Role, parse_quantity};
use crate::tables::{Material, WireSize, ampacity_at, conductor_ohms_per_metre, temperature_factor};
use crate::text::{Named, Need, Node, Problem, Reader, Span, Value};

/// One run of two conductors, feed and return.
#[derive(Clone, Debug)]
pub(crate) struct Cable {
    pub span: Span,
    pub size: Option<WireSize>,
    pub insulation: Option<Figure<Celsius>>,
    pub material: Material,
    pub solid: bool,
    pub feed: Conductor,
    pub back: Conductor,
    ampacity: Option<Figure<Amps>>,
    /// Wires side by side for each conductor.
    pub parallel: usize,
    /// Loaded pairs that lie together, its own included.
    pub pairs: usize,
    /// What it passes on its way.
    pub joints: Vec<Contact>,
    /// What its ends go into: at the source, at the load.
    pub into: [Option<Contact>; 2],
    pub ends: [Option<LeadEnd>; 2],
    /// Its cores, the feed first, then the return.
    pub cores: Vec<Core>,
    /// Whether it came with the device that it feeds.
    pub factory: Option<bool>,
}

/// What a core looks like.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Core {
    pub colour: String,
    /// A stripe, a print, its place in the middle.
    pub mark: String,
}

impl Core {
    /// `black, stripe`.
    pub fn name(&self) -> String {
        if self.mark.is_empty() { self.colour.clone() } else { format!("{} ({})", self.colour, self.mark) }
    }
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
    /// What each conductor carries for ever in air of this temperature, A; `None` where its size is not known.
    pub fn ampacity(&self, ambient_c: f64) -> Option<f64> {
        if let Some(stated) = &self.ampacity {
            return Some(stated.low.get());
        }
        Some(self.ampacity_of(self.size?, ambient_c)? * self.parallel as f64)
    }

    /// What one wire of a size carries as this cable is laid.
    pub fn ampacity_of(&self, size: WireSize, ambient_c: f64) -> Option<f64> {
        let insulation = self.insulation.as_ref().map(|t| t.typical.get());
        ampacity_at(size, self.material, insulation, ambient_c, self.pairs)
    }

    /// The ampacity that the user states, if he does.
    pub fn stated_ampacity(&self) -> Option<&Figure<Amps>> {
        self.ampacity.as_ref()
    }

    /// Copper of one conductor, mm², wires side by side counted together.
    pub fn area_mm2(&self) -> Option<f64> {
        self.size.map(|s| s.area_mm2() * self.parallel as f64)
    }

    /// All contacts that each conductor passes, from the source on.
    pub fn contacts(&self) -> impl Iterator<Item = &Contact> {
        self.into[0].iter().chain(&self.joints).chain(&self.into[1])
    }

    pub fn contacts_mut(&mut self) -> impl Iterator<Item = &mut Contact> {
        let [near, far] = &mut self.into;
        near.iter_mut().chain(&mut self.joints).chain(far)
    }

    /// Resistance of the contacts in each conductor, Ω.
    pub fn contact_ohms(&self, corner: Corner) -> f64 {
        self.contacts().map(|c| c.ohms(corner)).sum()
    }

    /// How warm a current makes the conductor, °C: Ta + (T_ins − Ta)·(I/ampacity)²; `None` where its size is not known.
    pub fn temperature_c(&self, ambient_c: f64, amps: f64) -> Option<f64> {
        let ampacity = self.ampacity(ambient_c).filter(|a| *a > 0.0)?;
        Some(ambient_c + (self.insulation_c() - ambient_c) * (amps / ampacity).powi(2))
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
    Some(from_length(node.span, length.get(), None, Made { size, ..Made::default() }))
}

/// Splits `1.2 m 16 AWG` into the length's text and the size.
fn split_size(text: &str) -> Result<(&str, Option<WireSize>), (usize, String)> {
    let units = ["AWG", "awg", "mm²", "mm2", "mm^2"];
    let Some(unit) = units.iter().find(|u| text.ends_with(**u)) else { return Ok((text, None)) };
    let before = text[..text.len() - unit.len()].trim_end();
    let at = before.rfind(char::is_whitespace).map_or(0, |i| i + 1);
    let size = text[at..].parse::<WireSize>().map_err(|message| (at, message))?;
    Ok((before[..at].trim_end(), Some(size)))
}

/// How the wires of a cable are made.
#[derive(Clone, Copy, Default)]
struct Made {
    size: Option<WireSize>,
    solid: bool,
    material: Material,
}

fn from_length(span: Span, length: f64, back: Option<f64>, made: Made) -> Cable {
    let ohms_per_m = made.size.map_or(0.0, |s| conductor_ohms_per_metre(s, made.solid, made.material));
    let wire = |length_m| Conductor::Wire { length_m, ohms_per_m };
    Cable {
        span,
        size: made.size,
        insulation: None,
        material: made.material,
        solid: made.solid,
        feed: wire(length),
        back: wire(back.unwrap_or(length)),
        ampacity: None,
        parallel: 1,
        pairs: 1,
        joints: Vec::new(),
        into: [None, None],
        ends: [None, None],
        cores: Vec::new(),
        factory: None,
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
    let make = read_make(inner);
    let measured = feed.is_some() || back.is_some();
    let is_joint_alone = inner.has("joints") && !measured && size.is_none() && !inner.has("length");
    let known_size = match &size {
        Some(size) => Some(named_size(inner, size)?),
        None => None,
    };
    let made = Made { size: known_size, solid, material };
    let mut cable = if measured {
        let (Some(feed), Some(back)) = (feed, back) else {
            inner.problem(Problem::new(
                span,
                format!("{} states the resistance of one conductor only", inner.what()),
                "write both: `{ feed = \"42 mΩ\", return = \"55 mΩ\" }`",
            ));
            return None;
        };
        Cable { feed: Conductor::Stated(feed), back: Conductor::Stated(back), ..from_length(span, 0.0, None, made) }
    } else if is_joint_alone {
        from_length(span, 0.0, None, made)
    } else {
        let Some(length) = length else {
            inner.missing("length", "write `length = \"1.2 m\"`, or the measured `feed` and `return`");
            return None;
        };
        if known_size.is_none() && !signal {
            inner.missing("size", "write `size = \"16 AWG\"` or `size = \"0.75 mm²\"`");
            return None;
        }
        from_length(span, length.typical.get(), return_length.map(|f| f.typical.get()), made)
    };
    for conductor in [&mut cable.feed, &mut cable.back] {
        if let Conductor::Wire { ohms_per_m, .. } = conductor {
            *ohms_per_m /= make.parallel as f64;
        }
    }
    let Make { parallel, pairs, joints, into, ends, cores, factory } = make;
    Some(Cable { insulation, ampacity, parallel, pairs, joints, into, ends, cores, factory, ..cable })
}

/// How a lead is laid and finished.
struct Make {
    parallel: usize,
    pairs: usize,
    joints: Vec<Contact>,
    into: [Option<Contact>; 2],
    ends: [Option<LeadEnd>; 2],
    cores: Vec<Core>,
    factory: Option<bool>,
}

/// More loaded pairs than this in one bundle are refused.
const MOST_TOGETHER: usize = 20;

fn read_make(inner: &mut Reader<'_>) -> Make {
    let parallel = inner.whole("parallel", 1..=MOST_TOGETHER).unwrap_or(1);
    let cores = inner.whole("cores", 2..=2 * MOST_TOGETHER).unwrap_or(2 * parallel);
    let bundle = inner.whole("bundle", 1..=MOST_TOGETHER).unwrap_or(1);
    if cores < 2 * parallel {
        inner.problem(Problem::new(
            inner.own_span("cores").unwrap_or(inner.span),
            format!("{} has {cores} cores and uses {parallel} for each conductor", inner.what()),
            "`cores` counts all cores that carry current, feed and return",
        ));
    }
    let joints = read_contacts(inner, "joints");
    let into = pair_of(inner, "into").map(|node| node.and_then(|n| contact_of(inner, "into", n)));
    let ends = pair_of(inner, "ends").map(|node| match node {
        Some(Node { value: Value::Text(text, _), span }) => {
            lead_end(inner, "ends", &Named { text: text.clone(), span: Some(*span) })
        }
        Some(node) => {
            inner.problem(Problem::new(
                node.span,
                format!("`ends` of {} lists {}, not a lead end", inner.what(), node.value.kind()),
                "write words in quotes: `ends = [\"ferrule\", \"bare\"]`",
            ));
            None
        }
        None => None,
    });
    let factory = inner.has("factory").then(|| inner.flag("factory", false));
    let cores_named = read_cores(inner);
    Make { parallel, pairs: cores.div_ceil(2) * bundle, joints, into, ends, cores: cores_named, factory }
}

/// What stands for the two ends of a lead: `["ferrule", "bare"]`, or one word for both; `""` says nothing of an end.
fn pair_of<'a>(inner: &mut Reader<'a>, key: &'static str) -> [Option<&'a Node>; 2] {
    let Some(node) = inner.node(key) else { return [None, None] };
    let said = |node: &Node| !matches!(&node.value, Value::Text(t, _) if t.is_empty());
    match &node.value {
        Value::List(items) => {
            if let [a, b] = items.as_slice() {
                return [a, b].map(|n| said(n).then_some(n));
            }
            inner.problem(Problem::new(
                node.span,
                format!("`{key}` of {} lists {} ends", inner.what(), items.len()),
                format!("a lead has two, the source's first: `{key} = [\"…\", \"…\"]`"),
            ));
            [None, None]
        }
        _ => [Some(node), Some(node)],
    }
}

/// `colours = ["red", "black"]`, `marks = ["", "stripe"]`.
fn read_cores(inner: &mut Reader<'_>) -> Vec<Core> {
    let colours = inner.texts("colours");
    let marks = inner.texts("marks");
    if colours.len() == 1 || marks.len() > colours.len() {
        let key = if colours.len() == 1 { "colours" } else { "marks" };
        inner.problem(Problem::new(
            inner.own_span(key).unwrap_or(inner.span),
            format!("`{key}` of {} does not go with its cores", inner.what()),
            "list the feed's colour, then the return's: `colours = [\"red\", \"black\"]`, `marks = [\"\", \"stripe\"]`",
        ));
    }
    let mark = |i: usize| marks.get(i).map_or_else(String::new, |m| m.text.trim().to_lowercase());
    let core = |(i, c): (usize, Named)| Core { colour: c.text.trim().to_lowercase(), mark: mark(i) };
    colours.into_iter().enumerate().map(core).collect()
}

fn named_size(inner: &Reader<'_>, named: &Named) -> Option<WireSize> {
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

/// A plain lead of a size, for variants of a plan.
pub(crate) fn cable_of_size(span: Span, length_m: f64, size: WireSize) -> Cable {
    from_length(span, length_m, None, Made { size: Some(size), ..Made::default() })
}
