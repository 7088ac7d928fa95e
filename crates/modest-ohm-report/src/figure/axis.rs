//! One direction of a chart: from values to places, and the round values that are marked on it.

/// A scale from values to places.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Axis {
    from: (f64, f64),
    to: (f64, f64),
}

/// Marks that a direction has at most.
const MOST_MARKS: f64 = 8.0;

impl Axis {
    /// `values.0` lies at `places.0`, `values.1` at `places.1`.
    pub fn new(values: (f64, f64), places: (f64, f64)) -> Self {
        // A range of nothing still has a middle.
        let wide = (values.1 - values.0).max(1e-9);
        Self { from: (values.0, values.0 + wide), to: places }
    }

    pub fn place(&self, value: f64) -> f64 {
        self.to.0 + (value - self.from.0) / (self.from.1 - self.from.0) * (self.to.1 - self.to.0)
    }

    pub fn holds(&self, value: f64) -> bool {
        (self.from.0..=self.from.1).contains(&value)
    }

    /// A value, or the nearer end.
    pub fn inside(&self, value: f64) -> f64 {
        value.clamp(self.from.0, self.from.1)
    }

    /// Round values inside, and how many decimals tell them apart.
    pub fn marks(&self) -> (Vec<f64>, usize) {
        let step = step((self.from.1 - self.from.0) / MOST_MARKS);
        let decimals = (-step.log10().floor()).max(0.0) as usize;
        let first = (self.from.0 / step - 1e-9).ceil() as i64;
        let last = (self.from.1 / step + 1e-9).floor() as i64;
        ((first..=last).map(|n| n as f64 * step).collect(), decimals)
    }
}

/// The next of 1, 2, 5, 10 … at or above a distance.
fn step(least: f64) -> f64 {
    let power = 10f64.powf(least.max(1e-12).log10().floor());
    [1.0, 2.0, 5.0].into_iter().map(|s| s * power).find(|s| *s >= least * (1.0 - 1e-9)).unwrap_or(10.0 * power)
}

#[cfg(test)]
mod tests {
    use super::{Axis, step};

    #[test]
    fn marks_are_round_and_inside() {
        let axis = Axis::new((4.31, 5.02), (100.0, 0.0));
        let (marks, decimals) = axis.marks();
        let words: Vec<String> = marks.iter().map(|m| format!("{m:.decimals$}")).collect();
        assert_eq!(words, ["4.4", "4.5", "4.6", "4.7", "4.8", "4.9", "5.0"]);
        assert!((axis.place(4.31) - 100.0).abs() < 1e-9 && axis.place(5.02).abs() < 1e-9);
        assert_eq!([0.9, 1.0, 1.1, 2.1, 5.1].map(step), [1.0, 1.0, 2.0, 5.0, 10.0]);
        // Of no width, and of a tiny one.
        assert!(Axis::new((1.0, 1.0), (0.0, 10.0)).marks().0.len() <= 10);
    }
}
