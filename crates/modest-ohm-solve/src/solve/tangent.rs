//! Derivatives of a solved network.
//!
//! With F(x, θ) = 0 the network, J = ∂F/∂x and a quantity y = cᵀx, one transposed substitution Jᵀλ = c gives
//! dy/dθ = −λᵀ·∂F/∂θ for every figure θ (the adjoint method; Cacuci, "Sensitivity and Uncertainty Analysis", chapter 4).
//! λ belongs to the modes in which sources, diodes and pixels are: beyond their knees it knows nothing.

use super::run::{Power, Run, Workspace};
use super::solution::Solution;
use super::{Limits, Measure, SolveError};
use crate::network::{Ladder, Law, Network};

/// A solved network with the factors of its tangent.
pub struct Tangent<'a> {
    run: Run<'a>,
}

/// What a quantity of a solved network owes to each law.
#[derive(Clone, Debug)]
pub struct Adjoint {
    /// Per vertex and per branch.
    vertex: Vec<f64>,
    branch: Vec<f64>,
    /// Per ladder: of its pixels, and of the unknowns of its pieces.
    pixels: Vec<Vec<f64>>,
    pieces: Vec<Vec<(f64, f64)>>,
    /// Elements without an unknown whose own current was asked for, with their weights.
    direct: Vec<(usize, f64)>,
}

impl<'a> Tangent<'a> {
    /// The tangent of a network at its solution.
    ///
    /// # Errors
    /// As [`solve`](super::solve), where the solution has to be found again: it does not keep the voltages of very many
    /// pixels.
    pub fn new(
        net: &'a Network,
        limits: Limits,
        solution: &Solution,
        workspace: &'a mut Workspace,
    ) -> Result<Self, SolveError> {
        let mut run = Run::in_full(net, limits.sources_limit, workspace);
        if !run.start_from(solution) {
            run.solve_at(limits.power_scale)?;
        }
        let mut tangent = Self { run };
        tangent.factor(limits.power_scale)?;
        Ok(tangent)
    }

    /// Factors of the tangent at the very point, and not at the one before it.
    fn factor(&mut self, scale: f64) -> Result<(), SolveError> {
        let run = &mut self.run;
        run.scale = scale;
        run.linearise(Power::Tangent);
        run.linear(Power::Tangent)
    }

    /// What a quantity owes to each law.
    pub fn adjoint(&mut self, measure: &Measure) -> Adjoint {
        let run = &mut self.run;
        let mut rhs = vec![0.0; run.unknowns.count];
        let mut add = |at: usize, value: f64| {
            if let Some(place) = rhs.get_mut(at) {
                *place += value;
            }
        };
        for (vertex, weight) in &measure.potentials {
            add(run.unknowns.vertex[*vertex], *weight);
        }
        let mut direct = Vec::new();
        for (branch, weight) in &measure.currents {
            let b = &run.net.branches[*branch];
            // An element without an unknown: its slope times the voltage along it.
            let slope = match &b.law {
                Law::Copper { ohms } => Some(1.0 / ohms),
                Law::LedString { .. } => Some(run.tangent[*branch].0),
                _ => None,
            };
            match slope {
                Some(slope) => {
                    direct.push((*branch, *weight));
                    add(run.unknowns.vertex[b.from], weight * slope);
                    add(run.unknowns.vertex[b.to], -weight * slope);
                }
                None => add(run.unknowns.branch[*branch], *weight),
            }
        }
        // Inside a strip the network is symmetric: the pixels asked for become sources, reduced to the ports as any
        // current is.
        for (l, state) in run.ladders.iter_mut().enumerate() {
            state.offset.fill(0.0);
            for (_, pixel, weight) in measure.pixels.iter().filter(|(ladder, ..)| *ladder == l) {
                state.offset[*pixel] -= weight;
            }
            state.eliminate(&run.net.ladders[l]);
            for piece in &state.pieces {
                for (port, source) in [(piece.left, piece.left_source), (piece.right, piece.right_source)] {
                    let Some(port) = port.map(|p| run.net.ladders[l].ports[p]) else { continue };
                    add(run.unknowns.vertex[port.plus], source);
                    add(run.unknowns.vertex[port.minus], -source);
                }
            }
        }
        let x = run.workspace.factors.solve_transposed(&rhs);
        let read = |at: usize| x.get(at).copied().unwrap_or(0.0);
        let vertex: Vec<f64> = run.unknowns.vertex.iter().map(|at| read(*at)).collect();
        let branch = run.unknowns.branch.iter().map(|at| read(*at)).collect();
        let piece = |at: &usize| (read(*at), read(at.wrapping_add(1)));
        let pieces = run.unknowns.piece.iter().map(|own| own.iter().map(piece).collect()).collect();
        for (ladder, state) in run.net.ladders.iter().zip(&mut run.ladders) {
            state.substitute(|p| vertex[ladder.ports[p].plus] - vertex[ladder.ports[p].minus]);
        }
        let pixels = run.ladders.iter().map(|state| state.next.clone()).collect();
        Adjoint { vertex, branch, pixels, pieces, direct }
    }

    /// By how much a quantity changes, to first order, when a branch takes another law. `None` where the other law is of
    /// another kind.
    pub fn effect(&self, adjoint: &Adjoint, branch: usize, law: &Law) -> Option<f64> {
        let run = &self.run;
        if !run.islands.branch[branch] {
            return Some(0.0);
        }
        let b = &run.net.branches[branch];
        let v = run.volts(&run.at.potential, branch);
        let nodal = |law: &Law| match law {
            Law::Copper { ohms } => Some(v / ohms),
            law @ Law::LedString { .. } => Run::monotone_current(law, v),
            _ => None,
        };
        match (nodal(&b.law), nodal(law)) {
            (Some(old), Some(new)) => {
                let own: f64 = adjoint.direct.iter().filter(|(own, _)| *own == branch).map(|(_, weight)| weight).sum();
                Some((own - adjoint.vertex[b.from] + adjoint.vertex[b.to]) * (new - old))
            }
            (None, None) => {
                let (old, new) = (run.miss(branch, &b.law)?, run.miss(branch, law)?);
                Some(-adjoint.branch[branch] * (new - old))
            }
            _ => None,
        }
    }

    /// As [`effect`](Self::effect), when a strip, or a piece of one, takes other copper or another pixel law. `None`
    /// where it has other places.
    pub fn effect_of_ladder(&self, adjoint: &Adjoint, index: usize, ladder: &Ladder) -> Option<f64> {
        let run = &self.run;
        let (old, state) = (&run.net.ladders[index], &run.ladders[index]);
        if old.pixels != ladder.pixels || old.ports != ladder.ports {
            return None;
        }
        if !run.islands.ladder[index] {
            return Some(0.0);
        }
        let lambda = &adjoint.pixels[index];
        let mut miss = 0.0;
        if old.law != ladder.law {
            for (v, lambda) in state.v.iter().zip(lambda) {
                miss += lambda * (ladder.law.current(*v) - old.law.current(*v));
            }
        }
        // Every gap conducts this much better.
        let better = old.loop_ohm_per_m() / ladder.loop_ohm_per_m() - 1.0;
        let gap = old.per_m / old.loop_ohm_per_m();
        let across = |values: &[f64], p: usize| values[old.ports[p].plus] - values[old.ports[p].minus];
        let at = &run.at.potential;
        let (w, new_w) = (old.weight(), ladder.weight());
        for (n, piece) in state.pieces.iter().enumerate() {
            let (first, last) = (piece.first_pixel, piece.last_pixel);
            for k in first..last.saturating_sub(1) {
                miss += better * gap * (state.v[k] - state.v[k + 1]) * (lambda[k] - lambda[k + 1]);
            }
            if last > first {
                for (port, gap, k) in [(piece.left, piece.first_gap, first), (piece.right, piece.last_gap, last - 1)] {
                    let Some(p) = port else { continue };
                    let there = across(at, p) - state.v[k];
                    miss += better * gap * there * (across(&adjoint.vertex, p) - lambda[k]);
                }
            }
            let (Some(a), Some(b)) = (piece.left, piece.right) else { continue };
            let (of_s, of_j) = adjoint.pieces[index][n];
            let flow = &run.flows[index][n];
            let shift = |values: &[f64]| across(values, a) - across(values, b);
            let common = old.feed_ohm_per_m * old.return_ohm_per_m / old.loop_ohm_per_m();
            let new_common = ladder.feed_ohm_per_m * ladder.return_ohm_per_m / ladder.loop_ohm_per_m();
            let span = old.ports[b].at_m - old.ports[a].at_m;
            miss += (new_w - w) * (flow.s * shift(&adjoint.vertex) + of_s * shift(at));
            miss -= of_s * (new_common - common) * span * flow.s;
            if last == first {
                miss -= of_j * (ladder.loop_ohm_per_m() - old.loop_ohm_per_m()) * span * flow.left_j;
            }
        }
        Some(-miss)
    }
}
