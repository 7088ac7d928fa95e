//! The states in which a build is solved: those in which some finding stands, since a build lies within the tolerances
//! of which the review has seen the worst.

use std::sync::Arc;

use modest_ohm_solve::solve::Workspace;

use crate::network::build::build;
use crate::network::demands::cases;
use crate::network::shift::Shift;
use crate::network::state::{Boards, State};
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;
use crate::review::Review;
use crate::review::depends::Entry;
use crate::review::standing::{Judge, Place};
use crate::solved::outcome::{Outcome, solve_near_one};

/// Scenarios and corners of them.
pub(crate) struct States<'a> {
    /// Each scenario with every figure nominal, from which builds are solved, with the corners that are wanted of it.
    wanted: Vec<(&'a Outcome, Vec<Corner>)>,
    /// Whether the corner *typical* is the same as *hot*.
    is_typical_hot: bool,
}

impl<'a> States<'a> {
    /// Every scenario in every corner that differs in a build. `build` has one value for each figure that spreads.
    pub fn all(review: &'a Review, build: &Plan) -> Self {
        let nominal: Vec<&Outcome> = review.outcomes.iter().filter(|o| o.corner == Corner::Typical).collect();
        let mut corners = vec![Corner::Low, Corner::Hot];
        if differ(build, &nominal, Corner::Hot, Corner::High) {
            corners.push(Corner::High);
        }
        // Checks hold what is worst against it.
        corners.push(Corner::Typical);
        let is_typical_hot = !differ(build, &nominal, Corner::Hot, Corner::Typical);
        Self { wanted: nominal.into_iter().map(|o| (o, corners.clone())).collect(), is_typical_hot }
    }

    /// Those in which some of these findings stand, and what lasts beside a surge; of findings that stand in no single
    /// one, all. `build` has one value for each figure that spreads.
    pub fn of(review: &'a Review, build: &Plan, entries: &[Entry]) -> Self {
        let all = Self::all(review, build);
        let context = review.context();
        let judge = Judge { layout: context.layout, movables: &[], open: entries };
        let mut known = vec![false; entries.len()];
        let mut places: Vec<(&Outcome, Corner)> = Vec::new();
        for o in review.outcomes.iter().filter(|o| o.corner != Corner::Typical) {
            let place = Place::of(&context, o);
            let here = judge.standing(context.plan, &place);
            here.iter().for_each(|e| known[*e] = true);
            if !here.is_empty() {
                places.push((o, o.corner));
            }
        }
        // A combination of tolerances is as in a corner, but for some figures.
        for (entry, known) in entries.iter().zip(&mut known) {
            let own = |f: &&crate::Finding| f.code == entry.0 && f.subject == entry.1 && f.mix.is_some();
            for f in review.findings.iter().filter(own) {
                *known = true;
                let there = |o: &&Outcome| Some(&o.case.scenario) == f.scenario.as_ref() && Some(o.corner) == f.corner;
                places.extend(review.outcomes.iter().filter(there).map(|o| (o, o.corner)));
            }
        }
        if known.contains(&false) {
            return all;
        }
        let is_wanted = |o: &Outcome, corner: Corner| {
            places.iter().any(|(p, c)| {
                let beside = !p.case.continuous && o.case.scenario == Scenario::Worst && o.case.surging.is_none();
                *c == corner && (p.is_case_of(o) || beside)
            })
        };
        let wanted = all.wanted.into_iter().map(|(o, corners)| {
            let is_own = |corner: &Corner| match corner {
                Corner::Typical => Corner::ALL.into_iter().any(|c| is_wanted(o, c)),
                // Where *high* is the same, *hot* stands for both.
                Corner::Hot if !corners.contains(&Corner::High) => {
                    is_wanted(o, Corner::Hot) || is_wanted(o, Corner::High)
                }
                corner => is_wanted(o, *corner),
            };
            (o, corners.iter().copied().filter(is_own).collect())
        });
        Self { wanted: wanted.collect(), ..all }
    }

    /// A build in these states.
    pub fn solve(&self, plan: &Plan, workspace: &mut Workspace) -> Vec<Outcome> {
        let mut solved: Vec<Outcome> = Vec::new();
        for (case, (near, corners)) in cases(plan).into_iter().map(Arc::new).zip(&self.wanted) {
            let first = solved.len();
            for corner in corners {
                let hot = solved[first..].iter().find(|o| o.corner == Corner::Hot);
                let twin = hot.filter(|_| *corner == Corner::Typical && self.is_typical_hot);
                solved.push(match twin {
                    Some(hot) => hot.as_corner(*corner),
                    None => solve_near_one(plan, &case, *corner, near, workspace),
                });
            }
        }
        solved
    }
}

/// Whether the networks of two corners differ where every figure that spreads has one value: by what parts go through,
/// as a battery's voltage with its charge and a wire's resistance with its temperature.
fn differ(plan: &Plan, nominal: &[&Outcome], a: Corner, b: Corner) -> bool {
    nominal.iter().any(|o| {
        let built = |corner| build(plan, &State { corner, boards: Boards::Peak, demands: &o.case.demands }).0;
        Shift::between(&built(a), &built(b)).is_none_or(|s| !s.is_empty())
    })
}
