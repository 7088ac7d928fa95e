//! Text in: byte spans, lines and columns, the tree of a TOML text, and the reader that asks it for keys.

pub(crate) mod figures;
pub(crate) mod hint;
pub(crate) mod kept;
pub(crate) mod order;
pub(crate) mod part_notes;
pub(crate) mod problem;
pub(crate) mod reader;
pub(crate) mod renamed;
pub(crate) mod tree;

use crate::source::Span;

/// A word of the plan and where it is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Named {
    /// The word.
    pub text: String,
    /// Where it is; `None` for what a default says.
    pub span: Option<Span>,
}

/// The nearest of `known` to `word`, if one is near enough to be meant.
pub(crate) fn nearest<'a>(word: &str, known: impl IntoIterator<Item = &'a str>) -> Option<&'a str> {
    known
        .into_iter()
        .map(|k| (strsim::damerau_levenshtein(word, k), k))
        .filter(|(distance, k)| *distance <= (k.chars().count().max(word.chars().count()) / 3).max(1))
        .min_by_key(|(distance, _)| *distance)
        .map(|(_, k)| k)
}
