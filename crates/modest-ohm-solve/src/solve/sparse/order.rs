//! The pivot order: shortest row first, in it the column that fewest rows share (after Markowitz, 1957).

use std::cmp::Reverse;
use std::collections::{BTreeMap, BinaryHeap};

use super::Singular;
use super::system::Rows;

/// A pivot may be this much smaller than the largest entry of its row.
const PIVOT_SHARE: f64 = 0.1;
/// A row whose entries have all shrunk to this share of what they were depends on the others.
const DEPENDENT: f64 = 1e-15;

/// Rows and columns in the order of elimination.
///
/// The rows are eliminated once with the present values. A map per row keeps the update of a hub (a supply with a
/// thousand leads) at the cost of what changes, not of the hub's length.
pub(super) fn order(rows: &Rows) -> Result<Vec<(usize, usize)>, Singular> {
    let n = rows.count();
    let mut reduced: Vec<BTreeMap<usize, f64>> =
        (0..n).map(|r| rows.row(r).iter().map(|e| (e.at as usize, e.value)).collect()).collect();
    let largest_of = |row: &BTreeMap<usize, f64>| row.values().fold(0.0f64, |m, a| m.max(a.abs()));
    let scale: Vec<f64> = reduced.iter().map(largest_of).collect();
    let mut in_column: Vec<Vec<usize>> = vec![Vec::new(); n];
    let mut shortest = BinaryHeap::with_capacity(2 * n);
    for (r, row) in reduced.iter().enumerate() {
        shortest.push(Reverse((row.len(), r)));
        for c in row.keys() {
            in_column[*c].push(r);
        }
    }
    let mut done = vec![false; n];
    let mut pivots = Vec::with_capacity(n);
    while let Some(Reverse((len, r))) = shortest.pop() {
        if done[r] || len != reduced[r].len() {
            continue;
        }
        let largest = largest_of(&reduced[r]);
        if largest <= DEPENDENT * scale[r] || !largest.is_finite() {
            return Err(Singular { row: r });
        }
        let (column, pivot) = reduced[r]
            .iter()
            .filter(|(_, a)| a.abs() >= PIVOT_SHARE * largest)
            .min_by_key(|(c, _)| in_column[**c].len())
            .map(|(c, a)| (*c, *a))
            .ok_or(Singular { row: r })?;
        done[r] = true;
        pivots.push((r, column));
        let pivot_row = std::mem::take(&mut reduced[r]);
        for other in std::mem::take(&mut in_column[column]) {
            if done[other] {
                continue;
            }
            let Some(entry) = reduced[other].remove(&column) else { continue };
            let factor = entry / pivot;
            for (c, a) in pivot_row.iter().filter(|(c, _)| **c != column) {
                // Cancelled entries stay, as the pattern does; an exact zero is never a pivot.
                let mut added = false;
                *reduced[other].entry(*c).or_insert_with(|| {
                    added = true;
                    0.0
                }) -= factor * a;
                if added {
                    in_column[*c].push(other);
                }
            }
            shortest.push(Reverse((reduced[other].len(), other)));
        }
    }
    if pivots.len() == n { Ok(pivots) } else { Err(Singular { row: done.iter().position(|d| !d).unwrap_or(0) }) }
}
