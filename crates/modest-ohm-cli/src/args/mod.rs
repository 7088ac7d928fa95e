//! The command line: verbs in the order of the work.

use std::path::PathBuf;

use clap::{Parser, Subcommand, ValueEnum};
use modest_ohm::units::{Quantity, parse_quantity};
use modest_ohm::{Corner, Severity};

mod size;
mod size_leads;
mod size_signals;
mod size_stages;

pub use size::*;
pub use size_leads::*;
pub use size_signals::*;
pub use size_stages::*;

/// Works out and checks the supply side of LED strips, pumps, motors and servos from a written plan.
#[derive(Parser, Debug)]
#[command(
    name = "mohm",
    version,
    arg_required_else_help = true,
    max_term_width = 100,
    after_help = "First steps:\n  mohm demo              a first draft, its mistakes, and the sound plan\n  mohm new shed.toml     a commented plan to start from\n  mohm check shed.toml   what is wrong with it\n\nExit codes: 0 fine, 1 findings at or above --fail-on, 2 the input could not be read."
)]
pub struct Args {
    /// What to do.
    #[command(subcommand)]
    pub command: Command,
}

/// The verbs.
#[derive(Subcommand, Debug)]
pub enum Command {
    /// Review the two demo plans: a first draft and the sound one
    #[command(after_help = "Example:\n  mohm demo")]
    Demo,
    /// Write a commented plan to start from
    #[command(after_help = "Example:\n  mohm new shed.toml")]
    New(New),
    /// Read a plan and say what is wrong with it
    #[command(
        after_help = "Examples:\n  mohm check plans/harbour-diorama.toml\n  mohm check plans/harbour-first-draft.toml --fail-on never\n  mohm check --format json --fail-on danger plans/harbour-diorama.toml"
    )]
    Check(Check),
    /// What every rail, converter and lead carries in every scenario
    #[command(
        after_help = "Examples:\n  mohm budget plans/harbour-diorama.toml\n  mohm budget plans/harbour-diorama.toml --scenario worst --all-corners"
    )]
    Budget(Tables),
    /// How far the volts fall along strips, at loads and of signals
    #[command(
        after_help = "Examples:\n  mohm drop plans/harbour-diorama.toml\n  mohm drop plans/harbour-diorama.toml --scenario night --corner low"
    )]
    Drop(Tables),
    /// Which pin does what, what it carries, and which are free
    #[command(
        after_help = "Examples:\n  mohm pins plans/harbour-diorama.toml\n  mohm pins plans/harbour-diorama.toml --could pwm\n  mohm pins plans/harbour-diorama.toml --assign\n  mohm pins --part linux-board-3v3"
    )]
    Pins(Pins),
    /// What is to be set in the firmware: outputs, colour order, caps, panels
    #[command(
        after_help = "Examples:\n  mohm firmware plans/clock-tower.toml\n  mohm firmware plans/clock-tower.toml --coordinates dial --format csv\n  mohm firmware plans/clock-tower.toml --pattern dial"
    )]
    Firmware(Firmware),
    /// Where the numbers of a thing come from
    #[command(
        after_help = "Examples:\n  mohm why plans/harbour-diorama.toml five\n  mohm why plans/harbour-diorama.toml keeper.3v3"
    )]
    Why(Why),
    /// Answer a single question without a plan
    #[command(subcommand, after_help = "Example:\n  mohm size supply \"12 V\" \"2.5 A\" \"800 mA\"")]
    Size(Size),
    /// Draw a figure of a plan, as SVG or PNG
    #[command(
        after_help = "Examples:\n  mohm draw power plans/harbour-diorama.toml --to power.svg\n  mohm draw power plans/harbour-first-draft.toml --to power.png --scenario start\n  mohm draw drop plans/harbour-diorama.toml --of shoreline --scenario worst,night --to drop.svg\n  mohm draw pins plans/orchard-gate.toml --of gate --to gate.svg\n  mohm draw panel plans/clock-tower.toml --of dial --to dial.png\n  mohm draw pattern plans/clock-tower.toml --to pattern.png\n  mohm draw release plans/harbour-diorama.toml --of foghorn --to foghorn.png"
    )]
    Draw(Draw),
    /// Explain a check: what, why, how it is computed, how to cure it
    #[command(after_help = "Examples:\n  mohm about\n  mohm about strip-sags")]
    About(About),
    /// List the part classes a plan can name
    #[command(after_help = "Examples:\n  mohm catalogue\n  mohm catalogue pixel")]
    Catalogue(Catalogue),
}

/// `new`.
#[derive(clap::Args, Debug)]
pub struct New {
    /// The file to write
    pub file: PathBuf,
    /// Replace the file if it is there
    #[arg(long)]
    pub force: bool,
}

/// `check`.
#[derive(clap::Args, Debug)]
pub struct Check {
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
    /// Exit with 1 if there is a finding of this severity or worse
    #[arg(long, value_enum, default_value_t = FailOn::Fault)]
    pub fail_on: FailOn,
    /// List what passed as well, with its margins
    #[arg(long)]
    pub passed: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `budget` and `drop`.
#[derive(clap::Args, Debug)]
pub struct Tables {
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
    /// This scenario only
    #[arg(long)]
    pub scenario: Option<String>,
    /// This corner only
    #[arg(long, value_enum)]
    pub corner: Option<CornerName>,
    /// Every corner a row
    #[arg(long, conflicts_with = "corner")]
    pub all_corners: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `pins`.
#[derive(clap::Args, Debug)]
pub struct Pins {
    /// The plan; `-` reads standard input
    #[arg(required_unless_present = "part", conflicts_with = "part")]
    pub plan: Option<PathBuf>,
    /// Instead of a plan: the pins of a class of boards
    #[arg(long, value_name = "CLASS", conflicts_with_all = ["assign", "also"])]
    pub part: Option<String>,
    /// This board only
    #[arg(long, conflicts_with = "assign")]
    pub board: Option<String>,
    /// Free pins that could take a job with these abilities; `output` and `input` for none in particular
    #[arg(long, value_name = "ABILITY", value_delimiter = ',', conflicts_with = "assign")]
    pub could: Vec<String>,
    /// Propose pins for all that is written as `board.any`
    #[arg(long)]
    pub assign: bool,
    /// With --assign: items whose pins are to be chosen anew
    #[arg(long, value_name = "NAME", value_delimiter = ',', requires = "assign")]
    pub also: Vec<String>,
    /// Text for people, CSV for tables or JSON for programs
    #[arg(long, value_enum, default_value_t = Sheet::Text)]
    pub format: Sheet,
}

/// `firmware`.
#[derive(clap::Args, Debug)]
pub struct Firmware {
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
    /// Where every pixel of this panel is
    #[arg(long, value_name = "PANEL", conflicts_with = "pattern")]
    pub coordinates: Option<String>,
    /// What to show on this panel to see whether it is laid out as set
    #[arg(long, value_name = "PANEL")]
    pub pattern: Option<String>,
    /// Text for people, CSV for tables or JSON for programs
    #[arg(long, value_enum, default_value_t = Sheet::Text)]
    pub format: Sheet,
}

/// How tables are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Sheet {
    /// For people.
    Text,
    /// For tables: outputs, or the pixels of a panel.
    Csv,
    /// For programs.
    Json,
}

impl Sheet {
    /// How problems with the plan are written.
    pub const fn of_problems(self) -> Format {
        match self {
            Sheet::Json => Format::Json,
            Sheet::Text | Sheet::Csv => Format::Text,
        }
    }
}

/// `why`.
#[derive(clap::Args, Debug)]
pub struct Why {
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
    /// A supply, run, converter, board, strip or load, or one of their nodes
    pub name: String,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// Reads a quantity as plans write it.
fn quantity<Q: Quantity>(text: &str) -> Result<Q, String> {
    parse_quantity::<Q>(text).map_err(|p| format!("{} ({})", p.message, p.help))
}

/// `draw`.
#[derive(clap::Args, Debug)]
pub struct Draw {
    /// Which figure
    #[arg(value_enum)]
    pub figure: Figure,
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
    /// The file to write, *.svg or *.png; without it the SVG goes to standard output
    #[arg(long)]
    pub to: Option<PathBuf>,
    /// The scenario to show, of `drop` several; *worst* if not said, of `drop` those that last
    #[arg(long, value_delimiter = ',')]
    pub scenario: Vec<String>,
    /// The strips of `drop`, the board of `pins`, the panel of `panel` and `pattern`, the winding of `release`; all strips, or the only one, if not said
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub of: Vec<String>,
    /// Replace the file if it is there
    #[arg(long)]
    pub force: bool,
}

/// The figures.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Figure {
    /// The supply tree: what feeds what, how much flows, and where the trouble is.
    Power,
    /// Volts along strips, scenarios laid over each other, with feed currents and limits.
    Drop,
    /// The header of a board: what goes where, and what it carries.
    Pins,
    /// The way of the data over a panel, from the front and from behind.
    Panel,
    /// The test pattern of a panel, and what single mistakes make of it.
    Pattern,
    /// How the current of a winding goes on when its switch opens.
    Release,
}

/// `about`.
#[derive(clap::Args, Debug)]
pub struct About {
    /// The code of a check; without it all codes are listed
    pub code: Option<String>,
}

/// `catalogue`.
#[derive(clap::Args, Debug)]
pub struct Catalogue {
    /// Show only classes with this word in their name, title, kind or markings
    pub word: Option<String>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// How results are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// For people.
    Text,
    /// For programs.
    Json,
}

/// Which findings make the exit code 1.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum FailOn {
    /// Only dangers.
    Danger,
    /// Faults and dangers.
    Fault,
    /// Cautions, faults and dangers.
    Caution,
    /// Nothing.
    Never,
}

impl FailOn {
    /// The mildest severity that fails.
    pub const fn severity(self) -> Option<Severity> {
        match self {
            FailOn::Danger => Some(Severity::Danger),
            FailOn::Fault => Some(Severity::Fault),
            FailOn::Caution => Some(Severity::Caution),
            FailOn::Never => None,
        }
    }
}

/// A corner.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum CornerName {
    /// Every figure at its nominal.
    Typical,
    /// The lowest voltages at consumers.
    Low,
    /// The highest voltages at consumers.
    High,
    /// The largest currents.
    Hot,
}

impl From<CornerName> for Corner {
    fn from(name: CornerName) -> Self {
        match name {
            CornerName::Typical => Corner::Typical,
            CornerName::Low => Corner::Low,
            CornerName::High => Corner::High,
            CornerName::Hot => Corner::Hot,
        }
    }
}
