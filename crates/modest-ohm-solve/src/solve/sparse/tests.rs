//! The elimination against the dense LU of a linear-algebra crate.

use proptest::prelude::*;
use proptest::test_runner::RngSeed;

use super::{Factors, Singular, System};

fn system(n: usize, entries: &[(usize, usize, f64)], rhs: &[f64]) -> System {
    let mut system = System::default();
    system.reset(n);
    for (r, c, a) in entries {
        system.add(*r, *c, *a);
    }
    for (r, b) in rhs.iter().enumerate().take(n) {
        system.add_rhs(r, *b);
    }
    system
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 128, failure_persistence: None, rng_seed: RngSeed::Fixed(20_261_124), max_global_rejects: 100_000, ..ProptestConfig::default() })]

    /// Random sparse systems with zero diagonals in them; then the same pattern with other values, where the pivot
    /// order found for the first values has to serve or to be given up.
    #[test]
    fn agrees_with_dense_lu(
        n in 2usize..25,
        shift in 0usize..25,
        entries in prop::collection::vec((0usize..25, 0usize..25, -3.0f64..3.0), 0..60),
        factors in prop::collection::vec(prop_oneof![9 => 0.5f64..2.0, 9 => -2.0f64..-0.5, 1 => Just(1e-9), 1 => Just(0.0)], 85),
        rhs in prop::collection::vec(-5.0f64..5.0, 25),
    ) {
        // A shifted diagonal keeps most of them regular; where it is weakened the others have to carry.
        let diagonal = (0..n).map(|r| (r, (r + shift) % n, 2.0));
        let others = entries.into_iter().filter(|(r, c, _)| *r < n && *c < n);
        let first: Vec<_> = diagonal.chain(others).collect();
        let second: Vec<_> = first.iter().zip(&factors).map(|((r, c, a), f)| (*r, *c, a * f)).collect();
        let mut solver = Factors::default();
        for entries in [first, second] {
            let mut dense = nalgebra::DMatrix::<f64>::zeros(n, n);
            for (r, c, a) in &entries {
                dense[(*r, *c)] += a;
            }
            let sigma = dense.clone().singular_values();
            prop_assume!(sigma[n - 1] > 1e-5 * sigma[0]);
            let determinant = dense.determinant();
            let want = dense.lu().solve(&nalgebra::DVector::from_column_slice(&rhs[..n])).unwrap();
            let got = solver.solve(&system(n, &entries, &rhs)).unwrap();
            for (g, w) in got.iter().zip(want.iter()) {
                prop_assert!((g - w).abs() <= 1e-8 * (1.0 + w.abs()), "{g} against {w}");
            }
            prop_assert_eq!(solver.sign(), determinant.signum());
        }
    }
}

#[test]
fn a_dependent_row_is_named() {
    let mut solver = Factors::default();
    assert_eq!(solver.solve(&system(2, &[(0, 0, 1.0)], &[])), Err(Singular { row: 1 }));
    // x + y = 1 twice over, the second time by another factor.
    let twice = [(0, 0, 1.0), (0, 1, 1.0), (1, 0, 0.3), (1, 1, 0.3)];
    assert!(solver.solve(&system(2, &twice, &[1.0, 1.0])).is_err());
}

/// A hub with many leads: 1/(Σ1/r) by hand. 20 000 unknowns would take minutes if a hub's row were copied per cable.
#[test]
fn a_hub_costs_what_changes() {
    let n = 20_000;
    let mut s = System::default();
    s.reset(n + 1);
    for i in 0..n {
        // i-th lead: v − r·i = 0 with r = 1 + i; the hub: Σ i = 1.
        s.add(i, n, 1.0);
        s.add(i, i, -(1.0 + i as f64));
        s.add(n, i, 1.0);
    }
    s.add_rhs(n, 1.0);
    let x = Factors::default().solve(&s).unwrap();
    let harmonic: f64 = (1..=n).map(|i| 1.0 / i as f64).sum();
    assert!((x[n] * harmonic - 1.0).abs() < 1e-12);
}
