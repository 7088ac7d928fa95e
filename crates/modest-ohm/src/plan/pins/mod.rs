//! The pins of a board: both numberings, what each can do, what it carries, what it does at boot.

pub(crate) mod read;

use crate::plan::wiring::threshold::Threshold;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Ohms, Volts};
use modest_ohm_derive::Figures;

/// What a pin is.
#[derive(Clone, Debug, PartialEq, Eq, Figures)]
pub(crate) enum PinKind {
    /// Input and output.
    Io,
    /// Input only.
    Input,
    /// Of a supply: the board's terminal or output, where it is said.
    Supply(Option<String>),
    Ground,
    Reset,
    /// Joined to nothing.
    Open,
}

/// What a pin can do in addition to high and low.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Figures)]
pub(crate) enum Ability {
    Pwm,
    Analogue,
    Dac,
    Interrupt,
    Count,
    PullUp,
    PullDown,
    I2cData,
    I2cClock,
    Spi,
    Serial,
}

impl Ability {
    pub const ALL: [(&'static str, Ability); 11] = [
        ("pwm", Ability::Pwm),
        ("analogue", Ability::Analogue),
        ("dac", Ability::Dac),
        ("interrupt", Ability::Interrupt),
        ("count", Ability::Count),
        ("pull-up", Ability::PullUp),
        ("pull-down", Ability::PullDown),
        ("i2c-data", Ability::I2cData),
        ("i2c-clock", Ability::I2cClock),
        ("spi", Ability::Spi),
        ("serial", Ability::Serial),
    ];

    pub fn word(self) -> &'static str {
        Self::ALL.iter().find(|(_, a)| *a == self).map_or("", |(w, _)| w)
    }

    pub fn of_word(word: &str) -> Option<Self> {
        Self::ALL.iter().find(|(w, _)| *w == word).map(|(_, a)| *a)
    }
}

/// A level of a pin.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub enum Level {
    /// Near ground.
    Low,
    /// Near the supply.
    High,
}

impl Level {
    /// In one word: `low`, `high`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Low => "low",
            Self::High => "high",
        }
    }
}

/// What a pin does from power-on until the firmware sets it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
#[non_exhaustive]
pub enum AtBoot {
    /// Driven or pulled to a level.
    At(Level),
    /// Neither.
    Floats,
    /// It changes its level by itself.
    Pulses,
}

impl AtBoot {
    /// In one word: `low`, `high`, `floats`, `pulses`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            AtBoot::At(level) => level.word(),
            AtBoot::Floats => "floats",
            AtBoot::Pulses => "pulses",
        }
    }
}

#[derive(Clone, Debug, Figures)]
pub(crate) struct Pin {
    /// The chip's name, `io27`; of a pin without one its position, `p14`.
    pub name: String,
    /// Its place in the header.
    pub position: Option<String>,
    pub kind: PinKind,
    /// `None` where nothing is said of any pin.
    pub can: Option<Vec<Ability>>,
    /// What it loses while the radio is on.
    pub radio: Vec<Ability>,
    /// The level that it has to have when the chip starts.
    pub samples: Option<Level>,
    pub boot: AtBoot,
    /// What it is taken for on the board: flash, USB, serial.
    pub reserved: Option<String>,
    /// Own figures, where they differ from the board's.
    pub current: Option<Figure<Amps>>,
    pub absolute: Option<Figure<Amps>>,
    pub volts: Option<Figure<Volts>>,
    /// Resistors that the board has on it.
    pub pull_up: Option<Figure<Ohms>>,
    pub pull_down: Option<Figure<Ohms>>,
    /// A resistor that the board has between its header and the chip.
    pub series: Option<Figure<Ohms>>,
    pub group: Option<String>,
}

impl Pin {
    fn new(name: &str) -> Self {
        Self {
            name: name.to_owned(),
            position: None,
            kind: PinKind::Io,
            can: None,
            radio: Vec::new(),
            samples: None,
            boot: AtBoot::Floats,
            reserved: None,
            current: None,
            absolute: None,
            volts: None,
            pull_up: None,
            pull_down: None,
            series: None,
            group: None,
        }
    }

    /// True for a pin that a signal may use.
    pub fn is_signal(&self) -> bool {
        matches!(self.kind, PinKind::Io | PinKind::Input)
    }

    /// What it is, where it is no signal pin.
    pub fn kind_words(&self) -> String {
        match &self.kind {
            PinKind::Io => "a signal pin".into(),
            PinKind::Input => "an input".into(),
            PinKind::Supply(Some(of)) => format!("a supply pin ({of})"),
            PinKind::Supply(None) => "a supply pin".into(),
            PinKind::Ground => "a ground pin".into(),
            PinKind::Reset => "a reset or enable pin".into(),
            PinKind::Open => "not connected".into(),
        }
    }
}

/// How the header's positions lie, for tables and pictures.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
#[non_exhaustive]
pub enum Header {
    /// Two rows along the edges: down the left, then up the right.
    Edges,
    /// Two rows side by side: odd left, even right.
    TwoRow,
    /// One row.
    Row,
}

impl Header {
    /// In one word, as in plans and JSON: `edges`, `two-row`, `row`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Edges => "edges",
            Self::TwoRow => "two-row",
            Self::Row => "row",
        }
    }
}

/// What the converter of a board reads.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Adc {
    /// From the least to the most that it tells apart; `None`: from 0 V to the pins' supply.
    #[figures(range)]
    pub full_scale: Option<Figure<Volts>>,
    pub steps: usize,
}

/// A share of the pins with a total of its own.
#[derive(Clone, Debug, Figures)]
pub(crate) struct PinGroup {
    pub name: String,
    pub total: Figure<Amps>,
}

/// The pins of a board and what holds for all of them.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Pins {
    /// In the order of the header; empty where the board says nothing of them.
    #[figures(key = "pins")]
    pub list: Vec<Pin>,
    pub header: Header,
    #[figures(key = "pin-current")]
    pub current: Option<Figure<Amps>>,
    #[figures(key = "pin-absolute")]
    pub absolute: Option<Figure<Amps>>,
    /// Absolute for a current into the pin, where it differs.
    pub sink_absolute: Option<Figure<Amps>>,
    #[figures(key = "pins-total")]
    pub total: Option<Figure<Amps>>,
    #[figures(key = "pin-resistance")]
    pub ohms: Figure<Ohms>,
    #[figures(key = "pin-voltage")]
    pub volts: Option<Figure<Volts>>,
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
    pub internal_pull: Figure<Ohms>,
    pub adc: Option<Adc>,
    /// Analogue inputs want a source of no more than this.
    pub source: Figure<Ohms>,
    #[figures(key = "pin-groups")]
    pub groups: Vec<PinGroup>,
    /// True while the firmware uses the radio.
    pub radio: bool,
}

impl Pins {
    /// The pin of a name in either numbering.
    pub fn find(&self, name: &str) -> Option<usize> {
        let by_name = self.list.iter().position(|p| p.name == name);
        by_name.or_else(|| self.list.iter().position(|p| p.position.as_deref() == Some(name)))
    }

    /// The absolute maximum of an input, where a datasheet gives one that its supply does not.
    pub fn stands(&self, pin: Option<usize>) -> Option<&Figure<Volts>> {
        let own = pin.and_then(|i| self.list.get(i)).and_then(|p| p.volts.as_ref());
        own.or(self.volts.as_ref())
    }

    /// What a pin may carry continuously, and its absolute maximum for a current out of it (`sinks`: into it).
    pub fn limits(&self, pin: Option<usize>, sinks: bool) -> (Option<&Figure<Amps>>, Option<&Figure<Amps>>) {
        let own = pin.and_then(|i| self.list.get(i));
        let all = if sinks { self.sink_absolute.as_ref().or(self.absolute.as_ref()) } else { self.absolute.as_ref() };
        (own.and_then(|p| p.current.as_ref()).or(self.current.as_ref()), own.and_then(|p| p.absolute.as_ref()).or(all))
    }

    /// Whether a pin has an ability; `None` where it is not known. `by_radio`: it has it but for the radio.
    pub fn can(&self, pin: usize, ability: Ability) -> Option<Has> {
        let pin = self.list.get(pin)?;
        let can = pin.can.as_ref()?;
        Some(if !can.contains(&ability) {
            Has::No
        } else if self.radio && pin.radio.contains(&ability) {
            Has::NotWithRadio
        } else {
            Has::Yes
        })
    }
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Has {
    Yes,
    No,
    NotWithRadio,
}
