//! Elements in series, which carry one current: a load with its fuse and its two wires is one unknown and one row.
//!
//! What lies between is worked out again from the current: the potential falls by R·i along each conductor, and the
//! demand, if there is one, takes the rest. Nothing is lost by it; a system of a third of the rows is solved.

use super::islands::Islands;
use super::laws::warm;
use super::run::Run;
use crate::network::{Law, Network};

/// A chain with two members or more, from one of its ends to the other; its demand is passed from + to −.
#[derive(Debug)]
pub(crate) struct Chain {
    pub from: usize,
    pub to: usize,
    pub members: Vec<Member>,
    /// Place of the demand among the members; a chain has one at most.
    pub demand: Option<usize>,
}

/// A branch of a chain.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Member {
    pub branch: usize,
    /// True where it is passed from its `from` to its `to`.
    pub forwards: bool,
    /// Vertex behind it.
    pub next: usize,
}

/// What the conductors of a chain drop: `slope` · current + `volts`.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Drop {
    pub slope: f64,
    pub volts: f64,
}

/// Where a vertex is touched by what may be part of a chain.
#[derive(Clone, Copy, Default)]
struct Touch {
    count: usize,
    branches: [usize; 2],
}

/// True for what may be part of a chain.
fn joins(law: &Law) -> bool {
    matches!(law, Law::Conductor { .. }) || is_simple_demand(law)
}

/// A demand whose current depends on its own voltage only.
fn is_simple_demand(law: &Law) -> bool {
    law.is_demand() && !matches!(law, Law::ConverterInput { .. })
}

/// All chains of a network.
pub(super) fn chains(net: &Network, islands: &Islands) -> Vec<Chain> {
    let touched = touched(net, islands);
    let mut used = vec![false; net.branches.len()];
    let mut chains = Vec::new();
    for (i, b) in net.branches.iter().enumerate() {
        if used[i] || !islands.branch[i] || !joins(&b.law) {
            continue;
        }
        used[i] = true;
        let mut demands = usize::from(is_simple_demand(&b.law));
        let mut walk = |mut at: usize, mut branch: usize| {
            let mut found = Vec::new();
            while touched[at].count == 2 {
                let [one, other] = touched[at].branches;
                let next = if one == branch { other } else { one };
                let law = &net.branches[next].law;
                if used[next] || (is_simple_demand(law) && demands > 0) {
                    break;
                }
                demands += usize::from(is_simple_demand(law));
                used[next] = true;
                branch = next;
                at = net.branches[next].from + net.branches[next].to - at;
                found.push((next, at));
            }
            found
        };
        let (after, before) = (walk(b.to, i), walk(b.from, i));
        if after.is_empty() && before.is_empty() {
            continue;
        }
        let from = before.last().map_or(b.from, |(_, at)| *at);
        // Backwards: each branch leads to the vertex that was reached before it.
        let reached = before.iter().rev().skip(1).map(|(_, at)| *at).chain(std::iter::once(b.from));
        let path = before.iter().rev().map(|(branch, _)| *branch).zip(reached);
        let path: Vec<(usize, usize)> = path.chain([(i, b.to)]).chain(after).collect();
        chains.push(Chain::of(net, from, &path));
    }
    chains
}

/// Where each vertex is touched: by nothing but two that may be parts of a chain, it lies inside one.
fn touched(net: &Network, islands: &Islands) -> Vec<Touch> {
    const ENDS_CHAINS: usize = 3;
    let mut touched = vec![Touch::default(); net.vertices];
    for (i, b) in net.branches.iter().enumerate().filter(|(i, _)| islands.branch[*i]) {
        for vertex in [b.from, b.to] {
            let touch = &mut touched[vertex];
            if let Some(place) = touch.branches.get_mut(touch.count) {
                *place = i;
            }
            touch.count += if joins(&b.law) { 1 } else { ENDS_CHAINS };
        }
        if let Law::Regulator { common, .. } = &b.law {
            touched[*common].count += ENDS_CHAINS;
        }
        // Both ends on one vertex.
        if b.from == b.to {
            touched[b.from].count += ENDS_CHAINS;
        }
    }
    for port in net.ladders.iter().flat_map(|l| &l.ports) {
        touched[port.plus].count += ENDS_CHAINS;
        touched[port.minus].count += ENDS_CHAINS;
    }
    for (touch, _) in touched.iter_mut().zip(&islands.reference).filter(|(_, held)| **held) {
        touch.count += ENDS_CHAINS;
    }
    touched
}

impl Chain {
    /// The branches on the way, each with the vertex behind it.
    fn of(net: &Network, from: usize, path: &[(usize, usize)]) -> Self {
        let member = |(branch, next): &(usize, usize)| Member {
            branch: *branch,
            forwards: net.branches[*branch].to == *next,
            next: *next,
        };
        let members: Vec<Member> = path.iter().map(member).collect();
        let demand = members.iter().position(|m| is_simple_demand(&net.branches[m.branch].law));
        let to = members.last().map_or(from, |m| m.next);
        let chain = Self { from, to, members, demand };
        if demand.is_some_and(|d| !chain.members[d].forwards) { chain.turned() } else { chain }
    }

    /// The same chain from its other end.
    fn turned(self) -> Self {
        let count = self.members.len();
        let before = |n: usize| if n == 0 { self.from } else { self.members[n - 1].next };
        let turn =
            |n: usize| Member { branch: self.members[n].branch, forwards: !self.members[n].forwards, next: before(n) };
        Self {
            from: self.to,
            to: self.from,
            members: (0..count).rev().map(turn).collect(),
            demand: self.demand.map(|d| count - 1 - d),
        }
    }

    /// Vertices inside.
    pub fn inside(&self) -> impl Iterator<Item = usize> + '_ {
        self.members[..self.members.len() - 1].iter().map(|m| m.next)
    }
}

impl Run<'_> {
    /// What a conductor drops in the direction of its chain; nothing for a demand.
    fn drop_of(&self, member: &Member) -> Drop {
        let Law::Conductor { ohms, rise, ampacity } = self.net.branches[member.branch].law else {
            return Drop::default();
        };
        let amps = self.at.current[member.branch];
        let (volts, slope) = warm(ohms, rise, ampacity, amps);
        let rest = volts - slope * amps;
        Drop { slope, volts: if member.forwards { rest } else { -rest } }
    }

    /// What all conductors of a chain drop together.
    pub(super) fn drop_along(&self, chain: &Chain) -> Drop {
        chain
            .members
            .iter()
            .map(|m| self.drop_of(m))
            .fold(Drop::default(), |sum, d| Drop { slope: sum.slope + d.slope, volts: sum.volts + d.volts })
    }

    /// The currents and potentials inside the chains that go with what has just been solved.
    pub(super) fn read_chains(&mut self, x: &[f64]) {
        let chains = std::sync::Arc::clone(&self.chains);
        for (chain, at) in chains.iter().zip(&self.unknowns.chain) {
            let amps = x.get(*at).copied().unwrap_or(0.0);
            for m in &chain.members {
                self.next.1[m.branch] = if m.forwards { amps } else { -amps };
            }
            // From both ends to the demand, or to the largest resistance: that takes what rounding leaves.
            let slope = |n: &usize| self.drop_of(&chain.members[*n]).slope;
            let largest = || (0..chain.members.len()).max_by(|a, b| slope(a).total_cmp(&slope(b)));
            let last = chain.demand.or_else(largest).unwrap_or(0);
            let mut volts = self.next.0[chain.from];
            for m in &chain.members[..last] {
                let drop = self.drop_of(m);
                volts -= drop.slope * amps + drop.volts;
                self.next.0[m.next] = volts;
            }
            let mut volts = self.next.0[chain.to];
            for n in (last + 1..chain.members.len()).rev() {
                let drop = self.drop_of(&chain.members[n]);
                volts += drop.slope * amps + drop.volts;
                self.next.0[chain.members[n - 1].next] = volts;
            }
        }
    }
}
