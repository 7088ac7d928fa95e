//! Questions to one solved state, by the names that a plan has for things.

use modest_ohm_solve::network::Branch;

use super::outcome::Snapshot;
use crate::network::layout::{ConverterAt, Terminals};
use crate::plan::kinds::converter::ConverterKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::topology::run::Run;

/// Less than this is the trace of a source that is kept from giving, A.
const TRACE_A: f64 = 1e-9;

impl Snapshot {
    /// True where both ends of a branch are fed.
    pub fn alive(&self, branch: usize) -> bool {
        let Branch { from, to, .. } = self.net.branches[branch];
        self.solution.alive[from] && self.solution.alive[to]
    }

    /// True where something feeds a pair of terminals.
    pub fn is_fed(&self, at: Terminals) -> bool {
        self.solution.alive[at.plus] && self.solution.alive[at.minus]
    }

    /// The voltage from − to + of a pair of terminals, V; `None` where nothing feeds them.
    pub fn volts(&self, at: Terminals) -> Option<f64> {
        self.is_fed(at).then(|| self.solution.across(at.plus, at.minus))
    }

    /// The voltage of a node of the plan, V; `None` where nothing feeds it.
    pub fn volts_at(&self, node: NodeId) -> Option<f64> {
        self.volts(*self.layout.nodes.get(node.0)?)
    }

    /// The current through a branch in its own direction, A.
    pub fn amps(&self, branch: usize) -> f64 {
        self.solution.current[branch]
    }

    /// The voltage that a branch drops in the direction of its current, V.
    pub fn drop_v(&self, branch: usize) -> f64 {
        self.solution.drop_of(&self.net, branch)
    }

    /// The current that each member of a load takes, A, whichever way it flows.
    pub fn currents_into(&self, load: usize) -> impl Iterator<Item = f64> {
        self.layout.loads[load].iter().map(|member| self.amps(member.branch).abs())
    }

    /// The current that a load takes with all its members, A.
    pub fn current_into(&self, load: usize) -> f64 {
        self.currents_into(load).sum()
    }

    /// The current that a node delivers (supplies, converters, board outputs) or takes in (branches, board inputs), A.
    pub fn current_of(&self, node: NodeKind) -> f64 {
        let layout = &self.layout;
        let feed_of =
            |run| layout.conductors.iter().find(|c| c.run == run).and_then(|c| c.feed).map_or(0.0, |b| self.amps(b));
        let amps = match node {
            NodeKind::Supply(i) => self.amps(layout.supplies[i]),
            NodeKind::Branch(i) => layout.through.get(i).map_or(0.0, |b| self.amps(*b)),
            NodeKind::Converter(i) => self.amps(layout.converters[i].output),
            NodeKind::BoardInput(i) if layout.conductors.iter().any(|c| c.run == Run::Board(i)) => {
                feed_of(Run::Board(i))
            }
            // Without a feed of its own: what comes in by its other terminals.
            NodeKind::BoardInput(i) => layout.inlets[i].joins().map(|b| self.amps(b)).sum(),
            NodeKind::BoardOutput(i) => layout.boards[i].regulator.map_or(0.0, |b| self.amps(b)),
            NodeKind::StripStart(_) | NodeKind::StripEnd(_) => 0.0,
        };
        if amps.abs() < TRACE_A { 0.0 } else { amps }
    }

    /// The current that a converter takes in, A.
    pub fn current_into_converter(&self, plan: &Plan, converter: usize) -> f64 {
        let ConverterAt { intake, output, .. } = self.layout.converters[converter];
        // What a linear regulator gives comes straight from its input.
        let is_linear = plan.converters[converter].kind == ConverterKind::Linear;
        self.amps(intake) + if is_linear { self.amps(output) } else { 0.0 }
    }
}
