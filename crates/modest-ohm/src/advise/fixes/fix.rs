//! A fix: edits of the plan that were tried, and what becomes of the finding.

use crate::edit::Edit;
use crate::verdict::severity::Severity;

/// A change of the plan that was applied to a copy, read and checked.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Fix {
    /// What to do, as an imperative without the edits: `Use a larger converter`.
    pub title: String,
    /// The edits that are it; [`apply`](crate::edit::apply) makes them.
    pub edits: Vec<Edit>,
    /// What becomes of the finding.
    pub effect: Effect,
    /// Other findings that are gone with it: code and part.
    pub gone: Vec<(&'static str, String)>,
}

/// What a fix does to its finding.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Effect {
    /// The finding is gone; `margin` is what its check says then, where it says something.
    Ends {
        /// How far from the limit, in words: `3.6 A of 5 A`.
        margin: Option<String>,
    },
    /// The finding is left, and milder.
    Helps {
        /// How bad it is then.
        severity: Severity,
        /// The judged number then, in the base unit with its unit, where the finding judges one.
        then: Option<(f64, &'static str)>,
    },
}

impl Fix {
    /// Whether the finding is gone with it.
    #[must_use]
    pub const fn ends(&self) -> bool {
        matches!(self.effect, Effect::Ends { .. })
    }
}

/// A finding's fixes, best first.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FixedFinding {
    /// The code of the finding.
    pub code: &'static str,
    /// Its part.
    pub subject: String,
    /// At most three fixes; empty where no change that was tried ends it or makes it milder.
    pub fixes: Vec<Fix>,
}
