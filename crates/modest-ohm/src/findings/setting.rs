//! A key of a plan that may end a finding, and the values that are tried.

/// One key that may end a finding.
#[derive(Debug)]
pub(crate) struct Setting {
    /// An imperative; `{of}` stands for the item.
    pub title: &'static str,
    /// The kinds of item that have it; empty for any.
    pub kinds: &'static [&'static str],
    /// The key, which may be a path; `@` is the value where the finding points, `@.key` one beside it or in it.
    pub key: &'static str,
    pub to: To,
}

/// What is written.
#[derive(Clone, Copy, Debug)]
pub(crate) enum To {
    /// Texts, in this order.
    Texts(&'static [&'static str]),
    /// Other values, as TOML.
    Values(&'static [&'static str]),
    /// The key is removed.
    Nothing,
    /// The limit that the finding was held to.
    Limit,
    /// The number that was judged.
    Judged,
    /// What the message names last.
    Said,
    /// Resistors above the present one.
    Larger,
    /// Resistors below the present one.
    Smaller,
    /// Resistors of all decades.
    Resistors,
}

/// A key of any item that has a finding.
pub(crate) const fn set(title: &'static str, key: &'static str, to: To) -> Setting {
    Setting { title, kinds: &[], key, to }
}

/// A key of items of some kinds.
pub(crate) const fn of(kinds: &'static [&'static str], title: &'static str, key: &'static str, to: To) -> Setting {
    Setting { title, kinds, key, to }
}

/// `true`.
pub(crate) const TRUE: To = To::Values(&["true"]);
/// `false`.
pub(crate) const FALSE: To = To::Values(&["false"]);
