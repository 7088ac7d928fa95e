//! Where feed points go: of all sets of a number of places on a grid the one with the highest lowest pixel, and of
//! equals the one with the least cable.
//!
//! Few sets are all tried. Of more, a good one is moved about: what bounds the lowest pixel is one gap between two feed
//! points (or an end beyond the outermost). A gap is made shorter by moving all feed points from its edge to some other
//! gap, which that makes longer. While such a move lifts the lowest pixel it is made, in smaller and smaller steps. A
//! gap's lowest pixel falls with its length, so that a set which no such move betters is as good as any (an allocation
//! that equalises monotone costs); cables of unequal length and a common source resistance couple the gaps a little,
//! which the last steps, of single places, account for.

use std::collections::HashMap;

/// At most this many sets of one size are all tried, and so many pixels gone through for them.
const ALL_SETS: usize = 5_000;
const ALL_PIXELS: usize = 400_000;

/// Of so few places every pair is moved at every step.
const FEW: usize = 4;

/// Lowest pixels closer than this are equal, V.
pub(crate) const SAME_V: f64 = 1e-7;

/// A set of places.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Placed {
    /// Indices into the grid, rising.
    pub at: Vec<usize>,
    pub lowest_v: f64,
    pub cable_m: f64,
    /// How many sets of all that were tried are as good, this one counted.
    pub equals: usize,
    /// How many of all that were tried reach the limit.
    pub pass: usize,
}

/// What a set gives: the lowest voltage beyond its first place, between each two, and beyond the last; infinite where
/// no pixel is. Nothing where there is no solution.
pub(crate) type Gaps = Option<Vec<f64>>;

/// Asks for sets, each once.
struct Asked<'a> {
    grid: usize,
    gaps: &'a mut dyn FnMut(&[usize]) -> Gaps,
    cable_m: &'a dyn Fn(&[usize]) -> f64,
    known: HashMap<Vec<usize>, Vec<f64>>,
}

/// True where all sets of `count` places on a grid are few enough to be tried one by one, for so many pixels.
pub(crate) fn is_exhaustive(grid: usize, count: usize, pixels: usize) -> bool {
    let sets = sets(grid, count);
    sets <= ALL_SETS && sets.saturating_mul(pixels) <= ALL_PIXELS
}

fn sets(grid: usize, count: usize) -> usize {
    let mut sets = 1usize;
    for k in 0..count {
        sets = sets.saturating_mul(grid.saturating_sub(k)) / (k + 1);
        if sets > ALL_SETS {
            return usize::MAX;
        }
    }
    sets
}

/// The best set of `count` places of a grid; nothing where none has a solution or the grid is too small. `fewer` is the
/// best set of one place less, where it is known: a good place to begin.
pub(crate) fn best(
    grid: usize,
    count: usize,
    all: bool,
    limit_v: f64,
    fewer: Option<&[usize]>,
    gaps: &mut dyn FnMut(&[usize]) -> Gaps,
    cable_m: &dyn Fn(&[usize]) -> f64,
) -> Option<Placed> {
    if count == 0 || count > grid {
        return None;
    }
    let mut asked = Asked { grid, gaps, cable_m, known: HashMap::new() };
    if all { asked.all(count, limit_v) } else { asked.moved(count, fewer) }
}

impl Asked<'_> {
    fn ask(&mut self, at: &[usize]) -> Vec<f64> {
        if let Some(known) = self.known.get(at) {
            return known.clone();
        }
        let gaps = (self.gaps)(at).unwrap_or_else(|| vec![f64::NEG_INFINITY; at.len() + 1]);
        self.known.insert(at.to_vec(), gaps.clone());
        gaps
    }

    fn placed(&mut self, at: Vec<usize>) -> Placed {
        let lowest_v = lowest(&self.ask(&at)).1;
        let cable_m = (self.cable_m)(&at);
        Placed { at, lowest_v, cable_m, equals: 1, pass: 0 }
    }

    fn all(&mut self, count: usize, limit_v: f64) -> Option<Placed> {
        let mut found: Vec<Placed> = Vec::new();
        let mut at: Vec<usize> = (0..count).collect();
        loop {
            let placed = self.placed(at.clone());
            found.push(placed);
            // The next set in the order of the alphabet.
            let Some(i) = (0..count).rev().find(|i| at[*i] < self.grid - count + *i) else { break };
            at[i] += 1;
            for j in i + 1..count {
                at[j] = at[j - 1] + 1;
            }
        }
        let pass = found.iter().filter(|p| p.lowest_v >= limit_v * (1.0 - 1e-12)).count();
        let most = found.iter().map(|p| p.lowest_v).fold(f64::NEG_INFINITY, f64::max);
        found.retain(|p| p.lowest_v > f64::NEG_INFINITY && p.lowest_v >= most - SAME_V);
        let equals = found.len();
        let best = found.into_iter().reduce(|a, b| if b.cable_m < a.cable_m - 1e-9 { b } else { a })?;
        Some(Placed { equals, pass, ..best })
    }

    /// From places that share the grid as the best of one less does, or evenly, by moves that lift the lowest pixel; of
    /// few from several beginnings, because leads from one side pull the best set to it.
    fn moved(&mut self, count: usize, fewer: Option<&[usize]>) -> Option<Placed> {
        let last = (self.grid - 1) as f64;
        // A lead to a gap's end is shared by two gaps, an outer gap has one: half as long.
        let even = |i: usize| (2 * i + 1) as f64 / (2 * count) as f64;
        let spread = |lean: f64| (0..count).map(|i| (even(i).powf(lean) * last).round() as usize).collect();
        let step = (self.grid / (2 * count)).max(1);
        let mut starts: Vec<(Vec<usize>, usize)> = Vec::new();
        match fewer {
            Some(fewer) if count > FEW => starts.push((like(fewer, count, last), (step / 4).max(1))),
            _ => starts.extend([1.0, 0.8, 1.25].map(|lean| (spread(lean), step))),
        }
        let mut best: Option<Placed> = None;
        for (start, step) in starts {
            let start = self.apart(start);
            let placed = self.settle(start, step);
            if best.as_ref().is_none_or(|b| placed.lowest_v > b.lowest_v + SAME_V) {
                best = Some(placed);
            }
        }
        let best = self.shorten(best?);
        (best.lowest_v > f64::NEG_INFINITY).then_some(best)
    }

    /// Places that all differ and lie on the grid.
    fn apart(&self, mut at: Vec<usize>) -> Vec<usize> {
        for i in 1..at.len() {
            at[i] = at[i].max(at[i - 1] + 1);
        }
        let mut most = self.grid - 1;
        for place in at.iter_mut().rev() {
            *place = (*place).min(most);
            most = place.saturating_sub(1);
        }
        at
    }

    fn settle(&mut self, at: Vec<usize>, step: usize) -> Placed {
        let mut here = self.placed(at);
        let mut step = step;
        loop {
            let moves = self.moves(&here.at, step, here.at.len() <= FEW);
            let better = self.first_better(moves, &here);
            match better {
                Some(better) => here = better,
                None if step > 1 => step /= 2,
                // Nothing of one step is left: pairs of neighbours, last.
                None => {
                    let pairs = self.moves(&here.at, 1, true);
                    match self.first_better(pairs, &here) {
                        Some(better) => here = better,
                        None => return here,
                    }
                }
            }
        }
    }

    fn first_better(&mut self, moves: Vec<Vec<usize>>, here: &Placed) -> Option<Placed> {
        let better = |p: &Placed| p.lowest_v > here.lowest_v + 0.01 * SAME_V;
        moves.into_iter().map(|at| self.placed(at)).find(better)
    }

    /// All ways to make the gap of the lowest pixel shorter by a step at the cost of one other gap; and single places
    /// and pairs a step to and fro.
    fn moves(&mut self, at: &[usize], step: usize, pairs: bool) -> Vec<Vec<usize>> {
        let (gap, _) = lowest(&self.ask(at));
        let (count, grid, step) = (at.len(), self.grid, step as isize);
        let mut moves = Vec::new();
        let mut push = |shifts: &[(usize, isize)]| {
            let mut next: Vec<isize> = at.iter().map(|place| *place as isize).collect();
            shifts.iter().for_each(|(place, by)| next[*place] += by);
            if next.windows(2).all(|w| w[0] < w[1]) && next[0] >= 0 && next[count - 1] < grid as isize {
                moves.push(next.into_iter().map(|place| place as usize).collect());
            }
        };
        let block = |range: std::ops::Range<usize>, by: isize| range.map(|place| (place, by)).collect::<Vec<_>>();
        // The nearest gap first: what lies between is left as it is.
        for j in (0..gap).rev() {
            push(&block(j..gap, step));
        }
        for j in gap..count {
            push(&block(gap..j + 1, -step));
        }
        if pairs {
            for i in 0..count {
                for by in [step, -step] {
                    push(&[(i, by)]);
                    // Two that move together or apart: where leads lengthen, both gaps beside a place gain from it.
                    let partners = if count <= FEW { i + 1..count } else { i + 1..(i + 2).min(count) };
                    for j in partners {
                        push(&[(i, by), (j, step)]);
                        push(&[(i, by), (j, -step)]);
                    }
                }
            }
        }
        moves
    }

    /// Cable that lifts nothing is saved: single places nearer to where the cables come from, while the lowest pixel
    /// stays.
    fn shorten(&mut self, mut here: Placed) -> Placed {
        let least = here.lowest_v - SAME_V;
        loop {
            let before = here.cable_m;
            for i in 0..here.at.len() {
                let mut step = self.grid;
                while step > 0 {
                    let places = [here.at[i].checked_sub(step), Some(here.at[i] + step)];
                    let moved = places.into_iter().flatten().filter_map(|place| {
                        let mut at = here.at.clone();
                        at[i] = place;
                        (at.windows(2).all(|w| w[0] < w[1]) && place < self.grid).then_some(at)
                    });
                    let shorter = moved.filter(|at| (self.cable_m)(at) < here.cable_m - 1e-9).collect::<Vec<_>>();
                    let kept = shorter.into_iter().map(|at| self.placed(at)).find(|p| p.lowest_v >= least);
                    match kept {
                        Some(kept) => here = kept,
                        None => step /= 2,
                    }
                }
            }
            if here.cable_m >= before - 1e-9 {
                return here;
            }
        }
    }
}

/// Places spread over a grid as fewer are.
fn like(fewer: &[usize], count: usize, last: f64) -> Vec<usize> {
    // The curve through the ends of the grid and the places, an outer gap counting half.
    let curve = |share: f64| {
        let x = share * fewer.len() as f64 - 0.5;
        let at = |i: isize| match usize::try_from(i) {
            Err(_) => -(fewer[0] as f64),
            Ok(i) => fewer.get(i).map_or(2.0 * last - fewer[fewer.len() - 1] as f64, |p| *p as f64),
        };
        let left = x.floor() as isize;
        at(left) + (x - left as f64) * (at(left + 1) - at(left))
    };
    (0..count).map(|i| curve((2 * i + 1) as f64 / (2 * count) as f64).clamp(0.0, last).round() as usize).collect()
}

/// The gap with the lowest pixel, and its voltage.
fn lowest(gaps: &[f64]) -> (usize, f64) {
    let mut lowest = (0, f64::INFINITY);
    for (gap, volts) in gaps.iter().enumerate() {
        if *volts < lowest.1 {
            lowest = (gap, *volts);
        }
    }
    lowest
}
