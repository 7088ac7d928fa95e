//! How much constant power a feed can deliver, as a row.

use crate::quantity::units::Watts;

/// Whether the feed delivers what is asked, and how much more it could.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct FeedRow {
    /// False where the demands have no solution.
    pub has_solution: bool,
    /// The largest common scale of all constant-power demands, searched up to 100; `None` without such demands.
    pub largest_scale: Option<f64>,
    /// Their power there.
    pub deliverable: Option<Watts>,
    /// Their power at the largest scale at which every input stays in its range.
    pub deliverable_in_range: Option<Watts>,
    /// True where every input stays in range as planned.
    pub stays_in_range: Option<bool>,
}
