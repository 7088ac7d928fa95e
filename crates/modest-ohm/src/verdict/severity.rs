//! How bad a finding is.

/// How bad it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Severity {
    /// Could not be decided: a figure is missing, and the message names it.
    Unknown,
    /// Good practice.
    Advice,
    /// Works without margin, or only sometimes.
    Caution,
    /// Will not work, or resets.
    Fault,
    /// Heat, fire, a destroyed part, shock.
    Danger,
}

impl Severity {
    /// Worst first, unknown last: the order of listings.
    pub const LISTED: [Severity; 5] =
        [Severity::Danger, Severity::Fault, Severity::Caution, Severity::Advice, Severity::Unknown];

    /// The word used in output.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Severity::Danger => "danger",
            Severity::Fault => "fault",
            Severity::Caution => "caution",
            Severity::Advice => "advice",
            Severity::Unknown => "unknown",
        }
    }
}
