//! `[driver.x]`: what stands between a pin and what it switches: transistors, MOSFETs, bridges, relays, modules.

mod channels;
mod figures;
mod flyback;
mod read;
mod runs;

pub(crate) use channels::{Channel, Enable};
pub(crate) use figures::{Bridge, Fet, GateDriver, Jumper, Relay, SolidState, Stage, Transistor, needed_at};
pub(crate) use flyback::{FlyDiode, Flyback, read_flyback};
pub(super) use read::read_driver;
pub(super) use runs::stage_runs;

use super::feed::{Feed, NodeRef};
use super::power::Name;
use super::signal_lines::{InputFigures, Line};
use crate::quantity::{Amps, Celsius, Figure, Hertz, KelvinsPerWatt, Ohms, Volts};
use crate::text::{Named, Span};

/// What a driver is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
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

/// Where a stage lies.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Side {
    /// In the return: between the load and −.
    Low,
    /// In the feed: between + and the load.
    High,
}

/// Which of a relay's contacts; anything else has one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Contacts {
    /// Closed while the coil pulls; of a semiconductor while it is on.
    Open,
    /// Closed while the coil rests.
    Closed,
}

#[derive(Clone, Debug)]
pub(crate) struct Driver {
    pub name: Name,
    pub kind: DriverKind,
    pub stage: Stage,
    pub side: Side,
    pub channels: Vec<Channel>,
    /// What lies between its pins and its inputs.
    pub line: Line,
    pub input: InputFigures,
    /// True where its input is on while the pin is low.
    pub active_low: bool,
    /// How often it is switched.
    pub pwm: Option<Figure<Hertz>>,
    /// The frequencies that it can follow.
    pub pwm_range: Option<Figure<Hertz>>,
    /// What a channel carries for long, and for a moment.
    pub current: Option<Figure<Amps>>,
    pub surge: Option<Figure<Amps>>,
    /// What a channel holds off while it is open; of a bridge the range of its motor supply.
    pub voltage: Option<Figure<Volts>>,
    pub heat: Thermal,
    /// A channel's drop while it is on, and its resistance besides.
    pub drop: Option<Figure<Volts>>,
    pub ohms: Figure<Ohms>,
    pub flyback: Option<Flyback>,
    /// Where an array's common diode pin goes.
    pub common: Option<NodeRef>,
    /// Where the load is wished to be until the firmware runs: `Some(true)` off.
    pub rests_off: Option<bool>,
    /// Its own leads: the cable between the node and the stage, and where the return goes.
    pub feed: Option<Feed>,
    /// The consumer that it is besides: a coil, a module's logic.
    pub load: Option<usize>,
    /// True where its two sides are to have no ground in common.
    pub isolates: bool,
    /// Legs of its package that carry heat away: `Some(false)` left open.
    pub thermal_legs: Option<bool>,
    /// The order of its legs as wired, where that is said, and as its class has it.
    pub legs: Option<(Named, String)>,
}

/// How heat leaves it.
#[derive(Clone, Debug, Default)]
pub(crate) struct Thermal {
    /// Junction to ambient.
    pub theta: Option<Figure<KelvinsPerWatt>>,
    /// Junction to case, and the sink that is on it.
    pub case: Option<Figure<KelvinsPerWatt>>,
    pub sink: Option<Figure<KelvinsPerWatt>>,
    pub most: Option<Figure<Celsius>>,
    /// Channels whose heat leaves together.
    pub shared: bool,
}

/// What a stage is named by: a load's `driver`.
#[derive(Clone, Debug)]
pub(crate) struct Driven {
    pub by: Named,
    pub contacts: Contacts,
    /// Driver and channel, once names are resolved.
    pub at: Option<(usize, usize)>,
}

/// A channel in a run of the plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct StageRun {
    pub driver: usize,
    pub channel: usize,
    pub contacts: Contacts,
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

impl super::Plan {
    /// The driver channel that a run is.
    pub(crate) fn stage_of_run(&self, run: usize) -> Option<(&Driver, StageRun)> {
        let super::RunKind::Stage(at) = &self.branches[run].kind else { return None };
        Some((&self.drivers[at.driver], *at))
    }

    /// The runs that a driver's channels are.
    pub(crate) fn runs_of(&self, driver: usize) -> impl Iterator<Item = (usize, StageRun)> + '_ {
        self.branches.iter().enumerate().filter_map(move |(i, b)| match &b.kind {
            super::RunKind::Stage(at) if at.driver == driver => Some((i, *at)),
            _ => None,
        })
    }

    /// The node against whose − a channel's input counts.
    pub(crate) fn ground_of_driver(&self, driver: usize, channel: usize) -> Option<super::NodeId> {
        if let Some(load) = self.drivers[driver].load {
            return Some(self.loads[load].feed.from.id);
        }
        let (run, _) = self.runs_of(driver).find(|(_, at)| at.channel == channel)?;
        let feed = &self.branches[run].feed;
        Some(feed.back.as_ref().map_or(feed.from.id, |b| b.to.id))
    }

    /// The loads behind a run that is a stage.
    pub(crate) fn loads_behind(&self, run: usize) -> impl Iterator<Item = usize> + '_ {
        let node = self.node_id(super::NodeKind::Branch(run));
        self.loads.iter().enumerate().filter(move |(_, l)| Some(l.feed.from.id) == node).map(|(i, _)| i)
    }
}
