//! Groups of pins with totals of their own: the cheapest allocation that exceeds none.

use super::why::NoAssignment;
use crate::advise::assign::{Free, Open};
use crate::plan::model::Plan;
use crate::topology::pin_jobs::Job;

/// Allocations that are looked at where groups have totals.
const MOST_TRIES: usize = 2_000_000;

/// The matching, or, where it exceeds the total of a group, the cheapest that does not.
pub(crate) fn within_groups(
    plan: &Plan,
    all: &[Job<'_>],
    own: &[f64],
    open: &[Open<'_>],
    free: &[Free<'_>],
    costs: &[Vec<Option<u32>>],
    matched: Vec<usize>,
) -> Result<Vec<usize>, NoAssignment> {
    let mut rooms: Vec<Room> = Vec::new();
    for (c, board) in plan.boards.iter().enumerate() {
        for group in &board.pins.groups {
            let inside = |pin: Option<usize>| {
                pin.and_then(|i| board.pins.list.get(i)).is_some_and(|p| p.group.as_deref() == Some(&group.name))
            };
            let taken: f64 =
                all.iter().zip(own).filter(|(j, _)| j.pin.board == c && inside(j.pin.index)).map(|(_, a)| a).sum();
            rooms.push(Room {
                name: group.name.clone(),
                pins: free.iter().map(|f| f.board == c && inside(Some(f.index))).collect(),
                left: group.total.low.get() * (1.0 + 1e-9) - taken,
            });
        }
    }
    let exceeds = |matched: &[usize]| {
        rooms.iter().find(|room| {
            let sum: f64 = open.iter().zip(matched).filter(|(_, f)| room.pins[**f]).map(|(o, _)| o.amps).sum();
            sum > room.left
        })
    };
    let Some(first) = exceeds(&matched).map(|r| r.name.clone()) else { return Ok(matched) };
    let mut search = Search { open, costs, rooms: &mut rooms, best: None, tries: 0 };
    // The jobs with the fewest pins first.
    let mut order: Vec<usize> = (0..open.len()).collect();
    order.sort_by_key(|j| costs[*j].iter().flatten().count());
    search.go(&order, &mut vec![None; open.len()], &mut vec![false; free.len()], 0);
    let tries = search.tries;
    match search.best {
        Some((_, found)) => Ok(found),
        None if tries >= MOST_TRIES => Err(NoAssignment::GivenUp(MOST_TRIES)),
        None => Err(NoAssignment::GroupTotal(first)),
    }
}

/// What a group of pins may still carry.
struct Room {
    name: String,
    /// Which of the free pins belong to it.
    pins: Vec<bool>,
    left: f64,
}

/// All allocations, one job after another.
struct Search<'a, 'p> {
    open: &'a [Open<'p>],
    costs: &'a [Vec<Option<u32>>],
    rooms: &'a mut Vec<Room>,
    best: Option<(u32, Vec<usize>)>,
    tries: usize,
}

impl Search<'_, '_> {
    fn go(&mut self, order: &[usize], chosen: &mut Vec<Option<usize>>, taken: &mut Vec<bool>, cost: u32) {
        if self.tries >= MOST_TRIES || self.best.as_ref().is_some_and(|(best, _)| cost >= *best) {
            return;
        }
        self.tries += 1;
        let Some((job, rest)) = order.split_first() else {
            self.best = Some((cost, chosen.iter().flatten().copied().collect()));
            return;
        };
        let mut pins: Vec<(u32, usize)> =
            (0..taken.len()).filter(|f| !taken[*f]).filter_map(|f| Some((self.costs[*job][f]?, f))).collect();
        pins.sort_unstable();
        let amps = self.open[*job].amps;
        for (own, f) in pins {
            let fits = self.rooms.iter().all(|r| !r.pins[f] || amps <= r.left);
            if !fits {
                continue;
            }
            let change =
                |rooms: &mut [Room], by: f64| rooms.iter_mut().filter(|r| r.pins[f]).for_each(|r| r.left += by);
            change(self.rooms, -amps);
            (taken[f], chosen[*job]) = (true, Some(f));
            self.go(rest, chosen, taken, cost + own);
            (taken[f], chosen[*job]) = (false, None);
            change(self.rooms, amps);
        }
    }
}
