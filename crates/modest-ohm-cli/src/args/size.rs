//! The arguments of `size`.

use std::path::PathBuf;

use clap::{Subcommand, ValueEnum};

use modest_ohm::units::{
    AmpHours, Amps, Celsius, Fraction, KelvinsPerWatt, Metres, Ohms, PerMetre, Seconds, Volts, Watts, WattsPerMetre,
};

use super::{
    Format, SizeBase, SizeBridge, SizeDivider, SizeDriver, SizeFlyback, SizeFuse, SizeGate, SizeLed, SizeLevel,
    SizePull, SizeRelay, SizeWire, SizeWireAndFuse, quantity,
};

/// `size`.
#[derive(Subcommand, Debug)]
pub enum Size {
    /// Choose a supply for these loads
    #[command(
        after_help = "Examples:\n  mohm size supply \"12 V\" \"2.5 A\" \"800 mA\"\n  mohm size supply \"9 V\" \"1.5 A\" --source-power \"45 W\""
    )]
    Supply(SizeSupply),
    /// Linear or switching regulator: heat, junction, input current
    #[command(
        after_help = "Examples:\n  mohm size regulator --input \"12 V ± 5 %\" --output \"5 V\" --current \"150 mA\"\n  mohm size regulator --input \"7 V .. 12 V\" --output \"5 V\" --current \"100 mA\" --theta-ja \"85 K/W\""
    )]
    Regulator(SizeRegulator),
    /// Choose cells for a runtime, in series and parallel
    #[command(
        after_help = "Examples:\n  mohm size battery --power \"5 W\" --voltage \"9 V .. 13 V\" --runtime \"4 h\"\n  mohm size battery --power \"20 W\" --voltage \"10 V .. 15 V\" --runtime \"3 h\" --cell lead-acid-12v --cell-charge \"7 Ah\""
    )]
    Battery(SizeBattery),
    /// Choose a capacitor for a load step
    #[command(
        after_help = "Examples:\n  mohm size capacitor --step \"2 A\" --dip \"0.25 V\"\n  mohm size capacitor --step \"2 A\" --dip \"0.25 V\" --delay \"200 µs\" --esr \"30 mΩ\""
    )]
    Capacitor(SizeCapacitor),
    /// Choose a wire: for the load, for the limit of a port or device, for the fuse or source
    #[command(
        after_help = "Examples:\n  mohm size wire --current \"2.6 A\" --length \"3 m\" --voltage \"12 V\"\n  mohm size wire --current \"2 A\" --length \"3 m\" --voltage \"5 V\" --drop \"3 %\" --limit \"4 A\" --fuse \"7.5 A\" --metric"
    )]
    Wire(SizeWire),
    /// Choose a fuse for a current and its wires; whether a short circuit blows it
    #[command(
        after_help = "Examples:\n  mohm size fuse --current \"4.2 A\" --wire \"16 AWG\" --wire \"18 AWG\"\n  mohm size fuse --current \"2.3 A\" --wire \"0.5 mm²\" --family cartridge --voltage \"11.4 V\" --length \"6 m\" --source \"50 mΩ\""
    )]
    Fuse(SizeFuse),
    /// Choose a wire and its fuse together
    #[command(
        after_help = "Examples:\n  mohm size wire-and-fuse --current \"8 A\" --length \"2 m\" --voltage \"12 V\"\n  mohm size wire-and-fuse --current \"3 A\" --length \"4 m\" --voltage \"24 V\" --family cartridge --bundle 3 --metric"
    )]
    WireAndFuse(SizeWireAndFuse),
    /// Where to feed a strip: fewest feed points, best places, cables and fuses; other options
    #[command(
        after_help = "Examples:\n  mohm size injection --part pixel-5v-rgb-12ma --length \"5 m\" --pixels \"60 /m\" --voltage \"5 V ± 5 %\"\n  mohm size injection --plan plans/harbour-diorama.toml --strip shoreline --min-voltage \"4.6 V\""
    )]
    Injection(SizeInjection),
    /// Largest firmware limit that a supply path is rated for, and what limits it
    #[command(
        after_help = "Examples:\n  mohm size firmware-limit --pixels 120 --full-white \"61 mA\" --path-limit \"converter 5 A 80 % 0.35 A\"\n  mohm size firmware-limit --pixels 120 --full-white \"61 mA\" --path-limit \"converter 5 A 80 % 0.35 A\" --path-limit \"fuse 7.5 A 75 % 0.8 A 46 %\""
    )]
    FirmwareLimit(SizeFirmwareLimit),
    /// Frames per second of a line of pixels, and how to split it
    #[command(
        after_help = "Examples:\n  mohm size frames --pixels 600\n  mohm size frames --pixels 2000 --fps 30 --colours 4"
    )]
    Frames(SizeFrames),
    /// Series resistor for an LED: E-series or own stock, worst-case current and dissipation
    #[command(
        after_help = "Examples:\n  mohm size led --supply \"12 V ± 5 %\" --part led-white --current \"20 mA\"\n  mohm size led --supply \"3.3 V ± 3 %\" --part led-red --current \"5 mA\" --pin \"33 Ω\" --e-series E12"
    )]
    Led(SizeLed),
    /// Voltage divider that keeps a range of input voltages within a window
    #[command(
        after_help = "Examples:\n  mohm size divider --input \"9 V .. 14.8 V\" --max \"3.3 V\" --min \"1.7 V\" --tolerance \"1 %\"\n  mohm size divider --input \"9 V .. 14.8 V\" --max 3.6V --min 2.48V --top 33k --bottom 10k"
    )]
    Divider(SizeDivider),
    /// Pull resistor for a contact, an open collector or a two-wire bus
    #[command(
        after_help = "Examples:\n  mohm size pull --rail \"3.3 V ± 3 %\" --low \"0.8 V\" --high \"2.5 V\"\n  mohm size pull --rail \"3.3 V ± 3 %\" --bus \"400 kHz\" --parts 3 --length \"0.4 m\""
    )]
    Pull(SizePull),
    /// Level shifting between two supplies: nothing, resistor, divider or shifter, with reasons
    #[command(
        after_help = "Examples:\n  mohm size level --from \"3.3 V ± 3 %\" --to \"5 V ± 5 %\" --high \"70 %\" --low \"30 %\" --rate \"800 kHz\"\n  mohm size level --from \"5 V ± 5 %\" --to \"3.3 V ± 3 %\" --high \"2.0 V\" --low \"0.8 V\" --rate \"10 kHz\""
    )]
    Level(SizeLevel),
    /// Base resistor of a transistor, or a check of the one it has
    #[command(
        after_help = "Examples:\n  mohm size base --vdd \"5 V\" --pin \"40 Ω\" --recommended \"20 mA\" --current \"80 mA\"\n  mohm size base --vdd \"3.3 V\" --pin \"33 Ω\" --recommended \"12 mA\" --current \"200 mA\" --resistor \"4.7 kΩ\" --gain 50"
    )]
    Base(SizeBase),
    /// Whether a pin turns a MOSFET on fully, and its switching loss
    #[command(
        after_help = "Examples:\n  mohm size gate --gate-voltage \"3.2 V\" --part nmos-10v-60v --current \"0.8 A\"\n  mohm size gate --gate-voltage \"3.2 V\" --part nmos-logic-30v --current \"2 A\" --pwm \"20 kHz\" --supply \"12 V\""
    )]
    Gate(SizeGate),
    /// Flyback diode for a coil or motor, and the release time
    #[command(
        after_help = "Examples:\n  mohm size flyback --current \"2.4 A\" --supply \"12.6 V\"\n  mohm size flyback --current \"0.5 A\" --supply \"12.6 V\" --inductance \"60 mH\" --resistance \"24 Ω\" --zener \"24 V\""
    )]
    Flyback(SizeFlyback),
    /// Choose a relay: coil for a rail, contact for a load
    #[command(
        after_help = "Examples:\n  mohm size relay --rail \"5 V ± 5 %\" --current \"0.8 A\" --voltage \"12 V\" --switches motor\n  mohm size relay --rail \"12 V ± 5 %\" --current \"3 A\" --voltage \"12 V\" --switches lamp"
    )]
    Relay(SizeRelay),
    /// Choose a motor bridge; voltage left for the motor
    #[command(
        after_help = "Examples:\n  mohm size bridge --supply \"6 V ± 5 %\" --running-current \"0.25 A\" --stall-current \"0.9 A\" --min-voltage \"4.5 V\"\n  mohm size bridge --supply \"12 V ± 5 %\" --running-current \"0.5 A\" --stall-current \"2 A\" --from-rest"
    )]
    Bridge(SizeBridge),
    /// Choose a driver for a load and a pin, simplest first, each tried in a plan; reasons against the others
    #[command(
        after_help = "Examples:\n  mohm size driver --load pump-12v-small --rail \"12 V ± 5 %\" --board wifi-board-3v3\n  mohm size driver --load solenoid-12v --rail \"12 V ± 5 %\" --board board-5v-8bit --tables nmos-logic-55v"
    )]
    Driver(SizeDriver),
}

/// `size injection`.
#[derive(clap::Args, Debug)]
pub struct SizeInjection {
    /// A plan; `-` reads standard input
    #[arg(long, requires = "strip", conflicts_with_all = ["part", "length", "pixels", "leds", "voltage", "power", "cable_length", "copper"])]
    pub plan: Option<PathBuf>,
    /// One of its strips
    #[arg(long, requires = "plan")]
    pub strip: Option<String>,
    /// Without a plan: the strip's part, as `mohm catalogue strip` lists them
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
    /// Power per metre, as printed on its label
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<WattsPerMetre>)]
    pub power: Option<WattsPerMetre>,
    /// Its copper resistance per metre of each conductor
    #[arg(long, allow_hyphen_values = true)]
    pub copper: Option<String>,
    /// Supply voltage; without a tolerance ± 5 %, as of an adapter in a plan
    #[arg(long, required_unless_present = "plan", allow_hyphen_values = true)]
    pub voltage: Option<String>,
    /// Cable from the supply to the start of the strip [default: 0.5 m]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub cable_length: Option<Metres>,
    /// Cable size [default: the plan's, else 18 AWG]
    #[arg(long)]
    pub wire: Option<String>,
    /// Minimum voltage of every pixel [default: its lower recommended voltage]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub min_voltage: Option<Volts>,
    /// Largest number of feed points
    #[arg(long, default_value_t = 8, value_parser = clap::value_parser!(u8).range(1..=40))]
    pub max_feeds: u8,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size firmware-limit`.
#[derive(clap::Args, Debug)]
pub struct SizeFirmwareLimit {
    /// Number of pixels
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=2_000_000))]
    pub pixels: u32,
    /// Current of one pixel at full white
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub full_white: Amps,
    /// Current of one dark pixel [default: 1 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub quiescent: Option<Amps>,
    /// Something on its supply path: name, rating, usable share, current of other loads, share of the
    /// strip's current that flows through it [defaults of the last three: 80 %, 0 A, 100 %]; repeatable
    #[arg(long, required = true)]
    pub path_limit: Vec<String>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size frames`.
#[derive(clap::Args, Debug)]
pub struct SizeFrames {
    /// Pixels on the line
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=2_000_000))]
    pub pixels: u32,
    /// Colours per pixel, 8 bits each
    #[arg(long, default_value_t = 3, value_parser = clap::value_parser!(u8).range(1..=8))]
    pub colours: u8,
    /// Clock and data instead of one wire: the clock's period
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Seconds>)]
    pub clocked: Option<Seconds>,
    /// Required frames per second
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=100_000))]
    pub fps: Option<u32>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size supply`.
#[derive(clap::Args, Debug)]
pub struct SizeSupply {
    /// Voltage of the rail
    #[arg(value_parser = quantity::<Volts>)]
    pub voltage: Volts,
    /// Largest continuous current of each load
    #[arg(required = true, value_parser = quantity::<Amps>)]
    pub loads: Vec<Amps>,
    /// Headroom: the share of the rating to leave unused [default: 20 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub headroom: Option<Fraction>,
    /// Power of a negotiated source: which of its profiles are suitable
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Watts>)]
    pub source_power: Option<Watts>,
    /// Its cable is marked for more than 3 A
    #[arg(long, requires = "source_power")]
    pub marked_cable: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size regulator`.
#[derive(clap::Args, Debug)]
pub struct SizeRegulator {
    /// Input voltage, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub input: String,
    /// Output voltage
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub output: Volts,
    /// Output current
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Own current of a linear regulator [default: 5 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub own_current: Option<Amps>,
    /// Air temperature [default: 25 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub ambient: Option<Celsius>,
    /// Dropout voltage [default: 2 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub dropout: Option<Volts>,
    /// Thermal resistance, junction to air [default: 62 K/W, TO-220 without a heatsink]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<KelvinsPerWatt>)]
    pub theta_ja: Option<KelvinsPerWatt>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size battery`.
#[derive(clap::Args, Debug)]
pub struct SizeBattery {
    /// Power of the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Watts>)]
    pub power: Watts,
    /// Voltage range of the load
    #[arg(long, allow_hyphen_values = true)]
    pub voltage: String,
    /// Required runtime
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Seconds>)]
    pub runtime: Seconds,
    /// Cell type; without it all are tried
    #[arg(long)]
    pub cell: Option<String>,
    /// Charge of one cell, if its type has no usual size or yours differs
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<AmpHours>)]
    pub cell_charge: Option<AmpHours>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size capacitor`.
#[derive(clap::Args, Debug)]
pub struct SizeCapacitor {
    /// Load step
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub step: Amps,
    /// Allowed dip of the rail
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub dip: Volts,
    /// Source of the rail: an adapter follows after 500 µs, a converter after 50 µs
    #[arg(long, value_enum, default_value_t = Follows::Adapter)]
    pub source: Follows,
    /// Time until the source follows, if known
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Seconds>)]
    pub delay: Option<Seconds>,
    /// ESR of the capacitor [default: 50 mΩ]
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
    /// A converter, or a cable to a stiff source.
    Converter,
}
