//! `[board.x]`: a board with its feed terminals, regulators, outputs and ports.

use super::converter::{Heat, read_heat};
use super::run::{Branch, Open, Port, RunKind};
use crate::plan::pins::Pins;
use crate::plan::pins::read::read_pins;
use crate::plan::wiring::feed::{Feed, NodeRef, read_optional_feed, read_terminal_feeds};
use crate::plan::wiring::fuse::{Fuse, read_fuse};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Bytes, Ohms, Volts};
use crate::text::Named;
use crate::text::order::at_most;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Board {
    pub name: Name,
    /// Its main terminal's feed; none where it is fed through USB, an unregulated input or a stacked board alone.
    #[figures(flat)]
    pub feed: Option<Feed>,
    /// The main terminal's name; `name.terminal` is its node.
    pub terminal: String,
    /// Mean current of the board itself at its main terminal.
    pub mean: Figure<Amps>,
    /// Bursts of milliseconds.
    pub peak: Figure<Amps>,
    pub knee: Option<Figure<Volts>>,
    #[figures(range)]
    pub recommended: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    /// Below it at the main terminal the board resets.
    pub brown_out: Option<Figure<Volts>>,
    /// The on-board regulator that makes the logic voltage; without one the logic runs on the feed.
    pub regulator: Option<Regulator>,
    pub inputs: Inputs,
    #[figures(flat)]
    pub usb: Usb,
    pub unregulated: Option<Unregulated>,
    /// Further feed terminals as they are fed, moved to the plan's runs once the plan is put together.
    #[figures(skip)]
    pub runs: Vec<Branch>,
    /// What all ports together may carry.
    pub total: Option<Figure<Amps>>,
    /// What its main terminal and the trace behind it carry on to others.
    #[figures(key = "through-current")]
    pub through: Option<Figure<Amps>>,
    /// Volts its selector stands at.
    pub selected: Option<Figure<Volts>>,
    #[figures(flat)]
    pub pins: Pins,
    /// Memory that its firmware may use.
    pub ram: Option<Figure<Bytes>>,
}

/// The on-board regulator.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Regulator {
    pub output: String,
    pub voltage: Figure<Volts>,
    pub dropout: Figure<Volts>,
    /// What the regulator carries altogether, the board's own mean included.
    pub limit: Option<Figure<Amps>>,
    #[figures(flat)]
    pub heat: Heat,
    /// True where the board's own chip and pins run on it.
    pub logic: bool,
}

impl Board {
    /// The regulator that the board's own chip and pins run on.
    pub fn logic_regulator(&self) -> Option<&Regulator> {
        self.regulator.as_ref().filter(|r| r.logic)
    }

    /// Whether a run's name is that of the USB terminal.
    pub fn is_usb(&self, run: &str) -> bool {
        run.strip_prefix(&self.name.text).is_some_and(|rest| rest == ".usb") && self.terminal != "usb"
    }

    /// Whether a run's name is that of the unregulated input.
    pub fn is_unregulated(&self, run: &str) -> bool {
        let own = self.unregulated.as_ref().map(|u| u.terminal.as_str());
        own.is_some() && run.strip_prefix(&self.name.text).and_then(|r| r.strip_prefix('.')) == own
    }
}

/// How several supply inputs meet on a board.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Inputs {
    /// One of them is chosen; nothing flows between them. A board with an unregulated input chooses between that and
    /// USB, and its main terminal lies behind; another chooses between its main terminal and USB.
    Selects,
    /// USB comes in through a diode.
    DiodeJoined,
    /// USB and the main terminal are one.
    Joined,
}

/// When a computer is plugged in, and what its port gives.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Usb {
    pub when: UsbUse,
    #[figures(key = "usb-current")]
    pub limit: Figure<Amps>,
    /// The diode between USB and the main terminal, where there is one.
    #[figures(key = "usb-diode")]
    pub diode_vf: Figure<Volts>,
    #[figures(key = "usb-diode-resistance")]
    pub diode_ohms: Figure<Ohms>,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum UsbUse {
    Never,
    Sometimes,
    Always,
}

/// An input with a regulator that makes the main terminal's voltage.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Unregulated {
    pub terminal: String,
    #[figures(range)]
    pub recommended: Figure<Volts>,
    pub absolute: Figure<Volts>,
    pub makes: Figure<Volts>,
    pub dropout: Figure<Volts>,
    #[figures(flat)]
    pub heat: Heat,
}

/// A SOT-223 package on a small board.
const ON_BOARD: (f64, f64, &str) = (80.0, 90.0, "an on-board regulator has 80 K/W .. 90 K/W (typical)");

pub(crate) fn read_board(reader: &mut Reader<'_>, name: Name) -> Board {
    let terminal = reader.text("terminal").map_or_else(|| "5v".to_owned(), |t| t.text);
    let inputs = reader
        .choice(
            "inputs",
            &[("selects", Inputs::Selects), ("diode-joined", Inputs::DiodeJoined), ("joined", Inputs::Joined)],
        )
        .unwrap_or(Inputs::DiodeJoined);
    let usb = read_usb(reader);
    let unregulated = reader.child("unregulated").map(|mut inner| {
        let unregulated = read_unregulated(&mut inner);
        inner.finish();
        unregulated
    });
    let sections = reader.texts("sections");
    let feeds = read_feeds(reader, &terminal, unregulated.as_ref(), &sections);
    let (feed, mut runs) = terminals(&name, &terminal, feeds, &sections);
    runs.extend(read_ports(reader, &name, &terminal, &sections));
    let total = reader.figure::<Amps>("total", Need::Positive);
    let through = reader.figure::<Amps>("through-current", Need::Positive);
    let selected = reader.figure::<Volts>("selected", Need::Positive);
    let ram = reader.figure::<Bytes>("ram", Need::Positive);
    let mean = reader.required::<Amps>("mean", Need::NotNegative);
    let peak = reader.figure::<Amps>("peak", Need::NotNegative);
    let knee = reader.figure::<Volts>("knee", Need::Positive);
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let brown_out = reader.figure::<Volts>("brown-out", Need::Positive);
    let highest = recommended.as_ref().map(|r| r.high);
    let help = "an absolute maximum is above what is recommended";
    at_most(reader, ("recommended", highest), ("absolute", absolute.as_ref().map(|a| a.high)), help);
    let help = "a board that resets there never runs";
    at_most(reader, ("brown-out", brown_out.as_ref().map(|b| b.typical)), ("recommended", highest), help);
    let pins = read_pins(reader);
    let regulator = reader.child("regulator").and_then(|mut inner| {
        let regulator = read_regulator(&mut inner);
        inner.finish();
        regulator
    });
    let peak = peak.unwrap_or_else(|| mean.clone());
    Board {
        name,
        feed,
        terminal,
        mean,
        peak,
        knee,
        recommended,
        absolute,
        brown_out,
        regulator,
        inputs,
        usb,
        unregulated,
        runs,
        total,
        through,
        selected,
        ram,
        pins,
    }
}

/// The feed of the main terminal, and a run for each of the others.
fn terminals(
    name: &Name,
    terminal: &str,
    feeds: Vec<(String, Feed)>,
    sections: &[Named],
) -> (Option<Feed>, Vec<Branch>) {
    let mut runs = Vec::new();
    let mut feed = None;
    for (at, own) in feeds {
        if at == terminal {
            feed = Some(own);
        } else {
            let name = Name { text: format!("{}.{at}", name.text), span: name.span };
            let kind = RunKind::Terminal { board: usize::MAX };
            runs.push(Branch { name, feed: own, open: Open::NOT, kind });
        }
    }
    for section in sections {
        let own = format!("{}.{}", name.text, section.text);
        if !runs.iter().any(|r: &Branch| r.name.text == own) {
            // Without a feed it stays dead; what is fed from it is reported so.
            let from = Named { text: format!("{}.{terminal}", name.text), span: Some(name.span) };
            let feed = Feed { from: NodeRef::new(from), cable: None, back: None, fuse: None };
            let open = Open { plus: true, minus: true };
            let kind = RunKind::Terminal { board: usize::MAX };
            runs.push(Branch { name: Name { text: own, span: name.span }, feed, open, kind });
        }
    }
    (feed, runs)
}

/// `from = "five"`, or one feed a terminal.
fn read_feeds(
    reader: &mut Reader<'_>,
    terminal: &str,
    unregulated: Option<&Unregulated>,
    sections: &[Named],
) -> Vec<(String, Feed)> {
    if matches!(reader.node("from").map(|n| &n.value), Some(Value::Table(_))) {
        let mut known = vec![terminal];
        if terminal != "usb" {
            known.push("usb");
        }
        known.extend(unregulated.map(|u| u.terminal.as_str()));
        known.extend(sections.iter().map(|s| s.text.as_str()));
        let feeds = read_terminal_feeds(reader, Some(&known));
        // What is written wrong is reported; that nothing feeds the board then is not.
        let stand_in = feeds.is_empty().then(|| (terminal.to_owned(), Feed::stand_in()));
        return feeds.into_iter().chain(stand_in).collect();
    }
    read_optional_feed(reader).map(|feed| (terminal.to_owned(), feed)).into_iter().collect()
}

fn read_usb(reader: &mut Reader<'_>) -> Usb {
    const USES: [(&str, UsbUse); 3] =
        [("never", UsbUse::Never), ("sometimes", UsbUse::Sometimes), ("always", UsbUse::Always)];
    let when = reader.choice("usb", &USES).unwrap_or(UsbUse::Never);
    let limit = reader.figure_or::<Amps>(
        "usb-current",
        Need::Positive,
        Amps::new(super::supply::USB_PORT_AMPS),
        "a computer's USB port supplies 0.5 A",
    );
    let diode_vf = reader.figure::<Volts>("usb-diode", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Volts::new(0.25),
        typical: Volts::new(0.3),
        high: Volts::new(0.35),
        origin: Origin::Default("a Schottky diode drops 0.25 V .. 0.35 V before its resistance (typical)"),
        bare: false,
    });
    let diode_ohms = Figure::exact(Ohms::new(0.1), Origin::Default("0.1 Ω, typical of a small Schottky diode"));
    Usb { when, limit, diode_vf, diode_ohms }
}

fn read_unregulated(inner: &mut Reader<'_>) -> Unregulated {
    let terminal = inner.text("terminal").map_or_else(|| "vin".to_owned(), |t| t.text);
    let recommended = inner.required::<Volts>("recommended", Need::Positive);
    let absolute = inner.required::<Volts>("absolute", Need::Positive);
    let makes = inner
        .figure::<Volts>("makes", Need::Positive)
        .unwrap_or_else(|| Figure {
            bare: true,
            ..Figure::exact(Volts::new(5.0), Origin::Default("an on-board regulator of 5 V ± 3 %"))
        })
        .with_tolerance(0.03);
    let dropout = inner.figure_or::<Volts>(
        "dropout",
        Need::NotNegative,
        Volts::new(1.3),
        "on-board regulators drop 1.3 V (typical)",
    );
    let heat = read_heat(inner, Some(ON_BOARD));
    Unregulated { terminal, recommended, absolute, makes, dropout, heat }
}

fn read_regulator(inner: &mut Reader<'_>) -> Option<Regulator> {
    let output = inner.text("output");
    let voltage = inner.required::<Volts>("voltage", Need::Positive);
    let dropout = inner.figure_or::<Volts>("dropout", Need::NotNegative, Volts::new(1.2), "1.1 V .. 1.3 V (typical)");
    let limit = inner.figure::<Amps>("limit", Need::Positive);
    let heat = read_heat(inner, Some(ON_BOARD));
    let logic = inner.flag("logic", true);
    if output.is_none() {
        inner.missing("output", "name its output node: `output = \"3v3\"`");
    }
    Some(Regulator { output: output?.text, voltage, dropout, limit, heat, logic })
}

/// `ports = { out = { count = 4, limit = "3 A", fuse = "4 A", section = "power" } }`: nodes `crane.out1` …
/// `crane.out4`.
fn read_ports(reader: &mut Reader<'_>, name: &Name, terminal: &str, sections: &[Named]) -> Vec<Branch> {
    let mut ports = Vec::new();
    let Some(mut families) = reader.child("ports") else { return ports };
    for (family, span) in families.keys() {
        let Some(mut inner) = families.child_named(&family) else { continue };
        let count = inner.whole("count", 1..=64);
        if !inner.has("count") {
            inner.missing("count", "write how many there are: `count = 4`");
        }
        let limit = inner.figure::<Amps>("limit", Need::Positive);
        let fuse: Option<Fuse> = read_fuse(&mut inner);
        let of = inner.text("section");
        let mut section = of.as_ref().map_or(terminal, |o| o.text.as_str());
        if let Some(of) = of.as_ref().filter(|o| o.text != terminal && !sections.iter().any(|s| s.text == o.text)) {
            let mut known = vec![terminal];
            known.extend(sections.iter().map(|s| s.text.as_str()));
            inner.problem(Problem::new(
                of.span.unwrap_or(span),
                format!("{} has no section `{}`", inner.what(), of.text),
                format!("its sections: {}", known.join(", ")),
            ));
            section = terminal;
        }
        for n in 1..=count.unwrap_or(0) {
            let from = Named { text: format!("{}.{section}", name.text), span: Some(name.span) };
            let port = Port { board: usize::MAX, family: family.clone(), limit: limit.clone() };
            ports.push(Branch {
                name: Name { text: format!("{}.{family}{n}", name.text), span: name.span },
                feed: Feed { from: NodeRef::new(from), cable: None, back: None, fuse: fuse.clone() },
                open: Open::NOT,
                kind: RunKind::Port(port),
            });
        }
        inner.finish();
    }
    ports
}
