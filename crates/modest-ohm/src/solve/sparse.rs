//! Elimination of the sparse, unsymmetric system outside the strips.
//!
//! Own code because the small well-kept crates factor symmetric systems only, and converters make this one
//! unsymmetric. The rows of a supply tree are so sparse that choosing the shortest row first (Markowitz) makes hardly
//! any fill; a relative pivot test keeps it stable, and one refinement step with the stored multipliers takes the
//! rounding of badly scaled rows (milliohm leads beside kilo-ohm pulls) out again.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

/// A pivot may be this much smaller than the largest entry of its row.
const PIVOT_SHARE: f64 = 0.1;

/// Build form: rows of (column, value), columns in any order, repeated columns added up.
#[derive(Clone, Debug, Default)]
pub(crate) struct Rows {
    rows: Vec<Vec<(usize, f64)>>,
    rhs: Vec<f64>,
}

impl Rows {
    pub fn new(n: usize) -> Self {
        Self { rows: vec![Vec::new(); n], rhs: vec![0.0; n] }
    }

    pub fn add(&mut self, row: usize, column: usize, value: f64) {
        self.rows[row].push((column, value));
    }

    pub fn add_rhs(&mut self, row: usize, value: f64) {
        self.rhs[row] += value;
    }

    /// Solves the system.
    ///
    /// # Errors
    /// The row that turned out to depend on others.
    pub fn solve(mut self) -> Result<Vec<f64>, usize> {
        for row in &mut self.rows {
            row.sort_unstable_by_key(|(c, _)| *c);
            row.dedup_by(|later, first| {
                let same = later.0 == first.0;
                if same {
                    first.1 += later.1;
                }
                same
            });
        }
        let factors = Factors::of(&self.rows)?;
        let mut x = factors.apply(self.rhs.clone());
        let residual: Vec<f64> = self
            .rows
            .iter()
            .zip(&self.rhs)
            .map(|(row, b)| b - row.iter().map(|(c, a)| a * x[*c]).sum::<f64>())
            .collect();
        for (value, correction) in x.iter_mut().zip(factors.apply(residual)) {
            *value += correction;
        }
        Ok(x)
    }
}

/// Solve form: pivots in order, the reduced rows, and the multipliers that reduced them.
struct Factors {
    pivots: Vec<(usize, usize, f64)>,
    reduced: Vec<Vec<(usize, f64)>>,
    /// (row that was changed, pivot row, factor).
    steps: Vec<(usize, usize, f64)>,
}

impl Factors {
    fn of(rows: &[Vec<(usize, f64)>]) -> Result<Self, usize> {
        let n = rows.len();
        let mut reduced = rows.to_vec();
        let mut in_column: Vec<Vec<usize>> = vec![Vec::new(); n];
        let mut shortest = BinaryHeap::with_capacity(2 * n);
        for (r, row) in reduced.iter().enumerate() {
            shortest.push(Reverse((row.len(), r)));
            for (c, _) in row {
                in_column[*c].push(r);
            }
        }
        let mut done = vec![false; n];
        let (mut pivots, mut steps) = (Vec::with_capacity(n), Vec::new());
        while let Some(Reverse((len, r))) = shortest.pop() {
            if done[r] || len != reduced[r].len() {
                continue;
            }
            let largest = reduced[r].iter().fold(0.0f64, |m, (_, a)| m.max(a.abs()));
            if largest < 1e-200 || !largest.is_finite() {
                return Err(r);
            }
            let (column, pivot) = reduced[r]
                .iter()
                .filter(|(_, a)| a.abs() >= PIVOT_SHARE * largest)
                .min_by_key(|(c, _)| in_column[*c].len())
                .copied()
                .ok_or(r)?;
            done[r] = true;
            pivots.push((r, column, pivot));
            let pivot_row = std::mem::take(&mut reduced[r]);
            for other in std::mem::take(&mut in_column[column]) {
                if done[other] {
                    continue;
                }
                let Ok(at) = reduced[other].binary_search_by_key(&column, |(c, _)| *c) else { continue };
                let factor = reduced[other][at].1 / pivot;
                steps.push((other, r, factor));
                reduced[other] = subtract(&reduced[other], &pivot_row, factor, column, |c| in_column[c].push(other));
                shortest.push(Reverse((reduced[other].len(), other)));
            }
            reduced[r] = pivot_row;
        }
        Ok(Self { pivots, reduced, steps })
    }

    fn apply(&self, mut rhs: Vec<f64>) -> Vec<f64> {
        for (other, row, factor) in &self.steps {
            rhs[*other] -= factor * rhs[*row];
        }
        let mut x = vec![0.0; rhs.len()];
        for (row, column, pivot) in self.pivots.iter().rev() {
            let known: f64 = self.reduced[*row].iter().filter(|(c, _)| c != column).map(|(c, a)| a * x[*c]).sum();
            x[*column] = (rhs[*row] - known) / pivot;
        }
        x
    }
}

/// `row − factor · pivot_row` without the pivot's column; tells of every column that is new in the row.
fn subtract(
    row: &[(usize, f64)],
    pivot_row: &[(usize, f64)],
    factor: f64,
    without: usize,
    mut filled: impl FnMut(usize),
) -> Vec<(usize, f64)> {
    let mut out = Vec::with_capacity(row.len() + pivot_row.len());
    let (mut i, mut j) = (0, 0);
    while i < row.len() || j < pivot_row.len() {
        let a = row.get(i).map_or(usize::MAX, |e| e.0);
        let b = pivot_row.get(j).map_or(usize::MAX, |e| e.0);
        let column = a.min(b);
        let mut value = 0.0;
        if a == column {
            value += row[i].1;
            i += 1;
        }
        if b == column {
            value -= factor * pivot_row[j].1;
            j += 1;
        }
        if column == without {
            continue;
        }
        if a != column {
            filled(column);
        }
        // Cancelled entries stay, as the pattern does; an exact zero is never a pivot.
        out.push((column, value));
    }
    out
}

#[cfg(test)]
mod tests {
    use super::Rows;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig { cases: 64, failure_persistence: None, ..ProptestConfig::default() })]

        /// Against the dense LU of a linear-algebra crate, on random sparse systems with zero diagonals in them.
        #[test]
        fn agrees_with_dense_lu(
            n in 2usize..25,
            entries in prop::collection::vec((0usize..25, 0usize..25, -3.0f64..3.0), 10..120),
            rhs in prop::collection::vec(-5.0f64..5.0, 25),
        ) {
            let mut dense = nalgebra::DMatrix::<f64>::zeros(n, n);
            let mut rows = Rows::new(n);
            for (r, c, a) in entries.into_iter().filter(|(r, c, _)| *r < n && *c < n) {
                dense[(r, c)] += a;
                rows.add(r, c, a);
            }
            for (r, b) in rhs.iter().enumerate().take(n) {
                rows.add_rhs(r, *b);
            }
            let sigma = dense.clone().singular_values();
            prop_assume!(sigma[n - 1] > 1e-3 * sigma[0]);
            let want = dense.lu().solve(&nalgebra::DVector::from_column_slice(&rhs[..n])).unwrap();
            let got = rows.solve().unwrap();
            for (g, w) in got.iter().zip(want.iter()) {
                prop_assert!((g - w).abs() <= 1e-9 * (1.0 + w.abs()), "{g} against {w}");
            }
        }
    }

    #[test]
    fn a_dependent_row_is_named() {
        let mut rows = Rows::new(2);
        rows.add(0, 0, 1.0);
        assert_eq!(rows.solve(), Err(1));
    }
}
