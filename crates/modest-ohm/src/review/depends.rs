//! Which figures decide whether something is found: each is moved to its other end in the states in which the finding
//! stands, and the checks look again.
//!
//! A review takes the bad end of everything; so moving a figure can only end a finding where it stands at that end. What
//! it takes:
//!
//! 1. the solved states in which each finding stands;
//! 2. in the first of them each figure at its other end. In a large plan some at once: a finding that stands even then is
//!    taken to be decided by none of them alone, and where one is gone, they are halved until the one is found that ends
//!    it;
//! 3. the other states of that finding, for that figure alone.
//!
//! Figures that the network does not contain (thresholds, thermal resistances) need no solving: the checks look at the
//! same state with the figure at either end.

use std::collections::BTreeMap;

use super::standing::{Judge, Place, Variant};
use crate::checks;
use crate::derived::context::Context;
use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::plan::model::movable::Movable;
use crate::quantity::figures::End;
use crate::solved::outcome::{Lift, Outcome, solve_near};
use crate::solved::state::SharedWorkspace;
use crate::verdict::severity::Severity;

/// Groups of figures that are tried in one state; up to so many figures are tried one by one (our own figure). In a group
/// a figure whose other end makes it worse hides one that ends the finding.
const MOST_GROUPS: usize = 64;

/// A finding, or what stands under one: code, subject, severity.
pub(crate) type Entry = (&'static str, String, Severity);

/// Figures and the ends that they are moved to.
pub(super) type Moves = Vec<(usize, End)>;

/// The search in one review.
pub(crate) struct Depends<'a, 'p> {
    pub context: &'a Context<'p>,
    pub movables: &'a [Movable],
    pub open: &'a [Entry],
    pub(super) judge: Judge<'a>,
    workspace: SharedWorkspace,
    /// Entries that still stand, by the number of a state and the figures moved in it.
    pub(super) known: BTreeMap<(usize, Moves), Vec<usize>>,
    /// The plan with figures moved.
    pub(super) variants: BTreeMap<Moves, Variant>,
}

impl<'a, 'p> Depends<'a, 'p> {
    pub fn new(context: &'a Context<'p>, movables: &'a [Movable], open: &'a [Entry]) -> Self {
        Self {
            context,
            movables,
            open,
            judge: Judge { layout: context.layout, movables, open },
            workspace: SharedWorkspace::default(),
            known: BTreeMap::new(),
            variants: BTreeMap::new(),
        }
    }

    /// Per figure the entries that it decides: gone at one end of its spread, and not at the other.
    pub fn decided(&mut self, places: &[Place], figures: &[usize]) -> Vec<(usize, Vec<usize>)> {
        let mut candidates: Vec<(usize, usize)> = Vec::new();
        let followed = followed(places);
        if figures.len() <= MOST_GROUPS {
            let those: Vec<usize> = followed.iter().map(|(n, _)| *n).collect();
            self.ask_ahead(places, &those, figures);
        }
        for (n, entries) in followed {
            let place = &places[n];
            let (solved, other): (Vec<usize>, Vec<usize>) = figures.iter().partition(|m| place.ends[**m].is_some());
            for group in solved.chunks(solved.len().div_ceil(MOST_GROUPS).max(1)) {
                self.halve((n, place), group, &entries, &mut candidates);
            }
            for m in self.that_matter(place, &other) {
                candidates.extend(entries.iter().map(|e| (m, *e)));
            }
        }
        candidates.sort_unstable();
        candidates.dedup();
        let mut decided: Vec<(usize, Vec<usize>)> = Vec::new();
        for (m, entry) in candidates {
            if self.is_gone(places, m, entry, End::Low) == self.is_gone(places, m, entry, End::High) {
                continue;
            }
            match decided.iter_mut().find(|(known, _)| *known == m) {
                Some((_, entries)) => entries.push(entry),
                None => decided.push((m, vec![entry])),
            }
        }
        decided
    }

    /// As [`decided`](Self::decided), of entries that stand in no state by itself: the whole plan is solved with each
    /// figure at either end. Returns how many figures a large plan leaves no time for.
    pub fn decided_as_a_whole(
        &mut self,
        entries: &[usize],
        figures: &[usize],
        decided: &mut Vec<(usize, Vec<usize>)>,
    ) -> usize {
        let mut left_out = 0;
        if entries.is_empty() {
            return left_out;
        }
        let context = self.context;
        let codes: Vec<&str> = entries.iter().map(|e| self.open[*e].0).collect();
        let all: Vec<Outcome> = context.all_outcomes().cloned().collect();
        for m in figures {
            if !context.may_try(2 * all.len()) {
                left_out += 1;
                continue;
            }
            let [low, high] = [End::Low, End::High].map(|end| {
                let mut plan = context.plan.clone();
                plan.hold(&self.movables[*m], end);
                let (layout, outcomes) = solve_near(&plan, Lift::None, &all);
                checks::found_in(&plan, &layout, &outcomes, &codes)
            });
            for e in entries {
                if is_found(&self.open[*e], &low) == is_found(&self.open[*e], &high) {
                    continue;
                }
                match decided.iter_mut().find(|(known, _)| known == m) {
                    Some((_, own)) => own.push(*e),
                    None => decided.push((*m, vec![*e])),
                }
            }
        }
        left_out
    }

    /// Figures of a group that end an entry in a state when they alone go to their other end.
    fn halve(&mut self, at: (usize, &Place), group: &[usize], entries: &[usize], found: &mut Vec<(usize, usize)>) {
        if group.is_empty() || entries.is_empty() {
            return;
        }
        let moves: Moves = group.iter().filter_map(|m| Some((*m, at.1.ends[*m]?.other()))).collect();
        let left = self.standing_with(at, &moves);
        let gone: Vec<usize> = entries.iter().copied().filter(|e| !left.contains(e)).collect();
        match group {
            _ if gone.is_empty() => {}
            [one] => found.extend(gone.iter().map(|e| (*one, *e))),
            _ => {
                let (first, second) = group.split_at(group.len() / 2);
                self.halve(at, first, &gone, found);
                self.halve(at, second, &gone, found);
            }
        }
    }

    /// Figures outside the network that change anything about the entries of a state at either end of their spread.
    fn that_matter(&self, place: &Place, group: &[usize]) -> Vec<usize> {
        let plan = place.plan(self.context.plan);
        let base = self.judge.looks(plan, place);
        let mut matter = Vec::new();
        let mut groups = vec![group.to_vec()];
        while let Some(group) = groups.pop() {
            let same = group.is_empty()
                || [End::Low, End::High].into_iter().all(|end| {
                    let moves = group.iter().map(|m| (*m, end)).collect();
                    self.judge.looks(&self.judge.moved(plan, &moves), place) == base
                });
            match group.as_slice() {
                _ if same => {}
                [one] => matter.push(*one),
                _ => {
                    let (first, second) = group.split_at(group.len() / 2);
                    groups.extend([first.to_vec(), second.to_vec()]);
                }
            }
        }
        matter
    }

    /// Whether an entry is gone in every state in which it stands, with a figure at one end of its spread.
    fn is_gone(&mut self, places: &[Place], figure: usize, entry: usize, end: End) -> bool {
        // Where the figure is at this end already, its nominal companion moves all the same.
        let mut own = places.iter().enumerate().filter(|(_, p)| p.entries.contains(&entry));
        own.all(|at| !self.standing_with(at, &[(figure, end)]).contains(&entry))
    }

    /// Which entries still stand in a state with figures moved.
    fn standing_with(&mut self, (n, place): (usize, &Place), moves: &[(usize, End)]) -> Vec<usize> {
        let key = (n, moves.to_vec());
        if let Some(known) = self.known.get(&key) {
            return known.clone();
        }
        let make = |plan: &Plan| self.judge.variant(plan, &key.1, &self.workspace);
        let standing = match &place.apart {
            Some(apart) => self.judge.standing_with(place, &key.1, &mut make(apart)),
            None => {
                let as_it_is = self.context.plan;
                let variant = self.variants.entry(key.1.clone()).or_insert_with(|| make(as_it_is));
                self.judge.standing_with(place, &key.1, variant)
            }
        };
        self.known.insert(key, standing.clone());
        standing
    }
}

/// The states from which entries are followed up, each with those of which it is the first: as few states as stand for
/// all, the one with the most entries before the others.
fn followed(places: &[Place]) -> Vec<(usize, Vec<usize>)> {
    let mut open: Vec<usize> = places.iter().flat_map(|p| p.entries.iter().copied()).collect();
    open.sort_unstable();
    open.dedup();
    let mut followed = Vec::new();
    while !open.is_empty() {
        let own = |p: &Place| p.entries.iter().filter(|e| open.contains(e)).count();
        let Some(n) = (0..places.len()).max_by_key(|n| (own(&places[*n]), usize::MAX - n)) else { break };
        let (here, left): (Vec<usize>, Vec<usize>) = open.iter().partition(|e| places[n].entries.contains(e));
        followed.push((n, here));
        open = left;
    }
    followed
}

/// Whether an entry is among findings, as bad or worse.
pub(crate) fn is_found((code, subject, severity): &Entry, found: &[Finding]) -> bool {
    let same = |f: &Finding| f.code == *code && f.subject == *subject;
    let beside =
        |f: &Finding| f.also.iter().any(|c| c.code == *code && c.subject == *subject && c.severity >= *severity);
    found.iter().any(|f| (same(f) && f.severity >= *severity) || beside(f))
}
