//! Solve form: the factors, row by row in pivot order, on a pattern that is found once.

use std::sync::Arc;

use super::Singular;
use super::order::order;
use super::system::{Entry, Rows, System};

/// A pivot that has shrunk to this share of its row asks for a new order.
const STALE_PIVOT: f64 = 1e-6;

/// Pivot orders that are kept. A source that goes from its voltage to its limit needs another order, and so does a
/// scenario in which something is off; the next corner and the next variant need both again.
const MOST_ORDERS: usize = 6;

/// The factors of the last system, and the pivot orders of earlier ones, kept from one solve to the next.
#[derive(Clone, Debug, Default)]
pub(crate) struct Factors {
    /// The one used last stands first.
    orders: Vec<Kept>,
    /// An order that may fit the next system.
    offered: Option<Template>,
}

/// An order with its factors, and as it was when it was found.
#[derive(Clone, Debug)]
struct Kept {
    order: Order,
    template: Template,
}

/// A pivot order that other workspaces take over.
#[derive(Clone, Debug)]
pub(crate) struct Template(Arc<Order>);

impl Factors {
    /// Solves the system; an earlier order is used again where one fits.
    ///
    /// # Errors
    /// The row that turned out to depend on others.
    pub fn solve(&mut self, system: &System) -> Result<Vec<f64>, Singular> {
        match (0..self.orders.len()).find(|n| self.orders[*n].order.refactor(system)) {
            Some(n) => self.orders[..=n].rotate_right(1),
            None => {
                let kept = self.take_offered(system).map_or_else(|| Kept::of(system), Ok)?;
                self.orders.truncate(MOST_ORDERS - 1);
                self.orders.insert(0, kept);
            }
        }
        Ok(self.apply(system.rhs()))
    }

    /// Offers the order of another workspace, where this one has not got it.
    pub fn offer(&mut self, template: Option<&Template>) {
        let is_known = |t: &&Template| self.orders.iter().any(|kept| Arc::ptr_eq(&kept.template.0, &t.0));
        self.offered = template.filter(|t| !is_known(t)).cloned();
    }

    fn take_offered(&mut self, system: &System) -> Option<Kept> {
        let template = self.offered.take().filter(|t| t.0.rows.fits(system))?;
        let mut order = Order::clone(&template.0);
        order.refactor(system).then_some(Kept { order, template })
    }

    /// The order that was used last.
    pub fn template(&self) -> Option<&Template> {
        self.orders.first().map(|kept| &kept.template)
    }

    /// The sign of the last system's determinant, 1 or −1; 0 for a singular one.
    pub fn sign(&self) -> f64 {
        self.orders.first().map_or(0.0, |kept| kept.order.sign())
    }

    /// Solves the system that was factored last for another right-hand side, with one step of refinement.
    pub fn apply(&self, rhs: &[f64]) -> Vec<f64> {
        self.orders.first().map_or_else(|| rhs.to_vec(), |kept| kept.order.apply(rhs))
    }

    /// Solves the transposed of the system that was factored last, with one step of refinement.
    pub fn solve_transposed(&self, rhs: &[f64]) -> Vec<f64> {
        self.orders.first().map_or_else(|| rhs.to_vec(), |kept| kept.order.solve_transposed(rhs))
    }
}

/// A row is met where what is left of it is rounding of its own terms (Oettli and Prager, "Compatibility of approximate
/// solution of linear equations with given error bounds", 1964): another step would change the last digit only.
const ROUNDING: f64 = 2.0 * f64::EPSILON;

/// One pivot order on one pattern, and the factors of the last system that was solved with it. Rows and columns are
/// numbered by their pivots.
#[derive(Clone, Debug, Default)]
struct Order {
    rows: Rows,
    /// Row and column of each pivot in the system, in order.
    pivots: Vec<(usize, usize)>,
    pivot: Vec<f64>,
    /// Where the entries of each pivot's row are in `low` and `up`.
    spans: Vec<Spans>,
    /// Per pivot: earlier pivots that reduce its row, and the multipliers.
    low: Vec<Entry>,
    /// Per pivot: columns that its row keeps.
    up: Vec<Entry>,
    work: Vec<f64>,
    /// Sign of the pivot order as a permutation of rows and columns.
    parity: f64,
}

/// Ranges of `low` and `up`.
#[derive(Clone, Copy, Debug)]
struct Spans {
    low: (u32, u32),
    up: (u32, u32),
}

/// The entries of a range.
fn within(entries: &[Entry], (from, to): (u32, u32)) -> &[Entry] {
    &entries[from as usize..to as usize]
}

/// Σ coefficient · x.
#[inline]
fn product(entries: &[Entry], x: &[f64]) -> f64 {
    entries.iter().fold(0.0, |sum, e| sum + e.value * x[e.at as usize])
}

impl Kept {
    fn of(system: &System) -> Result<Self, Singular> {
        let order = Order::of(system)?;
        Ok(Self { template: Template(Arc::new(order.clone())), order })
    }
}

impl Order {
    /// The factors of a system with this order; false where it does not fit, or a pivot has become too small.
    fn refactor(&mut self, system: &System) -> bool {
        self.rows.fits(system) && {
            self.rows.fill(system);
            self.factor()
        }
    }

    /// A new order for a system, and its factors.
    fn of(system: &System) -> Result<Self, Singular> {
        let rows = Rows::of(system);
        let pivots = order(&rows)?;
        let parity = parity(pivots.iter().map(|p| p.0)) * parity(pivots.iter().map(|p| p.1));
        let mut new = Self { rows: rows.in_order(&pivots), pivots, parity, ..Self::default() };
        new.pattern();
        new.factor();
        Ok(new)
    }

    /// The sign of the last system's determinant, 1 or −1; 0 for a singular one.
    fn sign(&self) -> f64 {
        self.pivot.iter().fold(self.parity, |sign, pivot| if *pivot == 0.0 { 0.0 } else { sign * pivot.signum() })
    }

    /// Solves the system that was factored last for another right-hand side, with one step of refinement.
    fn apply(&self, rhs: &[f64]) -> Vec<f64> {
        let rhs: Vec<f64> = self.pivots.iter().map(|(row, _)| rhs[*row]).collect();
        let mut x = self.substitute(&rhs);
        let mut exact = true;
        let mut residual = Vec::with_capacity(rhs.len());
        for (r, b) in rhs.iter().enumerate() {
            let (mut sum, mut size) = (*b, b.abs());
            for e in self.rows.row(r) {
                let term = e.value * x[e.at as usize];
                sum -= term;
                size += term.abs();
            }
            residual.push(sum);
            exact &= sum.abs() <= ROUNDING * size;
        }
        if !exact {
            let correction = self.substitute(&residual);
            x.iter_mut().zip(correction).for_each(|(value, c)| *value += c);
        }
        let mut by_column = vec![0.0; x.len()];
        self.pivots.iter().zip(x).for_each(|((_, column), value)| by_column[*column] = value);
        by_column
    }

    /// Solves the transposed of the system that was factored last, with one step of refinement.
    fn solve_transposed(&self, rhs: &[f64]) -> Vec<f64> {
        let mut residual: Vec<f64> = self.pivots.iter().map(|(_, column)| rhs[*column]).collect();
        let mut x = self.substitute_transposed(residual.clone());
        for (r, value) in x.iter().enumerate() {
            for e in self.rows.row(r) {
                residual[e.at as usize] -= e.value * value;
            }
        }
        let correction = self.substitute_transposed(residual);
        x.iter_mut().zip(correction).for_each(|(value, c)| *value += c);
        let mut by_row = vec![0.0; x.len()];
        self.pivots.iter().zip(x).for_each(|((row, _), value)| by_row[*row] = value);
        by_row
    }

    /// Which entries the factors have: each row's own, and what the pivots before it bring in.
    fn pattern(&mut self) {
        let n = self.pivots.len();
        let entry = |at: usize| Entry { at: at as u32, value: 0.0 };
        let mut seen = vec![usize::MAX; n];
        // Pivots before this one that have yet to be applied, the earliest first.
        let mut waiting = std::collections::BTreeSet::new();
        for k in 0..n {
            let first = (self.low.len() as u32, self.up.len() as u32);
            let mut meet = |c: usize, waiting: &mut std::collections::BTreeSet<usize>, up: &mut Vec<Entry>| {
                if std::mem::replace(&mut seen[c], k) == k {
                    return;
                }
                match c.cmp(&k) {
                    std::cmp::Ordering::Less => {
                        waiting.insert(c);
                    }
                    std::cmp::Ordering::Equal => {}
                    std::cmp::Ordering::Greater => up.push(entry(c)),
                }
            };
            for e in self.rows.row(k) {
                meet(e.at as usize, &mut waiting, &mut self.up);
            }
            while let Some(p) = waiting.pop_first() {
                self.low.push(entry(p));
                let Spans { up: (from, to), .. } = self.spans[p];
                for e in from..to {
                    meet(self.up[e as usize].at as usize, &mut waiting, &mut self.up);
                }
            }
            let end = (self.low.len() as u32, self.up.len() as u32);
            self.spans.push(Spans { low: (first.0, end.0), up: (first.1, end.1) });
        }
        self.pivot = vec![0.0; n];
        self.work = vec![0.0; n];
    }

    /// Computes the factors on the pattern; false if a pivot has become too small for its row.
    fn factor(&mut self) -> bool {
        let Self { work, low, up, pivot, .. } = self;
        let mut sound = true;
        let mut low = low.as_mut_slice();
        for (k, spans) in self.spans.iter().enumerate() {
            for e in self.rows.row(k) {
                work[e.at as usize] = e.value;
            }
            let (known, own) = up.split_at_mut(spans.up.0 as usize);
            let (these, after) = low.split_at_mut((spans.low.1 - spans.low.0) as usize);
            low = after;
            for e in these {
                let p = e.at as usize;
                let factor = std::mem::take(&mut work[p]) / pivot[p];
                e.value = factor;
                for u in within(known, self.spans[p].up) {
                    work[u.at as usize] -= factor * u.value;
                }
            }
            let mut largest = 0.0f64;
            for u in &mut own[..(spans.up.1 - spans.up.0) as usize] {
                let value = std::mem::take(&mut work[u.at as usize]);
                u.value = value;
                largest = largest.max(value.abs());
            }
            let own = std::mem::take(&mut work[k]);
            pivot[k] = own;
            // Not where it is no number.
            sound &= own != 0.0 && own.abs() < f64::INFINITY && own.abs() >= STALE_PIVOT * largest;
        }
        sound
    }

    fn substitute(&self, rhs: &[f64]) -> Vec<f64> {
        let mut x = Vec::with_capacity(rhs.len());
        let mut rest = self.low.as_slice();
        for (spans, b) in self.spans.iter().zip(rhs) {
            let (own, after) = rest.split_at((spans.low.1 - spans.low.0) as usize);
            rest = after;
            x.push(b - product(own, &x));
        }
        let mut rest = self.up.as_slice();
        for (k, (spans, pivot)) in self.spans.iter().zip(&self.pivot).enumerate().rev() {
            let (before, own) = rest.split_at(spans.up.0 as usize);
            rest = before;
            x[k] = (x[k] - product(own, &x)) / pivot;
        }
        x
    }

    /// Uᵀ first, then Lᵀ.
    fn substitute_transposed(&self, mut x: Vec<f64>) -> Vec<f64> {
        for (k, spans) in self.spans.iter().enumerate() {
            let value = x[k] / self.pivot[k];
            x[k] = value;
            for e in within(&self.up, spans.up) {
                x[e.at as usize] -= e.value * value;
            }
        }
        for (k, spans) in self.spans.iter().enumerate().rev() {
            let value = x[k];
            for e in within(&self.low, spans.low) {
                x[e.at as usize] -= e.value * value;
            }
        }
        x
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
