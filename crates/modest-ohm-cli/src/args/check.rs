//! `check` and `fix`.

use std::path::PathBuf;

use super::{FailOn, Format};

/// `fix`.
#[derive(clap::Args, Debug)]
pub struct Fix {
    /// The plan file
    pub plan: PathBuf,
    /// A finding, by its number in `check` or its code; without it, the first that can be fixed
    pub finding: Option<String>,
    /// Which of its fixes, in the order of `check`
    #[arg(long, value_name = "NUMBER", default_value_t = 1, value_parser = clap::value_parser!(u8).range(1..=3))]
    pub choice: u8,
    /// Fix all findings, one after another
    #[arg(long, conflicts_with_all = ["finding", "choice"])]
    pub all: bool,
    /// An item that is not to be changed; may be repeated. `keep = true` in its table does the same
    #[arg(long, value_name = "NAME")]
    pub keep: Vec<String>,
    /// Write without asking
    #[arg(long, conflicts_with = "dry_run")]
    pub yes: bool,
    /// Show the changes only
    #[arg(long)]
    pub dry_run: bool,
}

/// `check`.
#[derive(clap::Args, Debug)]
pub struct Check {
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
    /// Exit with 1 if there is a finding of this severity or worse
    #[arg(long, value_enum, default_value_t = FailOn::Fault)]
    pub fail_on: FailOn,
    /// Print every finding in full, also on a terminal, where the first screen is the default
    #[arg(long)]
    pub all: bool,
    /// Print one finding in full, by its number or its code, and what it means
    #[arg(long, value_name = "NUMBER", conflicts_with_all = ["all", "terse", "passed"])]
    pub show: Option<String>,
    /// Print one line per finding, and its best fix
    #[arg(long, conflicts_with_all = ["all", "passed"])]
    pub terse: bool,
    /// List passed checks too, with their margins
    #[arg(long)]
    pub passed: bool,
    /// Do not look for fixes
    #[arg(long)]
    pub no_fixes: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}
