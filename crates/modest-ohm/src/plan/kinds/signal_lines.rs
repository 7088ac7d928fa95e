//! Signals in addition to pixel data: the control lead of a load (`signal`), and `[signal.x]`, a cable from a pin to a
//! pin.

use crate::plan::pins::Ability;
use crate::plan::pins::read::ability;
use crate::plan::wiring::feed::NodeRef;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinRef;
use crate::plan::wiring::threshold::{Threshold, read_threshold};
use crate::plan::wiring::through::{Stage, read_through};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Hertz, Metres, Ohms, Volts};
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// What a signal goes through on its way from its pin.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Line {
    pub span: Span,
    /// What stands between, in the order of the signal.
    pub through: Vec<(Named, Stage)>,
    /// The resistor and the length of the last lead.
    pub series: Option<Figure<Ohms>>,
    #[figures(key = "cable")]
    pub length: Option<Figure<Metres>>,
    /// What its pins have to be able to do.
    pub needs: Vec<Ability>,
    /// How fast it changes at most.
    pub rate: Option<Figure<Hertz>>,
    /// True where a − goes along with it.
    pub ground: bool,
}

/// The control lead of a load.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Signal {
    /// One for all members, or one each.
    pub pins: Vec<PinRef>,
    /// How it is written: with keys of its own, its pins as a list.
    pub is_table: bool,
    pub is_list: bool,
    #[figures(flat)]
    pub line: Line,
    #[figures(flat)]
    pub input: InputFigures,
}

/// What an input needs and stands.
#[derive(Clone, Debug, Default, Figures)]
pub(crate) struct InputFigures {
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
    /// Its absolute maximum.
    #[figures(key = "input-voltage")]
    pub volts: Option<Figure<Volts>>,
    /// What it draws when it is high; nothing where it is not said.
    #[figures(key = "input-current")]
    pub draws: Option<Figure<Amps>>,
    /// It is the LED of an optocoupler.
    pub opto: Option<Opto>,
}

/// The input of an optocoupler: an LED behind a resistor, and often an indicator in series.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Opto {
    pub resistor: Figure<Ohms>,
    pub vf: Figure<Volts>,
    /// Of an indicator in series; `None` where whether there is one is not said.
    pub indicator: Option<Figure<Volts>>,
    /// More than this and it is surely on; less than that and it is surely off.
    pub on: Figure<Amps>,
    pub off: Figure<Amps>,
    /// The node from whose + it hangs, of one that is on while the pin is low.
    pub from: Option<NodeRef>,
}

impl Opto {
    /// What it drops before its resistor, at least and at most.
    pub fn drop_v(&self) -> (f64, f64) {
        let indicator = self.indicator.as_ref().map_or((0.0, 0.0), |v| (v.low.get(), v.high.get()));
        (self.vf.low.get() + indicator.0, self.vf.high.get() + indicator.1)
    }
}

/// `opto = { resistor = "1 kΩ", indicator = "series" }`; `from` names the + of one that the pin pulls low.
fn read_opto(reader: &mut Reader<'_>) -> Option<Opto> {
    let mut inner = reader.child("opto")?;
    let resistor = inner
        .required::<Ohms>("resistor", Need::Positive)
        .with_tolerance(crate::plan::wiring::resistor::RESISTOR.get());
    let vf =
        inner.figure_or::<Volts>("vf", Need::Positive, Volts::new(1.15), "an optocoupler's LED drops 1.15 V (typical)");
    let series = inner.choice("indicator", &[("series", true), ("parallel", false), ("none", false)]);
    let indicator_vf = inner.figure_or::<Volts>(
        "indicator-vf",
        Need::Positive,
        Volts::new(1.9),
        "an indicator LED drops 1.9 V (typical)",
    );
    let none = || Figure::exact(Volts::new(0.0), Origin::Computed);
    let indicator = series.map(|series| if series { indicator_vf } else { none() });
    let on = inner.figure_or::<Amps>("on", Need::Positive, Amps::new(1.5e-3), "1.5 mA turns it on (typical)");
    let off = inner.figure_or::<Amps>(
        "off",
        Need::NotNegative,
        Amps::new(0.2e-3),
        "0.2 mA or less keeps it off \
        (typical)",
    );
    let from = inner.text("from").map(NodeRef::new);
    inner.finish();
    Some(Opto { resistor, vf, indicator, on, off, from })
}

pub(crate) fn read_input_figures(reader: &mut Reader<'_>) -> InputFigures {
    InputFigures {
        vih: read_threshold(reader, "vih"),
        vil: read_threshold(reader, "vil"),
        volts: reader.figure::<Volts>("input-voltage", Need::Positive),
        draws: reader.figure::<Amps>("input-current", Need::NotNegative),
        opto: read_opto(reader),
    }
}

/// `cable` is the key of the signal's own cable: an item that is fed too has another of that name.
pub(crate) fn read_line(reader: &mut Reader<'_>, cable: &'static str) -> Line {
    let through = read_through(reader);
    let words = reader.texts("needs");
    Line {
        span: reader.span,
        through,
        series: reader.figure::<Ohms>("series", Need::NotNegative),
        length: reader.figure::<Metres>(cable, Need::NotNegative),
        needs: words.iter().filter_map(|w| ability(reader, w)).collect(),
        rate: reader.figure::<Hertz>("rate", Need::Positive),
        ground: reader.flag("ground", false),
    }
}

/// `signal = "keeper.io21"`, one a member, or `{ pins = […], through = "lift", series = "330 Ω", cable = "0.5 m" }`.
pub(crate) fn read_signal(reader: &mut Reader<'_>, count: usize) -> Option<Signal> {
    let input = read_input_figures(reader);
    let is_table = matches!(reader.node("signal").map(|n| &n.value), Some(Value::Table(_)));
    let (pins, line, span) = if is_table {
        let mut inner = reader.child("signal")?;
        let (pins, line, span) = (inner.texts("pins"), read_line(&mut inner, "cable"), inner.span);
        if pins.is_empty() && !inner.has("pins") {
            inner.missing("pins", "name the pin that drives it: `pins = \"keeper.io21\"`");
        }
        inner.finish();
        (pins, line, span)
    } else {
        let span = reader.own_span("signal").unwrap_or(reader.span);
        let line = Line {
            span,
            through: Vec::new(),
            series: None,
            length: None,
            needs: Vec::new(),
            rate: None,
            ground: false,
        };
        (reader.texts("signal"), line, span)
    };
    if pins.is_empty() {
        return None;
    }
    if pins.len() != 1 && pins.len() != count {
        reader.problem(Problem::new(
            span,
            format!("{} has {} pins for {count} members", reader.what(), pins.len()),
            "name one pin for all of them, or one for each",
        ));
    }
    let is_list = |node: Option<&crate::text::tree::Node>| matches!(node.map(|n| &n.value), Some(Value::List(_)));
    let is_list = match reader.node("signal").map(|n| &n.value) {
        Some(Value::Table(table)) => is_list(table.get("pins").map(|(_, n)| n)),
        Some(Value::List(_)) => true,
        _ => false,
    };
    Some(Signal { pins: pins.into_iter().map(PinRef::new).collect(), is_table, is_list, line, input })
}

/// `[signal.x]`: a signal from a pin to another board's pin, or to something that the plan does not show.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Wire {
    pub name: Name,
    /// The pin that sends.
    pub pin: PinRef,
    pub to: Option<PinRef>,
    #[figures(flat)]
    pub line: Line,
    /// True where either end may send, one at a time.
    pub bidirectional: bool,
    /// True where its senders only pull low, so that several may share it.
    pub open_drain: bool,
    /// What lifts it, where its senders only pull low.
    pub pull: Option<Figure<Ohms>>,
    /// Of what the plan does not show.
    #[figures(flat)]
    pub input: InputFigures,
}

pub(crate) fn read_wire(reader: &mut Reader<'_>, name: Name) -> Wire {
    if !reader.has("pin") {
        reader.missing("pin", "name the pin that drives it: `pin = \"keeper.io4\"`");
    }
    let pin = reader.text("pin").unwrap_or(Named { text: String::new(), span: None });
    let to = reader.text("to").map(PinRef::new);
    let line = read_line(reader, "cable");
    let bidirectional = reader.flag("bidirectional", false);
    let open_drain = reader.flag("open-drain", false);
    let pull = crate::plan::wiring::resistor::read_resistor(reader, "pull");
    let input = read_input_figures(reader);
    Wire { name, pin: PinRef::new(pin), to, line, bidirectional, open_drain, pull, input }
}
