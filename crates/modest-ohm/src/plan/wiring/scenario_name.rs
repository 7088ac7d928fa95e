//! The scenarios that every plan has, and those of its own, by name.

use std::convert::Infallible;
use std::fmt;
use std::str::FromStr;

/// A scenario: one of those that every plan has, or one of the plan's own.
///
/// ```
/// use modest_ohm::Scenario;
/// assert_eq!(Scenario::Worst.to_string(), "worst");
/// assert_eq!(Scenario::from("surge"), Scenario::Surge);
/// assert_eq!(Scenario::from("evening"), Scenario::Own("evening".into()));
/// ```
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Scenario {
    /// Everything is fed and dark, at rest.
    Idle,
    /// Strips at three tenths of their light, loads as they usually run.
    Typical,
    /// Full light, loads at their peak, boards bursting.
    Worst,
    /// Power comes on: what surges does, unless it rests off.
    Start,
    /// One load, or a group that starts together, surges while the rest is at its peak.
    Surge,
    /// A board is plugged into a computer while the rest is powered.
    Programming,
    /// A board is plugged into a computer while no other supply is on.
    ProgrammingAlone,
    /// A `[scenario.x]` of the plan.
    Own(String),
}

impl Scenario {
    /// Those that every plan has, in the order in which they are solved.
    pub const BUILT_IN: [Self; 7] =
        [Self::Idle, Self::Typical, Self::Worst, Self::Start, Self::Surge, Self::Programming, Self::ProgrammingAlone];

    /// The name, as in plans, tables and JSON.
    #[must_use]
    pub fn name(&self) -> &str {
        match self {
            Self::Idle => "idle",
            Self::Typical => "typical",
            Self::Worst => "worst",
            Self::Start => "start",
            Self::Surge => "surge",
            Self::Programming => "programming",
            Self::ProgrammingAlone => "programming-alone",
            Self::Own(name) => name,
        }
    }
}

impl fmt::Display for Scenario {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.name())
    }
}

impl From<&str> for Scenario {
    fn from(name: &str) -> Self {
        Self::BUILT_IN.into_iter().find(|s| s.name() == name).unwrap_or_else(|| Self::Own(name.to_owned()))
    }
}

impl FromStr for Scenario {
    type Err = Infallible;

    fn from_str(name: &str) -> Result<Self, Infallible> {
        Ok(Self::from(name))
    }
}
