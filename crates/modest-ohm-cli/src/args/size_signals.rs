//! The arguments of `size led`, `divider`, `pull` and `level`.

use std::path::PathBuf;

use modest_ohm::units::{Amps, Fraction, Hertz, Metres, Ohms, Volts, Watts};

use super::{Format, quantity};

/// The values to choose from.
#[derive(clap::Args, Debug)]
pub struct Choice {
    /// A series of preferred values, E3 to E192 [default: E24]
    #[arg(long, conflicts_with = "stock")]
    pub series: Option<String>,
    /// What is in the drawer: a CSV file with a resistance in each row
    #[arg(long)]
    pub stock: Option<PathBuf>,
}

/// `size led`.
#[derive(clap::Args, Debug)]
pub struct SizeLed {
    /// The supply, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub supply: String,
    /// The class of the LED, as `catalogue led` lists them
    #[arg(long, required_unless_present = "vf")]
    pub part: Option<String>,
    /// Its forward volts, with tolerance or as a range; one number counts 10 % less at the worst
    #[arg(long, allow_hyphen_values = true)]
    pub vf: Option<String>,
    /// How many in series
    #[arg(long, default_value_t = 1, value_parser = clap::value_parser!(u8).range(1..=100))]
    pub in_series: u8,
    /// The current that is wanted
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// A diode in series: its forward volts, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub diode: Option<String>,
    /// The resistance of the pin that drives it, where a pin does
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub pin: Option<Ohms>,
    /// Of the resistor [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// What the resistor stands [default: 0.25 W]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Watts>)]
    pub rated: Option<Watts>,
    /// The least current that is wished
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub wanted: Option<Amps>,
    /// What the LED carries for long [default: of its class]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub recommended: Option<Amps>,
    /// Its absolute maximum [default: of its class]
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
    /// From the smallest high that has to count to the largest volts that can come
    #[arg(long, allow_hyphen_values = true)]
    pub input: String,
    /// What may arrive at the most: the pin's maximum, or an analogue input's full scale
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub most: Volts,
    /// What has to arrive at the least: VIH, or the analogue threshold
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub least: Volts,
    /// Of both resistors [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// Work out this pair instead: the resistor to the source
    #[arg(long, allow_hyphen_values = true, requires = "bottom", value_parser = quantity::<Ohms>)]
    pub top: Option<Ohms>,
    /// And the one to ground
    #[arg(long, allow_hyphen_values = true, requires = "top", value_parser = quantity::<Ohms>)]
    pub bottom: Option<Ohms>,
    /// The most that its tap may look like [default: 10 kΩ, what analogue inputs want]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub source: Option<Ohms>,
    /// The most that it may take from its source [default: 5 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub takes: Option<Amps>,
    /// The source is a vehicle: its transients of −150 V and 101 V may drive 1 mA at the most through the pin
    #[arg(long)]
    pub vehicle: bool,
    /// How many pairs to list
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
    /// The rail that it goes to, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub rail: String,
    /// VIL of what reads it: below it the contact is closed; volts, or per cent of the rail
    #[arg(long, allow_hyphen_values = true, required_unless_present = "bus")]
    pub low: Option<String>,
    /// VIH of what reads it: above it the contact is open; volts, or per cent of the rail
    #[arg(long, allow_hyphen_values = true, required_unless_present = "bus")]
    pub high: Option<String>,
    /// The contact's resistance while it is closed [default: 50 Ω]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub contact: Option<Ohms>,
    /// An open collector: its volts while it conducts [default: 0 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub closed: Option<Volts>,
    /// What leaks while it is open [default: 1 µA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub leak: Option<Amps>,
    /// Of the resistor [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// The least that the closed contact wants, 1 mA of one made for power [default: nothing]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub wetting: Option<Amps>,
    /// The most that may flow while it is closed [default: 5 mA]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub takes: Option<Amps>,
    /// Instead: an I²C bus of this clock
    #[arg(long, allow_hyphen_values = true, conflicts_with_all = ["low", "high", "contact", "closed", "leak", "wetting", "takes"], value_parser = quantity::<Hertz>)]
    pub bus: Option<Hertz>,
    /// Parts on the bus, the board included [default: 2]
    #[arg(long, requires = "bus", value_parser = clap::value_parser!(u8).range(1..=120))]
    pub parts: Option<u8>,
    /// All its leads together [default: 0.3 m]
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
    /// The sender's supply, with tolerance or as a range
    #[arg(long, allow_hyphen_values = true)]
    pub from: String,
    /// The receiver's supply
    #[arg(long, allow_hyphen_values = true)]
    pub to: String,
    /// VIH of the receiver: volts, or per cent of its supply
    #[arg(long, allow_hyphen_values = true)]
    pub high: String,
    /// VIL of the receiver: volts, or per cent of its supply
    #[arg(long, allow_hyphen_values = true)]
    pub low: String,
    /// Absolute maximum of the receiver's input, where it does not clamp to its supply
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub most: Option<Volts>,
    /// The sender's output resistance [default: 33 Ω]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Ohms>)]
    pub pin: Option<Ohms>,
    /// How far both grounds may lie apart [default: 0 V]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub shift: Option<Volts>,
    /// How fast the signal changes [default: 10 kHz]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Hertz>)]
    pub rate: Option<Hertz>,
    /// The lead to the receiver [default: 0.3 m]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Option<Metres>,
    /// Either end sends; the sender's own input is of the receiver's kind, at its supply
    #[arg(long)]
    pub both_ways: bool,
    /// Of the resistors [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub tolerance: Option<Fraction>,
    /// The values to choose from
    #[command(flatten)]
    pub choice: Choice,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}
