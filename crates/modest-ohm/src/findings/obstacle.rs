//! Why no change of the plan ends a finding.

use super::finding::Finding;
use super::fix::{article, listed};
use crate::verdict::severity::Severity;

/// What stands in the way of a finding's end.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum Obstacle {
    /// The change that ends it brings something as bad.
    Brings {
        /// The change, as an imperative.
        title: String,
        /// How bad what it brings is.
        severity: Severity,
        /// The code of that.
        code: &'static str,
        /// What that says.
        message: String,
    },
    /// No change ends it: the furthest that were tried.
    NoneEnds {
        /// As imperatives, best first.
        tried: Vec<String>,
    },
    /// What might end it is to be kept as it is.
    Kept {
        /// The items.
        items: Vec<String>,
    },
    /// There is no change of a plan for it.
    NoChange,
}

/// Changes that are named, at most.
const MOST_NAMED: usize = 3;

impl Obstacle {
    pub(crate) fn brings(title: &str, brought: &Finding) -> Self {
        let (severity, code, message) = (brought.severity, brought.code, brought.message.clone());
        Self::Brings { title: title.to_owned(), severity, code, message }
    }

    /// In one sentence without a full stop.
    ///
    /// `Nothing that was tried ends it: Use 10 AWG for the cable to `lamp`; Use a 24 V supply`
    #[must_use]
    pub fn text(&self) -> String {
        match self {
            Self::Brings { title, severity, code, message } => {
                let word = severity.word();
                format!("Nothing that was tried ends it. {title}: then {} {word} ({code}), {message}", article(word))
            }
            Self::NoneEnds { tried } => {
                let named: Vec<&str> = tried.iter().take(MOST_NAMED).map(String::as_str).collect();
                format!("Nothing that was tried ends it: {}", named.join("; "))
            }
            Self::Kept { items } => {
                let named: Vec<String> = items.iter().map(|item| format!("`{item}`")).collect();
                format!("What might end it is to be kept: {}", listed(&named))
            }
            Self::NoChange => "No change of the plan ends it".to_owned(),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn it_says_what_was_tried() {
        let brings = Obstacle::Brings {
            title: "Use a 3 A fuse".into(),
            severity: Severity::Fault,
            code: "fuse-too-small",
            message: "it blows".into(),
        };
        assert_eq!(
            brings.text(),
            "Nothing that was tried ends it. Use a 3 A fuse: then a fault (fuse-too-small), it blows"
        );
        let tried = ["a", "b", "c", "d"].map(str::to_owned).to_vec();
        assert_eq!(Obstacle::NoneEnds { tried }.text(), "Nothing that was tried ends it: a; b; c");
    }
}
