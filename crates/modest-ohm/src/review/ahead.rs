//! What the search for deciding figures asks first, solved on all cores.

use std::collections::BTreeMap;

use modest_ohm_solve::solve::Workspace;
use rayon::prelude::*;

use super::depends::{Depends, Moves, Place};
use crate::quantity::figures::End;
use crate::solved::outcome::{Lift, Outcome};

/// Figures that one core takes at a time. Each batch begins with an empty workspace, so that nothing depends on the number
/// of cores.
const BATCH: usize = 6;

/// Outcomes of the review by their numbers.
type Wanted<'p> = BTreeMap<usize, &'p Outcome>;

impl Depends<'_> {
    /// Each figure at its other end in the states from which entries are followed up, and in what they are held against.
    pub(super) fn solve_ahead<'p>(&mut self, places: impl Iterator<Item = &'p Place>, figures: &[usize]) {
        let mut wanted: BTreeMap<(usize, End), Wanted<'p>> = BTreeMap::new();
        for place in places {
            for (m, at) in figures.iter().filter_map(|m| Some((*m, place.ends[*m]?))) {
                wanted.entry((m, at.other())).or_default().extend(place.numbered());
            }
        }
        let (plan, movables) = (self.context.plan, self.movables);
        let batch = |some: &[((usize, End), Wanted<'p>)]| -> Vec<((usize, Moves), Outcome)> {
            let mut workspace = Workspace::default();
            let mut solved = Vec::new();
            for ((m, end), outcomes) in some {
                let mut held = plan.clone();
                held.hold(&movables[*m], *end);
                for (number, o) in outcomes {
                    let moved = o.in_variant(&held, Lift::None, &mut workspace).0;
                    solved.push(((*number, vec![(*m, *end)]), moved));
                }
            }
            solved
        };
        let wanted: Vec<_> = wanted.into_iter().collect();
        self.solved.extend(wanted.par_chunks(BATCH).flat_map_iter(batch).collect::<Vec<_>>());
    }
}
