//! Where in its spread each figure of each build is.
//!
//! Independent draws leave gaps and crowds. A Sobol sequence with Owen's scrambling fills its cube evenly, and shares
//! from it are about half as uncertain (Owen, "Scrambling Sobol' and Niederreiter–Xing points", 1998). Its later
//! dimensions are not even in pairs at so few points, so figures take its first four in turn, each four in an order of
//! their own (Burley, "Practical hash-based Owen scrambling", 2020, section 6).

use rand::seq::SliceRandom;
use rand_pcg::Pcg64;
use sobol_burley::sample_4d;

/// The same builds every time.
const SEED: u64 = 0x0b41_1d5e;
/// The sequence has steps of 2⁻²⁴: in the middle of one a share is never 0 and never 1.
const HALF_A_STEP: f64 = 1.0 / (1u32 << 25) as f64;
/// Dimensions that are even together.
const TOGETHER: usize = 4;

/// Per build, per figure: the share of all builds that are below this one.
pub(crate) fn positions(builds: usize, figures: usize) -> Vec<Vec<f64>> {
    let mut all = vec![Vec::with_capacity(figures.next_multiple_of(TOGETHER)); builds];
    for group in 0..figures.div_ceil(TOGETHER) {
        let mut order: Vec<usize> = (0..builds).collect();
        order.shuffle(&mut Pcg64::new(u128::from(SEED), group as u128));
        for (place, build) in order.into_iter().enumerate() {
            let sample = sample_4d(low_bits(place), 0, low_bits(group).wrapping_add(SEED as u32));
            all[build].extend(sample.map(|share| f64::from(share) + HALF_A_STEP));
        }
    }
    all.iter_mut().for_each(|shares| shares.truncate(figures));
    all
}

fn low_bits(n: usize) -> u32 {
    n as u32
}

/// As many builds whose figures are drawn independently: what evenly spread ones are held to.
#[cfg(test)]
pub(crate) fn independent(builds: usize, figures: usize) -> Vec<Vec<f64>> {
    use rand::{RngExt, SeedableRng};
    let mut dice = Pcg64::seed_from_u64(SEED);
    (0..builds).map(|_| (0..figures).map(|_| dice.random::<f64>()).collect()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn builds_fill_every_figure_evenly() {
        let builds = positions(512, 300);
        for figure in 0..300 {
            let mut bins = [0; 32];
            builds.iter().for_each(|b| bins[(b[figure] * 32.0) as usize] += 1);
            assert_eq!(bins, [16; 32], "{figure}");
        }
        assert!(builds.iter().flatten().all(|s| *s > 0.0 && *s < 1.0));
        assert_eq!(builds, positions(512, 300));
        assert_eq!(builds[7][..20], positions(512, 20)[7][..]);
    }

    /// Figures of one four are even together: in each of 16 × 16 squares are two builds. No others move together.
    #[test]
    fn no_two_figures_move_together() {
        let builds = positions(512, 60);
        let mut squares = [[0; 16]; 16];
        builds.iter().for_each(|b| squares[(b[0] * 16.0) as usize][(b[1] * 16.0) as usize] += 1);
        assert!(squares.iter().flatten().all(|n| *n == 2), "{squares:?}");
        for a in 0..60 {
            for b in 0..a {
                let product: f64 = builds.iter().map(|s| (s[a] - 0.5) * (s[b] - 0.5)).sum();
                let correlation = product / 512.0 * 12.0;
                // Of independent samples 4.5 standard deviations.
                assert!(correlation.abs() < 0.2, "{a} {b}: {correlation}");
            }
        }
    }
}
