//! The arguments of `size base`, `gate`, `flyback`, `relay`, `bridge` and `stage`.

use clap::ValueEnum;
use modest_ohm::size::ContactLoad;
use modest_ohm::units::{Amps, Celsius, Fraction, Henries, Hertz, KelvinsPerWatt, Ohms, Volts};

use super::{Choice, Format, quantity};

/// `size base`.
#[derive(clap::Args, Debug)]
pub struct SizeBase {
    /// The supply of the pin
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub vdd: Volts,
    /// The pin's own resistance
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub pin: Ohms,
    /// What the pin may carry for long
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub recommended: Amps,
    /// The current of the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Base to emitter, with tolerance or as a range [default: 0.7 V]
    #[arg(long, allow_hyphen_values = true)]
    pub vbe: Option<String>,
    /// Collector current over base current [default: 10; 250 for a Darlington pair]
    #[arg(long, value_parser = clap::value_parser!(u16).range(1..=10_000))]
    pub ratio: Option<u16>,
    /// Work out this resistor instead
    #[arg(long, allow_hyphen_values = true, requires = "gain", value_parser = quantity::<Ohms>)]
    pub resistor: Option<Ohms>,
    /// The least current gain, for `--resistor`
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=1_000_000))]
    pub gain: Option<u32>,
    /// What feeds the load, for `--resistor` [default: 12 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub supply: Option<Volts>,
    /// The values to choose from
    #[command(flatten)]
    pub choice: Choice,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size gate`.
#[derive(clap::Args, Debug)]
pub struct SizeGate {
    /// What the gate gets: the supply of the pin, at the least
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub gets: Volts,
    /// The class of the MOSFET, as `catalogue driver` lists them
    #[arg(long, required_unless_present = "specified")]
    pub part: Option<String>,
    /// The least V_GS for which its sheet gives R_DS(on)
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub specified: Option<Volts>,
    /// Its largest threshold V_GS(th)
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub threshold: Option<Volts>,
    /// What it is rated for
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub rating: Option<Amps>,
    /// The current of the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// How often it is switched: what its edges cost is worked out as well
    #[arg(long, allow_hyphen_values = true, requires = "supply", value_parser = quantity::<Hertz>)]
    pub pwm: Option<Hertz>,
    /// What feeds the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub supply: Option<Volts>,
    /// In front of the gate, the pin's own resistance included [default: 140 Ω]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub resistor: Option<Ohms>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size flyback`.
#[derive(clap::Args, Debug)]
pub struct SizeFlyback {
    /// What flows when it is let go, its start or stall included
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// What feeds it, at the most
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub supply: Volts,
    /// It is switched over and over, by PWM
    #[arg(long)]
    pub pwm: bool,
    /// The winding's inductance: how long its current goes on is worked out as well
    #[arg(long, allow_hyphen_values = true, requires = "resistance", value_parser = quantity::<Henries>)]
    pub inductance: Option<Henries>,
    /// The winding's resistance
    #[arg(long, allow_hyphen_values = true, requires = "inductance", value_parser = quantity::<Ohms>)]
    pub resistance: Option<Ohms>,
    /// A Zener diode in series with the diode
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub zener: Option<Volts>,
    /// The share of its current at which it lets go [default: 10 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub lets_go: Option<Fraction>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// What a contact switches.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Switches {
    /// Heaters, LEDs behind resistors.
    Heater,
    /// A coil, a valve, a lock.
    Coil,
    /// A motor, a pump.
    Motor,
    /// A filament lamp.
    Lamp,
    /// Electronics: capacitors charge.
    Electronics,
}

impl From<Switches> for ContactLoad {
    fn from(s: Switches) -> Self {
        match s {
            Switches::Heater => ContactLoad::Resistive,
            Switches::Coil => ContactLoad::Coil,
            Switches::Motor => ContactLoad::Motor,
            Switches::Lamp => ContactLoad::Lamp,
            Switches::Electronics => ContactLoad::Capacitive,
        }
    }
}

/// `size relay`.
#[derive(clap::Args, Debug)]
pub struct SizeRelay {
    /// What feeds the coil, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub rail: String,
    /// What drives the coil drops [default: 0.2 V, a small transistor]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub drop: Option<Volts>,
    /// How warm its coil is when it has to pull in [default: 40 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub warm: Option<Celsius>,
    /// The current that its contact switches
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// At which direct volts
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub volts: Volts,
    /// What it switches
    #[arg(long, value_enum, default_value_t = Switches::Heater)]
    pub switches: Switches,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size bridge`.
#[derive(clap::Args, Debug)]
pub struct SizeBridge {
    /// The motor supply, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub supply: String,
    /// What the motor runs with
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub runs: Amps,
    /// What it takes held
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub stall: Amps,
    /// The least volts that it wants
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub wants: Option<Volts>,
    /// The firmware always lets it stop before it turns it round
    #[arg(long)]
    pub from_rest: bool,
    /// The warmest air [default: 30 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub ambient: Option<Celsius>,
    /// Junction to air of the one that is taken [default: of its class]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<KelvinsPerWatt>)]
    pub theta: Option<KelvinsPerWatt>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size stage`.
#[derive(clap::Args, Debug)]
pub struct SizeStage {
    /// The class of the load: a motor, a pump, a solenoid, a lamp; as `catalogue` lists them
    #[arg(long)]
    pub load: String,
    /// The rail that feeds it, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub rail: String,
    /// The class of the board whose pin is to switch it
    #[arg(long)]
    pub board: String,
    /// How often it is switched
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Hertz>)]
    pub pwm: Option<Hertz>,
    /// Its − is its case: only its + can be switched
    #[arg(long)]
    pub grounded: bool,
    /// It is to turn both ways
    #[arg(long)]
    pub both_ways: bool,
    /// Print the tables of a plan for this stage
    #[arg(long, value_name = "CLASS")]
    pub tables: Option<String>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}
