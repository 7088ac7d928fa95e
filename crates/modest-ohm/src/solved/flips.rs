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
    /// The plan with figures moved.
    working: Plan,
    /// Which.
    flipped: Vec<usize>,
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
            flipped: Vec::new(),
            shifts: BTreeMap::new(),
            touched: Vec::new(),
            ends: BTreeMap::new(),
        }
    }

    /// What each figure changes at its other end in an outcome's network.
    pub fn shift(&mut self, outcome: usize, boards: Boards) -> &[Option<Shift>] {
        let key = (outcome, boards == Boards::Peak);
        if !self.shifts.contains_key(&key) {
            let outcomes = self.outcomes;
            let which = if boards == Boards::Peak { Which::Wanted } else { Which::Sustained };
            let shifts = match which.of(&outcomes[outcome]) {
                Ok(s) => self.learn((outcome, boards), &s.net),
                Err(_) => self.learn((outcome, boards), &self.network(outcome, boards)),
            };
            self.shifts.insert(key, shifts);
        }
        self.shifts.get(&key).map_or(&[], Vec::as_slice)
    }

    /// The shifts in one network: those that are known from another, as far as the laws are the same here, and the
    /// others by moving them.
    fn learn(&mut self, at: (usize, Boards), base: &Network) -> Vec<Option<Shift>> {
        let all: Vec<usize> = (0..self.movables.len()).collect();
        let mut shifts: Vec<Option<Shift>> = all.iter().map(|m| self.known(*m, base)).collect();
        let is_new = shifts.iter().all(Option::is_none);
        let moves = |f: &Self, m: usize| f.shifts.values().any(|shifts| shifts[m].is_some());
        let (open, silent): (Vec<usize>, Vec<usize>) =
            all.iter().filter(|m| shifts[**m].is_none()).partition(|m| is_new || moves(self, **m));
        for group in self.apart(&open) {
            self.move_group(at, base, &group, &mut shifts);
        }
        // Every change has to be some figure's.
        let changed = self.changed(at, base, &all);
        let is_all = |shifts: &[Option<Shift>]| {
            let claimed: BTreeSet<usize> = shifts.iter().flatten().flat_map(Shift::places).collect();
            changed.as_ref().is_some_and(|changed| changed.places().all(|place| claimed.contains(&place)))
        };
        // What has changed nothing so far may do so where others do not do the same as before.
        if !silent.is_empty() && (!open.is_empty() || !is_all(&shifts)) {
            let mut groups = vec![silent];
            while let Some(group) = groups.pop() {
                match (self.changed(at, base, &group).filter(|s| !s.is_empty()), group.as_slice()) {
                    (None, _) => {}
                    (shift, [one]) => shifts[*one] = shift,
                    (Some(_), _) => {
                        let (first, second) = group.split_at(group.len() / 2);
                        groups.extend([first.to_vec(), second.to_vec()]);
                    }
                }
            }
        }
        if !is_new && !is_all(&shifts) {
            for m in all {
                shifts[m] = self.changed(at, base, &[m]).filter(|s| !s.is_empty());
            }
        }
        shifts
    }

    /// What a figure changes in another scenario or corner, where the laws before it, or after it, are the same here.
    fn known(&self, m: usize, base: &Network) -> Option<Shift> {
        let shifts = self.shifts.values().filter_map(|shifts| shifts[m].as_ref());
        shifts.clone().find(|shift| shift.starts_from(base)).cloned().or_else(|| {
            let mut back = shifts.map(Shift::reversed);
            back.find(|shift| shift.starts_from(base))
        })
    }

    /// Moves a group at once and takes apart what it changes.
    fn move_group(
        &mut self,
        at: (usize, Boards),
        base: &Network,
        group: &[(usize, BTreeSet<usize>)],
        shifts: &mut [Option<Shift>],
    ) {
        let whole = self.changed(at, base, &group.iter().map(|(m, _)| *m).collect::<Vec<_>>());
        match whole.as_ref().and_then(|whole| whole.split(group)) {
            Some(own) => own.into_iter().for_each(|(m, shift)| shifts[m] = Some(shift)),
            None => {
                for (m, _) in group {
                    shifts[*m] = self.changed(at, base, &[*m]).filter(|s| !s.is_empty());
                }
            }
        }
    }

    /// What a network changes with figures moved.
    fn changed(&mut self, (outcome, boards): (usize, Boards), base: &Network, flipped: &[usize]) -> Option<Shift> {
        Shift::between(base, &self.moved(outcome, boards, flipped))
    }

    /// The figures in groups of which no two change the same law, as far as is known, each with what it and the other
    /// figures of its items change: a group is moved at once, and each of its changes is known to be one figure's.
    fn apart(&self, figures: &[usize]) -> Vec<Vec<(usize, BTreeSet<usize>)>> {
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
        for m in figures.iter().copied() {
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
        // One visit moves back what was moved before and moves what is to be.
        let before = self.flipped.iter().filter(|m| !flipped.contains(m));
        let after = flipped.iter().filter(|m| !self.flipped.contains(m));
        let these: Vec<&Movable> = before.chain(after).map(|m| &self.movables[*m]).collect();
        self.working.flip_all(&these);
        self.flipped = flipped.to_vec();
        let o = &self.outcomes[outcome];
        build(&self.working, &State { corner: o.corner, boards, demands: &o.case.demands }).0
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
        let ends = self.ends_of(corner, &self.touched);
        self.ends.insert(corner, ends.clone());
        ends
    }

    /// As [`ends`](Self::ends), of figures that move an outcome's own network, as far as that has been asked.
    pub fn ends_in(&mut self, outcome: usize) -> Vec<Option<End>> {
        let mut ends = self.ends(self.outcomes[outcome].corner);
        let moves = |m: usize, peak| self.shifts.get(&(outcome, peak)).is_some_and(|shifts| shifts[m].is_some());
        for (m, end) in ends.iter_mut().enumerate() {
            *end = end.filter(|_| moves(m, false) || moves(m, true));
        }
        ends
    }

    fn ends_of(&self, corner: Corner, touched: &[Option<(usize, bool)>]) -> Vec<Option<End>> {
        let in_corner = |outcome: usize| {
            let wanted = &self.outcomes[outcome];
            let same = |p: &&Outcome| p.corner == corner && p.is_case_of(wanted);
            self.outcomes.iter().find(same).unwrap_or(wanted)
        };
        let mut ends: Vec<Option<End>> = vec![None; self.movables.len()];
        let mut places: Vec<(usize, bool)> = touched.iter().flatten().copied().collect();
        places.sort_unstable();
        places.dedup();
        for place in places {
            let own: Vec<usize> = (0..touched.len()).filter(|m| touched[*m] == Some(place)).collect();
            let case = &in_corner(place.0).case;
            let boards = if place.1 { Boards::Peak } else { Boards::Mean };
            let state = |plan: &Plan| build(plan, &State { corner, boards, demands: &case.demands }).0;
            let base = state(self.plan);
            // Figures that change different laws are held at once.
            for group in self.apart(&own) {
                let mut plan = self.plan.clone();
                plan.hold_all(&group.iter().map(|(m, _)| (&self.movables[*m], End::Low)).collect::<Vec<_>>());
                let changed: Vec<usize> = Shift::between(&base, &state(&plan)).iter().flat_map(Shift::places).collect();
                for (m, reach) in &group {
                    let moved = changed.iter().any(|place| group.len() == 1 || reach.contains(place));
                    ends[*m] = Some(if moved { End::High } else { End::Low });
                }
            }
        }
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
            // What is silent where shifts are known has been tried there.
            let is_new = |peak: &bool| !self.shifts.contains_key(&(outcome, *peak)) && (peaks || !peak);
            for peak in [false, true].into_iter().filter(is_new).collect::<Vec<_>>() {
                let boards = if peak { Boards::Peak } else { Boards::Mean };
                let base = self.network(outcome, boards);
                let open: Vec<usize> = (0..touched.len()).filter(|m| touched[*m].is_none()).collect();
                let mut groups = vec![open];
                while let Some(group) = groups.pop() {
                    let moved = self.moved(outcome, boards, &group);
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

    /// The same solution under one name: without bursts the demand is what flows continuously.
    pub fn state_of(&self, which: Which, outcome: usize) -> Which {
        let is_same = which == Which::Wanted && self.boards(which, outcome) == Boards::Mean;
        if is_same { Which::Sustained } else { which }
    }

    /// The state of the boards in one of an outcome's solutions.
    pub fn boards(&self, which: Which, outcome: usize) -> Boards {
        let bursts = self.outcomes[outcome].case.bursts && !self.plan.boards.is_empty();
        if bursts && which != Which::Sustained { Boards::Peak } else { Boards::Mean }
    }

    /// The network of an outcome's scenario and corner.
    fn network(&self, outcome: usize, boards: Boards) -> Network {
        let o = &self.outcomes[outcome];
        build(self.plan, &State { corner: o.corner, boards, demands: &o.case.demands }).0
    }
}
