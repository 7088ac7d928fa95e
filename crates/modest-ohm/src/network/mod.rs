//! The electrical network of a plan in one scenario and corner: vertices, branches, ladders; no names, no text.

mod boards;
mod build;
mod demands;
mod layout;
mod state;
mod strip_net;
mod strips;

pub(crate) use build::build;
pub(crate) use demands::cases;
pub(crate) use layout::{ConductorInfo, Layout, PinInfo, Run, Terminals};
pub(crate) use state::{Boards, Case, Demands, Member, State};
pub(crate) use strip_net::{Fan, StripNet};

use crate::solve::Ladder;

/// A two-terminal element; its current counts positive from `from` to `to` through the element.
#[derive(Clone, Debug)]
pub(crate) struct Branch {
    pub from: usize,
    pub to: usize,
    pub law: Law,
}

/// The laws of the elements (electrical reference, "The network").
#[derive(Clone, Debug)]
pub(crate) enum Law {
    /// V = R·i·(1 + rise·min(1, (i/ampacity)²)): a conductor that warms with its current.
    Conductor { ohms: f64, rise: f64, ampacity: f64 },
    /// A piece of strip copper, Ω: a conductance between its ends, without an unknown of its own. Long chains of small
    /// resistances with an unknown each would fill the matrix as they are eliminated.
    Copper { ohms: f64 },
    /// From − to +: V₊ − V₋ = emf − ohms·i up to `limit`, then constant current; takes none back unless it `sinks`.
    Source { emf: f64, ohms: f64, limit: f64, sinks: bool },
    /// From input + to output +: holds `volts` over `common` less `ohms`·i, or follows the input less the dropout; up to
    /// `limit`, and never backwards.
    Regulator { common: usize, volts: f64, ohms: f64, dropout: f64, limit: f64 },
    /// From anode to cathode: vf + ohms·i, no reverse current up to `reverse` volts.
    Diode { vf: f64, ohms: f64, reverse: f64, lies: Lies },
    /// From input + to input −: takes (Pout/efficiency + quiescent)/V for the output branch.
    ConverterInput { output: usize, efficiency: f64, quiescent_w: f64 },
    /// amps·clamp(V/knee, 0, 1).
    ConstantCurrent { amps: f64, knee: f64 },
    /// siemens·max(0, V − vf): LEDs on a resistor.
    LedString { vf: f64, siemens: f64 },
    /// V/R.
    Resistive { siemens: f64 },
    /// P/V on the upper branch.
    ConstantPower { watts: f64 },
}

/// Where a diode lies, or a stage that drops volts as one does.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Lies {
    /// In a feed: it feeds what lies behind it.
    InFeed,
    /// In a return: what lies before it is fed by another way, and ends here.
    InReturn,
    /// Across a rail: it feeds nothing.
    Across,
}

impl Law {
    /// Nothing flows: an open switch, a supply that is off. It keeps its place, so that all scenarios of a plan have the
    /// same layout.
    pub const OPEN: Self = Self::ConstantCurrent { amps: 0.0, knee: 1.0 };

    /// True for elements that draw current between + and −.
    pub fn is_demand(&self) -> bool {
        matches!(
            self,
            Law::ConstantCurrent { .. }
                | Law::LedString { .. }
                | Law::Resistive { .. }
                | Law::ConstantPower { .. }
                | Law::ConverterInput { .. }
        )
    }

    /// True for elements that are a conductance and a current between their ends, and no unknown.
    pub fn is_nodal(&self) -> bool {
        matches!(self, Law::Copper { .. } | Law::LedString { .. })
    }

    pub fn is_power(&self) -> bool {
        matches!(self, Law::ConstantPower { .. } | Law::ConverterInput { .. })
    }
}

/// Everything the solver needs.
#[derive(Clone, Debug, Default)]
pub(crate) struct Network {
    pub vertices: usize,
    pub branches: Vec<Branch>,
    pub ladders: Vec<Ladder>,
    /// Per strip of the plan.
    pub strips: Vec<StripNet>,
    /// The − of supplies, in the order of the plan; the first of each group is its 0 V.
    pub source_minus: Vec<usize>,
    /// Branches of supplies that are on (not of converters).
    pub supplies: Vec<usize>,
}
