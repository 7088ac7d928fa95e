//! Pairs of values that have an order of their own: from low to high, and from nominal to worst.

use std::fmt;

use super::units::Quantity;

/// From the lowest to the highest value of something.
///
/// ```
/// use modest_ohm::units::{Range, Volts};
/// let rail = Range::new(Volts::new(4.75), Volts::new(5.25));
/// assert_eq!(rail.to_string(), "4.75 V .. 5.25 V");
/// assert_eq!(Range::exactly(Volts::new(5.0)).low, Volts::new(5.0));
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Range<Q> {
    /// The lowest value.
    pub low: Q,
    /// The highest value.
    pub high: Q,
}

impl<Q: Quantity> Range<Q> {
    /// From `low` to `high`.
    #[must_use]
    pub const fn new(low: Q, high: Q) -> Self {
        Self { low, high }
    }

    /// One value, without spread.
    #[must_use]
    pub const fn exactly(value: Q) -> Self {
        Self { low: value, high: value }
    }
}

impl<Q: Quantity> fmt::Display for Range<Q> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} .. {}", self.low, self.high)
    }
}

/// A nominal value, and the end of its tolerance that is the worst for the question: each field says which end that is.
///
/// ```
/// use modest_ohm::units::{Nominal, Volts};
/// let supply = Nominal::new(Volts::new(12.0), Volts::new(12.6));
/// assert!(supply.worst > supply.nominal);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Nominal<Q> {
    /// The value that is printed on it.
    pub nominal: Q,
    /// The worst end of its tolerance.
    pub worst: Q,
}

impl<Q: Quantity> Nominal<Q> {
    /// A nominal value and its worst end.
    #[must_use]
    pub const fn new(nominal: Q, worst: Q) -> Self {
        Self { nominal, worst }
    }

    /// One value, without tolerance.
    #[must_use]
    pub const fn exactly(value: Q) -> Self {
        Self { nominal: value, worst: value }
    }
}
