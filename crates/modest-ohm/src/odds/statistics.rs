//! What samples say: shares with their uncertainty, and how much of a scatter each figure explains.

/// Half the width of a normal distribution that holds 95 %, in standard deviations.
const Z_95: f64 = 1.959_963_984_540_054;

/// Bins of a figure's spread in which the mean is taken; each has enough of 512 builds to be a mean.
const BINS: usize = 16;

/// The share that `count` of `all` independent samples speak for, with 95 % confidence (Wilson, "Probable inference, the
/// law of succession, and statistical inference", 1927). Evenly spread samples are more certain than that.
pub(crate) fn interval(count: usize, all: usize) -> (f64, f64) {
    let n = all as f64;
    if all == 0 {
        return (0.0, 1.0);
    }
    let (p, z2) = (count as f64 / n, Z_95 * Z_95);
    let middle = p + z2 / (2.0 * n);
    let half = Z_95 * (p * (1.0 - p) / n + z2 / (4.0 * n * n)).sqrt();
    let whole = 1.0 + z2 / n;
    (((middle - half) / whole).max(0.0), ((middle + half) / whole).min(1.0))
}

/// The share of the variance of `values` that the position of each sample in the bins of a figure explains by itself:
/// Sobol's first index, as the epsilon squared of an analysis of variance, which is not biased by the number of bins
/// (Kelley, "An unbiased correlation ratio measure", 1935). 0 where nothing varies.
pub(crate) fn explained(values: &[f64], shares: impl Fn(usize) -> f64) -> f64 {
    let n = values.len() as f64;
    let mean = values.iter().sum::<f64>() / n;
    let total: f64 = values.iter().map(|v| (v - mean).powi(2)).sum();
    if values.len() <= BINS || total <= 1e-18 * n * mean * mean {
        return 0.0;
    }
    let mut bins = [(0.0_f64, 0.0_f64); BINS];
    for (i, value) in values.iter().enumerate() {
        let bin = &mut bins[((shares(i) * BINS as f64) as usize).min(BINS - 1)];
        *bin = (bin.0 + 1.0, bin.1 + value);
    }
    let between: f64 =
        bins.iter().filter(|(count, _)| *count > 0.0).map(|(count, sum)| count * (sum / count - mean).powi(2)).sum();
    let used = bins.iter().filter(|(count, _)| *count > 0.0).count() as f64;
    let within = (total - between) / (n - used);
    ((between - (used - 1.0) * within) / total).max(0.0)
}

/// The value that a share of all samples do not exceed.
pub(crate) fn quantile(values: &[f64], share: f64) -> Option<f64> {
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    let place = ((share * sorted.len() as f64).ceil() as usize).clamp(1, sorted.len().max(1));
    sorted.get(place - 1).copied()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::odds::sequence::positions;

    /// Wilson's bounds from his own formula, worked by hand: p = 0.95 of 100.
    #[test]
    fn the_interval_is_wilsons() {
        let (low, high) = interval(95, 100);
        assert!((low - 0.8883).abs() < 2e-4 && (high - 0.9785).abs() < 2e-4, "{low} {high}");
        let (low, high) = interval(512, 512);
        assert!((low - 0.9926).abs() < 2e-4 && high > 1.0 - 1e-12, "{low} {high}");
        assert_eq!(interval(0, 0), (0.0, 1.0));
    }

    /// y = 3·a + 2·b + a·b with uniform a and b: by hand V = 9/12 + 4/12 + …; of a·b the means belong to a and b, so that
    /// a has (3 + ½)²/12, b (2 + ½)²/12, and both together 1/144.
    #[test]
    fn first_indices_are_those_of_the_formula() {
        let builds = positions(512, 3);
        let values: Vec<f64> = builds.iter().map(|s| 3.0 * s[0] + 2.0 * s[1] + s[0] * s[1]).collect();
        let (a, b, both) = (3.5_f64.powi(2) / 12.0, 2.5_f64.powi(2) / 12.0, 1.0 / 144.0);
        let whole = a + b + both;
        let index = |figure: usize| explained(&values, |i| builds[i][figure]);
        // Among builds that are even together there is less noise than is taken off: 2 points.
        assert!((index(0) - a / whole).abs() < 0.03, "{}", index(0));
        assert!((index(1) - b / whole).abs() < 0.03, "{}", index(1));
        assert!(index(2) < 0.02, "{}", index(2));
        assert_eq!(explained(&[2.0; 512], |i| builds[i][0]), 0.0);
    }

    #[test]
    fn quantiles_are_those_of_the_sorted_samples() {
        let values: Vec<f64> = (1..=100).rev().map(f64::from).collect();
        assert_eq!(quantile(&values, 0.99), Some(99.0));
        assert_eq!(quantile(&values, 1.0), Some(100.0));
        assert_eq!(quantile(&values, 0.0), Some(1.0));
        assert_eq!(quantile(&[], 0.5), None);
    }
}
