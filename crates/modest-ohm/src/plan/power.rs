//! Sources and what makes rails of them: `supply`, `branch`, `converter`, `ground`.

use super::cable::{Cable, Fuse, read_cable, read_fuse};
use super::feed::{Feed, NodeRef, read_feed};
use crate::quantity::{Amps, Figure, Fraction, Ohms, Origin, Volts, Watts};
use crate::text::{Need, Problem, Reader, Span, Value, figure_of_node};

/// A declared name.
#[derive(Clone, Debug)]
pub(crate) struct Name {
    pub text: String,
    pub span: Span,
}

/// `[supply.x]`: where power comes from.
#[derive(Clone, Debug)]
pub(crate) struct Supply {
    pub name: Name,
    pub voltage: Figure<Volts>,
    pub resistance: Figure<Ohms>,
    /// Continuous rating; without it the supply is unlimited and its overload unknown.
    pub current: Option<Figure<Amps>>,
    /// Where it starts to limit.
    pub limit: Option<Figure<Amps>>,
    pub sinks: bool,
    pub headroom: Option<Figure<Fraction>>,
}

pub(crate) fn read_supply(reader: &mut Reader<'_>, name: Name) -> Supply {
    #[derive(Clone, Copy, PartialEq)]
    enum Kind {
        Adapter,
        Bench,
    }
    let kind = reader.choice("kind", &[("adapter", Kind::Adapter), ("bench", Kind::Bench)]);
    if !reader.has("kind") {
        reader.missing("kind", "write `kind = \"adapter\"` or `kind = \"bench\"`");
    }
    let mut voltage = reader.required::<Volts>("voltage", Need::Positive);
    let current = reader.figure::<Amps>("current", Need::Positive);
    let stated_resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let limit = read_limit(reader, current.as_ref());
    let sinks = reader.flag("sinks", false);
    let headroom = read_share(reader, "headroom");
    // Adapters ± 5 %, bench supplies ± 1 % (typical of the classes); a stated resistance makes the volts exact.
    if stated_resistance.is_some() {
        voltage.bare = false;
    } else {
        voltage = voltage.with_tolerance(if kind == Some(Kind::Bench) { 0.01 } else { 0.05 });
    }
    let resistance = stated_resistance.unwrap_or(Figure::exact(
        Ohms::new(0.0),
        Origin::Default("a regulated supply: the tolerance contains its regulation"),
    ));
    let limit = limit.or_else(|| {
        let rating = current.as_ref()?;
        // A bench supply limits where its knob stands; an adapter at 1.1 .. 1.5 times its rating (typical).
        let (low, high, why) = if kind == Some(Kind::Bench) {
            (1.0, 1.0, "a bench supply limits at its rating")
        } else {
            (1.1, 1.5, "adapters limit at 110 % .. 150 % of their rating (typical)")
        };
        Some(Figure {
            low: rating.low * low,
            typical: rating.typical * ((low + high) / 2.0),
            high: rating.high * high,
            origin: Origin::Default(why),
            bare: false,
        })
    });
    Supply { name, voltage, resistance, current, limit, sinks, headroom }
}

/// What a source can do beyond its limit. Both are solved as constant current at the limit.
const BEYOND: [&str; 2] = ["hiccup", "constant-current"];

/// `limit` in amperes or as a share of the rating, with a word for what comes beyond it: `"120 % .. 150 %, hiccup"`.
fn read_limit(reader: &mut Reader<'_>, rating: Option<&Figure<Amps>>) -> Option<Figure<Amps>> {
    let node = reader.node("limit")?;
    let mut node = node.clone();
    if let Value::Text(text, _) = &mut node.value
        && let Some((figure, word)) = text.rsplit_once(',')
        && BEYOND.contains(&word.trim())
    {
        *text = figure.to_owned();
    }
    let is_share = matches!(&node.value, Value::Text(t, _) if t.trim_end().ends_with('%') && !t.contains('±'));
    if !is_share {
        return figure_of_node::<Amps>(reader, &node, "limit", Need::Positive);
    }
    let share = figure_of_node::<Fraction>(reader, &node, "limit", Need::Positive)?;
    let Some(rating) = rating else {
        reader.problem(Problem::new(
            node.span,
            format!("`limit` of {} is a share of a rating that is not given", reader.what()),
            "give `current`, or write the limit in amperes",
        ));
        return None;
    };
    let of = |share: Fraction| rating.typical * share.get();
    Some(Figure {
        low: of(share.low),
        typical: of(share.typical),
        high: of(share.high),
        origin: share.origin,
        bare: share.bare,
    })
}

/// A share below the whole: headroom, drop.
pub(crate) fn read_share(reader: &mut Reader<'_>, key: &'static str) -> Option<Figure<Fraction>> {
    let figure = reader.figure::<Fraction>(key, Need::NotNegative)?;
    if figure.high.get() >= 1.0 {
        let span = reader.own_span(key);
        reader.problem(Problem::new(
            span,
            format!("`{key}` of {} is {}", reader.what(), figure.high),
            "it has to be below 100 %",
        ));
    }
    Some(figure)
}

/// `[branch.x]`: a cable run with its protection, itself a node.
#[derive(Clone, Debug)]
pub(crate) struct Branch {
    pub name: Name,
    pub feed: Feed,
    pub fuse: Option<Fuse>,
    /// False while the run is disconnected.
    pub closed: bool,
}

pub(crate) fn read_branch(reader: &mut Reader<'_>, name: Name) -> Branch {
    let feed = read_feed(reader);
    let fuse = read_fuse(reader);
    let closed = reader.flag("closed", true);
    Branch { name, feed, fuse, closed }
}

/// `[converter.x]`: makes a rail from another.
#[derive(Clone, Debug)]
pub(crate) struct Converter {
    pub name: Name,
    pub feed: Feed,
    pub output: Figure<Volts>,
    pub current: Option<Figure<Amps>>,
    pub limit: Option<Figure<Amps>>,
    pub efficiency: Figure<Fraction>,
    pub quiescent: Figure<Watts>,
    pub resistance: Figure<Ohms>,
    pub input: Option<Figure<Volts>>,
    pub dropout: Figure<Volts>,
    pub headroom: Option<Figure<Fraction>>,
}

impl Converter {
    /// Smallest input at which it regulates in a corner: the stated range, or set volts + dropout, whichever is more.
    pub fn input_minimum(&self, output_v: f64) -> f64 {
        let stated = self.input.as_ref().map_or(0.0, |r| r.low.get());
        stated.max(output_v + self.dropout.typical.get())
    }

    pub fn input_maximum(&self) -> Figure<Volts> {
        self.input
            .as_ref()
            .map_or(Figure::exact(Volts::new(28.0), Origin::Default("modules take 28 V at most (typical)")), |r| {
                Figure::exact(r.high, r.origin.clone())
            })
    }
}

pub(crate) fn read_converter(reader: &mut Reader<'_>, name: Name) -> Converter {
    let _ = reader.choice("kind", &[("buck", ())]);
    if !reader.has("kind") {
        reader.missing("kind", "write `kind = \"buck\"`");
    }
    let feed = read_feed(reader);
    let mut output = reader.required::<Volts>("output", Need::Positive);
    let current = reader.figure::<Amps>("current", Need::Positive);
    let limit = reader.figure::<Amps>("limit", Need::Positive);
    let efficiency = reader.figure::<Fraction>("efficiency", Need::Positive);
    let quiescent =
        reader.figure_or::<Watts>("quiescent", Need::NotNegative, Watts::new(0.05), "0.05 W typical of modules");
    let stated_resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let input = reader.figure::<Volts>("input", Need::NotNegative);
    let dropout = reader.figure_or::<Volts>(
        "dropout",
        Need::NotNegative,
        Volts::new(1.0),
        "a buck needs 1 V above its output (typical)",
    );
    let headroom = read_share(reader, "headroom");
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
    // Set volts ± 2 % (typical), unless the output is stated with its resistance or tolerance.
    if stated_resistance.is_some() {
        output.bare = false;
    } else {
        output = output.with_tolerance(0.02);
    }
    let efficiency = efficiency.unwrap_or(Figure {
        low: Fraction::new(0.85),
        typical: Fraction::new(0.885),
        high: Fraction::new(0.92),
        origin: Origin::Default("bucks reach 85 % .. 92 % (typical)"),
        bare: false,
    });
    let resistance = stated_resistance
        .unwrap_or(Figure::exact(Ohms::new(0.0), Origin::Default("regulated at its own output terminals")));
    let limit = limit.or_else(|| current.clone());
    Converter { name, feed, output, current, limit, efficiency, quiescent, resistance, input, dropout, headroom }
}

/// `[ground.x]`: a conductor between the − of two nodes.
#[derive(Clone, Debug)]
pub(crate) struct Ground {
    pub name: Name,
    pub between: [NodeRef; 2],
    pub cable: Option<Cable>,
    pub resistance: Option<Figure<Ohms>>,
}

pub(crate) fn read_ground(reader: &mut Reader<'_>, name: Name) -> Ground {
    let names = reader.texts("between");
    let cable = read_cable(reader, "cable", false);
    let resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let count = names.len();
    if count != 2 {
        let span = reader.own_span("between").unwrap_or(reader.span);
        reader.problem(Problem::new(
            span,
            format!("{} joins {count} nodes", reader.what()),
            "a tie joins the − of two nodes: `between = [\"wall\", \"bench\"]`",
        ));
    }
    let mut ends = names.into_iter();
    let mut end = || ends.next().map_or_else(NodeRef::stand_in, NodeRef::new);
    Ground { name, between: [end(), end()], cable, resistance }
}
