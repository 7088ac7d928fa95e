//! The states in which a build is solved: those in which some finding stands, since a build lies within the tolerances
//! of which the review has seen the worst.

use modest_ohm_solve::solve::Workspace;

use crate::network::build::build;
use crate::network::demands::cases;
use crate::network::shift::Shift;
use crate::network::state::{Boards, State};
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;
use crate::review::Review;
use crate::review::depends::{Depends, Entry, Place};
use crate::solved::outcome::{Outcome, solve_near_one};

/// Scenarios and corners of them.
pub(crate) struct States<'a> {
    /// Each scenario with every figure nominal, from which builds are solved, with the corners that are wanted of it.
    wanted: Vec<(&'a Outcome, Vec<Corner>)>,
}

impl<'a> States<'a> {
    /// Every scenario in every corner that differs in a build.
    pub fn all(review: &'a Review, build: &Plan) -> Self {
        let nominal = nominal(review);
        let corners = corners_of(build, &nominal);
        Self { wanted: nominal.into_iter().map(|o| (o, corners.clone())).collect() }
    }

    /// Those in which some of these findings stand, and what lasts beside a surge; of findings that stand in no single
    /// one, all. `build` has one value for each figure that spreads.
    pub fn of(review: &'a Review, build: &Plan, entries: &[Entry]) -> Self {
        let all = Self::all(review, build);
        let context = review.context();
        let depends = Depends::new(&context, &[], entries);
        let mut known = vec![false; entries.len()];
        let mut places: Vec<(&Outcome, Corner)> = Vec::new();
        for o in review.outcomes.iter().filter(|o| o.corner != Corner::Typical) {
            let place = Place::of(&context, review.plan.clone(), o.clone(), Vec::new());
            let here = depends.standing(&place);
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
            let mut own: Vec<Corner> = Corner::ALL
                .into_iter()
                .filter(|c| is_wanted(o, *c))
                // Where two are one network, the first stands for both.
                .map(|c| if corners.contains(&c) || c != Corner::High { c } else { Corner::Hot })
                .map(|c| if corners.contains(&c) { c } else { Corner::Low })
                .collect();
            own.dedup();
            (o, own)
        });
        Self { wanted: wanted.collect() }
    }

    /// How many states are solved for each build.
    pub fn count(&self) -> usize {
        self.wanted.iter().map(|(_, corners)| corners.len()).sum()
    }

    /// A build in these states.
    pub fn solve(&self, plan: &Plan, workspace: &mut Workspace) -> Vec<Outcome> {
        let mut solved: Vec<Outcome> = Vec::with_capacity(self.count());
        for (case, (near, corners)) in cases(plan).iter().zip(&self.wanted) {
            for corner in corners {
                solved.push(solve_near_one(plan, case, *corner, near, workspace));
            }
        }
        solved
    }
}

fn nominal(review: &Review) -> Vec<&Outcome> {
    review.outcomes.iter().filter(|o| o.corner == Corner::Typical).collect()
}

/// The corners whose networks differ where every figure that spreads has one value: by what parts go through, as a
/// battery's voltage with its charge and a wire's resistance with its temperature.
fn corners_of(plan: &Plan, nominal: &[&Outcome]) -> Vec<Corner> {
    let differ = |a: Corner, b: Corner| {
        nominal.iter().any(|o| {
            let built = |corner| build(plan, &State { corner, boards: Boards::Peak, demands: &o.case.demands }).0;
            Shift::between(&built(a), &built(b)).is_none_or(|s| !s.is_empty())
        })
    };
    let mut corners = vec![Corner::Low];
    for corner in [Corner::Hot, Corner::High] {
        if corners.iter().all(|known| differ(*known, corner)) {
            corners.push(corner);
        }
    }
    corners
}
