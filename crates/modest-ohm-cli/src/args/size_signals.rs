//! The arguments of `size led`, `divider`, `pull` and `level`.

use std::path::PathBuf;

use modest_ohm::units::{Amps, Fraction, Hertz, Metres, Ohms, Volts, Watts};

use super::{Format, quantity};

/// The values to choose from.
#[derive(clap::Args, Debug)]
pub struct Choice {
    /// Series of preferred values, E3 to E192 [default: E24]
    #[arg(long, conflicts_with = "stock")]
    pub e_series: Option<String>,
    /// Own stock: a CSV file with one resistance per row
    #[arg(long)]
    pub stock: Option<PathBuf>,
}

/// `size led`.
#[derive(clap::Args, Debug)]
pub struct SizeLed {
    /// Supply voltage, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub supply: String,
    /// The LED's part, as `mohm catalogue led` lists them
    #[arg(long, required_unless_present = "vf")]
    pub part: Option<String>,
    /// Forward voltage, with tolerance or as a range; one number counts 10 % less at worst
    #[arg(long, allow_hyphen_values = true)]
    pub vf: Option<String>,
    /// LEDs in series
    #[arg(long, default_value_t = 1, value_parser = clap::value_parser!(u8).range(1..=100))]
    pub in_series: u8,
    /// Required current
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Forward voltage of a diode in series, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub diode: Option<String>,
    /// Resistance of the pin that drives it, if a pin does
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub pin: Option<Ohms>,
    /// Tolerance of the resistor [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// Power rating of the resistor [default: 0.25 W]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Watts>)]
    pub rated: Option<Watts>,
    /// Minimum current
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub minimum: Option<Amps>,
    /// Recommended continuous current of the LED [default: of its part]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub recommended: Option<Amps>,
    /// Absolute maximum current [default: of its part]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub absolute: Option<Amps>,
    /// The values to choose from
    #[command(flatten)]
    pub choice: Choice,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size divider`.
#[derive(clap::Args, Debug)]
pub struct SizeDivider {
    /// Input range: from the lowest level that must read high to the highest voltage
    #[arg(long, allow_hyphen_values = true)]
    pub input: String,
    /// Upper limit of the output: the pin's maximum, or an ADC's full scale
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub max: Volts,
    /// Lower limit of the output at a high level: V_IH, or the ADC threshold
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub min: Volts,
    /// Tolerance of both resistors [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// Check this pair instead: the resistor to the source
    #[arg(long, allow_hyphen_values = true, requires = "bottom", value_parser = quantity::<Ohms>)]
    pub top: Option<Ohms>,
    /// And the resistor to ground
    #[arg(long, allow_hyphen_values = true, requires = "top", value_parser = quantity::<Ohms>)]
    pub bottom: Option<Ohms>,
    /// Largest source resistance at its tap [default: 10 kΩ, for ADC inputs]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub source: Option<Ohms>,
    /// Largest current from its source [default: 5 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub max_current: Option<Amps>,
    /// The source is a vehicle: transients of −150 V and 101 V must drive at most 1 mA through the pin
    #[arg(long)]
    pub vehicle: bool,
    /// Number of pairs to list
    #[arg(long, default_value_t = 5, value_parser = clap::value_parser!(u8).range(1..=50))]
    pub list: u8,
    /// The values to choose from
    #[command(flatten)]
    pub choice: Choice,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size pull`.
#[derive(clap::Args, Debug)]
pub struct SizePull {
    /// Voltage of its rail, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub rail: String,
    /// V_IL of the input, a voltage or a percentage of the rail
    #[arg(long, allow_hyphen_values = true, required_unless_present = "bus")]
    pub low: Option<String>,
    /// V_IH of the input, a voltage or a percentage of the rail
    #[arg(long, allow_hyphen_values = true, required_unless_present = "bus")]
    pub high: Option<String>,
    /// Resistance of the closed contact [default: 50 Ω]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub contact: Option<Ohms>,
    /// Of an open collector: its voltage while it conducts [default: 0 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub closed: Option<Volts>,
    /// Leakage while it is open [default: 1 µA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub leak: Option<Amps>,
    /// Tolerance of the resistor [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// Wetting current, 1 mA for a power contact [default: none]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub wetting: Option<Amps>,
    /// Largest current while it is closed [default: 5 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub max_current: Option<Amps>,
    /// Instead: an I²C bus of this clock
    #[arg(long, allow_hyphen_values = true, conflicts_with_all = ["low", "high", "contact", "closed", "leak", "wetting", "max_current"], value_parser = quantity::<Hertz>)]
    pub bus: Option<Hertz>,
    /// Parts on the bus, board included [default: 2]
    #[arg(long, requires = "bus", value_parser = clap::value_parser!(u8).range(1..=120))]
    pub parts: Option<u8>,
    /// Total length of its cables [default: 0.3 m]
    #[arg(long, allow_hyphen_values = true, requires = "bus", value_parser = quantity::<Metres>)]
    pub length: Option<Metres>,
    /// The values to choose from
    #[command(flatten)]
    pub choice: Choice,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size level`.
#[derive(clap::Args, Debug)]
pub struct SizeLevel {
    /// Supply voltage of the driver, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub from: String,
    /// Supply voltage of the receiver
    #[arg(long, allow_hyphen_values = true)]
    pub to: String,
    /// V_IH of the receiver, a voltage or a percentage of its supply
    #[arg(long, allow_hyphen_values = true)]
    pub high: String,
    /// V_IL of the receiver, a voltage or a percentage of its supply
    #[arg(long, allow_hyphen_values = true)]
    pub low: String,
    /// Absolute maximum of the receiver's input, if it does not clamp to its supply
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub max: Option<Volts>,
    /// Output resistance of the driver [default: 33 Ω]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub pin: Option<Ohms>,
    /// Ground shift between the two [default: 0 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub shift: Option<Volts>,
    /// Rate of the signal [default: 10 kHz]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Hertz>)]
    pub rate: Option<Hertz>,
    /// Cable to the receiver [default: 0.3 m]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Option<Metres>,
    /// Both ends drive; the input at the other end is of the same kind, at its own supply
    #[arg(long)]
    pub bidirectional: bool,
    /// Tolerance of the resistors [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// The values to choose from
    #[command(flatten)]
    pub choice: Choice,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}
