//! Which entries stand in a solved state, as it is and with figures moved.

use std::sync::Arc;

use super::depends::{Entry, Moves, is_found};
use crate::checks;
use crate::derived::context::Context;
use crate::findings::finding::Finding;
use crate::network::layout::Layout;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::model::movable::Movable;
use crate::quantity::figure::Corner;
use crate::quantity::figures::End;
use crate::solved::outcome::Outcome;
use crate::solved::state::SharedWorkspace;

/// A solved state in which some entries stand.
pub(crate) struct Place {
    /// `None` for the plan as it is.
    pub apart: Option<Plan>,
    /// The state and its companions.
    pub outcomes: Vec<Outcome>,
    /// Per figure: the end at which it is.
    pub ends: Vec<Option<End>>,
    /// Indices of the entries that stand here.
    pub entries: Vec<usize>,
}

impl Place {
    /// A state of the plan as it is.
    pub fn of(context: &Context<'_>, outcome: &Outcome) -> Self {
        let beside = companions(context, outcome).cloned();
        let outcomes = std::iter::once(outcome.clone()).chain(beside).collect();
        Self { apart: None, outcomes, ends: Vec::new(), entries: Vec::new() }
    }

    /// A state of a plan in which some figures are held.
    pub fn apart(context: &Context<'_>, plan: Plan, outcome: &Outcome, ends: Vec<Option<End>>) -> Self {
        Self { apart: Some(plan), ends, ..Self::of(context, outcome) }
    }

    pub fn plan<'p>(&'p self, as_it_is: &'p Plan) -> &'p Plan {
        self.apart.as_ref().unwrap_or(as_it_is)
    }
}

/// What a state is held against: what lasts beside a surge, and the same scenario with every figure nominal.
fn companions<'c>(context: &'c Context<'_>, outcome: &Outcome) -> impl Iterator<Item = &'c Outcome> {
    let is_typical = |t: &&Outcome| t.corner == Corner::Typical && t.is_case_of(outcome);
    let typical = context.all_outcomes().find(is_typical).filter(|_| outcome.corner != Corner::Typical);
    let is_lasting = |w: &&Outcome| w.case.scenario == Scenario::Worst && w.corner == outcome.corner;
    let lasting = context.all_outcomes().find(is_lasting).filter(|_| !outcome.case.continuous);
    lasting.into_iter().chain(typical)
}

/// A plan with figures moved, and what has been asked of its states.
pub(crate) struct Variant {
    plan: Arc<Plan>,
    workspace: SharedWorkspace,
    /// Outcomes of the plan as it is, with those of the variant.
    known: Vec<(Outcome, Outcome)>,
}

impl Variant {
    /// An outcome in the variant; what lasts goes with many surges.
    fn of(&mut self, outcome: &Outcome) -> Outcome {
        if let Some((_, known)) = self.known.iter().find(|(o, _)| o.is_same(outcome)) {
            return known.clone();
        }
        let moved = outcome.in_variant_later(&self.plan, &self.workspace);
        self.known.push((outcome.clone(), moved.clone()));
        moved
    }
}

/// What it takes to judge a state again.
#[derive(Clone, Copy)]
pub(crate) struct Judge<'a> {
    pub layout: &'a Layout,
    pub movables: &'a [Movable],
    pub open: &'a [Entry],
}

impl Judge<'_> {
    /// A plan with figures moved.
    pub fn moved(&self, plan: &Plan, moves: &Moves) -> Plan {
        let mut plan = plan.clone();
        let moves: Vec<(&Movable, End)> = moves.iter().map(|(m, end)| (&self.movables[*m], *end)).collect();
        plan.hold_all(&moves);
        plan
    }

    /// As [`moved`](Self::moved), to be solved.
    pub fn variant(&self, plan: &Plan, moves: &Moves, workspace: &SharedWorkspace) -> Variant {
        let plan = Arc::new(self.moved(plan, moves));
        Variant { plan, workspace: Arc::clone(workspace), known: Vec::new() }
    }

    /// Which entries of a place still stand with figures moved. A finding in the state by itself is taken to hold beside
    /// the nominal one too, unless its check says otherwise.
    pub fn standing_with(&self, place: &Place, moves: &Moves, variant: &mut Variant) -> Vec<usize> {
        let corner = place.outcomes[0].corner;
        // In the corner of the state a figure may be at that end already.
        let is_there = |(m, end): &(usize, End)| place.ends[*m].is_none_or(|at| at == *end);
        let moves_nothing = moves.iter().all(|(m, _)| place.ends[*m].is_none());
        let mut moved = |o: &Outcome| {
            let same = moves_nothing || (o.corner == corner && moves.iter().all(is_there));
            if same { o.clone() } else { variant.of(o) }
        };
        let mut here: Vec<Outcome> = place.outcomes.iter().filter(|o| o.corner == corner).map(&mut moved).collect();
        let is_in = |e: &usize, found: &[Finding]| is_found(&self.open[*e], found);
        let beside: Vec<Outcome> = place.outcomes[here.len()..].iter().map(moved).collect();
        let needs_nominal = |e: &usize| checks::of(self.open[*e].0).is_some_and(|c| c.beside_nominal);
        let (mut open, alone): (Vec<usize>, Vec<usize>) = place.entries.iter().copied().partition(needs_nominal);
        let found = if alone.is_empty() { Vec::new() } else { self.found(&variant.plan, &here, &alone) };
        let (mut standing, gone): (Vec<usize>, Vec<usize>) = alone.into_iter().partition(|e| is_in(e, &found));
        open.extend(gone);
        if open.is_empty() {
            return standing;
        }
        here.extend(beside);
        // What has no solution any more leaves undecided what had one.
        let lost = |(before, after): (&Outcome, &Outcome)| before.actual.is_ok() && after.actual.is_err();
        if place.outcomes.iter().zip(&here).any(lost) {
            return place.entries.clone();
        }
        let found = self.found(&variant.plan, &here, &open);
        standing.extend(open.into_iter().filter(|e| is_in(e, &found)));
        standing.sort_unstable();
        standing
    }

    /// What the checks find of the parts of some entries.
    pub fn found(&self, plan: &Plan, outcomes: &[Outcome], entries: &[usize]) -> Vec<Finding> {
        let mut codes: Vec<&str> = entries.iter().map(|e| self.open[*e].0).collect();
        codes.sort_unstable();
        codes.dedup();
        let parts: Vec<&str> = entries.iter().map(|e| self.open[*e].1.as_str()).collect();
        checks::found_of(plan, self.layout, outcomes, &codes, &parts)
    }

    /// What is found of a state's entries, with all its numbers.
    pub fn looks(&self, plan: &Plan, place: &Place) -> Vec<Finding> {
        let mut found = self.found(plan, &place.outcomes, &place.entries);
        found.retain(|f| place.entries.iter().any(|e| self.open[*e].0 == f.code && self.open[*e].1 == f.subject));
        // A severity follows from these; words may name the figure itself.
        found.iter_mut().for_each(|f| f.message.clear());
        found
    }

    /// The entries that stand in a state by itself.
    pub fn standing(&self, plan: &Plan, place: &Place) -> Vec<usize> {
        let all: Vec<usize> = (0..self.open.len()).collect();
        let mut found = self.found(plan, &place.outcomes, &all);
        // What the companions show has its own place.
        let o = &place.outcomes[0];
        found.retain(|f| f.corner == Some(o.corner) && f.scenario.as_ref() == Some(&o.case.scenario));
        (0..self.open.len()).filter(|e| is_found(&self.open[*e], &found)).collect()
    }
}
