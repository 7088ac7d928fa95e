//! What a check solves in addition to the scenarios of the plan as it is.

/// What a check solves in addition to the scenarios of the plan as it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Solves {
    Nothing,
    /// Variants of the plan, to find anything at all.
    Variants,
    /// How much light a path carries.
    FirmwareLimits,
    /// The largest scale of the demands that has a solution.
    Limits,
    /// Whole discharges.
    Discharges,
}
