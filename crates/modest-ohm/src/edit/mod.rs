//! Edits of a plan's text: one value is written or removed, and the rest of the text stays as it is.

mod apply;
mod line_ends;
pub(crate) mod path;
#[cfg(test)]
mod tests;

pub use apply::{EditError, apply};

/// One change of a plan's text.
///
/// ```
/// use modest_ohm::edit::{Edit, apply};
/// let text = "format = 1\n\n[supply.wall] # on the shelf\ncurrent = \"2 A\" # from its label\n";
/// let larger = Edit::set("supply.wall.current", "\"3 A\"");
/// let edited = apply(text, &[larger]).unwrap();
/// assert_eq!(edited, text.replace("2 A", "3 A"));
/// ```
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Edit {
    /// What is changed: a dotted key with indices from 0, such as `strip.quay.inject[0].cable`. A name that is no bare
    /// TOML key is in quotes.
    pub path: String,
    /// The value as TOML text; `None` removes the key, table or list item. An inline table at `kind.name` becomes a
    /// table with its own heading.
    pub value: Option<String>,
}

impl Edit {
    /// Writes a value, in place of the one that is there or as a new key.
    #[must_use]
    pub fn set(path: impl Into<String>, value: impl Into<String>) -> Self {
        Self { path: path.into(), value: Some(value.into()) }
    }

    /// Writes a text value.
    #[must_use]
    pub fn text(path: impl Into<String>, value: &str) -> Self {
        Self::set(path, toml_edit::Value::from(value).to_string())
    }

    /// Removes a key, a table or an item of a list.
    #[must_use]
    pub fn remove(path: impl Into<String>) -> Self {
        Self { path: path.into(), value: None }
    }
}
