//! The arguments of `size base`, `gate`, `flyback`, `relay`, `bridge` and `stage`.

use clap::ValueEnum;
use modest_ohm::size::ContactLoad;
use modest_ohm::units::{Amps, Celsius, Fraction, Henries, Hertz, KelvinsPerWatt, Ohms, Volts};

use super::{Choice, Format, quantity};

/// `size base`.
#[derive(clap::Args, Debug)]
pub struct SizeBase {
    /// Supply voltage of the pin
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub vdd: Volts,
    /// Output resistance of the pin
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub pin: Ohms,
    /// Continuous rating of the pin
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub recommended: Amps,
    /// Current of the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Base-emitter voltage, with tolerance or as a range [default: 0.7 V]
    #[arg(long, allow_hyphen_values = true)]
    pub vbe: Option<String>,
    /// Collector current over base current [default: 10; 250 for a Darlington pair]
    #[arg(long, value_parser = clap::value_parser!(u16).range(1..=10_000))]
    pub ratio: Option<u16>,
    /// Check this resistor instead
    #[arg(long, allow_hyphen_values = true, requires = "gain", value_parser = quantity::<Ohms>)]
    pub resistor: Option<Ohms>,
    /// Minimum current gain, for `--resistor`
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=1_000_000))]
    pub gain: Option<u32>,
    /// Supply voltage of the load, for `--resistor` [default: 12 V]
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
    /// Lowest gate voltage: the supply of the pin
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub gate_voltage: Volts,
    /// The MOSFET's part, as `mohm catalogue driver` lists them
    #[arg(long, required_unless_present = "specified")]
    pub part: Option<String>,
    /// Lowest V_GS at which its datasheet specifies R_DS(on)
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub specified: Option<Volts>,
    /// Its largest threshold V_GS(th)
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub threshold: Option<Volts>,
    /// Current rating
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub rating: Option<Amps>,
    /// Current of the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// PWM frequency: adds the switching loss
    #[arg(long, allow_hyphen_values = true, requires = "supply", value_parser = quantity::<Hertz>)]
    pub pwm: Option<Hertz>,
    /// Supply voltage of the load
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub supply: Option<Volts>,
    /// Gate resistor, the pin's resistance included [default: 140 Ω]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub resistor: Option<Ohms>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size flyback`.
#[derive(clap::Args, Debug)]
pub struct SizeFlyback {
    /// Current at turn-off, start and stall included
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Highest supply voltage
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub supply: Volts,
    /// Switched by PWM
    #[arg(long)]
    pub pwm: bool,
    /// Inductance of the coil: adds the release time
    #[arg(long, allow_hyphen_values = true, requires = "resistance", value_parser = quantity::<Henries>)]
    pub inductance: Option<Henries>,
    /// Resistance of the coil
    #[arg(long, allow_hyphen_values = true, requires = "inductance", value_parser = quantity::<Ohms>)]
    pub resistance: Option<Ohms>,
    /// A Zener diode in series with the diode
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub zener: Option<Volts>,
    /// Share of its current at which it releases [default: 10 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub release_at: Option<Fraction>,
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
    /// Supply voltage of the coil, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub rail: String,
    /// Voltage drop of the coil's driver [default: 0.2 V, a small transistor]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub drop: Option<Volts>,
    /// Coil temperature at pull-in [default: 40 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub coil_temperature: Option<Celsius>,
    /// Current through its contact
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// DC voltage at its contact
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub voltage: Volts,
    /// Kind of load
    #[arg(long, value_enum, default_value_t = Switches::Heater)]
    pub switches: Switches,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size bridge`.
#[derive(clap::Args, Debug)]
pub struct SizeBridge {
    /// Motor supply voltage, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub supply: String,
    /// Running current of the motor
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub running_current: Amps,
    /// Stall current of the motor
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub stall_current: Amps,
    /// Minimum voltage of the motor
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub min_voltage: Option<Volts>,
    /// The firmware always stops the motor before reversing
    #[arg(long)]
    pub from_rest: bool,
    /// Highest air temperature [default: 30 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub ambient: Option<Celsius>,
    /// Thermal resistance, junction to air [default: of its part]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<KelvinsPerWatt>)]
    pub theta_ja: Option<KelvinsPerWatt>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size driver`.
#[derive(clap::Args, Debug)]
pub struct SizeDriver {
    /// The load's part: a motor, pump, solenoid or lamp, as `mohm catalogue` lists them
    #[arg(long)]
    pub load: String,
    /// Supply voltage, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub rail: String,
    /// The part of the board whose pin switches it
    #[arg(long)]
    pub board: String,
    /// PWM frequency
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Hertz>)]
    pub pwm: Option<Hertz>,
    /// Its negative is its case: only its positive can be switched
    #[arg(long)]
    pub grounded: bool,
    /// It turns in both directions
    #[arg(long)]
    pub reversible: bool,
    /// Print the tables of a plan for this driver
    #[arg(long, value_name = "CLASS")]
    pub tables: Option<String>,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}
