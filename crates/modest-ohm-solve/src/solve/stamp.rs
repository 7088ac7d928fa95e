//! The tangent network as a linear system: one row a vertex (Kirchhoff's current law), one a branch (its law).

use super::SolveError;
use super::chains::Chain;
use super::laws::warm;
use super::run::{Mode, Power, Run};
use super::solution::PieceFlow;
use super::sparse::System;
use crate::network::Law;

/// A source at its limit and a diode that blocks keep this slope, so that a saturated load cannot leave its voltage
/// undefined.
pub(super) const LIMIT_SIEMENS: f64 = 1e-11;

impl Run<'_> {
    /// Solves the tangent network into `next`, and the pixels' voltages into their ladders.
    pub fn linear(&mut self, power: Power) -> Result<(), SolveError> {
        for (state, ladder) in self.ladders.iter_mut().zip(&self.net.ladders) {
            state.eliminate(ladder);
        }
        self.solve_rest(power)?;
        for (ladder, state) in self.net.ladders.iter().zip(&mut self.ladders) {
            let potential = &self.next.0;
            state.substitute(|p| potential[ladder.ports[p].plus] - potential[ladder.ports[p].minus]);
        }
        Ok(())
    }

    /// As [`linear`](Self::linear), with nothing drawing current: the strips are bare copper.
    pub fn linear_bare(&mut self) -> Result<(), SolveError> {
        for (state, ladder) in self.ladders.iter_mut().zip(&self.net.ladders) {
            state.bare(ladder);
        }
        self.solve_rest(Power::Off)?;
        for (ladder, state) in self.net.ladders.iter().zip(&mut self.ladders) {
            let potential = &self.next.0;
            state.spread(ladder, |p| potential[ladder.ports[p].plus] - potential[ladder.ports[p].minus]);
        }
        Ok(())
    }

    /// Everything outside the strips, which have been reduced to their ports.
    pub fn solve_rest(&mut self, power: Power) -> Result<(), SolveError> {
        let mut system = std::mem::take(&mut self.workspace.system);
        system.reset(self.unknowns.count);
        for i in 0..self.net.branches.len() {
            if self.unknowns.alone[i] {
                self.stamp(&mut system, i, power);
            }
        }
        for (chain, me) in self.chains.iter().zip(&self.unknowns.chain) {
            self.stamp_chain(&mut system, chain, *me);
        }
        for l in 0..self.ladders.len() {
            if self.islands.ladder[l] {
                self.stamp_ladder(&mut system, l);
            } else {
                // Its + is cut off from every source; its − still joins what lies on both sides of it.
                for (a, b, ohms) in self.net.ladders[l].return_pieces() {
                    if self.islands.vertex[a] && self.islands.vertex[b] {
                        self.conductance(&mut system, (a, b), (a, b), 1.0 / ohms);
                    }
                }
            }
        }
        let solved = self.workspace.factors.solve(&system);
        self.workspace.system = system;
        let x = solved.map_err(|_| SolveError::Unsettled)?;
        if !x.iter().all(|x| x.is_finite()) {
            return Err(SolveError::Unsettled);
        }
        let read = |at: &[usize]| at.iter().map(|at| x.get(*at).copied().unwrap_or(0.0)).collect::<Vec<_>>();
        self.next = (read(&self.unknowns.vertex), read(&self.unknowns.branch));
        self.read_chains(&x);
        self.read_nodal();
        self.read_flows(&x);
        Ok(())
    }

    /// Adds `value` · potential(vertex) to a row; the 0 V vertices add nothing.
    fn at_vertex(&self, system: &mut System, row: usize, vertex: usize, value: f64) {
        let at = self.unknowns.vertex[vertex];
        if at != usize::MAX {
            system.add(row, at, value);
        }
    }

    /// A current, an unknown, that leaves a vertex (`value` 1) or enters it (−1).
    fn leave(&self, system: &mut System, vertex: usize, unknown: usize, value: f64) {
        let at = self.unknowns.vertex[vertex];
        if at != usize::MAX {
            system.add(at, unknown, value);
        }
    }

    /// Slope and offset of an element that is no unknown: i = slope·v + offset.
    fn nodal(&self, i: usize) -> Option<(f64, f64)> {
        match &self.net.branches[i].law {
            Law::Copper { ohms } => Some((1.0 / ohms, 0.0)),
            Law::LedString { .. } => Some(self.tangent[i]),
            _ => None,
        }
    }

    /// The currents that go with the potentials just solved.
    fn read_nodal(&mut self) {
        for i in 0..self.net.branches.len() {
            if let Some((slope, offset)) = self.nodal(i).filter(|_| self.unknowns.alone[i]) {
                self.next.1[i] = slope * self.volts(&self.next.0, i) + offset;
            }
        }
    }

    fn stamp(&self, system: &mut System, i: usize, power: Power) {
        let b = &self.net.branches[i];
        if let Some((slope, offset)) = self.nodal(i) {
            self.conductance(system, (b.from, b.to), (b.from, b.to), slope);
            self.inject(system, b.from, -offset);
            self.inject(system, b.to, offset);
            return;
        }
        let me = self.unknowns.branch[i];
        self.leave(system, b.from, me, 1.0);
        self.leave(system, b.to, me, -1.0);
        let drop = |system: &mut System, factor: f64| {
            self.at_vertex(system, me, b.from, factor);
            self.at_vertex(system, me, b.to, -factor);
        };
        match &b.law {
            Law::Conductor { ohms, rise, ampacity } => {
                let (volts, slope) = warm(*ohms, *rise, *ampacity, self.at.current[i]);
                drop(system, 1.0);
                system.add(me, me, -slope);
                system.add_rhs(me, volts - slope * self.at.current[i]);
            }
            Law::Source { .. } => self.stamp_source(system, i),
            Law::Regulator { .. } => self.stamp_regulator(system, i),
            Law::Diode { vf, ohms, reverse, .. } => match self.at.modes[i] {
                Mode::Volts => {
                    drop(system, 1.0);
                    system.add(me, me, -ohms);
                    system.add_rhs(me, *vf);
                }
                Mode::Limit => {
                    drop(system, 1.0);
                    system.add(me, me, -ohms);
                    system.add_rhs(me, -reverse);
                }
                Mode::Blocked | Mode::Dropout => {
                    drop(system, -self.leak);
                    system.add(me, me, 1.0);
                }
            },
            Law::ConverterInput { output, efficiency, .. } if self.unknowns.branch[*output] != usize::MAX => {
                self.stamp_converter(system, i, *output, *efficiency, power);
            }
            _ => {
                let (slope, offset) = self.tangent[i];
                drop(system, -slope);
                system.add(me, me, 1.0);
                system.add_rhs(me, offset);
            }
        }
    }

    /// A chain has one current. Where it has a demand, i = slope·v + offset with v what the conductors leave of the
    /// voltage between its ends; otherwise they drop that voltage.
    fn stamp_chain(&self, system: &mut System, chain: &Chain, me: usize) {
        self.leave(system, chain.from, me, 1.0);
        self.leave(system, chain.to, me, -1.0);
        let drop = self.drop_along(chain);
        match chain.demand.map(|d| self.tangent[chain.members[d].branch]) {
            Some((slope, offset)) => {
                self.at_vertex(system, me, chain.from, -slope);
                self.at_vertex(system, me, chain.to, slope);
                system.add(me, me, 1.0 + slope * drop.slope);
                system.add_rhs(me, offset - slope * drop.volts);
            }
            None => {
                self.at_vertex(system, me, chain.from, 1.0);
                self.at_vertex(system, me, chain.to, -1.0);
                system.add(me, me, -drop.slope);
                system.add_rhs(me, drop.volts);
            }
        }
    }

    /// A source: `from` is its −.
    fn stamp_source(&self, system: &mut System, i: usize) {
        let (b, me) = (&self.net.branches[i], self.unknowns.branch[i]);
        let Law::Source { emf, ohms, limit, .. } = &b.law else { return };
        let drop = |system: &mut System, factor: f64| {
            self.at_vertex(system, me, b.from, factor);
            self.at_vertex(system, me, b.to, -factor);
        };
        match self.at.modes[i] {
            Mode::Volts => {
                // V₊ − V₋ + resistance·i = emf; `from` is −.
                drop(system, -1.0);
                system.add(me, me, *ohms);
                system.add_rhs(me, *emf);
            }
            Mode::Limit => {
                // i + (V − V_limit)·g = limit
                drop(system, -self.leak);
                system.add(me, me, 1.0);
                system.add_rhs(me, limit + (emf - ohms * limit) * self.leak);
            }
            Mode::Blocked | Mode::Dropout => {
                // i + (V − emf)·g = 0: what nothing else feeds stands at its voltage.
                drop(system, -self.leak);
                system.add(me, me, 1.0);
                system.add_rhs(me, emf * self.leak);
            }
        }
    }

    fn stamp_regulator(&self, system: &mut System, i: usize) {
        let (b, me) = (&self.net.branches[i], self.unknowns.branch[i]);
        let Law::Regulator { common, volts, ohms, dropout, limit } = &b.law else { return };
        let drop = |system: &mut System, factor: f64| {
            self.at_vertex(system, me, b.from, factor);
            self.at_vertex(system, me, b.to, -factor);
        };
        // The same places in every mode, so that the pattern stays.
        let over_common = |system: &mut System, factor: f64| {
            self.at_vertex(system, me, b.to, factor);
            self.at_vertex(system, me, *common, -factor);
        };
        match self.at.modes[i] {
            Mode::Volts => {
                over_common(system, 1.0);
                system.add(me, me, *ohms);
                system.add_rhs(me, *volts);
            }
            Mode::Dropout => {
                drop(system, 1.0);
                system.add_rhs(me, *dropout);
            }
            Mode::Limit => {
                over_common(system, self.leak);
                system.add(me, me, 1.0);
                system.add_rhs(me, limit + (volts - ohms * limit) * self.leak);
            }
            Mode::Blocked => {
                // What nothing feeds stands at the common's voltage.
                over_common(system, self.leak);
                system.add(me, me, 1.0);
            }
        }
    }

    /// i_in − dP/V − (−P0/V0²)·dV = P0/V0, with P's dependence on the output's voltage and current. The places are the
    /// same whether its power counts or not.
    fn stamp_converter(&self, system: &mut System, i: usize, output: usize, efficiency: f64, power: Power) {
        let b = &self.net.branches[i];
        let me = self.unknowns.branch[i];
        let v0 = self.volts(&self.at.potential, i).max(1e-6);
        let out = &self.net.branches[output];
        let (out_v, out_a) = (-self.volts(&self.at.potential, output), self.at.current[output].max(0.0));
        let gives = power == Power::Tangent && self.at.modes[output] != Mode::Blocked;
        let gain = if gives { self.scale / (efficiency * v0) } else { 0.0 };
        let (slope, offset) = self.tangent[i];
        self.at_vertex(system, me, b.from, -slope);
        self.at_vertex(system, me, b.to, slope);
        system.add(me, me, 1.0);
        system.add(me, self.unknowns.branch[output], -gain * out_v);
        self.at_vertex(system, me, out.to, -gain * out_a);
        self.at_vertex(system, me, out.from, gain * out_a);
        // P ≈ P0 + (Vo·(i − io) + io·(V − Vo))/η, so the constant is P0 − 2·Vo·io/η; the offset holds 2·P0/v0.
        system.add_rhs(me, offset - 2.0 * gain * out_v * out_a);
    }

    fn stamp_ladder(&self, system: &mut System, l: usize) {
        let ladder = &self.net.ladders[l];
        let w = ladder.weight();
        for (piece, s) in self.ladders[l].pieces.iter().zip(&self.unknowns.piece[l]) {
            let ends = [
                piece.left.map(|p| (ladder.ports[p], piece.left_shunt, piece.left_source)),
                piece.right.map(|p| (ladder.ports[p], piece.right_shunt, piece.right_source)),
            ];
            for (port, shunt, source) in ends.into_iter().flatten() {
                self.conductance(system, (port.plus, port.minus), (port.plus, port.minus), shunt);
                self.inject(system, port.plus, source);
                self.inject(system, port.minus, -source);
            }
            let (Some((a, ..)), Some((b, ..))) = (ends[0], ends[1]) else { continue };
            let s = *s;
            for (vertex, value) in [(a.plus, w), (a.minus, 1.0 - w), (b.plus, -w), (b.minus, w - 1.0)] {
                self.leave(system, vertex, s, value);
                self.at_vertex(system, s, vertex, value);
            }
            system.add(s, s, -piece.common_ohms.max(1e-12));
            if piece.first_pixel == piece.last_pixel {
                // No pixel between: the differential current is an unknown of its own.
                let j = s + 1;
                for (vertex, value) in [(a.plus, 1.0), (a.minus, -1.0), (b.plus, -1.0), (b.minus, 1.0)] {
                    self.leave(system, vertex, j, value);
                    self.at_vertex(system, j, vertex, value);
                }
                system.add(j, j, -piece.bare_ohms.max(1e-12));
            } else {
                let ports = [(a.plus, a.minus), (b.plus, b.minus)];
                for (here, there) in [(ports[0], ports[1]), (ports[1], ports[0])] {
                    self.conductance(system, here, here, piece.coupling);
                    self.conductance(system, here, there, -piece.coupling);
                }
            }
        }
    }

    /// A current `siemens`·(potential difference of `by`) that leaves `at`'s + and enters its −.
    fn conductance(&self, system: &mut System, at: (usize, usize), by: (usize, usize), siemens: f64) {
        for (vertex, sign) in [(at.0, 1.0), (at.1, -1.0)] {
            if self.unknowns.vertex[vertex] != usize::MAX {
                self.at_vertex(system, self.unknowns.vertex[vertex], by.0, sign * siemens);
                self.at_vertex(system, self.unknowns.vertex[vertex], by.1, -sign * siemens);
            }
        }
    }

    fn inject(&self, system: &mut System, vertex: usize, amps: f64) {
        if self.unknowns.vertex[vertex] != usize::MAX {
            system.add_rhs(self.unknowns.vertex[vertex], amps);
        }
    }

    fn read_flows(&mut self, x: &[f64]) {
        let potential = &self.next.0;
        for l in 0..self.ladders.len() {
            let ladder = &self.net.ladders[l];
            let port_v = |p: usize| potential[ladder.ports[p].plus] - potential[ladder.ports[p].minus];
            for (n, piece) in self.ladders[l].pieces.iter().enumerate() {
                let (va, vb) = (piece.left.map_or(0.0, port_v), piece.right.map_or(0.0, port_v));
                let at = self.unknowns.piece[l][n];
                let mut flow = PieceFlow { s: x.get(at).copied().unwrap_or(0.0), ..PieceFlow::default() };
                if piece.first_pixel == piece.last_pixel {
                    flow.left_j = x.get(at.wrapping_add(1)).copied().unwrap_or(0.0);
                    flow.right_j = -flow.left_j;
                } else {
                    flow.left_j = piece.coupling * (va - vb) + piece.left_shunt * va - piece.left_source;
                    flow.right_j = piece.coupling * (vb - va) + piece.right_shunt * vb - piece.right_source;
                }
                self.flows[l][n] = flow;
            }
        }
    }
}
