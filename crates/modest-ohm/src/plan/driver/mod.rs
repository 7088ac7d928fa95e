//! `[driver.x]`: what stands between a pin and what it switches: transistors, MOSFETs, bridges, relays, modules.

pub(crate) mod channels;
pub(crate) mod consumer;
pub(crate) mod figures;
pub(crate) mod read;

use crate::plan::kinds::flyback::Flyback;
use crate::plan::kinds::signal_lines::{InputFigures, Line};
use crate::plan::wiring::driven::Side;
use crate::plan::wiring::feed::{Feed, NodeRef};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Celsius, Hertz, KelvinsPerWatt, Ohms, Seconds, Volts};
use crate::source::Span;
use crate::text::Named;
use channels::Channel;
use figures::{Bridge, Fet, GateDriver, Relay, SolidState, Stage, Transistor};
use modest_ohm_derive::Figures;

/// What a driver is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum DriverKind {
    Npn,
    Darlington,
    Nmos,
    Pmos,
    MosfetModule,
    Bridge,
    Relay,
    RelayModule,
    SolidState,
}

impl DriverKind {
    pub const WORDS: [(&'static str, DriverKind); 9] = [
        ("npn", DriverKind::Npn),
        ("darlington", DriverKind::Darlington),
        ("nmos", DriverKind::Nmos),
        ("pmos", DriverKind::Pmos),
        ("mosfet-module", DriverKind::MosfetModule),
        ("bridge", DriverKind::Bridge),
        ("relay", DriverKind::Relay),
        ("relay-module", DriverKind::RelayModule),
        ("solid-state", DriverKind::SolidState),
    ];

    /// As messages name it.
    pub fn words(self) -> &'static str {
        match self {
            DriverKind::Npn => "transistor",
            DriverKind::Darlington => "Darlington stage",
            DriverKind::Nmos | DriverKind::Pmos => "MOSFET",
            DriverKind::MosfetModule => "MOSFET module",
            DriverKind::Bridge => "bridge",
            DriverKind::Relay => "relay",
            DriverKind::RelayModule => "relay module",
            DriverKind::SolidState => "solid-state relay",
        }
    }

    /// True for what switches with metal: either side suits it, and nothing leads past it.
    pub fn is_contact(self) -> bool {
        matches!(self, DriverKind::Relay | DriverKind::RelayModule)
    }
}

#[derive(Clone, Debug, Figures)]
pub(crate) struct Driver {
    pub name: Name,
    pub kind: DriverKind,
    #[figures(flat)]
    pub stage: Stage,
    pub side: Side,
    pub channels: Vec<Channel>,
    /// What lies between its pins and its inputs.
    #[figures(flat)]
    pub line: Line,
    #[figures(flat)]
    pub input: InputFigures,
    /// True where its input is on while the pin is low.
    pub active_low: bool,
    /// How often it is switched.
    pub pwm: Option<Figure<Hertz>>,
    /// The frequencies that it can follow.
    #[figures(range)]
    pub pwm_range: Option<Figure<Hertz>>,
    /// True where it limits its current by itself, or goes off before heat harms it.
    pub limits: bool,
    /// At what current, where that is known.
    #[figures(key = "limits")]
    pub limit: Option<Figure<Amps>>,
    /// What its edges take together, on and off, where that does not follow from its gate.
    pub edge: Option<Figure<Seconds>>,
    /// What a channel carries continuously, and briefly.
    pub current: Option<Figure<Amps>>,
    #[figures(key = "surge-current")]
    pub surge: Option<Figure<Amps>>,
    /// What a channel holds off while it is open; of a bridge the range of its motor supply.
    #[figures(range)]
    pub voltage: Option<Figure<Volts>>,
    #[figures(flat)]
    pub heat: Thermal,
    /// A channel's drop while it is on, and its resistance as well.
    pub drop: Option<Figure<Volts>>,
    #[figures(key = "resistance")]
    pub ohms: Figure<Ohms>,
    pub flyback: Option<Flyback>,
    /// Where an array's common diode pin goes.
    pub common: Option<NodeRef>,
    /// Where the load is required to be until the firmware runs: `Some(true)` off.
    pub rests_off: Option<bool>,
    /// Its own cables: the cable between the node and the stage, and where the return goes.
    #[figures(flat)]
    pub feed: Option<Feed>,
    /// The consumer that it is as well: a coil, a module's logic.
    pub load: Option<usize>,
    /// True where its two sides are to have no ground in common.
    pub isolates: bool,
    /// Legs of its package that carry heat away: `Some(false)` left open.
    pub thermal_legs: Option<bool>,
    /// The order of its legs as wired, where that is said, and as its class has it.
    pub legs: Option<(Named, String)>,
    /// True where it shares its pin with another on purpose.
    pub mirror: bool,
}

/// How heat leaves it.
#[derive(Clone, Debug, Default, Figures)]
pub(crate) struct Thermal {
    /// Junction to ambient.
    #[figures(key = "theta-ja")]
    pub theta: Option<Figure<KelvinsPerWatt>>,
    /// Junction to case, and the sink that is on it.
    #[figures(key = "theta-jc")]
    pub case: Option<Figure<KelvinsPerWatt>>,
    #[figures(key = "heatsink")]
    pub sink: Option<Figure<KelvinsPerWatt>>,
    #[figures(key = "junction-max")]
    pub most: Option<Figure<Celsius>>,
    /// Channels whose heat leaves together.
    pub shared: bool,
}

impl Driver {
    /// "the MOSFET `tide-switch`".
    pub fn words(&self) -> String {
        format!("{} `{}`", self.kind.words(), self.name.text)
    }

    /// The transistor that it is.
    pub fn transistor(&self) -> Option<&Transistor> {
        if let Stage::Transistor(t) = &self.stage { Some(t) } else { None }
    }

    /// The transistor whose base its pin drives: its own, or that in front of a P-channel gate.
    pub fn base_of(&self) -> Option<&Transistor> {
        match &self.stage {
            Stage::Transistor(t) => Some(t),
            Stage::Fet(fet) => match &fet.gate {
                GateDriver::Transistor(t) => Some(t),
                _ => None,
            },
            _ => None,
        }
    }

    pub fn fet(&self) -> Option<&Fet> {
        if let Stage::Fet(f) = &self.stage { Some(f) } else { None }
    }

    pub fn fet_mut(&mut self) -> Option<&mut Fet> {
        if let Stage::Fet(f) = &mut self.stage { Some(f) } else { None }
    }

    pub fn relay(&self) -> Option<&Relay> {
        if let Stage::Relay(r) = &self.stage { Some(r) } else { None }
    }

    pub fn bridge(&self) -> Option<&Bridge> {
        if let Stage::Bridge(b) = &self.stage { Some(b) } else { None }
    }

    pub fn solid_state(&self) -> Option<&SolidState> {
        if let Stage::SolidState(s) = &self.stage { Some(s) } else { None }
    }

    /// True where its input takes logic levels.
    pub fn takes_levels(&self) -> bool {
        match &self.stage {
            Stage::Bridge(_) | Stage::SolidState(_) => true,
            Stage::Relay(_) => self.kind == DriverKind::RelayModule,
            Stage::Fet(fet) => matches!(fet.gate, GateDriver::Rail),
            Stage::Transistor(_) => false,
        }
    }

    /// Where a channel's pin is named in the text.
    pub fn span_of(&self, channel: usize) -> Span {
        self.channels.get(channel).map_or(self.name.span, |c| c.span)
    }
}
