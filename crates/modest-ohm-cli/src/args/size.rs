//! The arguments of `size`.

use std::path::PathBuf;

use clap::{Subcommand, ValueEnum};

use modest_ohm::units::{
    AmpHours, Amps, Celsius, Fraction, KelvinsPerWatt, Metres, Ohms, PerMetre, Seconds, Volts, Watts, WattsPerMetre,
};

use super::{
    Format, SizeBase, SizeBridge, SizeDivider, SizeFlyback, SizeFuse, SizeGate, SizeLed, SizeLevel, SizePair, SizePull,
    SizeRelay, SizeStage, SizeWire, quantity,
};

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
    /// Which wire: for the load, for a port's or device's limit, for the fuse or the source
    #[command(
        after_help = "Examples:\n  mohm size wire --current \"2.6 A\" --length \"3 m\" --volts \"12 V\"\n  mohm size wire --current \"2 A\" --length \"3 m\" --volts \"5 V\" --drop \"3 %\" --limit \"4 A\" --fuse \"7.5 A\" --metric"
    )]
    Wire(SizeWire),
    /// Which fuse for a current and the wires behind it, and whether it acts
    #[command(
        after_help = "Examples:\n  mohm size fuse --current \"4.2 A\" --wire \"16 AWG\" --wire \"18 AWG\"\n  mohm size fuse --current \"2.3 A\" --wire \"0.5 mm²\" --family cartridge --volts \"11.4 V\" --length \"6 m\" --source \"50 mΩ\""
    )]
    Fuse(SizeFuse),
    /// A wire and its fuse, chosen together
    #[command(
        after_help = "Examples:\n  mohm size pair --current \"8 A\" --length \"2 m\" --volts \"12 V\"\n  mohm size pair --current \"3 A\" --length \"4 m\" --volts \"24 V\" --family cartridge --together 3 --metric"
    )]
    Pair(SizePair),
    /// Where to feed a strip: the fewest feed points at their best places, with wires and fuses; and what else would do
    #[command(
        after_help = "Examples:\n  mohm size injection --part pixel-5v-rgb-12ma --length \"5 m\" --pixels \"60 /m\" --volts \"5 V ± 5 %\"\n  mohm size injection --plan plans/harbour-diorama.toml --strip shoreline --limit \"4.6 V\""
    )]
    Injection(SizeInjection),
    /// The largest firmware cap that a way carries, and what bounds it
    #[command(
        after_help = "Examples:\n  mohm size cap --pixels 120 --full \"61 mA\" --carries \"converter 5 A 80 % 0.35 A\"\n  mohm size cap --pixels 120 --full \"61 mA\" --carries \"converter 5 A 80 % 0.35 A\" --carries \"fuse 7.5 A 75 % 0.8 A 46 %\""
    )]
    Cap(SizeCap),
    /// Frames per second of a line of pixels, and how to split it
    #[command(
        after_help = "Examples:\n  mohm size frames --pixels 600\n  mohm size frames --pixels 2000 --wish 30 --colours 4"
    )]
    Frames(SizeFrames),
    /// The resistor of an LED: of a series or out of the drawer, at its worst, its heat
    #[command(
        after_help = "Examples:\n  mohm size led --supply \"12 V ± 5 %\" --part led-white --current \"20 mA\"\n  mohm size led --supply \"3.3 V ± 3 %\" --part led-red --current \"5 mA\" --pin \"33 Ω\" --series E12"
    )]
    Led(SizeLed),
    /// Two resistors that bring a range of volts inside a window, at every corner
    #[command(
        after_help = "Examples:\n  mohm size divider --input \"9 V .. 14.8 V\" --most \"3.3 V\" --least \"1.7 V\" --tolerance \"1 %\"\n  mohm size divider --input \"9 V .. 14.8 V\" --most 3.6V --least 2.48V --top 33k --bottom 10k"
    )]
    Divider(SizeDivider),
    /// A pull resistor: of a contact, an open collector or a two-line bus
    #[command(
        after_help = "Examples:\n  mohm size pull --rail \"3.3 V ± 3 %\" --low \"0.8 V\" --high \"2.5 V\"\n  mohm size pull --rail \"3.3 V ± 3 %\" --bus \"400 kHz\" --parts 3 --length \"0.4 m\""
    )]
    Pull(SizePull),
    /// What has to stand between two supplies: nothing, a resistor, a divider or which shifter, and why not the others
    #[command(
        after_help = "Examples:\n  mohm size level --from \"3.3 V ± 3 %\" --to \"5 V ± 5 %\" --high \"70 %\" --low \"30 %\" --rate \"800 kHz\"\n  mohm size level --from \"5 V ± 5 %\" --to \"3.3 V ± 3 %\" --high \"2.0 V\" --low \"0.8 V\" --rate \"10 kHz\""
    )]
    Level(SizeLevel),
    /// The base resistor of a transistor, or what it does with the one it has
    #[command(
        after_help = "Examples:\n  mohm size base --vdd \"5 V\" --pin \"40 Ω\" --recommended \"20 mA\" --current \"80 mA\"\n  mohm size base --vdd \"3.3 V\" --pin \"33 Ω\" --recommended \"12 mA\" --current \"200 mA\" --resistor \"4.7 kΩ\" --gain 50"
    )]
    Base(SizeBase),
    /// Whether a pin opens a MOSFET, and what its edges cost
    #[command(
        after_help = "Examples:\n  mohm size gate --gets \"3.2 V\" --part nmos-10v-60v --current \"0.8 A\"\n  mohm size gate --gets \"3.2 V\" --part nmos-logic-30v --current \"2 A\" --pwm \"20 kHz\" --supply \"12 V\""
    )]
    Gate(SizeGate),
    /// Which diode takes a winding's current, and how long that goes on
    #[command(
        after_help = "Examples:\n  mohm size flyback --current \"2.4 A\" --supply \"12.6 V\"\n  mohm size flyback --current \"0.5 A\" --supply \"12.6 V\" --inductance \"60 mH\" --resistance \"24 Ω\" --zener \"24 V\""
    )]
    Flyback(SizeFlyback),
    /// Which relay's coil pulls in on a rail, and whose contact switches a load
    #[command(
        after_help = "Examples:\n  mohm size relay --rail \"5 V ± 5 %\" --current \"0.8 A\" --volts \"12 V\" --switches motor\n  mohm size relay --rail \"12 V ± 5 %\" --current \"3 A\" --volts \"12 V\" --switches lamp"
    )]
    Relay(SizeRelay),
    /// Which bridge drives a motor, and what it leaves it
    #[command(
        after_help = "Examples:\n  mohm size bridge --supply \"6 V ± 5 %\" --runs \"0.25 A\" --stall \"0.9 A\" --wants \"4.5 V\"\n  mohm size bridge --supply \"12 V ± 5 %\" --runs \"0.5 A\" --stall \"2 A\" --from-rest"
    )]
    Bridge(SizeBridge),
    /// Which stages switch a load from a pin, the simplest first, each tried in a plan; and why the others do not
    #[command(
        after_help = "Examples:\n  mohm size stage --load pump-12v-small --rail \"12 V ± 5 %\" --board wifi-board-3v3\n  mohm size stage --load solenoid-12v --rail \"12 V ± 5 %\" --board board-5v-8bit --tables nmos-logic-55v"
    )]
    Stage(SizeStage),
}

/// `size injection`.
#[derive(clap::Args, Debug)]
pub struct SizeInjection {
    /// A plan; `-` reads standard input
    #[arg(long, requires = "strip", conflicts_with_all = ["part", "length", "pixels", "leds", "volts", "power", "lead", "copper"])]
    pub plan: Option<PathBuf>,
    /// One of its strips
    #[arg(long, requires = "plan")]
    pub strip: Option<String>,
    /// Without a plan: the class of the strip, as `catalogue strip` lists them
    #[arg(long, required_unless_present = "plan")]
    pub part: Option<String>,
    /// Its length
    #[arg(long, required_unless_present = "plan", allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Option<Metres>,
    /// Pixels per metre
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<PerMetre>)]
    pub pixels: Option<PerMetre>,
    /// LEDs per metre, where its label counts those
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<PerMetre>)]
    pub leds: Option<PerMetre>,
    /// Watts per metre, as its label gives them
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<WattsPerMetre>)]
    pub power: Option<WattsPerMetre>,
    /// Its copper, Ω/m of each conductor
    #[arg(long, allow_hyphen_values = true)]
    pub copper: Option<String>,
    /// The supply's volts
    #[arg(long, required_unless_present = "plan", allow_hyphen_values = true)]
    pub volts: Option<String>,
    /// From the supply to the start of the strip [default: 0.5 m]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub lead: Option<Metres>,
    /// The size of the leads [default: the plan's, else 18 AWG]
    #[arg(long)]
    pub wire: Option<String>,
    /// What every pixel has to get [default: the sheet's lowest volts]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub limit: Option<Volts>,
    /// At most so many feed points
    #[arg(long, default_value_t = 8, value_parser = clap::value_parser!(u8).range(1..=40))]
    pub most: u8,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size cap`.
#[derive(clap::Args, Debug)]
pub struct SizeCap {
    /// How many pixels
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=2_000_000))]
    pub pixels: u32,
    /// What one draws at full white
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub full: Amps,
    /// What one draws when it is dark [default: 1 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub dark: Option<Amps>,
    /// Something on its way: name, rating, the share of it that may be used, what else flows there, and the part of the
    /// strip's amps that flows through it [default of the last three: 80 %, 0 A, 100 %]; as often as there are such
    #[arg(long, required = true)]
    pub carries: Vec<String>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size frames`.
#[derive(clap::Args, Debug)]
pub struct SizeFrames {
    /// How many pixels on the line
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=2_000_000))]
    pub pixels: u32,
    /// Colours of a pixel, 8 bits each
    #[arg(long, default_value_t = 3, value_parser = clap::value_parser!(u8).range(1..=8))]
    pub colours: u8,
    /// Clock and data instead of one wire: the clock's period
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Seconds>)]
    pub clocked: Option<Seconds>,
    /// Frames a second that are wished
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=100_000))]
    pub wish: Option<u32>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
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
    /// What a linear one takes for itself [default: 5 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub own_current: Option<Amps>,
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
