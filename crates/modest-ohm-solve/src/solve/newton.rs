//! Newton's method on the monotone part of the network, damped.
//!
//! Without constant power every law is monotone, and a solved network is the lowest point of a convex work function.
//! Each round replaces the laws by their tangents, reduces the strips to their feed points, solves the sparse rest for
//! all potentials and branch currents at once, and goes along the step as far as the work function falls. Which
//! sources hold their limit is settled between rounds.

use super::SolveError;
use super::laws::warm;
use super::run::{Power, Run};
use super::stamp::LIMIT_SIEMENS;
use crate::network::Law;
use crate::solve::run::Mode;

const MOST_ROUNDS: usize = 400;
/// Conductances, S, from one that holds every rail to the one that stays.
const LEAKS: [f64; 6] = [1e-1, 1e-3, 1e-5, 1e-7, 1e-9, LIMIT_SIEMENS];
const MOST_MODE_CHANGES: usize = 400;
/// Rounds in which what blocks may still be made to give.
const MOST_UNBLOCKED: usize = 50;
/// Most networks settle in fewer rounds than this.
const CARELESS_ROUNDS: usize = 8;
/// Laws are met to this share of the largest current.
pub(super) const SETTLED: f64 = 1e-11;

/// How well a step meets the laws at its end.
#[derive(Clone, Copy, Debug)]
pub(super) struct Judgement {
    /// Every monotone law is met.
    pub settled: bool,
    /// The whole step may be taken.
    pub whole: bool,
}

impl Run<'_> {
    /// The unloaded network: the highest voltages there can be.
    pub fn start(&mut self) -> Result<(), SolveError> {
        for round in 0..MOST_MODE_CHANGES {
            self.tangent.fill((0.0, 0.0));
            self.linear_bare()?;
            self.advance(1.0);
            if !self.change_modes(round) {
                break;
            }
        }
        self.unloaded = (0..self.net.branches.len()).map(|b| self.volts(&self.at.potential, b)).collect();
        Ok(())
    }

    /// Settles the monotone laws and the sources' modes.
    pub fn settle(&mut self, power: Power) -> Result<(), SolveError> {
        for round in 0..MOST_MODE_CHANGES {
            self.rounds(power)?;
            if !self.change_modes(round) {
                return Ok(());
            }
        }
        Err(SolveError::Unsettled)
    }

    /// As [`settle`](Self::settle) without power, for networks in which sources, diodes and regulators cannot agree at
    /// once on who gives: what blocks leaks at first, and less and less, so that every rail has a place to be while
    /// they find it.
    pub fn settle_gently(&mut self) -> Result<(), SolveError> {
        let mut last = Err(SolveError::Unsettled);
        for leak in LEAKS {
            self.leak = leak;
            last = self.settle(Power::Off);
        }
        self.leak = LIMIT_SIEMENS;
        last
    }

    /// Newton rounds with the sources' modes as they are.
    fn rounds(&mut self, power: Power) -> Result<(), SolveError> {
        for round in 0..MOST_ROUNDS {
            self.linearise(power);
            self.linear(power)?;
            if round < MOST_UNBLOCKED && self.unblock() {
                continue;
            }
            let judged = self.judge(round);
            let share = if judged.whole { 1.0 } else { self.search() };
            self.advance(share);
            if judged.settled {
                return Ok(());
            }
        }
        Err(SolveError::Unsettled)
    }

    /// Whether the laws are met at the end of the step, and whether the work function still falls there.
    pub fn judge(&self, round: usize) -> Judgement {
        let (potential, current) = (&self.next.0, &self.next.1);
        let scale = current.iter().fold(1e-6f64, |m, i| m.max(i.abs()));
        // What rounding of the voltage makes of a steep law: 8·ε·|G·V|.
        let mut grain = 0.0f64;
        let (mut ahead, mut worst) = (0.0, 0.0f64);
        for (i, b) in self.living() {
            if let Law::Conductor { ohms, rise, ampacity } = b.law
                && rise > 0.0
            {
                let (volts, slope) = warm(ohms, rise, ampacity, self.at.current[i]);
                let tangent = volts + slope * (current[i] - self.at.current[i]);
                let miss = warm(ohms, rise, ampacity, current[i]).0 - tangent;
                worst = worst.max((miss / ohms).abs());
            }
            let (old, new) = (self.volts(&self.at.potential, i), self.volts(potential, i));
            if let Some(amps) = Self::monotone_current(&b.law, new) {
                let (slope, offset) = self.tangent[i];
                let miss = amps - (slope * new + offset);
                grain = grain.max(slope * new.abs());
                ahead += miss * (new - old);
                worst = worst.max(miss.abs());
            }
        }
        for (ladder, state) in self.net.ladders.iter().zip(&self.ladders) {
            let (work, miss) = state.overshoot(&ladder.law);
            let port_v = ladder.ports.iter().fold(0.0f64, |m, p| m.max((potential[p.plus] - potential[p.minus]).abs()));
            grain = grain.max(ladder.law.steepest() * port_v);
            ahead += work;
            worst = worst.max(miss);
        }
        let settled = worst <= (SETTLED * scale).max(8.0 * f64::EPSILON * grain);
        // A little past the lowest point is cheaper than searching for it; but two such steps can undo each other, so
        // after some rounds the search has to be exact.
        let past = if round < CARELESS_ROUNDS { 0.5 } else { 1e-3 };
        let whole = settled || ahead <= 0.0 || ahead <= past * self.stiffness();
        Judgement { settled, whole }
    }

    /// Σ over the linear laws of slope·dv²: the work function's curvature along the step.
    fn linear_work(&self) -> f64 {
        let potential = &self.next.0;
        let step = |i: usize| self.volts(potential, i) - self.volts(&self.at.potential, i);
        let mut work = 0.0;
        for (i, b) in self.living() {
            match &b.law {
                Law::Source { .. } if self.at.modes[i] != Mode::Volts => work += self.leak * step(i).powi(2),
                Law::Diode { .. } if self.at.modes[i] == Mode::Blocked => work += self.leak * step(i).powi(2),
                Law::Diode { ohms, .. } if *ohms > 0.0 => work += step(i).powi(2) / ohms,
                Law::Conductor { ohms, .. } | Law::Copper { ohms } => work += step(i).powi(2) / ohms,
                Law::Source { ohms, .. } if *ohms > 0.0 => work += step(i).powi(2) / ohms,
                _ => {}
            }
        }
        for (l, (ladder, state)) in self.net.ladders.iter().zip(&self.ladders).enumerate() {
            if self.islands.ladder[l] {
                work += state.copper_work(ladder, |p| {
                    let port = &ladder.ports[p];
                    let across = |v: &[f64]| v[port.plus] - v[port.minus];
                    across(potential) - across(&self.at.potential)
                });
            }
        }
        work
    }

    fn stiffness(&self) -> f64 {
        let mut work = self.linear_work();
        for (i, _) in self.living().filter(|(_, b)| b.law.is_demand() && !b.law.is_power()) {
            let step = self.volts(&self.next.0, i) - self.volts(&self.at.potential, i);
            work += self.tangent[i].0.max(0.0) * step * step;
        }
        // The pixels' own tangents belong here too; leaving them out only damps a little earlier.
        work
    }

    /// The share of the step at which the work function stops falling, by bisection on its slope.
    pub fn search(&self) -> f64 {
        let linear = self.linear_work();
        let slope_at = |share: f64| {
            let mut slope = (share - 1.0) * linear;
            for (i, b) in self.living() {
                let (old, new) = (self.volts(&self.at.potential, i), self.volts(&self.next.0, i));
                if let Some(at) = Self::monotone_current(&b.law, old + share * (new - old)) {
                    let (tangent, offset) = self.tangent[i];
                    slope += (at - (tangent * new + offset)) * (new - old);
                }
            }
            for (ladder, state) in self.net.ladders.iter().zip(&self.ladders) {
                slope += state.slope_along(&ladder.law, share);
            }
            slope
        };
        let (mut low, mut high) = (0.0, 1.0);
        for _ in 0..60 {
            let middle = 0.5 * (low + high);
            if slope_at(middle) > 0.0 {
                high = middle
            } else {
                low = middle
            }
            if high - low < 1e-2 * high {
                break;
            }
        }
        0.5 * (low + high)
    }
}
