//! The command line: verbs in the order of the work.

use std::path::PathBuf;

use clap::{Parser, Subcommand, ValueEnum};
use modest_ohm::{
    AmpHours, Amps, Celsius, Corner, Fraction, KelvinsPerWatt, Ohms, Quantity, Seconds, Severity, Volts, Watts,
    parse_quantity,
};

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
    /// How far the volts fall along strips, at loads and on data lines
    #[command(
        after_help = "Examples:\n  mohm drop plans/harbour-diorama.toml\n  mohm drop plans/harbour-diorama.toml --scenario night --corner low"
    )]
    Drop(Tables),
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
        after_help = "Examples:\n  mohm draw power plans/harbour-diorama.toml --to power.svg\n  mohm draw power plans/harbour-first-draft.toml --to power.png --scenario start"
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

/// `size`.
#[derive(Subcommand, Debug)]
pub enum Size {
    /// Which supply carries these loads
    #[command(
        after_help = "Examples:\n  mohm size supply \"12 V\" \"2.5 A\" \"800 mA\"\n  mohm size supply \"9 V\" \"1.5 A\" --offers \"45 W\""
    )]
    Supply(SizeSupply),
    /// Linear or switching: heat, junction, input
    #[command(
        after_help = "Examples:\n  mohm size regulator --input \"12 V ± 5 %\" --output \"5 V\" --current \"150 mA\"\n  mohm size regulator --input \"7 V .. 12 V\" --output \"5 V\" --current \"100 mA\" --theta \"85 K/W\""
    )]
    Regulator(SizeRegulator),
    /// Which cells last, in series and parallel
    #[command(
        after_help = "Examples:\n  mohm size battery --power \"5 W\" --volts \"9 V .. 13 V\" --lasts \"4 h\"\n  mohm size battery --power \"20 W\" --volts \"10 V .. 15 V\" --lasts \"3 h\" --cell lead-acid-12v --cell-charge \"7 Ah\""
    )]
    Battery(SizeBattery),
    /// Which capacitor holds a dip
    #[command(
        after_help = "Examples:\n  mohm size capacitor --step \"2 A\" --dip \"0.25 V\"\n  mohm size capacitor --step \"2 A\" --dip \"0.25 V\" --delay \"200 µs\" --esr \"30 mΩ\""
    )]
    Capacitor(SizeCapacitor),
}

/// `size supply`.
#[derive(clap::Args, Debug)]
pub struct SizeSupply {
    /// The rail's volts
    #[arg(value_parser = quantity::<Volts>)]
    pub volts: Volts,
    /// What each load takes at its largest for long
    #[arg(required = true, value_parser = quantity::<Amps>)]
    pub loads: Vec<Amps>,
    /// The share that stays unused [default: 20 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub headroom: Option<Fraction>,
    /// The watts of a negotiated source: which of its profiles do
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Watts>)]
    pub offers: Option<Watts>,
    /// Its lead is marked for more than 3 A
    #[arg(long, requires = "offers")]
    pub marked_cable: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size regulator`.
#[derive(clap::Args, Debug)]
pub struct SizeRegulator {
    /// Its input: volts with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub input: String,
    /// Its output
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub output: Volts,
    /// What it delivers
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// The air around it [default: 25 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub ambient: Option<Celsius>,
    /// Least input above its output [default: 2 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub dropout: Option<Volts>,
    /// Junction against air [default: 62 K/W, TO-220 without a sink]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<KelvinsPerWatt>)]
    pub theta: Option<KelvinsPerWatt>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size battery`.
#[derive(clap::Args, Debug)]
pub struct SizeBattery {
    /// The power of what it feeds
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Watts>)]
    pub power: Watts,
    /// The volts between which that works
    #[arg(long, allow_hyphen_values = true)]
    pub volts: String,
    /// How long it should last
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Seconds>)]
    pub lasts: Seconds,
    /// A class of cell; without it all are tried
    #[arg(long)]
    pub cell: Option<String>,
    /// The charge of one cell, where its class has no usual size or yours differs
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<AmpHours>)]
    pub cell_charge: Option<AmpHours>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size capacitor`.
#[derive(clap::Args, Debug)]
pub struct SizeCapacitor {
    /// How much more current is drawn at once
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub step: Amps,
    /// How far the rail may dip
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub dip: Volts,
    /// What feeds the rail: an adapter follows after 500 µs, a converter after 50 µs
    #[arg(long, value_enum, default_value_t = Follows::Adapter)]
    pub source: Follows,
    /// The time after which the source follows, where you know it
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Seconds>)]
    pub delay: Option<Seconds>,
    /// The capacitor's series resistance [default: 50 mΩ]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub esr: Option<Ohms>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// What has to follow a load step.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Follows {
    /// A mains adapter.
    Adapter,
    /// A converter, or a lead to a stiff source.
    Converter,
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
    /// The scenario to show; *worst* if not said
    #[arg(long)]
    pub scenario: Option<String>,
    /// Replace the file if it is there
    #[arg(long)]
    pub force: bool,
}

/// The figures.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Figure {
    /// The supply tree: what feeds what, how much flows, and where the trouble is.
    Power,
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
