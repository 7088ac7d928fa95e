//! The command line: verbs in the order of the work.

use std::path::PathBuf;

use clap::builder::{PossibleValue, PossibleValuesParser};
use clap::{Parser, Subcommand, ValueEnum};
use modest_ohm::units::{Quantity, parse_quantity};
use modest_ohm::{Corner, Severity};

use crate::shipped::starters::STARTERS;

mod check;
mod size;
mod size_leads;
mod size_signals;
mod size_stages;

pub use check::*;
pub use size::*;
pub use size_leads::*;
pub use size_signals::*;
pub use size_stages::*;

/// Calculates and checks the supply side of LED strips, pumps, motors and servos from a plan file.
#[derive(Parser, Debug)]
#[command(
    name = "mohm",
    version,
    arg_required_else_help = true,
    max_term_width = 100,
    after_help = "First steps:\n  mohm demo              a first draft, its mistakes, and the sound plan\n  mohm new \
        shed.toml     a commented plan to start from\n  mohm check shed.toml   what is wrong with it, and what to do \
        first\n  mohm about danger      what a word of the output means\n\nExit codes: 0 fine, 1 findings at or above \
        --fail-on, 2 the input could not be read."
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
    #[command(after_help = "Examples:\n  mohm new shed.toml\n  mohm new --like pump garden.toml")]
    New(New),
    /// Check a plan: what is wrong with it, and what to do first
    #[command(
        after_help = "Examples:\n  mohm check plans/harbour-diorama.toml\n  mohm check plans/harbour-first-draft.toml --fail-on never\n  mohm check plans/harbour-first-draft.toml --fail-on never --show 1\n  mohm check --format json --fail-on danger plans/harbour-diorama.toml\n\nSeverities:\n  danger    can injure, start a fire or destroy a part: do not power on\n  fault     will not work, or will reset or shut down\n  caution   works, but with too little margin or not every time\n  advisory  works; good practice suggests a change, or a value worth knowing\n  unknown   could not be checked; the line names the missing value\n  accepted  you have decided to live with it ([[accept]] in the plan); listed, not counted"
    )]
    Check(Check),
    /// Change a plan so that a finding, or all of them, is gone: shows the changes, and writes them if you agree
    #[command(
        after_help = "Examples:\n  mohm fix shed.toml                    the first finding that can be fixed\n  mohm fix shed.toml supply-overloaded  a finding by its code or its number in `check`\n  mohm fix shed.toml 3 --choice 2       its second fix\n  mohm fix shed.toml --all              one fix after another, until nothing is left that can be fixed\n  mohm fix shed.toml --all --keep wall  without changing `wall`\n\nNothing is written without your consent; comments, order and layout stay.\nExit codes: 0 fixed, or nothing to fix; 1 not written, or faults are left; 2 the plan could not be read or written."
    )]
    Fix(Fix),
    /// Voltage and current of every rail, converter and cable in every scenario
    #[command(
        after_help = "Examples:\n  mohm budget plans/harbour-diorama.toml\n  mohm budget plans/harbour-diorama.toml --scenario worst --all-corners"
    )]
    Budget(Tables),
    /// Voltage along strips, at loads and on signals
    #[command(
        after_help = "Examples:\n  mohm drop plans/harbour-diorama.toml\n  mohm drop plans/harbour-diorama.toml --scenario night --corner low\n  mohm drop plans/clock-tower.toml --item dial"
    )]
    Drop(Tables),
    /// What each pin does and carries, and which pins are free
    #[command(
        after_help = "Examples:\n  mohm pins plans/harbour-diorama.toml\n  mohm pins plans/harbour-diorama.toml --supports pwm\n  mohm pins plans/harbour-diorama.toml --assign\n  mohm pins --part linux-board-3v3"
    )]
    Pins(Pins),
    /// What to set in the firmware: outputs, colour order, firmware limits, panels
    #[command(
        after_help = "Examples:\n  mohm firmware plans/clock-tower.toml\n  mohm firmware plans/clock-tower.toml --coordinates dial --format csv\n  mohm firmware plans/clock-tower.toml --pattern dial"
    )]
    Firmware(Firmware),
    /// Where the numbers of a part come from
    #[command(
        after_help = "Examples:\n  mohm why plans/harbour-diorama.toml five\n  mohm why plans/harbour-diorama.toml keeper.3v3"
    )]
    Why(Why),
    /// In how many builds of a plan everything works, and which tolerance decides
    #[command(
        after_help = "Examples:\n  mohm odds plans/harbour-diorama.toml\n  mohm odds --format json plans/harbour-first-draft.toml"
    )]
    Odds(Odds),
    /// Answer a single question without a plan
    #[command(subcommand, after_help = "Example:\n  mohm size supply \"12 V\" \"2.5 A\" \"800 mA\"")]
    Size(Size),
    /// Draw a picture of a plan, as SVG or PNG
    #[command(
        after_help = "Examples:\n  mohm draw power plans/harbour-diorama.toml --output power.svg\n  mohm draw power plans/harbour-first-draft.toml --output power.png --scenario start\n  mohm draw drop plans/harbour-diorama.toml --item shoreline --output drop.svg\n  mohm draw pins plans/orchard-gate.toml --item gate --output gate.svg\n  mohm draw panel plans/clock-tower.toml --item dial --output dial.png\n  mohm draw pattern plans/clock-tower.toml --output pattern.png\n  mohm draw release plans/harbour-diorama.toml --item foghorn --output foghorn.png"
    )]
    Draw(Draw),
    /// Explain a check, a word, a kind of table or a generic part
    #[command(
        after_help = "Examples:\n  mohm about\n  mohm about strip-voltage-low\n  mohm about corner\n  mohm about strip"
    )]
    About(About),
    /// List the generic parts that a plan can name
    #[command(after_help = "Examples:\n  mohm catalogue\n  mohm catalogue pixel")]
    Catalogue(Catalogue),
}

/// The words for `--like`, with what is in each plan.
fn starters() -> PossibleValuesParser {
    PossibleValuesParser::new(STARTERS.iter().map(|s| PossibleValue::new(s.name).help(s.title())))
}

/// `new`.
#[derive(clap::Args, Debug)]
pub struct New {
    /// The file to write
    pub file: PathBuf,
    /// What the plan is like; without it, a terminal asks, and otherwise it is the first
    #[arg(long, value_parser = starters())]
    pub like: Option<String>,
    /// Replace the file if it exists
    #[arg(long)]
    pub force: bool,
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
    /// One row per corner
    #[arg(long, conflicts_with = "corner")]
    pub all_corners: bool,
    /// These parts only, with the rails and cables that feed them
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub item: Vec<String>,
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
    /// Instead of a plan: the pins of a generic board
    #[arg(long, value_name = "CLASS", conflicts_with_all = ["assign", "also"])]
    pub part: Option<String>,
    /// This board only
    #[arg(long, conflicts_with = "assign")]
    pub board: Option<String>,
    /// Free pins with these functions; `output` and `input` for none in particular
    #[arg(long, value_name = "ABILITY", value_delimiter = ',', conflicts_with = "assign")]
    pub supports: Vec<String>,
    /// Propose pins for everything written as `board.any`
    #[arg(long)]
    pub assign: bool,
    /// With --assign: parts whose pins are to be chosen again
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
    /// Position of every pixel of this panel
    #[arg(long, value_name = "PANEL", conflicts_with = "pattern")]
    pub coordinates: Option<String>,
    /// Test pattern that shows whether this panel is set up correctly
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
    /// A supply, branch, converter, board, strip or load, or one of their nodes
    pub name: String,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `odds`.
#[derive(clap::Args, Debug)]
pub struct Odds {
    /// The plan; `-` reads standard input
    pub plan: PathBuf,
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
    pub output: Option<PathBuf>,
    /// Scenario to show (several for `drop`); default: worst, for `drop` the continuous ones
    #[arg(long, value_delimiter = ',')]
    pub scenario: Vec<String>,
    /// What to draw: strips for `drop`, a board for `pins`, a panel for `panel` and `pattern`, a coil or motor for
    /// `release`; default: all strips, or the only one
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub item: Vec<String>,
    /// Replace the file if it exists
    #[arg(long)]
    pub force: bool,
}

/// The figures.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Figure {
    /// Supply tree: what feeds what, currents, and findings.
    Power,
    /// Voltage along strips, scenarios overlaid, with feed currents and limits.
    Drop,
    /// Header of a board: connections and currents.
    Pins,
    /// Data path over a panel, from the front and from behind.
    Panel,
    /// Test pattern of a panel, and how it looks with single mistakes.
    Pattern,
    /// Current of a coil or motor after its switch turns off.
    Release,
}

/// `about`.
#[derive(clap::Args, Debug)]
pub struct About {
    /// The code of a check, a word such as `rail` or `AWG`, a kind of table such as `strip`, or a generic part; without
    /// it all checks are listed
    pub word: Option<String>,
}

/// `catalogue`.
#[derive(clap::Args, Debug)]
pub struct Catalogue {
    /// Show only parts with this word in their name, title, kind or markings
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
    /// Every value nominal.
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
