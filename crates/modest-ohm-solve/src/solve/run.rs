//! One solve in progress: the unknowns, where the iteration stands, and the point it would step to.

use std::sync::Arc;

use super::chains::Chain;
use super::islands::Islands;
use super::ladder::LadderState;
use super::resume::Rest;
use super::shape::{Shape, Shapes, Unknowns};
use super::solution::{PieceFlow, Solution, StripSolution};
use super::sparse::{Factors, System};
use super::stamp::LIMIT_SIEMENS;
use crate::network::{Law, Lies, Network, StripNet};

/// Memory that one solve hands to the next: the pivot order and the strips' arrays fit most of them.
#[derive(Debug, Default)]
pub struct Workspace {
    pub(super) system: System,
    pub(super) factors: Factors,
    pub(super) shapes: Shapes,
    pub(super) ladders: Vec<LadderState>,
}

/// What a source, regulator or diode does at the moment. A diode that conducts holds its forward voltage.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Mode {
    /// A source holds its voltage; a regulator regulates.
    Volts,
    /// A source or a linear regulator holds its current limit; a diode conducts backwards.
    Limit,
    /// What would have to take current back: a source, a regulator, a diode.
    Blocked,
    /// A regulator whose input is too low follows it.
    Dropout,
}

impl Mode {
    /// Nothing flows yet: sources hold their voltage, diodes in feeds are about to conduct, those across a rail block.
    fn first(law: &Law) -> Self {
        if matches!(law, Law::Diode { lies: Lies::Across, .. }) { Mode::Blocked } else { Mode::Volts }
    }
}

/// How constant-power demands enter the linear system.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Power {
    /// They draw nothing.
    Off,
    /// They draw the currents in `held`, whatever their voltage.
    Held,
    /// By their tangents.
    Tangent,
}

/// Where the iteration stands; the strips' voltages stand in their ladders.
#[derive(Clone, Debug)]
pub(super) struct Point {
    pub potential: Vec<f64>,
    pub current: Vec<f64>,
    pub modes: Vec<Mode>,
}

/// A point to come back to.
pub(super) struct Saved {
    point: Point,
    pixels: Vec<Vec<f64>>,
}

/// A solve in progress.
pub(super) struct Run<'a> {
    pub net: &'a Network,
    pub sources_limit: bool,
    /// Multiplies every constant-power demand.
    pub scale: f64,
    pub islands: Arc<Islands>,
    pub unknowns: Arc<Unknowns>,
    pub chains: Arc<[Chain]>,
    pub at: Point,
    /// Where the linear system points: potentials and currents.
    pub next: (Vec<f64>, Vec<f64>),
    /// Tangents of the demands: i = slope·v + offset.
    pub tangent: Vec<(f64, f64)>,
    pub held: Vec<f64>,
    pub ladders: Vec<LadderState>,
    pub flows: Vec<Vec<PieceFlow>>,
    /// Branch voltages with nothing drawing current: the highest there can be.
    pub unloaded: Vec<f64>,
    pub has_power: bool,
    /// Conductance of what blocks or is at its limit.
    pub leak: f64,
    /// Of a similar network; of this one once it has been solved from the unloaded state.
    pub rest: Option<Arc<Rest>>,
    pub workspace: &'a mut Workspace,
}

impl<'a> Run<'a> {
    pub fn new(net: &'a Network, sources_limit: bool, workspace: &'a mut Workspace) -> Self {
        Self::with(net, sources_limit, true, workspace)
    }

    /// As [`new`](Self::new), with a row for every branch and every vertex, also for those in series.
    pub fn in_full(net: &'a Network, sources_limit: bool, workspace: &'a mut Workspace) -> Self {
        Self::with(net, sources_limit, false, workspace)
    }

    fn with(net: &'a Network, sources_limit: bool, by_chains: bool, workspace: &'a mut Workspace) -> Self {
        let ladders = ladders(net, workspace);
        let Shape { islands, unknowns, chains } = workspace.shapes.of(net, &ladders, by_chains);
        let has_power = net.branches.iter().zip(&islands.branch).any(|(b, alive)| *alive && b.law.is_power());
        let branches = net.branches.len();
        Self {
            net,
            sources_limit,
            scale: 0.0,
            unknowns,
            chains,
            at: Point {
                potential: vec![0.0; net.vertices],
                current: vec![0.0; branches],
                modes: net.branches.iter().map(|b| Mode::first(&b.law)).collect(),
            },
            next: (Vec::new(), Vec::new()),
            tangent: vec![(0.0, 0.0); branches],
            held: vec![0.0; branches],
            flows: ladders.iter().map(|l| vec![PieceFlow::default(); l.pieces.len()]).collect(),
            ladders,
            unloaded: vec![0.0; branches],
            has_power,
            leak: LIMIT_SIEMENS,
            rest: None,
            islands,
            workspace,
        }
    }

    /// Forgets every voltage and mode: nothing has been solved.
    pub fn reset(&mut self) {
        self.at.potential.fill(0.0);
        self.at.current.fill(0.0);
        self.at.modes = self.net.branches.iter().map(|b| Mode::first(&b.law)).collect();
        self.ladders.iter_mut().for_each(|l| l.v.fill(0.0));
    }

    /// Volts along a branch, `from` against `to`.
    pub fn volts(&self, potential: &[f64], branch: usize) -> f64 {
        let b = &self.net.branches[branch];
        potential[b.from] - potential[b.to]
    }

    /// Branches that are alive.
    pub fn living(&self) -> impl Iterator<Item = (usize, &'a crate::network::Branch)> + '_ {
        self.net.branches.iter().enumerate().filter(|(i, _)| self.islands.branch[*i])
    }

    /// Alive branches of constant power.
    pub fn powered(&self) -> impl Iterator<Item = (usize, &'a Law)> + '_ {
        self.living().filter(|(_, b)| b.law.is_power()).map(|(i, b)| (i, &b.law))
    }

    /// Moves to a share of the step that `next` and the ladders hold.
    pub fn advance(&mut self, share: f64) {
        if share >= 1.0 {
            std::mem::swap(&mut self.at.potential, &mut self.next.0);
            std::mem::swap(&mut self.at.current, &mut self.next.1);
        } else {
            let blend = |old: &mut [f64], new: &[f64]| {
                for (o, n) in old.iter_mut().zip(new) {
                    *o += share * (n - *o);
                }
            };
            blend(&mut self.at.potential, &self.next.0);
            blend(&mut self.at.current, &self.next.1);
        }
        for state in &mut self.ladders {
            state.accept(share);
        }
    }

    pub fn save(&self) -> Saved {
        Saved { point: self.at.clone(), pixels: self.ladders.iter().map(|l| l.v.clone()).collect() }
    }

    pub fn restore(&mut self, saved: &Saved) {
        self.at = saved.point.clone();
        for (ladder, v) in self.ladders.iter_mut().zip(&saved.pixels) {
            ladder.v.clone_from(v);
        }
    }

    /// A strip out of its solved pieces, or out of the branches of its fan.
    fn strip(&self, strip: &StripNet, ladders: &mut [StripSolution], pixels: bool) -> StripSolution {
        match &strip.fan {
            Some(fan) => StripSolution::of_fan(
                self.net,
                fan,
                (&self.at.potential, &self.at.current),
                &self.islands.vertex,
                pixels,
            ),
            None => StripSolution::of_sections(strip, ladders),
        }
    }

    /// The solution at the present point; pixel voltages only if they are wanted.
    pub fn solution(&self, pixels: bool) -> Solution {
        let mut ladders = Vec::with_capacity(self.ladders.len());
        for (l, state) in self.ladders.iter().enumerate() {
            let ladder = &self.net.ladders[l];
            let mut solved = if self.islands.ladder[l] {
                let pieces: Vec<_> = state.pieces.iter().copied().zip(self.flows[l].iter().copied()).collect();
                StripSolution::of(ladder, &state.v, &pieces, &self.at.potential)
            } else {
                StripSolution::of_dead(ladder, &self.at.potential, &self.islands.vertex)
            };
            if pixels {
                solved.v.clone_from(&state.v);
            }
            ladders.push(solved);
        }
        let strips = self.net.strips.iter().map(|s| self.strip(s, &mut ladders, pixels)).collect();
        let at_limit = |i: usize| {
            matches!(self.net.branches[i].law, Law::Source { .. } | Law::Regulator { .. })
                && self.islands.branch[i]
                && self.at.modes[i] == Mode::Limit
        };
        Solution {
            potential: self.at.potential.clone(),
            current: self.at.current.clone(),
            ladders,
            strips,
            limiting: (0..self.net.branches.len()).map(at_limit).collect(),
            alive: self.islands.vertex.clone(),
            state: self.state(),
        }
    }
}

impl Drop for Run<'_> {
    fn drop(&mut self) {
        self.workspace.ladders = std::mem::take(&mut self.ladders);
    }
}

/// Ladder states without voltage, made of the memory of the last solve where it fits.
fn ladders(net: &Network, workspace: &mut Workspace) -> Vec<LadderState> {
    let mut kept = std::mem::take(&mut workspace.ladders);
    kept.truncate(net.ladders.len());
    for (i, ladder) in net.ladders.iter().enumerate() {
        match kept.get_mut(i) {
            Some(state) => ladder.renew(state),
            None => kept.push(ladder.state()),
        }
    }
    kept
}
