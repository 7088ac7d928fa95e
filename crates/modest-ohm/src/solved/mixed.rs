//! The worst combination of tolerances for one quantity, found by its derivatives.
//!
//! A named corner moves all sources, all demands and all resistances together. That need not be the worst: of two
//! sources on one rail one carries most where it is high *and the other low*. From the worst named corner every figure
//! is put at the end that its derivative calls bad, the plan is solved again, and so on until no sign changes. The
//! method is local: a peak inside the spread, where a source just limits, is not found.

use std::collections::BTreeMap;

use modest_ohm_solve::network::{Ladder, Law};
use modest_ohm_solve::solve::{Limits, Tangent, Workspace};

use super::aim::{Aim, Quantity, Which};
use super::flips::Flips;
use super::meeting::meeting;
use super::outcome::{Outcome, Snapshot};
use crate::network::shift::Shift;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::model::movable::{Movable, SOURCE_VOLTAGES};
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Corner;
use crate::quantity::figures::End;

/// Rounds until no sign changes; beyond that it goes in circles between two laws.
const MOST_ROUNDS: usize = 5;
/// Of sources on one rail so many are each tried as the highest (our own figure).
const MOST_SOURCES: usize = 8;
/// Less than this share of a value is no gain (our own figure; the same slack as recommended limits have).
pub(crate) const LEAST_GAIN: f64 = 0.005;
/// Currents that are alike to this share are one (rounding of a solve is far less, and so is coincidence).
const SERIES: f64 = 1e-10;
/// A figure that moves the value by less than this share is left where it is.
const NO_EFFECT: f64 = 1e-6;

/// A combination that is worse than every named corner.
#[derive(Clone, Debug)]
pub(crate) struct Mixed {
    /// Index of the outcome from whose corner it differs.
    pub outcome: usize,
    /// Figures at the other end than in that corner, in order.
    pub flipped: Vec<usize>,
    /// Per quantity that is worst here, what decides it.
    pub quantities: Vec<Decided>,
}

/// A quantity in its worst combination.
#[derive(Clone, Debug)]
pub(crate) struct Decided {
    /// How much it is there; of what is bad by being small, negative.
    pub badness: f64,
    /// The base unit.
    pub unit: &'static str,
    /// By how much each figure would make it milder at its other end, the largest first.
    pub by: Vec<(usize, f64)>,
}

/// A quantity, how bad it is in the worst corner, and in the state from which it is searched.
type Reached = (Aim, f64, f64);

/// Where a search begins.
struct Start {
    outcome: usize,
    flipped: Vec<usize>,
    /// How bad the quantity is there.
    reached: f64,
    /// By how much each figure makes it worse at its other end.
    effects: Vec<(usize, f64)>,
}

/// The search in one plan; keeps what several quantities share.
pub(crate) struct Search<'a> {
    plan: &'a Plan,
    movables: &'a [Movable],
    outcomes: &'a [Outcome],
    /// How many of them, the first, every check judges.
    judged: usize,
    flips: Flips<'a>,
    workspace: Workspace,
    /// Solved combinations, by outcome, state and figures moved.
    solved: BTreeMap<(usize, Which, Vec<usize>), Option<Snapshot>>,
}

impl<'a> Search<'a> {
    pub fn new(plan: &'a Plan, movables: &'a [Movable], outcomes: &'a [Outcome], judged: usize) -> Self {
        Self {
            plan,
            movables,
            outcomes,
            judged,
            flips: Flips::new(plan, movables, outcomes),
            workspace: Workspace::default(),
            solved: BTreeMap::new(),
        }
    }

    /// The worst combination for each quantity for which it is worse than the worst named corner; equal ones once.
    pub fn worst(&mut self, aims: &[Aim]) -> Vec<Mixed> {
        let mut groups: BTreeMap<(usize, Which, Vec<usize>), Vec<Reached>> = BTreeMap::new();
        let starts = self.starts();
        for aim in aims {
            let Some((outcome, corner)) = self.worst_corner(aim) else { continue };
            let (from, start, reached) = self.worst_start(aim, &starts, (outcome, corner));
            let aim = &Aim { which: self.flips.state_of(aim.which, from), ..*aim };
            let group = groups.entry((from, aim.which, start)).or_default();
            // What lies in series carries one current.
            let is_current = |a: &Aim| matches!(a.what, Quantity::Current(_));
            let in_series = |(other, _, bad): &Reached| {
                is_current(other) && is_current(aim) && (bad - reached).abs() <= SERIES * reached.abs()
            };
            if !group.iter().any(in_series) {
                group.push((*aim, corner, reached));
            }
        }
        let mut found: Vec<Mixed> = Vec::new();
        for ((outcome, _, start), group) in groups {
            let aims: Vec<Aim> = group.iter().map(|(aim, ..)| *aim).collect();
            let Some(effects) = self.effects(&aims, outcome, &start) else { continue };
            for ((aim, corner, reached), first) in group.into_iter().zip(effects) {
                let from = Start { outcome, flipped: start.clone(), reached, effects: first };
                let Some(mixed) = self.follow(&aim, corner, from) else { continue };
                match found.iter_mut().find(|m| m.outcome == mixed.outcome && m.flipped == mixed.flipped) {
                    Some(known) => known.quantities.extend(mixed.quantities),
                    None => found.push(mixed),
                }
            }
        }
        found
    }

    /// Where derivatives see nothing: a diode that blocks in every corner. Of sources that feed one rail, each in its turn
    /// is high while the others are low.
    fn starts(&self) -> Vec<(usize, Vec<usize>)> {
        let judged = &self.outcomes[..self.judged];
        let Some(solved) = judged.iter().find_map(|o| o.sustained.as_ref().ok()) else { return Vec::new() };
        let movable = |kind: &NodeKind| {
            let name = &self.plan.nodes[self.plan.node_id(*kind)?.0].name;
            let is_voltage = |m: &Movable| m.item == *name && SOURCE_VOLTAGES.contains(&m.key.as_str());
            self.movables.iter().position(is_voltage)
        };
        let mut starts = Vec::new();
        for set in meeting(self.plan, solved) {
            let members: Vec<usize> = set.iter().filter_map(movable).collect();
            for (n, member) in members.iter().enumerate() {
                let others = || members.iter().copied().filter(|m| m != member);
                for (i, o) in judged.iter().enumerate().filter(|(_, o)| o.case.scenario == Scenario::Worst) {
                    let mut flipped: Vec<usize> = match o.corner {
                        Corner::Low => vec![*member],
                        Corner::Hot => others().collect(),
                        _ => continue,
                    };
                    flipped.sort_unstable();
                    if n < MOST_SOURCES {
                        starts.push((i, flipped));
                    }
                }
            }
        }
        starts
    }

    /// The state to search from: the worst corner, or a start in which the quantity is worse.
    fn worst_start(
        &mut self,
        aim: &Aim,
        starts: &[(usize, Vec<usize>)],
        corner: (usize, f64),
    ) -> (usize, Vec<usize>, f64) {
        let mut worst = (corner.0, Vec::new(), corner.1);
        for (outcome, flipped) in starts {
            let Some(bad) = self.solve(aim.which, *outcome, flipped).and_then(|s| aim.badness(s)) else { continue };
            if bad > worst.2 + 1e-9 * worst.2.abs() {
                worst = (*outcome, flipped.clone(), bad);
            }
        }
        worst
    }

    /// From a start to the worst combination of a quantity, where it is worse than the worst corner.
    fn follow(&mut self, aim: &Aim, corner: f64, from: Start) -> Option<Mixed> {
        let least = corner + LEAST_GAIN * corner.abs().max(1e-3);
        let Start { outcome, mut flipped, mut reached, mut effects } = from;
        for _ in 0..MOST_ROUNDS {
            let no_effect = NO_EFFECT * reached.abs();
            let better: Vec<usize> = effects.iter().filter(|(_, gain)| *gain > no_effect).map(|(m, _)| *m).collect();
            let gain: f64 = effects.iter().map(|(_, gain)| gain.max(0.0)).sum();
            if better.is_empty() || reached + gain < least {
                break;
            }
            let next = toggled(&flipped, &better);
            let Some(badness) = self.solve(aim.which, outcome, &next).and_then(|s| aim.badness(s)) else { break };
            if badness <= reached {
                break;
            }
            (reached, flipped) = (badness, next);
            effects = self.effects(&[*aim], outcome, &flipped)?.pop()?;
        }
        if reached < least {
            return None;
        }
        let mut by: Vec<(usize, f64)> =
            effects.iter().filter(|(_, gain)| *gain < 0.0).map(|(m, gain)| (*m, -gain)).collect();
        by.sort_by(|a, b| b.1.total_cmp(&a.1));
        Some(Mixed { outcome, flipped, quantities: vec![Decided { badness: reached, unit: aim.unit(), by }] })
    }

    /// The end of its spread at which each figure is in a corner; `None` of those that no network contains.
    pub fn ends(&mut self, corner: Corner) -> Vec<Option<End>> {
        self.flips.ends(corner)
    }

    /// As [`ends`](Self::ends), of the figures that move the network of an outcome in which something has been searched.
    pub fn ends_in(&mut self, outcome: usize) -> Vec<Option<End>> {
        self.flips.ends_in(outcome)
    }

    /// The outcome in which a quantity is worst, and how bad it is there; of equals the first.
    fn worst_corner(&self, aim: &Aim) -> Option<(usize, f64)> {
        let lasting = |o: &Outcome| aim.which != Which::Sustained || o.case.continuous;
        let mut worst: Option<(usize, f64)> = None;
        for (i, o) in self.outcomes[..self.judged].iter().enumerate().filter(|(_, o)| lasting(o)) {
            let Some(bad) = aim.which.of(o).as_ref().ok().and_then(|s| aim.badness(s)) else { continue };
            if worst.is_none_or(|(_, most)| bad > most + 1e-9 * most.abs()) {
                worst = Some((i, bad));
            }
        }
        worst
    }

    /// By how much each figure makes each quantity worse when it goes to its other end, to first order. The quantities
    /// are of one solution.
    fn effects(&mut self, aims: &[Aim], outcome: usize, flipped: &[usize]) -> Option<Vec<Vec<(usize, f64)>>> {
        let which = aims.first()?.which;
        let boards = self.flips.boards(which, outcome);
        self.solve(which, outcome, flipped)?;
        let shifts = self.flips.shift(outcome, boards);
        let snapshot = self.solved.get(&(outcome, which, flipped.to_vec()))?.as_ref()?;
        let mut tangent = Tangent::new(&snapshot.net, limits(which), &snapshot.solution, &mut self.workspace).ok()?;
        let of = |aim: &Aim| -> Vec<(usize, f64)> {
            let Some(measure) = aim.measure(snapshot) else { return Vec::new() };
            let adjoint = tangent.adjoint(&measure);
            let effect = |m: usize, shift: &Shift| -> Option<f64> {
                // The difference of the two ends, not of one end and the present law: other figures of the same law may
                // be elsewhere by now.
                let sign = if flipped.contains(&m) { -1.0 } else { 1.0 };
                let branch = |(i, before, after): &(usize, Law, Law)| {
                    Some(tangent.effect(&adjoint, *i, after)? - tangent.effect(&adjoint, *i, before)?)
                };
                let ladder = |(i, before, after): &(usize, Ladder, Ladder)| {
                    let effect = |ladder| tangent.effect_of_ladder(&adjoint, *i, ladder);
                    Some(effect(after)? - effect(before)?)
                };
                let branches: Option<f64> = shift.branches.iter().map(branch).sum();
                let ladders: Option<f64> = shift.ladders.iter().map(ladder).sum();
                Some(sign * (branches? + ladders?))
            };
            let all = shifts.iter().enumerate();
            all.filter_map(|(m, shift)| Some((m, effect(m, shift.as_ref()?)?))).collect()
        };
        Some(aims.iter().map(of).collect())
    }

    /// An outcome's state with some figures at their other end.
    fn solve(&mut self, which: Which, outcome: usize, flipped: &[usize]) -> Option<&Snapshot> {
        let key = (outcome, which, flipped.to_vec());
        if !self.solved.contains_key(&key) {
            let near = which.of(&self.outcomes[outcome]).as_ref().ok()?;
            let solved = if flipped.is_empty() {
                Some(near.clone())
            } else {
                let boards = self.flips.boards(which, outcome);
                let net = self.flips.moved(outcome, boards, flipped);
                Snapshot::near(net, limits(which), near, &mut self.workspace)
            };
            self.solved.insert(key.clone(), solved);
        }
        self.solved.get(&key)?.as_ref()
    }
}

fn limits(which: Which) -> Limits {
    if which == Which::Actual { Limits::IN_FORCE } else { Limits::LIFTED }
}

/// Each of `these` on the other side.
fn toggled(flipped: &[usize], these: &[usize]) -> Vec<usize> {
    let kept = flipped.iter().filter(|m| !these.contains(m));
    let new = these.iter().filter(|m| !flipped.contains(m));
    let mut all: Vec<usize> = kept.chain(new).copied().collect();
    all.sort_unstable();
    all
}
