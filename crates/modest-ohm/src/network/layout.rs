//! Where the plan's things ended up in the network: names to vertices, branches and ports.

use crate::source::Span;
use crate::topology::run::Run;

/// A feed and a return conductor, or a tie (one conductor, `back` only).
#[derive(Clone, Debug)]
pub(crate) struct ConductorInfo {
    /// Named by what it feeds.
    pub name: String,
    pub run: Run,
    pub feed: Option<usize>,
    pub back: usize,
}

/// + and − of something.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Terminals {
    pub plus: usize,
    pub minus: usize,
}

/// A converter.
#[derive(Clone, Copy, Debug)]
pub(crate) struct ConverterAt {
    /// + and − of its input.
    pub input: Terminals,
    /// The branch by which it draws from its input.
    pub intake: usize,
    /// The branch of its output.
    pub output: usize,
}

/// A board.
#[derive(Clone, Copy, Debug)]
pub(crate) struct BoardAt {
    /// + and − of its main terminal.
    pub main: Terminals,
    /// The branch of what it draws itself.
    pub own: usize,
    /// The branch of the regulator of its output.
    pub regulator: Option<usize>,
}

/// What draws current: a member of a load, a shifter.
#[derive(Clone, Copy, Debug)]
pub(crate) struct DemandAt {
    /// Its + and −.
    pub at: Terminals,
    /// Its branch.
    pub branch: usize,
}

/// A board's further inlets.
#[derive(Clone, Debug, Default)]
pub(crate) struct Inlets {
    pub usb: Option<UsbInlet>,
    /// Its terminals, and the regulator behind it.
    pub unregulated: Option<(Terminals, usize)>,
}

impl Inlets {
    /// The branches by which USB and the unregulated input meet the main terminal.
    pub fn joins(&self) -> impl Iterator<Item = usize> + '_ {
        self.usb.iter().map(|u| u.join).chain(self.unregulated.iter().map(|(_, branch)| *branch))
    }
}

/// A USB socket: what joins it to the main terminal, and the computer's port where the plan has no
/// supply for it.
#[derive(Clone, Debug)]
pub(crate) struct UsbInlet {
    pub join: usize,
    pub port: Option<usize>,
}

/// Vertices and branches by the plan's indices.
#[derive(Clone, Debug, Default)]
pub(crate) struct Layout {
    /// Per node of the plan.
    pub nodes: Vec<Terminals>,
    pub supplies: Vec<usize>,
    pub converters: Vec<ConverterAt>,
    pub boards: Vec<BoardAt>,
    /// Per board: what else feeds its main terminal.
    pub inlets: Vec<Inlets>,
    /// Per run of the plan: the diode or contact in its feed.
    pub elements: Vec<Option<usize>>,
    /// Per run of the plan: the branch that all of its current goes through. What a strip's colour takes comes in by
    /// the strip's own feed and leaves through the stage.
    pub through: Vec<usize>,
    pub links: Vec<usize>,
    /// Jumpers of relay modules: the module's load, and the branch.
    pub module_jumpers: Vec<(usize, usize)>,
    pub clamps: Vec<usize>,
    pub shifters: Vec<DemandAt>,
    /// The low side of each, of one between two supplies.
    pub shifter_lows: Vec<Option<Terminals>>,
    /// Per load, per member.
    pub loads: Vec<Vec<DemandAt>>,
    /// Per strip, per injection: index of its port in the ladder.
    pub ports: Vec<Vec<usize>>,
    pub conductors: Vec<ConductorInfo>,
    /// Pins that loads are connected to.
    pub pins: Vec<PinInfo>,
}

/// What lies between a rail and all that is connected to one pin: the pin's resistance.
#[derive(Clone, Debug)]
pub(crate) struct PinInfo {
    pub board: usize,
    /// The chip's name.
    pub pin: String,
    /// Where the plan names it, of one that is still to be chosen: each of those is a pin of its own.
    pub open: Option<Span>,
    /// The + or − of the rail.
    pub rail: usize,
    /// What the loads are connected to.
    pub vertex: usize,
    pub branch: usize,
}

impl Layout {
    /// The rail behind a vertex that is a pin's; else itself.
    pub fn behind(&self, vertex: usize) -> usize {
        self.pins.iter().find(|p| p.vertex == vertex).map_or(vertex, |p| p.rail)
    }
}
