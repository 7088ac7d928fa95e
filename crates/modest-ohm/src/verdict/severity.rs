//! How bad a finding is.

/// How bad it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Severity {
    /// Could not be decided: a figure is missing, and the message names it.
    Unknown,
    /// Good practice.
    Advisory,
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
        [Severity::Danger, Severity::Fault, Severity::Caution, Severity::Advisory, Severity::Unknown];

    /// The word used in output.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Severity::Danger => "danger",
            Severity::Fault => "fault",
            Severity::Caution => "caution",
            Severity::Advisory => "advisory",
            Severity::Unknown => "unknown",
        }
    }
}

impl Severity {
    /// The word for several of them.
    #[must_use]
    pub const fn plural(self) -> &'static str {
        match self {
            Severity::Danger => "dangers",
            Severity::Fault => "faults",
            Severity::Caution => "cautions",
            Severity::Advisory => "advisories",
            Severity::Unknown => "unknowns",
        }
    }

    /// What it means, in a phrase.
    #[must_use]
    pub const fn meaning(self) -> &'static str {
        match self {
            Severity::Danger => "can injure, start a fire or destroy a part",
            Severity::Fault => "will not work, or will reset or shut down",
            Severity::Caution => "works, but with too little margin or not every time",
            Severity::Advisory => "works; good practice suggests a change, or a value worth knowing",
            Severity::Unknown => "could not be checked; a value is missing",
        }
    }
}

impl std::fmt::Display for Severity {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.pad(self.word())
    }
}

/// A word that names no severity.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NoSeverity(String);

impl std::fmt::Display for NoSeverity {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "`{}` is no severity; write one of: ", self.0)?;
        f.write_str(&Severity::LISTED.map(Severity::word).join(", "))
    }
}

impl std::error::Error for NoSeverity {}

impl std::str::FromStr for Severity {
    type Err = NoSeverity;

    /// Reads the word that output uses.
    ///
    /// ```
    /// use modest_ohm::Severity;
    /// assert_eq!("caution".parse(), Ok(Severity::Caution));
    /// assert_eq!(format!("{:>8}", Severity::Danger), "  danger");
    /// assert!("grave".parse::<Severity>().unwrap_err().to_string().contains("danger, fault"));
    /// ```
    fn from_str(word: &str) -> Result<Self, NoSeverity> {
        Severity::LISTED.into_iter().find(|s| s.word() == word).ok_or_else(|| NoSeverity(word.to_owned()))
    }
}
