//! The arguments of `size wire`, `size fuse` and `size pair`.

use clap::ValueEnum;
use modest_ohm::tables::FuseFamily;
use modest_ohm::units::{Amps, Celsius, Fraction, Metres, Ohms, Volts};

use super::{Format, quantity};

/// How a wire is laid: of `size wire`, `size fuse` and `size pair`.
#[derive(clap::Args, Debug)]
pub struct Laid {
    /// The air around it [default: 25 °C]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub ambient: Option<Celsius>,
    /// What its insulation stands [default: 60 °C for AWG, 70 °C for mm²]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Celsius>)]
    pub insulation: Option<Celsius>,
    /// Loaded pairs that lie together
    #[arg(long, default_value_t = 1, value_parser = clap::value_parser!(u8).range(1..=20))]
    pub together: u8,
}

/// `size wire`.
#[derive(clap::Args, Debug)]
pub struct SizeWire {
    /// What it carries today, for long
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// One way; feed and return are both counted
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Metres,
    /// The volts at its beginning
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub volts: Volts,
    /// The share of them that it may lose [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub drop: Option<Fraction>,
    /// What the port before it, or the device behind it, may carry one day
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub limit: Option<Amps>,
    /// The fuse before it
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub fuse: Option<Amps>,
    /// The family of that fuse
    #[arg(long, value_enum, default_value_t = Family::Blade)]
    pub family: Family,
    /// Without a fuse: the most that the source gives into a short
    #[arg(long, allow_hyphen_values = true, conflicts_with = "fuse", value_parser = quantity::<Amps>)]
    pub source_limit: Option<Amps>,
    /// How it is laid
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
    /// What it carries for long
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// A wire behind it, by its size; as often as there are wires
    #[arg(long, required = true)]
    pub wire: Vec<String>,
    /// Its family
    #[arg(long, value_enum, default_value_t = Family::Blade)]
    pub family: Family,
    /// The least volts of the source: does a short at the far end of the last wire clear it?
    #[arg(long, allow_hyphen_values = true, requires = "length", value_parser = quantity::<Volts>)]
    pub volts: Option<Volts>,
    /// The length of the last wire, one way
    #[arg(long, allow_hyphen_values = true, requires = "volts", value_parser = quantity::<Metres>)]
    pub length: Option<Metres>,
    /// The source's own resistance [default: 0 Ω]
    #[arg(long, allow_hyphen_values = true, requires = "volts", value_parser = quantity::<Ohms>)]
    pub source: Option<Ohms>,
    /// The least that the source gives before it limits itself
    #[arg(long, allow_hyphen_values = true, requires = "volts", value_parser = quantity::<Amps>)]
    pub source_limit: Option<Amps>,
    /// How the wires are laid
    #[command(flatten)]
    pub laid: Laid,
    /// Text for people or JSON for programs
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
}

/// `size pair`.
#[derive(clap::Args, Debug)]
pub struct SizePair {
    /// What it carries for long
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Amps>)]
    pub current: Amps,
    /// One way; feed and return are both counted
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Metres>)]
    pub length: Metres,
    /// The volts at its beginning
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Volts>)]
    pub volts: Volts,
    /// The share of them that it may lose [default: 5 %]
    #[arg(long, allow_hyphen_values = true, value_parser = quantity::<Fraction>)]
    pub drop: Option<Fraction>,
    /// The family of the fuse
    #[arg(long, value_enum, default_value_t = Family::Blade)]
    pub family: Family,
    /// How the wire is laid
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
