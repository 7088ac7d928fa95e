//! Solve form: the factors, row by row in pivot order, on a pattern that is found once.

use super::Singular;
use super::order::order;
use super::system::{Rows, System};

/// A pivot that has shrunk to this share of its row asks for a new order.
const STALE_PIVOT: f64 = 1e-6;

/// Pivot orders that are kept. A source that goes from its voltage to its limit needs another order, and so does a
/// scenario in which something is off; the next corner and the next variant need both again.
const MOST_ORDERS: usize = 6;

/// The factors of the last system, and the pivot orders of earlier ones, kept from one solve to the next.
#[derive(Clone, Debug, Default)]
pub(crate) struct Factors {
    /// The one used last stands first.
    orders: Vec<Order>,
}

impl Factors {
    /// Solves the system; an earlier order is used again where one fits.
    ///
    /// # Errors
    /// The row that turned out to depend on others.
    pub fn solve(&mut self, system: &System) -> Result<Vec<f64>, Singular> {
        let sound = (0..self.orders.len()).find(|n| {
            let order = &mut self.orders[*n];
            order.rows.fits(system) && {
                order.rows.fill(system);
                order.factor()
            }
        });
        match sound {
            Some(n) => self.orders[..=n].rotate_right(1),
            None => {
                self.orders.truncate(MOST_ORDERS - 1);
                self.orders.insert(0, Order::of(system)?);
            }
        }
        Ok(self.apply(system.rhs()))
    }

    /// The sign of the last system's determinant, 1 or −1; 0 for a singular one.
    pub fn sign(&self) -> f64 {
        self.orders.first().map_or(0.0, Order::sign)
    }

    /// Solves the system that was factored last for another right-hand side, with one step of refinement.
    pub fn apply(&self, rhs: &[f64]) -> Vec<f64> {
        self.orders.first().map_or_else(|| rhs.to_vec(), |order| order.apply(rhs))
    }

    /// Solves the transposed of the system that was factored last, with one step of refinement.
    pub fn solve_transposed(&self, rhs: &[f64]) -> Vec<f64> {
        self.orders.first().map_or_else(|| rhs.to_vec(), |order| order.solve_transposed(rhs))
    }
}

/// A row is met where what is left of it is rounding of its own terms (Oettli and Prager, "Compatibility of approximate
/// solution of linear equations with given error bounds", 1964): another step would change the last digit only.
const ROUNDING: f64 = 2.0 * f64::EPSILON;

/// One pivot order on one pattern, and the factors of the last system that was solved with it.
#[derive(Clone, Debug, Default)]
struct Order {
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

impl Order {
    /// A new order for a system, and its factors.
    fn of(system: &System) -> Result<Self, Singular> {
        let mut rows = Rows::of(system);
        rows.fill(system);
        let pivots = order(&rows)?;
        let parity = parity(pivots.iter().map(|p| p.0)) * parity(pivots.iter().map(|p| p.1));
        let mut new = Self { rows, pivots, parity, ..Self::default() };
        new.pattern();
        new.factor();
        Ok(new)
    }

    /// The sign of the last system's determinant, 1 or −1; 0 for a singular one.
    fn sign(&self) -> f64 {
        self.pivot.iter().fold(self.parity, |sign, pivot| if *pivot == 0.0 { 0.0 } else { sign * pivot.signum() })
    }

    /// Solves the transposed of the system that was factored last, with one step of refinement.
    fn solve_transposed(&self, rhs: &[f64]) -> Vec<f64> {
        let mut x = vec![0.0; rhs.len()];
        self.substitute_transposed(rhs, &mut x);
        let mut residual = rhs.to_vec();
        for (r, value) in x.iter().enumerate() {
            for e in self.rows.row(r) {
                residual[self.rows.column[e]] -= self.rows.value[e] * value;
            }
        }
        let mut correction = vec![0.0; rhs.len()];
        self.substitute_transposed(&residual, &mut correction);
        for (value, c) in x.iter_mut().zip(correction) {
            *value += c;
        }
        x
    }

    /// Solves the system that was factored last for another right-hand side, with one step of refinement.
    fn apply(&self, rhs: &[f64]) -> Vec<f64> {
        let mut x = vec![0.0; rhs.len()];
        self.substitute(rhs, &mut x);
        let mut exact = true;
        let mut residual = vec![0.0; rhs.len()];
        for (r, (left, b)) in residual.iter_mut().zip(rhs).enumerate() {
            let (mut sum, mut size) = (*b, b.abs());
            for e in self.rows.row(r) {
                let term = self.rows.value[e] * x[self.rows.column[e]];
                sum -= term;
                size += term.abs();
            }
            *left = sum;
            exact &= sum.abs() <= ROUNDING * size;
        }
        if exact {
            return x;
        }
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

    /// Uᵀ first, then Lᵀ; rows and columns change places.
    fn substitute_transposed(&self, rhs: &[f64], x: &mut [f64]) {
        let n = self.pivots.len();
        let mut by_column = rhs.to_vec();
        let mut y = vec![0.0; n];
        for k in 0..n {
            y[k] = by_column[self.pivots[k].1] / self.pivot[k];
            for e in self.up_start[k]..self.up_start[k + 1] {
                by_column[self.up[e]] -= self.up_value[e] * y[k];
            }
        }
        for k in (0..n).rev() {
            for e in self.low_start[k]..self.low_start[k + 1] {
                y[self.low[e]] -= self.low_value[e] * y[k];
            }
            x[self.pivots[k].0] = y[k];
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
