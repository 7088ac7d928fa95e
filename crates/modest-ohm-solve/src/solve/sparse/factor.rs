//! Solve form: the factors, row by row in pivot order, on a pattern that is found once.

use super::Singular;
use super::order::order;
use super::system::{Rows, System};

/// A pivot that has shrunk to this share of its row asks for a new order.
const STALE_PIVOT: f64 = 1e-6;

/// Pattern and values of the factors; empty at first, kept from one solve to the next.
#[derive(Clone, Debug, Default)]
pub(crate) struct Factors {
    rows: Rows,
    /// Row and column of each pivot, in order.
    pivots: Vec<(usize, usize)>,
    pivot: Vec<f64>,
    /// Per pivot: earlier pivots that reduce its row, and the multipliers.
    low_start: Vec<usize>,
    low: Vec<usize>,
    low_value: Vec<f64>,
    /// Per pivot: columns that its row keeps, and the values.
    up_start: Vec<usize>,
    up: Vec<usize>,
    up_value: Vec<f64>,
    work: Vec<f64>,
    /// Sign of the pivot order as a permutation of rows and columns.
    parity: f64,
}

impl Factors {
    /// Solves the system; the order and pattern of the last one are used again where they fit.
    ///
    /// # Errors
    /// The row that turned out to depend on others.
    pub fn solve(&mut self, system: &System) -> Result<Vec<f64>, Singular> {
        let known = self.rows.fits(system);
        if !known {
            self.rows = Rows::of(system);
        }
        self.rows.fill(system);
        if !(known && self.factor()) {
            self.pivots = order(&self.rows)?;
            self.parity = parity(self.pivots.iter().map(|p| p.0)) * parity(self.pivots.iter().map(|p| p.1));
            self.pattern();
            self.factor();
        }
        Ok(self.apply(system.rhs()))
    }

    /// The sign of the last system's determinant, 1 or −1; 0 for a singular one.
    pub fn sign(&self) -> f64 {
        self.pivot.iter().fold(self.parity, |sign, pivot| if *pivot == 0.0 { 0.0 } else { sign * pivot.signum() })
    }

    /// Solves the factored system, with one step of refinement.
    fn apply(&self, rhs: &[f64]) -> Vec<f64> {
        let mut x = vec![0.0; rhs.len()];
        self.substitute(rhs, &mut x);
        let residual: Vec<f64> = rhs
            .iter()
            .enumerate()
            .map(|(r, b)| b - self.rows.row(r).map(|e| self.rows.value[e] * x[self.rows.column[e]]).sum::<f64>())
            .collect();
        let mut correction = vec![0.0; rhs.len()];
        self.substitute(&residual, &mut correction);
        for (value, c) in x.iter_mut().zip(correction) {
            *value += c;
        }
        x
    }

    /// Which entries the factors have: each row's own, and what the pivots before it bring in.
    fn pattern(&mut self) {
        let n = self.pivots.len();
        let mut pivot_of_column = vec![0; n];
        for (k, (_, column)) in self.pivots.iter().enumerate() {
            pivot_of_column[*column] = k;
        }
        (self.low_start, self.up_start) = (vec![0], vec![0]);
        self.low.clear();
        self.up.clear();
        let mut seen = vec![usize::MAX; n];
        for (k, (row, column)) in self.pivots.iter().enumerate() {
            // Pivots before this one that have yet to be applied, the earliest first.
            let mut waiting = std::collections::BTreeSet::new();
            let mut meet = |c: usize, waiting: &mut std::collections::BTreeSet<usize>, up: &mut Vec<usize>| {
                if std::mem::replace(&mut seen[c], k) == k {
                    return;
                }
                if pivot_of_column[c] < k {
                    waiting.insert(pivot_of_column[c]);
                } else if c != *column {
                    up.push(c);
                }
            };
            for e in self.rows.row(*row) {
                meet(self.rows.column[e], &mut waiting, &mut self.up);
            }
            while let Some(p) = waiting.pop_first() {
                self.low.push(p);
                for e in self.up_start[p]..self.up_start[p + 1] {
                    meet(self.up[e], &mut waiting, &mut self.up);
                }
            }
            self.low_start.push(self.low.len());
            self.up_start.push(self.up.len());
        }
        self.low_value = vec![0.0; self.low.len()];
        self.up_value = vec![0.0; self.up.len()];
        self.pivot = vec![0.0; n];
        self.work = vec![0.0; n];
    }

    /// Computes the factors on the pattern; false if a pivot has become too small for its row.
    fn factor(&mut self) -> bool {
        let work = &mut self.work;
        let mut sound = true;
        for (k, (row, column)) in self.pivots.iter().enumerate() {
            for e in self.rows.row(*row) {
                work[self.rows.column[e]] = self.rows.value[e];
            }
            for e in self.low_start[k]..self.low_start[k + 1] {
                let p = self.low[e];
                let at = self.pivots[p].1;
                let factor = work[at] / self.pivot[p];
                work[at] = 0.0;
                self.low_value[e] = factor;
                for u in self.up_start[p]..self.up_start[p + 1] {
                    work[self.up[u]] -= factor * self.up_value[u];
                }
            }
            let mut largest = 0.0f64;
            for u in self.up_start[k]..self.up_start[k + 1] {
                let value = std::mem::take(&mut work[self.up[u]]);
                self.up_value[u] = value;
                largest = largest.max(value.abs());
            }
            let pivot = std::mem::take(&mut work[*column]);
            self.pivot[k] = pivot;
            sound &= pivot.is_finite() && pivot != 0.0 && pivot.abs() >= STALE_PIVOT * largest;
        }
        sound
    }

    fn substitute(&self, rhs: &[f64], x: &mut [f64]) {
        let n = self.pivots.len();
        let mut y = vec![0.0; n];
        for k in 0..n {
            let low = self.low_start[k]..self.low_start[k + 1];
            let known: f64 = low.map(|e| self.low_value[e] * y[self.low[e]]).sum();
            y[k] = rhs[self.pivots[k].0] - known;
        }
        for k in (0..n).rev() {
            let up = self.up_start[k]..self.up_start[k + 1];
            let known: f64 = up.map(|e| self.up_value[e] * x[self.up[e]]).sum();
            x[self.pivots[k].1] = (y[k] - known) / self.pivot[k];
        }
    }
}

/// 1 for an even permutation of 0 .. n, −1 for an odd one.
fn parity(permutation: impl Iterator<Item = usize>) -> f64 {
    let p: Vec<usize> = permutation.collect();
    let mut seen = vec![false; p.len()];
    let mut sign = 1.0;
    for start in 0..p.len() {
        let mut at = start;
        while !std::mem::replace(&mut seen[at], true) {
            at = p[at];
            if at != start {
                sign = -sign;
            }
        }
    }
    sign
}
