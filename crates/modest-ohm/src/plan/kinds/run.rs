//! Runs: what lies between a node and the next and is a node itself. `branch`, `switch`, `diode` in a feed, `busbar`;
//! and what boards have inside: further feed terminals and ports.

use super::connector::Connector;
use super::limiter::Limiter;
use crate::plan::wiring::between::read_across;
use crate::plan::wiring::contact::Contact;
use crate::plan::wiring::driven::StageRun;
use crate::plan::wiring::feed::{Feed, NodeRef, read_feed, read_terminal_feeds};
use crate::plan::wiring::fuse::read_fuse;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::figures::{At, See};
use crate::quantity::units::{Amps, Celsius, KelvinsPerWatt, Ohms, Volts, Watts};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// A run: a feed over a cable, through a fuse and what else lies in it.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Branch {
    pub name: Name,
    #[figures(flat)]
    pub feed: Feed,
    pub open: Open,
    #[figures(flat)]
    pub kind: RunKind,
}

/// Which conductors are interrupted.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Figures)]
pub(crate) struct Open {
    pub plus: bool,
    pub minus: bool,
}

impl Open {
    pub const NOT: Self = Self { plus: false, minus: false };

    pub fn any(self) -> bool {
        self.plus || self.minus
    }
}

/// What lies in a run.
#[derive(Clone, Debug, Figures)]
pub(crate) enum RunKind {
    Cable,
    Switch(Switch),
    Diode(Box<Diode>),
    Connector(Box<Connector>),
    /// An NTC resistor against inrush.
    Limiter(Box<Limiter>),
    /// Half of a bus bar with a feed of its own.
    Rail(Box<Contact>),
    /// Half of a bus bar that is fed from the other half.
    Bridge(Box<Contact>),
    /// A feed terminal of a board in addition to its main one.
    Terminal {
        board: usize,
    },
    /// An output of a board with a limit of its own.
    Port(Port),
    /// The motor supply of a bridge.
    Inlet,
    /// A channel of a driver.
    Stage(StageRun),
}

/// A hand switch.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Switch {
    #[figures(key = "current")]
    pub rating: Option<Figure<Amps>>,
    /// What its contacts may close on.
    #[figures(key = "making-current")]
    pub making: Option<Figure<Amps>>,
    pub resistance: Figure<Ohms>,
    /// The conductors it breaks.
    pub breaks: Open,
    /// The feeds it chooses from, if it is a change-over switch; the run's own feed is the one it stands on.
    #[figures(key = "from")]
    pub throws: Vec<(String, Feed)>,
    pub position: usize,
}

/// A diode's figures.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Diode {
    pub vf: Figure<Volts>,
    pub resistance: Figure<Ohms>,
    /// Backwards it conducts from here on; a series diode's largest reverse voltage, a clamp's clamping voltage.
    pub reverse: Option<Figure<Volts>>,
    #[figures(key = "current")]
    pub rating: Option<Figure<Amps>>,
    /// True where its cathode shows the wrong way.
    pub reversed: bool,
    /// A P-channel MOSFET as a diode: no forward voltage.
    pub fet: bool,
    /// Junction to air, and what its junction withstands.
    #[figures(key = "theta-ja")]
    pub theta: Option<Figure<KelvinsPerWatt>>,
    #[figures(key = "junction-max")]
    pub junction: Option<Figure<Celsius>>,
    /// Its gate, of such a MOSFET.
    #[figures(flat)]
    pub gate: DiodeGate,
    /// What a clamp stands at the current of a pulse.
    pub clamps_at: Option<Figure<Volts>>,
    /// What it takes in a pulse of 10/1000 µs.
    pub pulse_power: Option<Figure<Watts>>,
    /// True for a clamp that clamps both polarities.
    pub bidirectional: bool,
}

/// The gate of a P-channel MOSFET against reversed polarity: it lies at −, so that it gets the rail.
#[derive(Clone, Debug, Default, Figures)]
pub(crate) struct DiodeGate {
    /// What it stands.
    #[figures(key = "gate-maximum")]
    pub most: Option<Figure<Volts>>,
    /// The voltage at which its resistance is given.
    #[figures(key = "rds-on-at")]
    pub specified: Option<Figure<Volts>>,
    /// A Zener diode from gate to source, behind a resistor.
    #[figures(key = "gate-clamp")]
    pub clamp: Option<Figure<Volts>>,
}

/// `[diode.x]` across a rail.
#[derive(Clone, Debug)]
pub(crate) struct Clamp {
    pub name: Name,
    pub across: NodeRef,
    pub diode: Diode,
}

/// Across a rail the plan says from which voltage it clamps, where in a feed it says what it withstands backwards.
impl crate::quantity::figures::Figures for Clamp {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        self.diode.each(at, &mut |inner, figure| {
            let renamed = if inner.key == "reverse" { at.under("clamps") } else { inner };
            see(renamed, figure);
        });
    }
}

/// An output of a board.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Port {
    pub board: usize,
    /// The family it belongs to: `out` of `out1` … `out4`.
    pub family: String,
    pub limit: Option<Figure<Amps>>,
}

impl Diode {
    /// What its junction withstands, °C: stated, else 150 (typical of silicon).
    pub fn junction_c(&self) -> f64 {
        self.junction.as_ref().map_or(150.0, |t| t.low.get())
    }
}

impl Branch {
    pub fn word(&self) -> &'static str {
        match self.kind {
            RunKind::Cable => "branch",
            RunKind::Rail(_) | RunKind::Bridge(_) => "bus half",
            RunKind::Connector(_) => "connector",
            RunKind::Limiter(_) => "limiter",
            RunKind::Switch(_) => "switch",
            RunKind::Diode(_) => "diode",
            RunKind::Terminal { .. } => "board terminal",
            RunKind::Port(_) => "port",
            RunKind::Inlet => "inlet",
            RunKind::Stage(_) => "driver",
        }
    }

    pub fn diode(&self) -> Option<&Diode> {
        if let RunKind::Diode(d) = &self.kind { Some(d) } else { None }
    }

    pub fn connector(&self) -> Option<&Connector> {
        if let RunKind::Connector(j) = &self.kind { Some(j) } else { None }
    }

    /// What both conductors of it pass in addition to what is in its cable.
    pub fn contact(&self) -> Option<&Contact> {
        match &self.kind {
            RunKind::Connector(connector) => Some(&connector.contact),
            RunKind::Rail(contact) | RunKind::Bridge(contact) => Some(contact),
            _ => None,
        }
    }

    pub fn switch(&self) -> Option<&Switch> {
        if let RunKind::Switch(s) = &self.kind { Some(s) } else { None }
    }
}

pub(crate) fn read_branch(reader: &mut Reader<'_>, name: Name) -> Branch {
    let feed = read_feed(reader);
    let closed = reader.flag("closed", true);
    Branch { name, feed, open: Open { plus: !closed, minus: !closed }, kind: RunKind::Cable }
}

/// `[switch.x]`: `from = "wall"` or `from = { a = "wall", b = "reserve" }` with `position`.
pub(crate) fn read_switch(reader: &mut Reader<'_>, name: Name) -> Branch {
    let is_table = matches!(reader.node("from").map(|n| &n.value), Some(crate::text::tree::Value::Table(_)));
    let mut throws: Vec<(String, Feed)> = if is_table { read_terminal_feeds(reader, None) } else { Vec::new() };
    if is_table && let Some(fuse) = read_fuse(reader) {
        // Beside the throws it stands for a fuse in each of them.
        throws.iter_mut().for_each(|(_, feed)| feed.fuse = feed.fuse.take().or_else(|| Some(fuse.clone())));
    }
    let position = reader.text("position");
    let mut at = 0;
    if let Some(wanted) = &position {
        match throws.iter().position(|(name, _)| *name == wanted.text) {
            Some(found) => at = found,
            None => {
                let known: Vec<&str> = throws.iter().map(|(n, _)| n.as_str()).collect();
                let help = if known.is_empty() {
                    "`position` needs a change-over switch: `from = { a = \"wall\", b = \"reserve\" }`".to_owned()
                } else {
                    format!("its positions: {}", known.join(", "))
                };
                reader.problem(Problem::new(
                    wanted.span.unwrap_or(reader.span),
                    format!("{} has no position `{}`", reader.what(), wanted.text),
                    help,
                ));
            }
        }
    } else if !throws.is_empty() {
        reader.missing("position", &format!("write its position: `position = \"{}\"`", throws[0].0));
    }
    let feed = match throws.get(at) {
        Some((_, feed)) => feed.clone(),
        None if is_table => Feed::stand_in(),
        None => read_feed(reader),
    };
    let closed = reader.flag("closed", true);
    let rating = reader.figure::<Amps>("current", Need::Positive);
    let making = reader.figure::<Amps>("making-current", Need::Positive);
    let resistance =
        reader.figure_or::<Ohms>("resistance", Need::NotNegative, Ohms::new(0.01), "a contact has 10 mΩ (typical)");
    const BREAKS: [(&str, Open); 3] = [
        ("plus", Open { plus: true, minus: false }),
        ("minus", Open { plus: false, minus: true }),
        ("both", Open { plus: true, minus: true }),
    ];
    let breaks = reader.choice("breaks", &BREAKS).unwrap_or(BREAKS[0].1);
    let open = if closed { Open::NOT } else { breaks };
    let kind = RunKind::Switch(Switch { rating, making, resistance, breaks, throws, position: at });
    Branch { name, feed, open, kind }
}

/// What a `[diode.x]` is: in a feed, or across a rail.
pub(crate) enum ReadDiode {
    Series(Box<Branch>),
    Clamp(Box<Clamp>),
}

pub(crate) fn read_diode(reader: &mut Reader<'_>, name: Name) -> ReadDiode {
    let across = reader.has("across");
    let diode = diode_figures(reader, across);
    if across {
        if diode.reverse.is_none() && !reader.has("clamps") {
            reader.missing("clamps", "write the voltage at which it conducts: `clamps = \"16 V\"`");
        }
        let reversed = reader.choice("cathode", &[("plus", false), ("minus", true)]).unwrap_or(false);
        let diode = Diode { reversed, ..diode };
        return ReadDiode::Clamp(Box::new(Clamp { name, across: read_across(reader), diode }));
    }
    let reversed = reader.choice("cathode", &[("load", false), ("source", true)]).unwrap_or(false);
    let feed = read_feed(reader);
    let kind = RunKind::Diode(Box::new(Diode { reversed, ..diode }));
    ReadDiode::Series(Box::new(Branch { name, feed, open: Open::NOT, kind }))
}

/// All of a diode but which way round it lies.
fn diode_figures(reader: &mut Reader<'_>, across: bool) -> Diode {
    let fet = reader.choice("kind", &[("diode", false), ("p-fet", true)]).unwrap_or(false);
    let resistance = reader.figure_or::<Ohms>(
        "resistance",
        Need::NotNegative,
        Ohms::new(if fet { 0.02 } else { 0.05 }),
        if fet { "20 mΩ, typical of a P-channel MOSFET that is fully on" } else { "50 mΩ, typical of power diodes" },
    );
    let reverse = reader.figure::<Volts>(if across { "clamps" } else { "reverse" }, Need::Positive);
    let (clamps_at, pulse_power, bidirectional) =
        if across { read_pulse(reader, reverse.as_ref()) } else { (None, None, false) };
    let diode = Diode {
        vf: forward_volts(reader, fet),
        resistance,
        reverse,
        rating: reader.figure::<Amps>("current", Need::Positive),
        reversed: false,
        fet,
        theta: reader.figure::<KelvinsPerWatt>("theta-ja", Need::Positive),
        junction: reader.figure::<Celsius>("junction-max", Need::Positive),
        gate: if fet { read_diode_gate(reader) } else { DiodeGate::default() },
        clamps_at,
        pulse_power,
        bidirectional,
    };
    // What it carries briefly, and how fast it is, count where it is a flyback diode; where it clamps, across a rail.
    for key in ["surge-current", "speed", "clamps", "clamps-at", "pulse-power", "bidirectional", "reverse"] {
        if reader.own_span(key).is_none() || key == "surge-current" || key == "speed" {
            let _ = reader.has(key);
        }
    }
    diode
}

fn forward_volts(reader: &mut Reader<'_>, fet: bool) -> Figure<Volts> {
    if fet {
        return Figure::exact(Volts::new(0.0), Origin::Default("a conducting MOSFET has no forward voltage"));
    }
    reader.figure::<Volts>("vf", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Volts::new(0.6),
        typical: Volts::new(0.7),
        high: Volts::new(0.8),
        origin: Origin::Default("a silicon diode drops 0.6 V .. 0.8 V before its resistance (typical)"),
        bare: false,
    })
}

fn read_diode_gate(reader: &mut Reader<'_>) -> DiodeGate {
    DiodeGate {
        most: reader.figure::<Volts>("gate-maximum", Need::Positive),
        specified: reader.figure::<Volts>("rds-on-at", Need::Positive),
        clamp: reader.figure::<Volts>("gate-clamp", Need::Positive),
    }
}

/// What a clamp does in a pulse: the voltage at its pulse current, the power that it takes, and whether it clamps in
/// both directions.
fn read_pulse(
    reader: &mut Reader<'_>,
    clamps: Option<&Figure<Volts>>,
) -> (Option<Figure<Volts>>, Option<Figure<Watts>>, bool) {
    let at = reader.figure::<Volts>("clamps-at", Need::Positive);
    if let (Some(at), Some(from)) = (&at, clamps)
        && at.high < from.low
    {
        reader.problem(Problem::new(
            reader.own_span("clamps-at").unwrap_or(reader.span),
            format!("{} conducts from {} and clamps at {}, which is less", reader.what(), from.low, at.high),
            "`clamps` is where it starts to conduct, `clamps-at` its voltage at its pulse current",
        ));
    }
    (at, reader.figure::<Watts>("pulse-power", Need::Positive), reader.flag("bidirectional", false))
}
