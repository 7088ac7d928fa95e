//! What many builds say of a plan.

use super::statistics::interval;
use crate::verdict::severity::Severity;

/// How many of many builds work.
///
/// ```
/// use modest_ohm::odds::Share;
/// assert_eq!(Share { count: 486, builds: 512 }.words(), "95 of 100 builds (93 to 97)");
/// assert_eq!(Share { count: 512, builds: 512 }.words(), "all 512 builds tried");
/// assert_eq!(Share { count: 0, builds: 512 }.words(), "none of the 512 builds tried");
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Share {
    /// Builds that do.
    pub count: usize,
    /// Builds that were tried.
    pub builds: usize,
}

impl Share {
    /// The share, 0 to 1.
    #[must_use]
    pub fn value(self) -> f64 {
        self.count as f64 / (self.builds.max(1)) as f64
    }

    /// Where the share of all builds is with 95 % confidence, 0 to 1 (Wilson's interval).
    #[must_use]
    pub fn interval(self) -> (f64, f64) {
        interval(self.count, self.builds)
    }

    /// In words, with no more digits than the builds carry.
    #[must_use]
    pub fn words(self) -> String {
        let percent = |share: f64| (100.0 * share).round() as usize;
        match self.count {
            0 => format!("none of the {} builds tried", self.builds),
            n if n == self.builds => format!("all {n} builds tried"),
            _ if percent(self.value()) == 0 => "fewer than 1 of 100 builds".into(),
            _ => {
                let (low, high) = self.interval();
                let share = percent(self.value()).min(99);
                let (low, high) = (percent(low).min(share), percent(high).min(99));
                let range = if low == high { String::new() } else { format!(" ({low} to {high})") };
                format!("{share} of 100 builds{range}")
            }
        }
    }

    /// Of one hundred, as it is said beside other shares: `73`.
    #[must_use]
    pub fn percent(self) -> usize {
        let percent = (100.0 * self.value()).round() as usize;
        match self.count {
            0 => 0,
            n if n == self.builds => 100,
            _ => percent.clamp(1, 99),
        }
    }
}

/// A plan's builds.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Odds {
    /// How many builds were tried; none where nothing is found that may differ between builds.
    pub builds: usize,
    /// Figures that differ from build to build; those with one cause count once.
    pub figures: usize,
    /// How many of them are assumed: of a generic part, or by default.
    pub assumed: usize,
    /// Builds without a fault; `None` where nothing is found that may differ between builds, where the plan has a danger,
    /// which is settled first, and where a fault is the same in every build.
    pub works: Option<Share>,
    /// Verdicts on how something works, the least likely to pass first within their severity.
    pub verdicts: Vec<VerdictOdds>,
    /// Dangers of the plan: no share is given for them.
    pub dangers: usize,
    /// Findings whose share is not given, each with why.
    pub left_out: Vec<LeftOut>,
    /// What builds show and the review does not, with the number of builds.
    pub beyond: Vec<Beyond>,
}

/// A finding whose share of builds is not given.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct LeftOut {
    /// The code of its check.
    pub code: &'static str,
    /// The part of the plan.
    pub subject: String,
    /// How bad it is.
    pub severity: Severity,
    /// Why.
    pub why: &'static str,
}

/// A finding of single builds that the review has not, or not as bad: the worst case was not found.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Beyond {
    /// The code of its check.
    pub code: &'static str,
    /// The part of the plan.
    pub subject: String,
    /// How bad it is there.
    pub severity: Severity,
    /// Builds with it.
    pub builds: usize,
    /// The first of them, by its number.
    pub first: usize,
}

/// What builds say of one finding.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct VerdictOdds {
    /// The code of its check.
    pub code: &'static str,
    /// The part of the plan.
    pub subject: String,
    /// Further parts of which the same is said.
    pub alike: Vec<String>,
    /// The finding's severity, by the worst possible.
    pub severity: Severity,
    /// Builds in which it is no fault: of a caution nearly all, of a fault those that are within their limits.
    pub works: Share,
    /// Builds in which it is not even a caution: those that have their margin as well.
    pub clear: Share,
    /// True where it is a danger in some builds, for which no share is given.
    pub endangers: bool,
    /// True where every build works, and `range` and `worth` speak of those that have their margin.
    pub of_margin: bool,
    /// The value that is judged: possible and likely.
    pub value: Option<Likely>,
    /// Figures that decide it, the most important first.
    pub parts: Vec<Part>,
    /// True where each part's share is its own: they add up to nine tenths or more. Else figures decide together, and
    /// their shares are not given.
    pub adds_up: bool,
    /// True where more than half of what is explained comes from assumed figures: the share of builds says more of
    /// what is not known than of what is built.
    pub assumed: bool,
    /// The shares of builds with the assumed figures that decide in the worst and in the best tenth of their spread.
    pub range: Option<(Share, Share)>,
    /// What it is worth to know the figure that decides most.
    pub worth: Option<Worth>,
}

/// A value that is judged, in the base unit.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Likely {
    /// The worst possible, by which the severity goes.
    pub worst_possible: f64,
    /// The worst likely: 99 of 100 builds are better.
    pub worst_likely: f64,
    /// The one that half of the builds exceed.
    pub middle: f64,
    /// What it is held to.
    pub limit: f64,
    /// What that is: `rating`, `recommended_low` ….
    pub limit_name: &'static str,
    /// True where larger is worse.
    pub at_most: bool,
    /// The base unit.
    pub unit: &'static str,
}

/// A figure and its part in what differs between builds.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Part {
    /// The item of the plan; of several with one cause the first.
    pub item: String,
    /// The key that leads to it.
    pub key: String,
    /// The share of the variance that it explains by itself, 0 to 1 (Sobol's first index).
    pub share: f64,
    /// True for figures of generic parts and defaults.
    pub assumed: bool,
}

/// What is known once a figure is measured.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Worth {
    /// The item of the plan.
    pub item: String,
    /// The key.
    pub key: String,
    /// How to measure it.
    pub how: String,
    /// The base unit of the two values.
    pub unit: &'static str,
    /// A value in the best tenth of its spread, and the builds that then work.
    pub best: (f64, Share),
    /// A value in the worst tenth, and the builds that then work.
    pub worst: (f64, Share),
}

impl VerdictOdds {
    /// Whether it is said of a part.
    #[must_use]
    pub fn names(&self, subject: &str) -> bool {
        self.subject == subject || self.alike.iter().any(|s| s == subject)
    }
}
