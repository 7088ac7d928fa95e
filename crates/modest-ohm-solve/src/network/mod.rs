//! What is solved: vertices, elements with their laws, ladders; no names and no text.

mod groups;
mod ladder;
mod strip_net;

pub use groups::Groups;
pub(crate) use ladder::SHORTEST_GAP_M;
pub use ladder::{Clamp, Ladder, PixelLaw, Port};
pub use strip_net::{Fan, Section, StripNet};

/// A two-terminal element; its current counts positive from `from` to `to` through the element.
#[derive(Clone, Debug, PartialEq)]
pub struct Branch {
    /// Vertex where a positive current enters.
    pub from: usize,
    /// Vertex where a positive current leaves.
    pub to: usize,
    /// How its current depends on its voltage.
    pub law: Law,
}

/// The laws of the elements (electrical reference, "The network").
#[derive(Clone, Debug, PartialEq)]
pub enum Law {
    /// V = R·i·(1 + rise·min(1, (i/ampacity)²)): a conductor that warms with its current.
    Conductor {
        /// Resistance, Ω.
        ohms: f64,
        /// Share by which it rises at its ampacity.
        rise: f64,
        /// Current at which the conductor is as warm as its insulation may be, A.
        ampacity: f64,
    },
    /// A piece of strip copper, Ω: a conductance between its ends, without an unknown of its own. Long chains of small
    /// resistances with an unknown each would fill the matrix as they are eliminated.
    Copper {
        /// Resistance, Ω.
        ohms: f64,
    },
    /// From − to +: V₊ − V₋ = emf − resistance·i up to `limit`, then constant current; takes none back unless it
    /// `sinks`.
    Source {
        /// Open-circuit voltage, V.
        emf: f64,
        /// Resistance, Ω.
        ohms: f64,
        /// Current limit, A; infinite for none.
        limit: f64,
        /// True for a source that also takes current back.
        sinks: bool,
    },
    /// From input + to output +: holds `volts` over `common` less `ohms`·i, or follows the input less the dropout; up
    /// to `limit`, and never backwards.
    Regulator {
        /// Vertex to which the output is regulated.
        common: usize,
        /// Regulated voltage, V.
        volts: f64,
        /// Resistance, Ω.
        ohms: f64,
        /// Least voltage from input to output, V.
        dropout: f64,
        /// Current limit, A; infinite for none.
        limit: f64,
    },
    /// From anode to cathode: vf + resistance·i, no reverse current up to `reverse` voltage.
    Diode {
        /// Forward voltage at no current, V.
        vf: f64,
        /// Resistance, Ω.
        ohms: f64,
        /// Reverse breakdown voltage, V.
        reverse: f64,
        /// Where it is in the circuit.
        lies: Lies,
    },
    /// From input + to input −: takes (Pout/efficiency + quiescent)/V for the output branch.
    ConverterInput {
        /// Branch of the output.
        output: usize,
        /// Output power by input power, 0 to 1.
        efficiency: f64,
        /// Power drawn without load, W.
        quiescent_w: f64,
    },
    /// current·clamp(V/knee, 0, 1).
    ConstantCurrent {
        /// Current, A.
        amps: f64,
        /// Voltage below which the current falls in proportion, V.
        knee: f64,
    },
    /// siemens·max(0, V − vf): LEDs on a resistor.
    LedString {
        /// Forward voltage at no current, V.
        vf: f64,
        /// Conductance, S.
        siemens: f64,
    },
    /// V/R.
    Resistive {
        /// Conductance, S.
        siemens: f64,
    },
    /// P/V on the upper branch.
    ConstantPower {
        /// Power, W.
        watts: f64,
    },
}

/// Where a diode lies, or a stage that drops voltage as one does.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Lies {
    /// In a feed: it feeds what lies behind it.
    InFeed,
    /// In a return: what lies before it is fed by another way, and ends here.
    InReturn,
    /// Across a rail: it feeds nothing.
    Across,
}

impl Law {
    /// Nothing flows: an open switch, a supply that is off. It keeps its place, so that all scenarios of a plan have
    /// the same layout.
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

    /// True for elements that keep their power.
    pub fn is_power(&self) -> bool {
        matches!(self, Law::ConstantPower { .. } | Law::ConverterInput { .. })
    }
}

/// Everything the solver needs.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Network {
    /// Number of vertices.
    pub vertices: usize,
    /// All two-terminal elements.
    pub branches: Vec<Branch>,
    /// Strips, and pieces of strips, that are eliminated in O(n).
    pub ladders: Vec<Ladder>,
    /// Per strip of the plan.
    pub strips: Vec<StripNet>,
    /// The − of supplies, in the order of the plan; the first of each group is its 0 V.
    pub source_minus: Vec<usize>,
    /// Branches of supplies that are on (not of converters).
    pub supplies: Vec<usize>,
}
