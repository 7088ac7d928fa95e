//! What joins rails in addition to their feeds: `link`, `stack`; and what sits across a rail: `capacitor`.

use super::ground::{Ground, GroundKind};
use crate::plan::wiring::between::{read_across, read_between};
use crate::plan::wiring::cable::stated;
use crate::plan::wiring::feed::{Feed, NodeRef};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinRef;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Farads, Ohms, Volts};
use crate::text::Named;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// `[link.x]`: a jumper, solder bridge, trace or bus bar between the + of two nodes.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Link {
    pub name: Name,
    pub what: LinkKind,
    pub between: [NodeRef; 2],
    pub closed: bool,
    pub resistance: Figure<Ohms>,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum LinkKind {
    Jumper,
    SolderBridge,
    /// Cut once, it stays cut.
    Trace,
    BusBar,
    /// Between the halves of a split bus bar, which the plan tells by `bridged`.
    Halves,
    /// A pin of one board on a pin of another.
    Stack,
}

impl LinkKind {
    pub fn word(self) -> &'static str {
        match self {
            LinkKind::Jumper => "jumper",
            LinkKind::SolderBridge => "solder bridge",
            LinkKind::Trace => "trace",
            LinkKind::BusBar => "bus bar",
            LinkKind::Halves => "bridge of the bus bar",
            LinkKind::Stack => "stacked pin",
        }
    }
}

impl Link {}

fn contact() -> Figure<Ohms> {
    Figure::exact(Ohms::new(0.01), Origin::Default("a contact has 10 mΩ (typical)"))
}

pub(crate) fn read_link(reader: &mut Reader<'_>, name: Name) -> Link {
    const KINDS: [(&str, LinkKind); 4] = [
        ("jumper", LinkKind::Jumper),
        ("solder-bridge", LinkKind::SolderBridge),
        ("trace", LinkKind::Trace),
        ("bus-bar", LinkKind::BusBar),
    ];
    let what = reader.choice("kind", &KINDS).unwrap_or(LinkKind::Jumper);
    let between = read_between(
        reader,
        "a link joins the positives of two nodes: `between = [\"five\", \
        \"keeper.3v3\"]`",
    );
    let closed = reader.flag("closed", true);
    let resistance = reader.figure::<Ohms>("resistance", Need::NotNegative).unwrap_or_else(contact);
    Link { name, what, between, closed, resistance }
}

/// The link between the two halves of a bus bar that are fed apart.
pub(crate) fn bridge(name: &Name, ends: [&Name; 2]) -> Link {
    let end = |name: &Name| NodeRef::new(Named { text: name.text.clone(), span: Some(name.span) });
    Link {
        name: Name { text: format!("{}.bridge", name.text), span: name.span },
        what: LinkKind::Halves,
        between: ends.map(end),
        closed: true,
        resistance: contact(),
    }
}

/// `[stack.x]`: a board plugged on another; the pins it shares join their supplies.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Stack {
    pub name: Name,
    pub upper: Named,
    pub host: Named,
    /// Shared supply pins: name on the upper board, name on the host.
    pub shares: Vec<Named>,
    pub cut: Vec<Named>,
    /// Pins of the host that it takes for itself, and those that it shares as a bus.
    pub claims: Vec<PinRef>,
    pub bus_pins: Vec<PinRef>,
}

pub(crate) fn read_stack(reader: &mut Reader<'_>, name: Name) -> Stack {
    let mut board = |key: &'static str, help: &str| {
        if !reader.has(key) {
            reader.missing(key, help);
        }
        reader.text(key).unwrap_or(Named { text: String::new(), span: None })
    };
    let upper = board("board", "name the board plugged on top: `board = \"crane\"`");
    let host = board("on", "name the board below: `on = \"keeper\"`");
    let mut shares = reader.texts("shares");
    if !reader.has("shares") {
        shares.push(Named { text: "5v".into(), span: None });
    }
    let cut = reader.texts("cut");
    for pin in &cut {
        if !shares.iter().any(|s| s.text == pin.text) {
            reader.problem(crate::text::problem::Problem::new(
                pin.span,
                format!("{} cuts `{}`, which the boards do not share", reader.what(), pin.text),
                "list it in `shares` too",
            ));
        }
    }
    let mut pins = |key: &'static str| -> Vec<PinRef> {
        let pins = reader.texts(key).into_iter();
        pins.map(|p| PinRef::new(Named { text: format!("{}.{}", host.text, p.text), span: p.span })).collect()
    };
    let (claims, bus_pins) = (pins("claims"), pins("bus-pins"));
    Stack { name, upper, host, shares, cut, claims, bus_pins }
}

impl Stack {
    /// A pin of one of its boards, as a node.
    pub fn pin(&self, board: &Named, pin: &Named) -> NodeRef {
        NodeRef::new(Named { text: format!("{}.{}", board.text, pin.text), span: pin.span.or(board.span) })
    }

    pub fn is_cut(&self, pin: &Named) -> bool {
        self.cut.iter().any(|c| c.text == pin.text)
    }

    /// The link that a shared pin makes.
    pub fn link(&self, shared: &Named) -> Link {
        Link {
            name: Name { text: format!("{}.{}", self.name.text, shared.text), span: self.name.span },
            what: LinkKind::Stack,
            between: [self.pin(&self.upper, shared), self.pin(&self.host, shared)],
            closed: !self.is_cut(shared),
            resistance: contact(),
        }
    }

    /// A shared pin as the cable that feeds an input of one of the boards from the other.
    pub fn lead(&self, from: &Named, shared: &Named) -> Feed {
        let cable = stated(shared.span.unwrap_or(self.name.span), &contact());
        Feed { from: self.pin(from, shared), cable: Some(cable), back: None, fuse: None }
    }

    /// The tie between the − of both boards: their ground pins always meet.
    pub fn ground(&self, between: [NodeRef; 2]) -> Ground {
        Ground {
            name: Name { text: format!("{}.ground", self.name.text), span: self.name.span },
            between,
            cable: None,
            resistance: Some(contact()),
            load: None,
            what: GroundKind::Tie,
        }
    }
}

/// `[capacitor.x]`: across a node.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Capacitor {
    pub name: Name,
    pub across: NodeRef,
    pub capacitance: Figure<Farads>,
    /// What it is rated for.
    pub voltage: Option<Figure<Volts>>,
    /// The ripple current that it is rated for, r.m.s.
    pub ripple: Option<Figure<Amps>>,
    pub esr: Figure<Ohms>,
}

pub(crate) fn read_capacitor(reader: &mut Reader<'_>, name: Name) -> Capacitor {
    let across = read_across(reader);
    let capacitance = reader.required::<Farads>("capacitance", Need::Positive);
    let esr = reader.figure::<Ohms>("esr", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Ohms::new(0.02),
        typical: Ohms::new(0.05),
        high: Ohms::new(0.1),
        origin: Origin::Default("an electrolytic capacitor has 20 mΩ .. 100 mΩ (typical)"),
        bare: false,
    });
    let voltage = reader.figure::<Volts>("voltage", Need::Positive);
    let ripple = reader.figure::<Amps>("ripple", Need::Positive);
    Capacitor { name, across, capacitance, voltage, ripple, esr }
}
