//! A change that may help, before it is tried.

use crate::edit::Edit;

/// Edits with what they are in words.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Candidate {
    /// An imperative: `Use a larger converter`.
    pub title: String,
    pub edits: Vec<Edit>,
}

/// The same change in several sizes.
#[derive(Clone, Debug, Default)]
pub(crate) struct Ladder {
    pub rungs: Vec<Candidate>,
    /// True where each rung does more against the finding than the one before.
    pub rising: bool,
}

impl Ladder {
    /// Each rung does more than the one before.
    pub fn rising(rungs: impl IntoIterator<Item = Candidate>) -> Self {
        Self { rungs: rungs.into_iter().collect(), rising: true }
    }

    /// Rungs that have nothing to do with each other.
    pub fn of(rungs: impl IntoIterator<Item = Candidate>) -> Self {
        Self { rungs: rungs.into_iter().collect(), rising: false }
    }
}

impl Ladder {
    /// The furthest rung.
    pub fn furthest(&self) -> Option<&Candidate> {
        if self.rising { self.rungs.last() } else { self.rungs.first() }
    }
}

impl Candidate {
    pub fn new(title: impl Into<String>, edits: Vec<Edit>) -> Self {
        Self { title: title.into(), edits }
    }

    /// One key written.
    pub fn text(title: impl Into<String>, path: impl Into<String>, value: &str) -> Self {
        Self::new(title, vec![Edit::text(path, value)])
    }

    /// This change and another one, as one; `None` where the second would undo a part of the first.
    pub fn and(&self, other: &Self) -> Option<Self> {
        let overlaps = |a: &Edit, b: &Edit| a.path.starts_with(&b.path) || b.path.starts_with(&a.path);
        if self.edits.iter().any(|a| other.edits.iter().any(|b| overlaps(a, b))) {
            return None;
        }
        let mut letters = other.title.chars();
        let first = letters.next().into_iter().flat_map(char::to_lowercase);
        let title = format!("{}, and {}", self.title, first.chain(letters).collect::<String>());
        Some(Self::new(title, self.edits.iter().chain(&other.edits).cloned().collect()))
    }
}
