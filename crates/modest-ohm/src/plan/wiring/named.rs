//! A name with its place in the text.

use crate::source::Span;
use crate::text::Named;

/// A name with a place in the text, for what a strip names.
pub(crate) fn named(text: &str, span: Span) -> Named {
    Named { text: text.to_owned(), span: Some(span) }
}
