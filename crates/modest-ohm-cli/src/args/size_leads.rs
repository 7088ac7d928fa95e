//! The arguments of `size wire`, `size fuse` and `size wire-and-fuse`.

use clap::ValueEnum;
use modest_ohm::tables::FuseFamily;
use modest_ohm::units::{Amps, Celsius, Fraction, Metres, Ohms, Volts};

use super::{Format, quantity};

/// How a wire is laid: of `size wire`, `size fuse` and `size wire-and-fuse`.
#[derive(clap::Args, Debug)]
pub struct Laid {
    /// Air temperature [default: 25 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub ambient: Option<Celsius>,
    /// Temperature rating of its insulation [default: 60 °C for AWG, 70 °C for mm²]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub insulation: Option<Celsius>,
    /// Loaded pairs in one bundle
    #[arg(long, default_value_t = 1, value_parser = clap::value_parser!(u8).range(1..=20))]
    pub bundle: u8,
}

/// `size wire`.
#[derive(clap::Args, Debug)]
pub struct SizeWire {
    /// Continuous current
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Length one way; feed and return are both counted
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Metres,
    /// Voltage at its start
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub voltage: Volts,
    /// Allowed voltage drop [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub drop: Option<Fraction>,
    /// Highest current the upstream port or the device may ever draw
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub limit: Option<Amps>,
    /// Fuse upstream
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub fuse: Option<Amps>,
    /// Family of that fuse
    #[arg(long, value_enum, default_value_t = Family::Blade)]
    pub family: Family,
    /// Without a fuse: largest current of the source into a short circuit
    #[arg(long, allow_hyphen_values = true, conflicts_with = "fuse", value_parser = quantity::<Amps>)]
    pub source_limit: Option<Amps>,
    /// Installation
    #[command(flatten)]
    pub laid: Laid,
    /// Sizes in mm² instead of AWG
    #[arg(long)]
    pub metric: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size fuse`.
#[derive(clap::Args, Debug)]
pub struct SizeFuse {
    /// Continuous current
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Size of a wire behind it; repeat for each wire
    #[arg(long, required = true)]
    pub wire: Vec<String>,
    /// Fuse family
    #[arg(long, value_enum, default_value_t = Family::Blade)]
    pub family: Family,
    /// Lowest source voltage: checks whether a short circuit at the far end of the last wire blows it
    #[arg(long, allow_hyphen_values = true, requires = "length", value_parser = quantity::<Volts>)]
    pub voltage: Option<Volts>,
    /// The length of the last wire, one way
    #[arg(long, allow_hyphen_values = true, requires = "voltage", value_parser = quantity::<Metres>)]
    pub length: Option<Metres>,
    /// The source's own resistance [default: 0 Ω]
    #[arg(long, allow_hyphen_values = true, requires = "voltage", value_parser = quantity::<Ohms>)]
    pub source: Option<Ohms>,
    /// The least that the source gives before it limits itself
    #[arg(long, allow_hyphen_values = true, requires = "voltage", value_parser = quantity::<Amps>)]
    pub source_limit: Option<Amps>,
    /// How the wires are laid
    #[command(flatten)]
    pub laid: Laid,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size wire-and-fuse`.
#[derive(clap::Args, Debug)]
pub struct SizeWireAndFuse {
    /// Continuous current
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// Length one way; feed and return are both counted
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Metres,
    /// Voltage at its start
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub voltage: Volts,
    /// Allowed voltage drop [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub drop: Option<Fraction>,
    /// Fuse family
    #[arg(long, value_enum, default_value_t = Family::Blade)]
    pub family: Family,
    /// Installation
    #[command(flatten)]
    pub laid: Laid,
    /// Sizes in mm² instead of AWG
    #[arg(long)]
    pub metric: bool,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// Families of fuses.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub enum Family {
    /// Automotive blade.
    Blade,
    /// Miniature cartridge, IEC 60127-2.
    Cartridge,
    /// Miniature cartridge, UL 248-14.
    CartridgeUl,
    /// Bolt-down strip (ISO 8820-5).
    Bolt,
    /// Resettable.
    Resettable,
}

impl From<Family> for FuseFamily {
    fn from(family: Family) -> Self {
        match family {
            Family::Blade => FuseFamily::Blade,
            Family::Cartridge => FuseFamily::Cartridge,
            Family::CartridgeUl => FuseFamily::CartridgeUl,
            Family::Bolt => FuseFamily::Bolt,
            Family::Resettable => FuseFamily::Resettable,
        }
    }
}
