//! Findings whose worst case is none of the four corners.
//!
//! Every quantity that a check may judge is taken to its own worst combination of tolerances. The checks then look at
//! that one state, and what is worse there than in the whole review is confirmed by a plan whose figures are exact.

use modest_ohm_solve::solve::Workspace;
use rayon::prelude::*;

use crate::checks;
use crate::derived::context::Context;
use crate::findings::draft::sentence;
use crate::findings::finding::{Finding, Passed};
use crate::findings::mix::{Mix, MixedFigure};
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::plan::model::movable::{Movable, SOURCE_VOLTAGES};
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Corner;
use crate::quantity::figures::End;
use crate::solved::aim::aims;
use crate::solved::meeting::meeting;
use crate::solved::mixed::{Decided, LEAST_GAIN, Mixed, Search};
use crate::solved::outcome::{Lift, Outcome};
use crate::verdict::severity::Severity;

/// Figures that a finding names as deciding, at most.
const MOST_NAMED: usize = 3;
/// What moves a result by less than this share of the figure that moves it most does not decide it (our own figure).
const DECIDES: f64 = 0.3;

/// Replaces findings by worse ones of a combination of tolerances that is in no corner, and adds what only such a
/// combination shows; the combinations in which something was found.
pub(crate) fn worsen<'a>(
    context: &Context<'a>,
    search: &mut Search<'a>,
    movables: &[Movable],
    findings: &mut Vec<Finding>,
    passed: &mut Vec<Passed>,
) -> Vec<Combination<'a>> {
    let Some(solved) = context.outcomes.iter().find_map(|o| o.wanted.as_ref().ok()) else { return Vec::new() };
    let mut used = Vec::new();
    let mixes = search.worst(&aims(context.layout, solved)).into_iter();
    let mixes: Vec<_> = mixes.map(|mixed| (search.ends_in(mixed.outcome), mixed)).collect();
    let (plan, layout, outcomes) = (context.plan, context.layout, context.outcomes);
    let look = |(ends, mixed): (Vec<Option<End>>, Mixed)| {
        let combination = Combination::of(plan, outcomes, movables, mixed, ends);
        let (here, found) = combination.look(layout, outcomes);
        (combination, here, found)
    };
    let looked: Vec<_> = mixes.into_par_iter().map(look).collect();
    for (combination, here, found) in looked {
        let worse = combination.worse(context, movables, findings, &here, found);
        if worse.is_empty() {
            continue;
        }
        used.push(combination);
        for worse in worse {
            let is_milder = |f: &Finding| {
                f.subject == worse.subject && checks::of(f.code).and_then(|c| c.milder) == Some(worse.code)
            };
            if findings.iter().any(is_milder) {
                continue;
            }
            let milder = checks::of(worse.code).and_then(|c| c.milder);
            findings.retain(|f| f.subject != worse.subject || Some(f.code) != milder);
            passed.retain(|p| p.subject != worse.subject || (p.code != worse.code && Some(p.code) != milder));
            let same = findings.iter().position(|f| f.code == worse.code && f.subject == worse.subject);
            match same {
                Some(i) => findings[i] = worse,
                None => findings.push(worse),
            }
        }
    }
    used
}

/// One combination.
pub(crate) struct Combination<'a> {
    pub outcome: &'a Outcome,
    /// The plan with the figures that differ from the corner held where they are.
    pub held: Plan,
    /// Every figure that differs from the corner, or decides a quantity, with its number.
    figures: Vec<(usize, MixedFigure)>,
    quantities: Vec<Decided>,
    /// Per figure: the end at which it is.
    pub ends: Vec<Option<End>>,
}

impl<'a> Combination<'a> {
    /// `ends` are where the figures are in the corner.
    fn of(
        plan: &Plan,
        outcomes: &'a [Outcome],
        movables: &[Movable],
        mixed: Mixed,
        mut ends: Vec<Option<End>>,
    ) -> Self {
        let mut figures: Vec<(usize, MixedFigure)> = Vec::new();
        let mut moves: Vec<(&Movable, End)> = Vec::new();
        for (m, (movable, at)) in movables.iter().zip(&mut ends).enumerate() {
            let Some(end) = at else { continue };
            let differs = mixed.flipped.contains(&m);
            if differs {
                *end = end.other();
                moves.push((movable, *end));
            }
            let (item, key, value, unit) =
                (movable.item.clone(), movable.key.clone(), movable.at(*end), movable.ends.2);
            figures.push((m, MixedFigure { item, key, value, unit, differs, decides: false, end: *end }));
        }
        let mut held = plan.clone();
        held.hold_all(&moves);
        Self { outcome: &outcomes[mixed.outcome], held, figures, quantities: mixed.quantities, ends }
    }

    /// The plan with every figure that the state depends on held where it is.
    fn exact(&self, plan: &Plan, movables: &[Movable]) -> Plan {
        let mut exact = plan.clone();
        let moves: Vec<(&Movable, End)> =
            movables.iter().zip(&self.ends).filter_map(|(movable, end)| Some((movable, (*end)?))).collect();
        exact.hold_all(&moves);
        exact
    }

    /// The state with the nominal one beside it, in the plan with these figures held.
    fn beside(&self, here: Outcome, outcomes: &[Outcome]) -> Vec<Outcome> {
        let is_typical = |t: &&Outcome| t.corner == Corner::Typical && t.is_case_of(self.outcome);
        std::iter::once(here).chain(outcomes.iter().find(is_typical).cloned()).collect()
    }

    /// The combination's state, and what all checks find there.
    fn look(&self, layout: &Layout, outcomes: &[Outcome]) -> (Vec<Outcome>, Vec<Finding>) {
        let own = self.outcome.in_variant(&self.held, Lift::None, &mut Workspace::default()).0;
        let here = self.beside(own, outcomes);
        let found = checks::found_in_states(&self.held, layout, &here);
        (here, found)
    }

    /// Where the figures are, for a finding: what decides the quantity that it judges comes first.
    fn mix_of(&self, f: &Finding) -> Mix {
        let (judged, unit) = f.comparison().map_or((0.0, ""), |(judged, _)| (judged.value, judged.unit));
        let apart = |q: &&Decided| {
            let apart = (q.badness.abs() - judged.abs()).abs();
            if q.unit == unit { apart } else { f64::INFINITY }
        };
        let own = self.quantities.iter().min_by(|a, b| apart(a).total_cmp(&apart(b)));
        let by = own.map_or(&[] as &[_], |q| &q.by);
        let least = DECIDES * by.first().map_or(0.0, |(_, effect)| *effect);
        let deciding: Vec<usize> =
            by.iter().filter(|(_, effect)| *effect >= least).map(|(m, _)| *m).take(MOST_NAMED).collect();
        let rank = |m: usize| deciding.iter().position(|d| *d == m);
        let mut figures: Vec<(usize, MixedFigure)> =
            self.figures.iter().filter(|(m, f)| f.differs || rank(*m).is_some()).cloned().collect();
        figures.sort_by_key(|(m, _)| rank(*m).unwrap_or(usize::MAX));
        let figure = |(m, f)| MixedFigure { decides: rank(m).is_some(), ..f };
        Mix { figures: figures.into_iter().map(figure).collect() }
    }

    /// What the checks find here that is worse than in the review, and that a plan with exact figures shows too.
    fn worse(
        &self,
        context: &Context<'_>,
        movables: &[Movable],
        known: &[Finding],
        here: &[Outcome],
        found: Vec<Finding>,
    ) -> Vec<Finding> {
        let o = self.outcome;
        let is_new = |f: &Finding| f.corner == Some(o.corner) && f.severity >= Severity::Caution && is_worse(f, known);
        let mut worse: Vec<Finding> = found.into_iter().filter(is_new).collect();
        if worse.is_empty() {
            return worse;
        }
        let (plan, layout, outcomes) = (context.plan, context.layout, context.outcomes);
        // What is found for want of the other scenarios is found in the corner as well.
        let codes: Vec<&str> = worse.iter().map(|f| f.code).collect();
        let before = checks::found_in(plan, layout, &self.beside(o.clone(), outcomes), &codes);
        let exact = self.exact(plan, movables);
        let own = o.in_variant(&exact, Lift::None, &mut Workspace::default()).0;
        let there = self.beside(own, outcomes);
        let is_shown = |f: &Finding| {
            let found = checks::found_in(&exact, layout, &there, &[f.code]);
            found.iter().any(|g| g.subject == f.subject && g.severity >= f.severity)
        };
        let is_among = |f: &Finding, all: &[Finding]| all.iter().any(|g| g.code == f.code && g.subject == f.subject);
        // What the corner has by itself and the review has not is left to another check: a surge on a source that is
        // overloaded anyway.
        worse.retain(|f| is_among(f, known) || !is_among(f, &before));
        worse.retain(|f| is_worse(f, &before) && is_shown(f));
        worse.into_iter().map(|f| self.in_full(context, f, here)).collect()
    }

    /// Whether a source is at its highest voltage while another on its rail is at its lowest.
    fn shares_unequally(&self, context: &Context<'_>, source: &str) -> bool {
        let Ok(solved) = &*self.outcome.sustained else { return false };
        let is_at = |name: &str, end: End| {
            let own = |f: &MixedFigure| f.item == name && SOURCE_VOLTAGES.contains(&f.key.as_str()) && f.end == end;
            self.figures.iter().any(|(_, f)| own(f))
        };
        let plan = context.plan;
        let name = |kind: &NodeKind| plan.node_id(*kind).map(|id| plan.nodes[id.0].name.as_str());
        is_at(source, End::High)
            && meeting(plan, solved).iter().any(|set| {
                let names: Vec<&str> = set.iter().filter_map(name).collect();
                names.contains(&source) && names.iter().any(|other| *other != source && is_at(other, End::Low))
            })
    }

    /// The same finding with its text finished, where somebody reads it.
    fn in_full(&self, context: &Context<'_>, f: Finding, here: &[Outcome]) -> Finding {
        if !context.in_full {
            return Finding { mix: Some(self.mix_of(&f)), ..f };
        }
        let unequal = self.shares_unequally(context, &f.subject);
        let full = checks::found_in_full(&self.held, context.layout, here, f.code, unequal);
        let same = full.into_iter().find(|g| g.subject == f.subject && g.severity == f.severity);
        let f = same.unwrap_or_else(|| Finding { tasks: f.tasks.iter().map(|task| sentence(task)).collect(), ..f });
        Finding { mix: Some(self.mix_of(&f)), ..f }
    }
}

/// What a check still finds in a variant of the plan, in the combination in which it found something; all of it, unless
/// the same is among it.
pub(crate) fn still_found(plan: &Plan, lift: Lift, layout: &Layout, outcomes: &[Outcome], f: &Finding) -> Vec<Finding> {
    let Some(mix) = &f.mix else { return Vec::new() };
    let held = mix.held(plan);
    let mut workspace = Workspace::default();
    let there = |o: &&Outcome| Some(&o.case.scenario) == f.scenario.as_ref() && Some(o.corner) == f.corner;
    let is_it = |g: &Finding| g.code == f.code && g.subject == f.subject && g.severity == f.severity;
    let mut found: Vec<Finding> = Vec::new();
    for o in outcomes.iter().filter(there) {
        let here = o.in_variant(&held, lift, &mut workspace).0;
        let typical = outcomes.iter().find(|t| t.corner == Corner::Typical && t.is_case_of(o)).cloned();
        let states: Vec<Outcome> = std::iter::once(here).chain(typical).collect();
        found.extend(checks::found_of(&held, layout, &states, &[f.code], &[f.subject.as_str()]));
        if found.iter().any(is_it) {
            break;
        }
    }
    found
}

/// Whether a finding is worse than what is known of the same part.
fn is_worse(f: &Finding, known: &[Finding]) -> bool {
    let milder = |g: &Finding| {
        let further = f.excess() > g.excess() + LEAST_GAIN;
        g.severity < f.severity || (g.severity == f.severity && further)
    };
    let same = |g: &&Finding| g.code == f.code && g.subject == f.subject;
    let beside = known.iter().flat_map(|g| &g.also).filter(|c| c.code == f.code && c.subject == f.subject);
    known.iter().filter(same).all(milder) && beside.into_iter().all(|c| c.severity < f.severity)
}
