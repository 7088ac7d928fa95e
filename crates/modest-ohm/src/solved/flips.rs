//! What each figure of a plan changes in the networks of its scenarios: the laws at its other end.

use std::collections::{BTreeMap, BTreeSet};

use modest_ohm_solve::network::Network;

use super::aim::Which;
use super::outcome::Outcome;
use crate::network::build::build;
use crate::network::shift::Shift;
use crate::network::state::{Boards, State};
use crate::plan::model::Plan;
use crate::plan::model::movable::Movable;
use crate::quantity::figure::Corner;
use crate::quantity::figures::End;

/// Networks with figures moved, and what has been learned of them.
pub(crate) struct Flips<'a> {
    plan: &'a Plan,
    movables: &'a [Movable],
    outcomes: &'a [Outcome],
    /// The plan with figures moved, and moved back.
    working: Plan,
    /// Per outcome and state of the boards: what each figure changes at its other end.
    shifts: BTreeMap<(usize, bool), Vec<Option<Shift>>>,
    /// Per figure an outcome whose network it moves, and whether boards are at peak current there.
    touched: Vec<Option<(usize, bool)>>,
    /// Per corner: the end at which each figure is.
    ends: BTreeMap<Corner, Vec<Option<End>>>,
}

impl<'a> Flips<'a> {
    pub fn new(plan: &'a Plan, movables: &'a [Movable], outcomes: &'a [Outcome]) -> Self {
        Self {
            plan,
            movables,
            outcomes,
            working: plan.clone(),
            shifts: BTreeMap::new(),
            touched: Vec::new(),
            ends: BTreeMap::new(),
        }
    }

    /// What each figure changes at its other end in an outcome's network.
    pub fn shift(&mut self, outcome: usize, boards: Boards) -> &[Option<Shift>] {
        let key = (outcome, boards == Boards::Peak);
        if !self.shifts.contains_key(&key) {
            let base = self.network(outcome, boards);
            let mut shifts: Vec<Option<Shift>> = vec![None; self.movables.len()];
            for group in self.apart() {
                let moved = self.moved(outcome, boards, &group.iter().map(|(m, _)| *m).collect::<Vec<_>>());
                let whole = Shift::between(&base, &moved);
                match whole.as_ref().and_then(|whole| whole.split(&group)) {
                    Some(own) => own.into_iter().for_each(|(m, shift)| shifts[m] = Some(shift)),
                    None => {
                        for (m, _) in group {
                            let moved = self.moved(outcome, boards, &[m]);
                            shifts[m] = Shift::between(&base, &moved).filter(|s| !s.is_empty());
                        }
                    }
                }
            }
            self.shifts.insert(key, shifts);
        }
        self.shifts.get(&key).map_or(&[], Vec::as_slice)
    }

    /// The figures in groups of which no two change the same law, as far as is known, each with what it and the other
    /// figures of its items change: a group is moved at once, and each of its changes is known to be one figure's.
    fn apart(&self) -> Vec<Vec<(usize, BTreeSet<usize>)>> {
        let own = |m: usize| {
            let places = self.shifts.values().filter_map(move |shifts| shifts[m].as_ref());
            places.flat_map(Shift::places).collect::<BTreeSet<usize>>()
        };
        let each: Vec<BTreeSet<usize>> = (0..self.movables.len()).map(own).collect();
        let related = |a: &Movable, b: &Movable| a.items.iter().any(|i| b.items.contains(i));
        let reach = |m: usize| -> BTreeSet<usize> {
            let others = (0..each.len()).filter(|n| related(&self.movables[m], &self.movables[*n]));
            others.flat_map(|n| each[n].iter().copied()).collect()
        };
        let mut groups: Vec<Vec<(usize, BTreeSet<usize>)>> = Vec::new();
        for m in 0..self.movables.len() {
            let reach = reach(m);
            let fits = |group: &&mut Vec<(usize, BTreeSet<usize>)>| {
                !reach.is_empty() && group.iter().all(|(_, other)| !other.is_empty() && other.is_disjoint(&reach))
            };
            match groups.iter_mut().find(fits) {
                Some(group) => group.push((m, reach)),
                None => groups.push(vec![(m, reach)]),
            }
        }
        groups
    }

    /// An outcome's network with some figures at their other end.
    pub fn moved(&mut self, outcome: usize, boards: Boards, flipped: &[usize]) -> Network {
        flipped.iter().for_each(|m| self.working.flip(&self.movables[*m]));
        let net = self.network(outcome, boards);
        flipped.iter().for_each(|m| self.working.flip(&self.movables[*m]));
        net
    }

    /// The end of its spread at which each figure is in a corner; `None` of those that no network contains. A figure
    /// plays one role, so that this is the same in every scenario.
    pub fn ends(&mut self, corner: Corner) -> Vec<Option<End>> {
        if let Some(known) = self.ends.get(&corner) {
            return known.clone();
        }
        if self.touched.is_empty() {
            self.touched = self.touched();
        }
        let touched = self.touched.clone();
        let in_corner = |outcome: usize| {
            let (o, wanted) = (&self.outcomes[outcome], &self.outcomes[outcome].case);
            let same = |p: &&Outcome| {
                p.corner == corner && p.case.scenario == wanted.scenario && p.case.surging == wanted.surging
            };
            self.outcomes.iter().find(same).unwrap_or(o)
        };
        let movables = self.movables.iter().zip(touched);
        let working = &mut self.working;
        let ends: Vec<Option<End>> = movables
            .map(|(movable, touched)| {
                let (outcome, peak) = touched?;
                let case = &in_corner(outcome).case;
                let boards = if peak { Boards::Peak } else { Boards::Mean };
                let state = |plan: &Plan| build(plan, &State { corner, boards, demands: &case.demands }).0;
                let base = state(working);
                let low = working.with_held(movable, End::Low, state);
                let is_low = Shift::between(&base, &low).is_some_and(|s| s.is_empty());
                Some(if is_low { End::Low } else { End::High })
            })
            .collect();
        self.ends.insert(corner, ends.clone());
        ends
    }

    /// Per figure an outcome whose network it moves, and whether boards are at peak current there.
    fn touched(&mut self) -> Vec<Option<(usize, bool)>> {
        let known = |m: usize| self.shifts.iter().find(|(_, shifts)| shifts[m].is_some()).map(|(place, _)| *place);
        let mut touched: Vec<Option<(usize, bool)>> = (0..self.movables.len()).map(known).collect();
        // One corner is enough: a figure is in the network or not.
        let Some(corner) = self.outcomes.first().map(|o| o.corner) else { return touched };
        for outcome in (0..self.outcomes.len()).filter(|i| self.outcomes[*i].corner == corner) {
            let peaks = self.boards(Which::Wanted, outcome) == Boards::Peak;
            for peak in [false, true].into_iter().filter(|peak| peaks || !peak) {
                let boards = if peak { Boards::Peak } else { Boards::Mean };
                let base = self.network(outcome, boards);
                let open: Vec<usize> = (0..touched.len()).filter(|m| touched[*m].is_none()).collect();
                let mut groups = vec![open];
                while let Some(group) = groups.pop() {
                    group.iter().for_each(|m| self.working.flip(&self.movables[*m]));
                    let moved = self.network(outcome, boards);
                    group.iter().for_each(|m| self.working.flip(&self.movables[*m]));
                    let same = Shift::between(&base, &moved).is_some_and(|s| s.is_empty());
                    match group.as_slice() {
                        _ if same => {}
                        [one] => touched[*one] = Some((outcome, peak)),
                        _ => {
                            let (first, second) = group.split_at(group.len() / 2);
                            groups.extend([first.to_vec(), second.to_vec()]);
                        }
                    }
                }
            }
        }
        touched
    }

    /// The state of the boards in one of an outcome's solutions.
    pub fn boards(&self, which: Which, outcome: usize) -> Boards {
        let bursts = self.outcomes[outcome].case.bursts && !self.plan.boards.is_empty();
        if bursts && which != Which::Sustained { Boards::Peak } else { Boards::Mean }
    }

    /// The working plan's network in an outcome's scenario and corner.
    fn network(&self, outcome: usize, boards: Boards) -> Network {
        let o = &self.outcomes[outcome];
        build(&self.working, &State { corner: o.corner, boards, demands: &o.case.demands }).0
    }
}
