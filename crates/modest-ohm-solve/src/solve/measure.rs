//! A quantity of a solved network whose derivatives are asked for.

/// A weighted sum of potentials, currents and pixel voltages.
///
/// ```
/// use modest_ohm_solve::solve::Measure;
/// // The voltage between vertices 3 and 4, and half of the current of branch 7.
/// let measure = Measure::voltage(3, 4).plus_current(7, 0.5);
/// assert_eq!(measure.potentials, [(3, 1.0), (4, -1.0)]);
/// assert_eq!(measure.currents, [(7, 0.5)]);
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Measure {
    /// Vertices and their weights.
    pub potentials: Vec<(usize, f64)>,
    /// Branches and their weights; a current counts from `from` to `to`.
    pub currents: Vec<(usize, f64)>,
    /// Ladders, pixels in them, and their weights.
    pub pixels: Vec<(usize, usize, f64)>,
}

impl Measure {
    /// The voltage of one vertex against another.
    #[must_use]
    pub fn voltage(plus: usize, minus: usize) -> Self {
        Self { potentials: vec![(plus, 1.0), (minus, -1.0)], ..Self::default() }
    }

    /// The current of a branch.
    #[must_use]
    pub fn current(branch: usize) -> Self {
        Self::default().plus_current(branch, 1.0)
    }

    /// The voltage of a pixel of a ladder.
    #[must_use]
    pub fn pixel(ladder: usize, pixel: usize) -> Self {
        Self { pixels: vec![(ladder, pixel, 1.0)], ..Self::default() }
    }

    /// With a share of a branch's current added.
    #[must_use]
    pub fn plus_current(mut self, branch: usize, weight: f64) -> Self {
        self.currents.push((branch, weight));
        self
    }

    /// With a share of the voltage between two vertices added.
    #[must_use]
    pub fn plus_voltage(mut self, plus: usize, minus: usize, weight: f64) -> Self {
        self.potentials.extend([(plus, weight), (minus, -weight)]);
        self
    }
}
