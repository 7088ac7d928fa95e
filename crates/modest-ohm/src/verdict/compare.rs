//! One tolerant comparison: what differs from a limit by rounding alone neither exceeds it nor falls below it.

/// Rounding of a solve and of sums over thousands of parts, as a share of the limit.
const ROUNDING: f64 = 1e-9;

/// True where a value is above a limit by more than rounding.
pub(crate) fn exceeds(value: f64, limit: f64) -> bool {
    value > limit * (1.0 + ROUNDING)
}

/// True where a value is a limit or less, rounding aside.
pub(crate) fn at_most(value: f64, limit: f64) -> bool {
    value <= limit * (1.0 + ROUNDING)
}

/// True where a value is below a limit by more than rounding.
pub(crate) fn is_below(value: f64, limit: f64) -> bool {
    value < limit * (1.0 - ROUNDING)
}

/// True where a value is a limit or more, rounding aside.
pub(crate) fn at_least(value: f64, limit: f64) -> bool {
    value >= limit * (1.0 - ROUNDING)
}

/// By how much a recommended, minimum or policy limit may be missed before it counts: no meter and no sheet of this
/// field is better, and 5 V − 5 % meets 4.75 V.
const SLACK: f64 = 0.005;

/// True where a value is above a recommended or policy limit by more than its slack.
pub(crate) fn clearly_exceeds(value: f64, limit: f64) -> bool {
    value > limit + SLACK * limit.abs()
}

/// True where a value is below a recommended, minimum or policy limit by more than its slack.
pub(crate) fn clearly_below(value: f64, limit: f64) -> bool {
    value < limit - SLACK * limit.abs()
}

#[cfg(test)]
mod tests {
    use super::{at_least, at_most, exceeds, is_below};

    #[test]
    fn rounding_is_no_difference() {
        let sum: f64 = (0..10).map(|_| 0.1).sum();
        assert!(sum != 1.0 && at_most(sum, 1.0) && at_least(sum, 1.0) && !exceeds(sum, 1.0) && !is_below(sum, 1.0));
        for (value, over) in [(1.0 + 1e-6, true), (1.0 - 1e-6, false)] {
            assert_eq!((exceeds(value, 1.0), is_below(value, 1.0)), (over, !over));
            assert_eq!((at_least(value, 1.0), at_most(value, 1.0)), (over, !over));
        }
        // Not a number is neither within a limit nor beyond it.
        assert!(!exceeds(f64::NAN, 1.0) && !at_most(f64::NAN, 1.0));
    }
}
