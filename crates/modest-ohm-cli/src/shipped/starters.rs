//! The plans that `new` writes.

/// A plan to start from, as `new` writes it.
pub struct Starter {
    /// The word for `--like`.
    pub name: &'static str,
    /// The plan. Its first line is a comment that says in a phrase what is in it.
    pub text: &'static str,
}

impl Starter {
    /// What is in it, in a phrase.
    pub fn title(&self) -> &'static str {
        self.text.lines().next().unwrap_or_default().trim_start_matches("# ")
    }
}

/// One starter per word; its file has the same name.
macro_rules! starters {
    ($($name:literal),+) => {
        &[$(Starter { name: $name, text: include_str!(concat!("../../../../plans/starters/", $name, ".toml")) }),+]
    };
}

/// All starters, the plainest first: what `new` writes if nothing is chosen.
pub const STARTERS: &[Starter] =
    starters!["strip", "panel", "front", "robot", "battery", "vehicle", "pump", "servo", "relay"];
