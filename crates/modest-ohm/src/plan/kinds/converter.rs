//! `[converter.x]`: makes a rail from another.

use crate::plan::wiring::feed::{Feed, read_feed};
use crate::plan::wiring::name::{Name, read_share};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Celsius, Farads, Fraction, KelvinsPerWatt, Ohms, Quantity, Volts, Watts};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Converter {
    pub name: Name,
    pub kind: ConverterKind,
    #[figures(flat)]
    pub feed: Feed,
    pub output: Figure<Volts>,
    pub current: Option<Figure<Amps>>,
    /// A boost module's label speaks of its input.
    #[figures(key = "label-current")]
    pub input_current: Option<Figure<Amps>>,
    /// What it takes in briefly, where only its label is known: all that the label says.
    #[figures(skip)]
    pub input_limit: Option<Figure<Amps>>,
    pub limit: Option<Figure<Amps>>,
    /// False where the limit is only what it delivers continuously.
    pub limit_is_stated: bool,
    pub efficiency: Figure<Fraction>,
    pub quiescent: Figure<Watts>,
    /// What a linear regulator takes for itself.
    pub own_current: Figure<Amps>,
    pub resistance: Figure<Ohms>,
    #[figures(range)]
    pub input: Option<Figure<Volts>>,
    pub dropout: Figure<Volts>,
    pub headroom: Option<Figure<Fraction>>,
    /// The capacitor at its input, where its datasheet or its class gives one, and that one's resistance.
    pub input_capacitance: Option<Figure<Farads>>,
    pub input_esr: Option<Figure<Ohms>>,
    #[figures(flat)]
    pub heat: Heat,
    /// True where its datasheet says that it stands a vehicle's transients.
    pub vehicle_rated: bool,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum ConverterKind {
    Buck,
    Boost,
    BuckBoost,
    Linear,
    /// Its output is a ground group of its own.
    Isolated,
}

impl ConverterKind {
    /// True where its output cannot be above its input.
    pub fn steps_down(self) -> bool {
        matches!(self, ConverterKind::Buck | ConverterKind::Linear)
    }
}

/// How warm a part gets and how warm it may get; a part without θ is not judged.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Heat {
    /// Junction or hottest place against the air.
    #[figures(key = "theta-ja")]
    pub theta: Option<Figure<KelvinsPerWatt>>,
    #[figures(key = "junction-max")]
    pub limit: Figure<Celsius>,
}

pub(crate) fn read_heat(reader: &mut Reader<'_>, usual: Option<(f64, f64, &'static str)>) -> Heat {
    let theta = reader.figure::<KelvinsPerWatt>("theta-ja", Need::NotNegative).or_else(|| {
        let (low, high, why) = usual?;
        Some(Figure {
            low: KelvinsPerWatt::new(low),
            typical: KelvinsPerWatt::new((low + high) / 2.0),
            high: KelvinsPerWatt::new(high),
            origin: Origin::Default(why),
            bare: false,
        })
    });
    let limit = reader.figure_or::<Celsius>(
        "junction-max",
        Need::Any,
        Celsius::new(125.0),
        "junctions are rated 125 °C (typical of silicon parts)",
    );
    Heat { theta, limit }
}

impl Converter {
    /// The 5 V regulator of a module: as little as a linear one is known by.
    pub fn on_board(name: Name, feed: Feed, theta: Option<Figure<KelvinsPerWatt>>, least: &Figure<Volts>) -> Self {
        let why = Origin::Default("a module's own 5 V regulator (typical)");
        let volts = Figure {
            low: Volts::new(4.8),
            typical: Volts::new(5.0),
            high: Volts::new(5.2),
            origin: why.clone(),
            bare: false,
        };
        let amps = |a: f64| Figure::exact(Amps::new(a), why.clone());
        Self {
            name,
            kind: ConverterKind::Linear,
            feed,
            output: volts,
            current: Some(amps(0.5)),
            input_current: None,
            input_limit: None,
            limit: Some(amps(1.0)),
            limit_is_stated: false,
            efficiency: Figure::exact(Fraction::new(1.0), why.clone()),
            quiescent: Figure::exact(Watts::new(0.0), why.clone()),
            own_current: amps(0.005),
            resistance: Figure::exact(Ohms::new(0.0), why.clone()),
            input: Some(Figure {
                low: least.typical,
                typical: least.typical,
                high: Volts::new(35.0),
                origin: least.origin.clone(),
                bare: false,
            }),
            dropout: Figure::exact(Volts::new(2.0), why.clone()),
            headroom: None,
            input_capacitance: None,
            input_esr: None,
            heat: Heat { theta, limit: Figure::exact(Celsius::new(125.0), why) },
            vehicle_rated: false,
        }
    }

    /// Smallest input at which it regulates in a corner: the stated range, or, where it only steps down, set voltage +
    /// dropout, whichever is more.
    pub fn input_minimum(&self, output_v: f64) -> f64 {
        let stated = self.input.as_ref().map_or(0.0, |r| r.low.get());
        if self.kind.steps_down() { stated.max(output_v + self.dropout.typical.get()) } else { stated }
    }

    /// Largest input. A boost passes more than its set voltage straight through, whatever its range says.
    pub fn input_maximum(&self) -> Figure<Volts> {
        let stated = match &self.input {
            Some(r) => Figure::exact(r.high, r.origin.clone()),
            None => Figure::exact(Volts::new(28.0), Origin::Default("modules are rated for 28 V input (typical)")),
        };
        if self.kind == ConverterKind::Boost && self.output.typical < stated.typical {
            return Figure::exact(self.output.typical, self.output.origin.clone());
        }
        stated
    }

    /// True where a short at the output takes what the input gives: a boost, unless its datasheet gives a limit.
    pub fn passes_shorts(&self) -> bool {
        self.kind == ConverterKind::Boost && !self.limit_is_stated
    }

    pub fn is_isolated(&self) -> bool {
        self.kind == ConverterKind::Isolated
    }
}

const KINDS: [(&str, ConverterKind); 5] = [
    ("buck", ConverterKind::Buck),
    ("boost", ConverterKind::Boost),
    ("buck-boost", ConverterKind::BuckBoost),
    ("linear", ConverterKind::Linear),
    ("isolated", ConverterKind::Isolated),
];

/// A bare module carries this share of its label continuously (typical).
const BARE_SHARE: f64 = 0.65;

pub(crate) fn read_converter(reader: &mut Reader<'_>, name: Name) -> Converter {
    let kind = read_kind(reader);
    let feed = read_feed(reader);
    let mut output = reader.required::<Volts>("output", Need::Positive);
    let (current, input_current, label) = read_rating(reader, kind);
    let limit = reader.figure::<Amps>("limit", Need::Positive);
    let efficiency = read_efficiency(reader, kind);
    let quiescent =
        reader.figure_or::<Watts>("quiescent", Need::NotNegative, Watts::new(0.05), "0.05 W typical of modules");
    let own = "5 mA typical of linear regulators";
    let own_current = reader.figure_or::<Amps>("own-current", Need::NotNegative, Amps::new(0.005), own);
    let stated_resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let input = reader.figure::<Volts>("input", Need::NotNegative);
    let dropout = read_dropout(reader, kind);
    let headroom = read_share(reader, "headroom");
    // Linear parts: TO-220 without a heat sink (typical).
    let bare = "a TO-220 package without a heatsink has 62 K/W (typical)";
    let usual = (kind == ConverterKind::Linear).then_some((62.0, 62.0, bare));
    let heat = read_heat(reader, usual);
    let vehicle_rated = reader.flag("vehicle-rated", false);
    let input_capacitance = reader.figure::<Farads>("input-capacitance", Need::Positive);
    let input_esr = reader.figure::<Ohms>("input-esr", Need::Positive);
    // Set voltage ± 2 % (typical), unless the output is stated with its resistance or tolerance.
    if stated_resistance.is_some() {
        output.bare = false;
    } else {
        output = output.with_tolerance(0.02);
    }
    let resistance = stated_resistance
        .unwrap_or(Figure::exact(Ohms::new(0.0), Origin::Default("regulated at its own output terminals")));
    let limit_is_stated = limit.is_some();
    // A bare module gets too hot at its label and does not limit below it.
    let by_label = || label.clone().filter(|_| input_current.is_none());
    let limit = limit.or_else(by_label).or_else(|| current.clone());
    let input_limit = label.filter(|_| input_current.is_some());
    Converter {
        name,
        kind,
        feed,
        output,
        current,
        input_current,
        input_limit,
        limit,
        limit_is_stated,
        efficiency,
        quiescent,
        own_current,
        resistance,
        input,
        dropout,
        headroom,
        heat,
        vehicle_rated,
        input_capacitance,
        input_esr,
    }
}

fn read_kind(reader: &mut Reader<'_>) -> ConverterKind {
    if !reader.has("kind") {
        let words: Vec<&str> = KINDS.iter().map(|(word, _)| *word).collect();
        reader.missing("kind", &format!("write one of: {}", words.join(", ")));
    }
    reader.choice("kind", &KINDS).unwrap_or(ConverterKind::Buck)
}

/// What it delivers continuously; for a boost with a label what it takes in; and its label.
type Rating = (Option<Figure<Amps>>, Option<Figure<Amps>>, Option<Figure<Amps>>);

fn read_rating(reader: &mut Reader<'_>, kind: ConverterKind) -> Rating {
    let current = reader.figure::<Amps>("current", Need::Positive);
    let label = reader.figure::<Amps>("label-current", Need::Positive);
    let bare = reader.flag("bare", false);
    if let (Some(_), Some(_), Some(span)) = (&current, &label, reader.own_span("label-current")) {
        reader.problem(Problem::new(
            span,
            format!("{} has both `current` and `label-current`", reader.what()),
            "write its continuous rating (`current`) or what its label says (`label-current`)",
        ));
    }
    if let (true, None, Some(span)) = (bare, &label, reader.own_span("bare")) {
        reader.problem(Problem::new(
            span,
            format!("{} is `bare` and has no `label-current`", reader.what()),
            "a bare module is good for 65 % of its label: write `label-current`",
        ));
    }
    let usable = label.clone().map(|l| if bare { l.scaled(BARE_SHARE) } else { l });
    if matches!(kind, ConverterKind::Boost) { (current, usable, label) } else { (current.or(usable), None, label) }
}

fn read_efficiency(reader: &mut Reader<'_>, kind: ConverterKind) -> Figure<Fraction> {
    let efficiency = reader.figure::<Fraction>("efficiency", Need::Positive);
    if let Some(e) = &efficiency
        && e.high.get() > 1.0
    {
        let span = reader.own_span("efficiency");
        reader.problem(Problem::new(
            span,
            format!("`efficiency` of {} is {}", reader.what(), e.high),
            "it is at most 100 %",
        ));
    }
    let (low, high, why) = match kind {
        ConverterKind::Isolated => (0.75, 0.85, "isolated converters reach 75 % .. 85 % (typical)"),
        _ => (0.85, 0.92, "switching converters reach 85 % .. 92 % (typical)"),
    };
    efficiency.unwrap_or(Figure {
        low: Fraction::from_si(low),
        typical: Fraction::from_si((low + high) / 2.0),
        high: Fraction::from_si(high),
        origin: Origin::Default(why),
        bare: false,
    })
}

fn read_dropout(reader: &mut Reader<'_>, kind: ConverterKind) -> Figure<Volts> {
    let bipolar = reader.choice("switch", &[("bipolar", true), ("mosfet", false)]).unwrap_or(false);
    let (volts, why) = match kind {
        ConverterKind::Linear => (2.0, "a three-terminal regulator needs 2 V above its output (typical)"),
        _ if bipolar => (2.0, "a buck with a bipolar switch needs 2 V above its output (typical)"),
        _ => (1.0, "a buck needs 1 V above its output (typical)"),
    };
    reader.figure_or::<Volts>("dropout", Need::NotNegative, Volts::new(volts), why)
}
