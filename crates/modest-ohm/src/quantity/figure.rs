//! A figure: a number with its spread and with where it came from.

use super::units::Quantity;
use crate::source::Span;

/// The four corners in which every scenario is solved (electrical reference, "Spread and corners").
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Corner {
    /// Every figure at its nominal.
    Typical,
    /// Sources at minimum, demand and resistances at largest: the lowest voltages at consumers.
    Low,
    /// Sources at maximum, demand and resistances at smallest: the highest voltages at consumers.
    High,
    /// Sources and demand at maximum, resistances at smallest: the largest currents.
    Hot,
}

impl Corner {
    /// All corners, in the order in which ties between rows are settled.
    pub const ALL: [Corner; 4] = [Corner::Low, Corner::Hot, Corner::High, Corner::Typical];

    /// The name used in output: `typical`, `low`, `high`, `hot`.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Corner::Typical => "typical",
            Corner::Low => "low",
            Corner::High => "high",
            Corner::Hot => "hot",
        }
    }
}

impl std::fmt::Display for Corner {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.pad(self.name())
    }
}

/// A word that names no corner.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NoCorner(String);

impl std::fmt::Display for NoCorner {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "`{}` is not a corner; write one of: {}", self.0, Corner::ALL.map(Corner::name).join(", "))
    }
}

impl std::error::Error for NoCorner {}

impl std::str::FromStr for Corner {
    type Err = NoCorner;

    /// Reads the name that output uses.
    ///
    /// ```
    /// use modest_ohm::Corner;
    /// assert_eq!("low".parse(), Ok(Corner::Low));
    /// assert_eq!(Corner::Hot.to_string(), "hot");
    /// assert!("warm".parse::<Corner>().is_err());
    /// ```
    fn from_str(name: &str) -> Result<Self, NoCorner> {
        Corner::ALL.into_iter().find(|c| c.name() == name).ok_or_else(|| NoCorner(name.to_owned()))
    }
}

/// How a figure moves between the corners.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    /// EMF and set voltage: smallest in *low*, largest in *high* and *hot*.
    Source,
    /// Currents, powers, light levels: largest in *low* and *hot*, smallest in *high*.
    Demand,
    /// Conductors, source resistance, strip copper: largest in *low*, smallest in *high* and *hot*.
    Resistance,
    /// Ohms and forward voltage of loads, efficiency: smallest where demand is largest.
    LoadOpposite,
}

/// Where a number came from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Origin {
    /// The plan's text.
    Plan(Span),
    /// A generic part of the catalogue; the text names the source of the figure.
    Catalogue {
        /// The class.
        part: String,
        /// Source of the figure: a standard, or "typical of the class".
        source: String,
    },
    /// A default that holds when nothing is said; the text says which.
    Default(&'static str),
    /// Computed from others.
    Computed,
}

impl Origin {
    /// One word for tables and machine output: `plan`, `catalogue`, `default` or `computed`.
    #[must_use]
    pub const fn word(&self) -> &'static str {
        match self {
            Origin::Plan(_) => "plan",
            Origin::Catalogue { .. } => "catalogue",
            Origin::Default(_) => "default",
            Origin::Computed => "computed",
        }
    }

    /// True for figures that a data sheet could replace.
    #[must_use]
    pub const fn is_assumed(&self) -> bool {
        matches!(self, Origin::Catalogue { .. } | Origin::Default(_))
    }
}

/// A quantity with its spread (`low ≤ typical ≤ high`) and its origin.
#[derive(Clone, Debug, PartialEq)]
pub struct Figure<Q> {
    /// The smallest value.
    pub low: Q,
    /// The nominal value.
    pub typical: Q,
    /// The largest value.
    pub high: Q,
    /// Where it came from.
    pub origin: Origin,
    /// True where the text gave one number without range or tolerance: class defaults may widen it.
    pub bare: bool,
}

impl<Q: Quantity> Figure<Q> {
    /// A figure without spread.
    pub const fn exact(value: Q, origin: Origin) -> Self {
        Self { low: value, typical: value, high: value, origin, bare: false }
    }

    /// The smallest value in the base unit.
    pub(crate) fn low_si(&self) -> f64 {
        self.low.si()
    }

    /// A figure in place of one that could not be read; never part of a plan that is handed out.
    pub(crate) fn stand_in() -> Self {
        Self::exact(Q::from_si(1.0), Origin::Computed)
    }

    /// While a plan is read only stand-ins are computed.
    pub(crate) fn is_stand_in(&self) -> bool {
        self.origin == Origin::Computed
    }

    /// The value in a corner, for a figure that moves as `role` says.
    #[must_use]
    pub fn at(&self, corner: Corner, role: Role) -> Q {
        use Corner::{High, Hot, Low, Typical};
        use Role::{Demand, LoadOpposite, Resistance, Source};
        match (role, corner) {
            (_, Typical) => self.typical,
            (Source, Low) | (Resistance | LoadOpposite, Hot) | (Resistance | Demand, High) | (LoadOpposite, Low) => {
                self.low
            }
            (Source, High | Hot) | (Demand, Low | Hot) | (Resistance, Low) | (LoadOpposite, High) => self.high,
        }
    }

    /// Widens a bare number by a share on both sides, as a class's tolerance does.
    #[must_use]
    pub fn with_tolerance(mut self, share: f64) -> Self {
        if self.bare {
            let typical = self.typical.si();
            self.low = Q::from_si(typical - typical.abs() * share);
            self.high = Q::from_si(typical + typical.abs() * share);
            self.bare = false;
        }
        self
    }

    /// Scales all three values.
    #[must_use]
    pub fn scaled(&self, factor: f64) -> Self {
        let scale = |q: Q| Q::from_si(q.si() * factor);
        Self {
            low: scale(self.low),
            typical: scale(self.typical),
            high: scale(self.high),
            origin: self.origin.clone(),
            bare: self.bare,
        }
    }
}
