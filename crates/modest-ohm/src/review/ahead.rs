//! What the search for deciding figures asks first, on all cores.

use std::collections::BTreeMap;

use rayon::prelude::*;

use super::depends::{Depends, Moves};
use super::standing::{Judge, Place, Variant};
use crate::plan::model::Plan;
use crate::quantity::figures::End;
use crate::solved::state::SharedWorkspace;

/// Figures that one core takes at a time. Each batch begins with an empty workspace, so that nothing depends on the number
/// of cores.
const BATCH: usize = 6;

/// What is found with one figure moved.
struct Moved {
    moves: Moves,
    variant: Variant,
    /// By the number of the place.
    standing: Vec<(usize, Vec<usize>)>,
}

impl Depends<'_, '_> {
    /// Each figure at its other end in the states from which entries are followed up, by their numbers.
    pub(super) fn ask_ahead(&mut self, places: &[Place], followed: &[usize], figures: &[usize]) {
        let mut wanted: BTreeMap<(usize, End), Vec<usize>> = BTreeMap::new();
        for n in followed.iter().filter(|n| places[**n].apart.is_none()) {
            for (m, at) in figures.iter().filter_map(|m| Some((*m, places[*n].ends[*m]?))) {
                wanted.entry((m, at.other())).or_default().push(*n);
            }
        }
        let (judge, plan): (Judge<'_>, &Plan) = (self.judge, self.context.plan);
        let batch = |some: &[((usize, End), Vec<usize>)]| -> Vec<Moved> {
            let workspace = SharedWorkspace::default();
            let moved = |((m, end), those): &((usize, End), Vec<usize>)| {
                let moves = vec![(*m, *end)];
                let mut variant = judge.variant(plan, &moves, &workspace);
                let of = |n: &usize| (*n, judge.standing_with(&places[*n], &moves, &mut variant));
                let standing = those.iter().map(of).collect();
                Moved { moves, variant, standing }
            };
            some.iter().map(moved).collect()
        };
        let wanted: Vec<_> = wanted.into_iter().collect();
        for Moved { moves, variant, standing } in wanted.par_chunks(BATCH).flat_map_iter(batch).collect::<Vec<_>>() {
            self.known.extend(standing.into_iter().map(|(n, entries)| ((n, moves.clone()), entries)));
            self.variants.insert(moves, variant);
        }
    }
}
