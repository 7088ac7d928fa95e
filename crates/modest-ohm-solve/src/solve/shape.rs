//! What depends on how a network is wired and not on its figures: what is alive, and what is unknown.

use std::sync::Arc;

use super::chains::{Chain, chains};
use super::islands::{Islands, islands};
use super::ladder::LadderState;
use crate::network::{Law, Network, Port};

/// Shapes that are kept: those of a scenario and of the next, and one for derivatives.
const MOST_SHAPES: usize = 4;

/// The shape of a network.
#[derive(Clone, Debug)]
pub(super) struct Shape {
    pub islands: Arc<Islands>,
    pub unknowns: Arc<Unknowns>,
    pub chains: Arc<[Chain]>,
}

/// Rows and columns of the unknowns; `usize::MAX` where something has none.
#[derive(Debug)]
pub(super) struct Unknowns {
    pub vertex: Vec<usize>,
    pub branch: Vec<usize>,
    /// Branches that are alive and in no chain.
    pub alone: Vec<bool>,
    /// The current of each chain. Its members and the vertices between them have no unknown of their own.
    pub chain: Vec<usize>,
    /// First unknown of each ladder's pieces that join two ports: S; J of a piece without pixels follows it.
    pub piece: Vec<Vec<usize>>,
    pub count: usize,
}

impl Shape {
    fn of(net: &Network, ladders: &[LadderState], by_chains: bool) -> Self {
        let islands = islands(net);
        let chains = if by_chains { chains(net, &islands) } else { Vec::new() };
        let unknowns = Unknowns::of(net, &islands, &chains, ladders);
        Self { islands: Arc::new(islands), unknowns: Arc::new(unknowns), chains: chains.into() }
    }
}

/// The shapes of the networks that were solved last.
#[derive(Debug, Default)]
pub(super) struct Shapes {
    /// The one used last stands first.
    known: Vec<(Wiring, Shape)>,
}

/// Everything that a shape follows from.
#[derive(Debug)]
struct Wiring {
    by_chains: bool,
    vertices: usize,
    branches: Vec<(usize, usize, Wired)>,
    supplies: Vec<usize>,
    source_minus: Vec<usize>,
    /// Number of pixels, pixels per metre, and ports.
    ladders: Vec<(usize, f64, Vec<Port>)>,
}

/// What a law means for the shape, and what else it names. A load that is switched off has the same shape as before.
type Wired = (u8, usize);

fn wired(law: &Law) -> Wired {
    match law {
        Law::Conductor { .. } => (0, 0),
        Law::Copper { .. } => (1, 0),
        Law::Source { .. } => (2, 0),
        Law::Regulator { common, .. } => (3, *common),
        Law::Diode { lies, .. } => (4, *lies as usize),
        Law::ConverterInput { output, .. } => (5, *output),
        Law::LedString { .. } => (6, 0),
        Law::ConstantCurrent { .. } | Law::Resistive { .. } | Law::ConstantPower { .. } => (7, 0),
    }
}

impl Shapes {
    /// The shape of a network, with elements in series taken together or not.
    pub fn of(&mut self, net: &Network, ladders: &[LadderState], by_chains: bool) -> Shape {
        let known = self.known.iter().position(|(wiring, _)| wiring.is_of(net, by_chains));
        let n = known.unwrap_or_else(|| {
            self.known.truncate(MOST_SHAPES - 1);
            self.known.push((Wiring::of(net, by_chains), Shape::of(net, ladders, by_chains)));
            self.known.len() - 1
        });
        self.known[..=n].rotate_right(1);
        self.known[0].1.clone()
    }
}

impl Wiring {
    fn of(net: &Network, by_chains: bool) -> Self {
        Self {
            by_chains,
            vertices: net.vertices,
            branches: net.branches.iter().map(|b| (b.from, b.to, wired(&b.law))).collect(),
            supplies: net.supplies.clone(),
            source_minus: net.source_minus.clone(),
            ladders: net.ladders.iter().map(|l| (l.pixels, l.per_m, l.ports.clone())).collect(),
        }
    }

    fn is_of(&self, net: &Network, by_chains: bool) -> bool {
        let branches = || self.branches.iter().zip(&net.branches);
        let ladders = || self.ladders.iter().zip(&net.ladders);
        self.by_chains == by_chains
            && self.vertices == net.vertices
            && self.branches.len() == net.branches.len()
            && self.ladders.len() == net.ladders.len()
            && self.supplies == net.supplies
            && self.source_minus == net.source_minus
            && branches().all(|((from, to, kind), b)| *from == b.from && *to == b.to && *kind == wired(&b.law))
            && ladders()
                .all(|((pixels, per_m, ports), l)| *pixels == l.pixels && *per_m == l.per_m && *ports == l.ports)
    }
}

impl Unknowns {
    fn of(net: &Network, islands: &Islands, chains: &[Chain], ladders: &[LadderState]) -> Self {
        let (mut has_vertex, mut alone) = (islands.vertex.clone(), islands.branch.clone());
        for chain in chains {
            chain.inside().for_each(|v| has_vertex[v] = false);
            chain.members.iter().for_each(|m| alone[m.branch] = false);
        }
        let mut count = 0;
        let mut number = |wanted: bool| {
            if wanted {
                count += 1;
                count - 1
            } else {
                usize::MAX
            }
        };
        let vertex = (0..net.vertices).map(|v| number(has_vertex[v] && !islands.reference[v])).collect();
        let branch = (0..net.branches.len()).map(|b| number(alone[b] && !net.branches[b].law.is_nodal())).collect();
        let chain = chains.iter().map(|_| number(true)).collect();
        let mut piece = Vec::with_capacity(ladders.len());
        for (state, alive) in ladders.iter().zip(&islands.ladder) {
            let mut own = Vec::with_capacity(state.pieces.len());
            for p in &state.pieces {
                let between = *alive && p.left.is_some() && p.right.is_some();
                own.push(number(between));
                if between && p.first_pixel == p.last_pixel {
                    number(true);
                }
            }
            piece.push(own);
        }
        Self { vertex, branch, alone, chain, piece, count }
    }
}
