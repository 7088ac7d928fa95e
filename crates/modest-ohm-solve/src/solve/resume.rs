//! Solving from the solution of a similar network instead of from the unloaded one.
//!
//! Newton's method finds whatever solution is near its start, so a start that is not the unloaded network may lead to a
//! lower branch. The determinant does not tell: with two demands on a lower branch at once its sign is right again. A
//! solution is on the upper branch exactly where the tangent network is a nonsingular M-matrix, that is, where current
//! put into the inputs of constant power raises the voltage of all of them (Berman and Plemmons, "Nonnegative Matrices
//! in the Mathematical Sciences", chapter 6, condition I28). One substitution with the factors at hand shows it.

use std::sync::Arc;

use super::chains::Chain;
use super::run::{Mode, Power, Run};
use super::solution::Solution;
use super::sparse::Template;

/// A sagging input lifts no other: what is below this is rounding, V per A.
const ROUNDING_OHMS: f64 = 1e-9;

/// Voltages of more pixels than this are not kept.
const MOST_PIXELS: usize = 16_384;

/// What a solution does not say of itself: what sources and diodes do, and the voltage of every pixel.
#[derive(Clone, Debug, Default)]
pub(crate) struct State {
    pub(super) modes: Vec<Mode>,
    /// Empty where there are too many to keep.
    pub(super) pixels: Vec<Vec<f64>>,
    /// The order in which its tangent network was solved.
    pub(super) order: Option<Template>,
    /// What sources and diodes do without constant power, where the network has been solved from there.
    pub(super) rest: Option<Arc<Rest>>,
}

/// Modes on the way up from nothing. They only shorten it: without constant power a network has one state, whatever it is
/// searched from.
#[derive(Debug)]
pub(super) struct Rest {
    /// Nothing draws current.
    pub unloaded: Vec<Mode>,
    /// Everything draws but constant power.
    pub unpowered: Vec<Mode>,
}

impl Run<'_> {
    /// The present point, as a start for others.
    pub(super) fn state(&self) -> State {
        let pixels: usize = self.ladders.iter().map(|l| l.v.len()).sum();
        State {
            modes: self.at.modes.clone(),
            order: self.workspace.factors.template().cloned(),
            rest: self.rest.clone(),
            pixels: if pixels <= MOST_PIXELS { self.ladders.iter().map(|l| l.v.clone()).collect() } else { Vec::new() },
        }
    }

    /// Solves from the solution of a similar network; false where that does not lead to the upper solution at once.
    pub(super) fn resume(&mut self, start: &Solution, scale: f64) -> bool {
        if !self.start_from(start) {
            return false;
        }
        if !self.has_power || scale == 0.0 {
            return self.settle(Power::Off).is_ok() && !self.may_give();
        }
        let found = self.descend(scale).is_ok() && self.raises_all_inputs() && !self.may_give();
        // Behind a current limit constant power may have two stable states: a rail that the limited source holds, and
        // one that has fallen to the next source. The way from the unloaded network decides.
        found && self.limited().next().is_none()
    }

    /// Whether a solution is of a network with the same parts.
    fn is_like(&self, start: &Solution) -> bool {
        start.potential.len() == self.net.vertices
            && start.state.modes.len() == self.net.branches.len()
            && start.alive == self.islands.vertex
    }

    /// Takes over from a similar network what shortens the way from the unloaded one, and changes nothing else.
    pub(super) fn learn_from(&mut self, like: &Solution) {
        if self.is_like(like) {
            self.rest.clone_from(&like.state.rest);
            self.workspace.factors.offer(like.state.order.as_ref());
        }
    }

    /// Takes over a solution's point; false where the networks differ in more than figures.
    pub(super) fn start_from(&mut self, start: &Solution) -> bool {
        self.learn_from(start);
        let same = self.is_like(start)
            && start.state.pixels.len() == self.ladders.len()
            && self.ladders.iter().zip(&start.state.pixels).all(|(ladder, v)| ladder.v.len() == v.len());
        if !same {
            return false;
        }
        self.at.potential.clone_from(&start.potential);
        self.at.current.clone_from(&start.current);
        self.at.modes.clone_from(&start.state.modes);
        for (ladder, v) in self.ladders.iter_mut().zip(&start.state.pixels) {
            ladder.v.clone_from(v);
        }
        true
    }

    /// Whether a source that blocks may have to give: only the way from the unloaded network tells.
    fn may_give(&self) -> bool {
        self.living()
            .any(|(i, b)| matches!(b.law, crate::network::Law::Source { .. }) && self.at.modes[i] == Mode::Blocked)
    }

    /// The test for the upper branch, with the factors of the tangent network at the present point.
    fn raises_all_inputs(&self) -> bool {
        // Current put in at + and taken out at − is less current through the input, and what is in series with it.
        let mut rhs = vec![0.0; self.unknowns.count];
        let inputs: Vec<usize> = self.powered().map(|(i, _)| i).filter(|i| self.unknowns.alone[*i]).collect();
        let is_power =
            |chain: &Chain| chain.demand.is_some_and(|d| self.net.branches[chain.members[d].branch].law.is_power());
        let chains: Vec<(&Chain, usize)> =
            self.chains.iter().zip(self.unknowns.chain.iter().copied()).filter(|(chain, _)| is_power(chain)).collect();
        inputs.iter().map(|i| self.unknowns.branch[*i]).chain(chains.iter().map(|(_, at)| *at)).for_each(|at| {
            rhs[at] -= 1.0;
        });
        let x = self.workspace.factors.apply(&rhs);
        let at = |vertex: usize| x.get(self.unknowns.vertex[vertex]).copied().unwrap_or(0.0);
        let raised = inputs.iter().map(|i| at(self.net.branches[*i].from) - at(self.net.branches[*i].to));
        let inside =
            chains.iter().map(|(chain, own)| at(chain.from) - at(chain.to) - self.drop_along(chain).slope * x[*own]);
        raised.chain(inside).all(|volts| volts >= -ROUNDING_OHMS)
    }
}
