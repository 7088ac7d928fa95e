//! `[input.x]`: what arrives at a pin: a contact, an open collector, or a voltage that swings; with its pull, its
//! divider and its clamp.

use crate::plan::pins::Ability;
use crate::plan::pins::read::ability;
use crate::plan::wiring::feed::NodeRef;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinRef;
use crate::plan::wiring::resistor::{read_rating, read_resistor};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Farads, Fraction, Hertz, Ohms, Seconds, Volts, Watts};
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Input {
    pub name: Name,
    pub pin: PinRef,
    #[figures(flat)]
    pub source: Source,
    pub pull: Option<Pull>,
    /// From the source to the pin, and from there to ground.
    pub divider: Option<Divider>,
    /// A resistor in the line, where there is no divider.
    pub series: Option<Figure<Ohms>>,
    /// Voltage of a Zener diode from the pin to ground, at its test current.
    pub clamp: Option<Figure<Volts>>,
    /// What each of its resistors may turn into heat.
    pub rated: Figure<Watts>,
    /// From the pin to ground.
    pub filter: Option<Figure<Farads>>,
    /// What the pin, or what is open before it, leaks.
    pub leak: Figure<Amps>,
    /// True where the converter reads it.
    pub analogue: bool,
    /// Pulses a second at most, and how they are looked at.
    pub rate: Option<Figure<Hertz>>,
    pub sampled: Option<Sampled>,
    /// Further abilities that the pin has to have.
    pub needs: Vec<Ability>,
}

impl Input {
    /// True where its pull goes to a +: everywhere but behind a contact that closes to one, unless it says where.
    pub fn pulls_up(&self) -> bool {
        let to_plus = matches!(self.source, Source::Contact { to: Some(_), .. });
        self.pull.as_ref().is_some_and(|p| p.to.is_some() || !(to_plus || p.to_ground))
    }

    /// The nodes that it names.
    pub fn nodes_mut(&mut self) -> impl Iterator<Item = &mut NodeRef> {
        let own = match &mut self.source {
            Source::Contact { to, .. } => to.as_mut(),
            Source::OpenCollector { .. } => None,
            Source::Swing { ground, .. } => ground.as_mut(),
        };
        own.into_iter().chain(self.pull.as_mut().and_then(|p| p.to.as_mut()))
    }
}

/// What drives an input.
#[derive(Clone, Debug, Figures)]
pub(crate) enum Source {
    Contact {
        /// What it closes to: the + of a node; `None` is the board's ground.
        to: Option<NodeRef>,
        #[figures(key = "resistance")]
        ohms: Figure<Ohms>,
        /// True for a contact made for power: silver, which needs a wetting current.
        power: bool,
    },
    OpenCollector {
        low: Figure<Volts>,
    },
    Swing {
        #[figures(state)]
        low: Swings,
        #[figures(state)]
        high: Swings,
        #[figures(key = "resistance")]
        ohms: Figure<Ohms>,
        /// The node whose − its voltage counts against; `None`: the board's own.
        ground: Option<NodeRef>,
        vehicle: bool,
    },
}

/// A level of a swing.
#[derive(Clone, Debug, Figures)]
pub(crate) enum Swings {
    Volts(Figure<Volts>),
    /// A share of the rail that the pin runs on: a potentiometer, a sensor on that rail.
    OfRail(Figure<Fraction>),
}

impl Swings {
    /// From least to most, at the rail's voltage.
    pub fn ends(&self, rail: f64) -> (f64, f64) {
        match self {
            Swings::Volts(v) => (v.low.get(), v.high.get()),
            Swings::OfRail(share) => (share.low.get() * rail, share.high.get() * rail),
        }
    }
}

fn read_swings(reader: &mut Reader<'_>, key: &'static str, need: Need) -> Option<Swings> {
    let is_share = matches!(reader.node(key).map(|n| &n.value), Some(Value::Text(t, _)) if t.trim_end().ends_with('%') && !t.contains('±'));
    if is_share {
        reader.figure::<Fraction>(key, Need::NotNegative).map(Swings::OfRail)
    } else {
        reader.figure::<Volts>(key, need).map(Swings::Volts)
    }
}

impl Source {
    pub fn word(&self) -> &'static str {
        match self {
            Source::Contact { .. } => "contact",
            Source::OpenCollector { .. } => "open collector",
            Source::Swing { .. } => "voltage",
        }
    }
}

#[derive(Clone, Debug, Figures)]
pub(crate) struct Pull {
    /// `None`: the pin's own.
    #[figures(flat)]
    pub ohms: Option<Figure<Ohms>>,
    /// The node to whose + it goes; `None`: the rail that the pin runs on, or, for a contact that closes to a +,
    /// ground.
    pub to: Option<NodeRef>,
    /// `pull-to = "ground"`.
    pub to_ground: bool,
}

#[derive(Clone, Debug, Figures)]
pub(crate) struct Divider {
    pub top: Figure<Ohms>,
    pub bottom: Figure<Ohms>,
}

/// How an input is looked at.
#[derive(Clone, Debug, Figures)]
pub(crate) enum Sampled {
    /// Again and again after a time.
    Every(Figure<Seconds>),
    Interrupt,
    Count,
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum Kind {
    Contact,
    OpenCollector,
    Swing,
}

/// Of a Zener diode of which nothing is said (the usual sort).
const ZENER_TOLERANCE: f64 = 0.05;

pub(crate) fn read_input(reader: &mut Reader<'_>, name: Name) -> Input {
    const KINDS: [(&str, Kind); 3] =
        [("contact", Kind::Contact), ("open-collector", Kind::OpenCollector), ("voltage", Kind::Swing)];
    if !reader.has("pin") {
        reader.missing("pin", "name its pin: `pin = \"keeper.io34\"`");
    }
    let pin = PinRef::new(reader.text("pin").unwrap_or(Named { text: String::new(), span: None }));
    let kind = reader.choice("kind", &KINDS);
    if !reader.has("kind") {
        reader.missing("kind", "write `kind = \"contact\"`, `\"open-collector\"` or `\"voltage\"`");
    }
    let analogue = reader.choice("reads", &[("level", false), ("analogue", true)]).unwrap_or(false);
    let source = match kind.unwrap_or(Kind::Contact) {
        Kind::Contact => read_contact(reader),
        Kind::OpenCollector => read_open_collector(reader),
        Kind::Swing => read_swing(reader, analogue),
    };
    let divider = reader.child("divider").map(read_divider);
    let series = read_resistor(reader, "series");
    if let (Some(_), Some(_), Some(span)) = (&divider, &series, reader.own_span("series")) {
        reader.problem(Problem::new(
            span,
            format!("{} has both a divider and a series resistor", reader.what()),
            "the divider's `top` is its series resistor: add the two",
        ));
    }
    let words = reader.texts("needs");
    let pull = read_pull(reader);
    let sampled = read_sampled(reader);
    Input {
        name,
        pin,
        source,
        pull,
        divider,
        series,
        clamp: reader.figure::<Volts>("clamp", Need::Positive).map(|c| c.with_tolerance(ZENER_TOLERANCE)),
        rated: read_rating(reader),
        filter: reader.figure::<Farads>("filter", Need::Positive),
        leak: reader.figure_or::<Amps>(
            "leakage",
            Need::NotNegative,
            Amps::new(1e-6),
            "an input, or the part that drives it, leaks 1 µA or less (typical)",
        ),
        analogue,
        rate: reader.figure::<Hertz>("rate", Need::Positive),
        sampled,
        needs: words.iter().filter_map(|w| ability(reader, w)).collect(),
    }
}

fn read_divider(mut reader: Reader<'_>) -> Divider {
    let mut resistor = |key| {
        let given = read_resistor(&mut reader, key);
        if given.is_none() && !reader.has(key) {
            reader.missing(key, "write `divider = { top = \"39 kΩ\", bottom = \"10 kΩ\" }`");
        }
        given.unwrap_or_else(Figure::stand_in)
    };
    let divider = Divider { top: resistor("top"), bottom: resistor("bottom") };
    reader.finish();
    divider
}

fn read_open_collector(reader: &mut Reader<'_>) -> Source {
    let low = reader.figure::<Volts>("low", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Volts::new(0.0),
        typical: Volts::new(0.2),
        high: Volts::new(0.4),
        origin: Origin::Default("an open collector pulls down to 0.4 V or less (typical)"),
        bare: false,
    });
    Source::OpenCollector { low }
}

fn read_contact(reader: &mut Reader<'_>) -> Source {
    let to = reader.text("closes-to").filter(|to| to.text != "ground").map(NodeRef::new);
    let ohms = reader.figure::<Ohms>("resistance", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Ohms::new(0.0),
        typical: Ohms::new(0.1),
        high: Ohms::new(50.0),
        origin: Origin::Default("a contact has up to 50 Ω while it is dirty (typical)"),
        bare: false,
    });
    let power = reader.choice("contact", &[("signal", false), ("power", true)]).unwrap_or(false);
    Source::Contact { to, ohms, power }
}

fn read_swing(reader: &mut Reader<'_>, analogue: bool) -> Source {
    let low = read_swings(reader, "low", Need::Any).unwrap_or_else(|| {
        let why = "low is 0 V if none is given";
        Swings::Volts(Figure::exact(Volts::new(0.0), Origin::Default(why)))
    });
    // What sweeps may begin at 0 V; a level has to be told from its low.
    if !reader.has("high") {
        reader.missing("high", "write `high = \"5 V\"`, or a share of the pin's rail, `high = \"0 % .. 100 %\"`");
    }
    let need = if analogue { Need::NotNegative } else { Need::Positive };
    let high = read_swings(reader, "high", need);
    if let (false, Swings::Volts(low), Some(Swings::Volts(high))) = (analogue, &low, &high)
        && high.low <= low.high
    {
        reader.problem(Problem::new(
            reader.own_span("high"),
            format!("{} runs from {} to {}", reader.what(), low.high, high.low),
            "`high` must be above `low`",
        ));
    }
    let high = high.unwrap_or_else(|| Swings::Volts(Figure::stand_in()));
    let ohms = reader.figure_or::<Ohms>(
        "resistance",
        Need::NotNegative,
        Ohms::new(0.0),
        "a source without resistance if none is given",
    );
    let ground = reader.text("ground").map(NodeRef::new);
    let vehicle = reader.flag("vehicle", false);
    Source::Swing { low, high, ohms, ground, vehicle }
}

/// `pull = "10 kΩ"`, `"internal"` or `"none"`.
fn read_pull(reader: &mut Reader<'_>) -> Option<Pull> {
    let said = reader.text("pull-to");
    let to_ground = said.as_ref().is_some_and(|to| to.text == "ground");
    let to = said.filter(|to| to.text != "ground").map(NodeRef::new);
    let word = match reader.node("pull").map(|n| &n.value) {
        Some(Value::Text(t, _)) if t == "internal" || t == "none" => Some(t == "internal"),
        _ => None,
    };
    if let (false, Some(span)) = (reader.has("pull"), reader.own_span("pull-to").filter(|_| to.is_some() || to_ground))
    {
        let message = format!("{} has `pull-to` and no `pull`", reader.what());
        reader.problem(Problem::new(span, message, "write its resistor, `pull = \"10 kΩ\"`, or remove `pull-to`"));
    }
    match word {
        Some(true) => Some(Pull { ohms: None, to, to_ground }),
        Some(false) => None,
        None => Some(Pull { ohms: Some(read_resistor(reader, "pull")?), to, to_ground }),
    }
}

/// `sampled = "10 ms"`, `"interrupt"` or `"count"`.
fn read_sampled(reader: &mut Reader<'_>) -> Option<Sampled> {
    match reader.node("sampled").map(|n| &n.value) {
        Some(Value::Text(t, _)) if t == "interrupt" => Some(Sampled::Interrupt),
        Some(Value::Text(t, _)) if t == "count" => Some(Sampled::Count),
        _ => reader.figure::<Seconds>("sampled", Need::Positive).map(Sampled::Every),
    }
}
