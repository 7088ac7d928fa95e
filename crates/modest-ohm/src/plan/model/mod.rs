//! The plan: what the maker wrote, typed, with spans kept and names resolved.

pub(crate) mod driver_queries;
pub(crate) mod feeds;
pub(crate) mod figures;
pub(crate) mod joined;
pub(crate) mod limit_queries;
pub(crate) mod movable;
pub(crate) mod node;
pub(crate) mod pin_words;
pub(crate) mod scatter;
mod short_ports;
mod wire_kind;

use crate::plan::driver::Driver;
use crate::plan::kinds::board::Board;
use crate::plan::kinds::bus::{Bus, Sensor};
use crate::plan::kinds::converter::Converter;
use crate::plan::kinds::differential_pair::DifferentialPair;
use crate::plan::kinds::enclosure::Enclosure;
use crate::plan::kinds::firmware_limit::FirmwareLimit;
use crate::plan::kinds::ground::Ground;
use crate::plan::kinds::group::Group;
use crate::plan::kinds::input::Input;
use crate::plan::kinds::led::Led;
use crate::plan::kinds::link::{Capacitor, Link, Stack};
use crate::plan::kinds::load::Load;
use crate::plan::kinds::mains::Mains;
use crate::plan::kinds::run::{Branch, Clamp};
use crate::plan::kinds::scenario::{Accept, Policy, UserScenario};
use crate::plan::kinds::shifter::Shifter;
use crate::plan::kinds::shortage::Shortage;
use crate::plan::kinds::signal_lines::Wire;
use crate::plan::kinds::supply::Supply;
use crate::plan::strip::panel::Panel;
use crate::plan::strip::{Strip, default_ambient};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Corner, Figure, Role};
use crate::quantity::units::Celsius;
use crate::source::{Source, Span};
use crate::text::Named;
use node::PlanNode;

/// A maker's plan: supplies, runs, converters, boards, strips and loads, with every number's origin.
///
/// A `Plan` is read from text ([`Plan::from_toml`]) or written in code ([`Plan::builder`]); both give the same thing,
/// checked in the same way. [`Plan::review`](crate::Plan::review) solves and checks it.
///
/// ```
/// use modest_ohm::Plan;
/// let plan = Plan::from_toml(r#"
///     format = 1
///     [supply.wall]
///     kind = "adapter"
///     voltage = "5 V"
///     current = "4 A"
///     [strip.shelf]
///     part = "pixel-5v-rgb"
///     from = "wall"
///     cable = "0.5 m 18 AWG"
///     length = "1 m"
///     pixels = "30 /m"
/// "#).expect("a readable plan");
/// assert_eq!(plan.strips(), ["shelf"]);
/// ```
#[derive(Clone, Debug)]
pub struct Plan {
    pub(crate) source: Source,
    pub(crate) title: Option<Named>,
    pub(crate) ambient: Figure<Celsius>,
    pub(crate) policy: Policy,
    pub(crate) supplies: Vec<Supply>,
    pub(crate) branches: Vec<Branch>,
    pub(crate) converters: Vec<Converter>,
    pub(crate) boards: Vec<Board>,
    /// Level shifters, and the ends of balanced pairs.
    pub(crate) shifters: Vec<Shifter>,
    /// DifferentialPair pairs.
    pub(crate) pairs: Vec<DifferentialPair>,
    pub(crate) strips: Vec<Strip>,
    /// firmware limits over several strips.
    pub(crate) firmware_limits: Vec<FirmwareLimit>,
    pub(crate) panels: Vec<Panel>,
    pub(crate) loads: Vec<Load>,
    pub(crate) drivers: Vec<Driver>,
    /// Circuits on the mains that the plan switches.
    pub(crate) mains: Vec<Mains>,
    /// Leads from pin to pin.
    pub(crate) wires: Vec<Wire>,
    /// Boards plugged on boards.
    pub(crate) stacks: Vec<Stack>,
    /// What arrives at pins.
    pub(crate) inputs: Vec<Input>,
    pub(crate) buses: Vec<Bus>,
    /// What is connected to buses; each is a load as well.
    pub(crate) sensors: Vec<Sensor>,
    /// LEDs on a resistor; each is a load as well.
    pub(crate) leds: Vec<Led>,
    pub(crate) grounds: Vec<Ground>,
    pub(crate) links: Vec<Link>,
    pub(crate) clamps: Vec<Clamp>,
    pub(crate) capacitors: Vec<Capacitor>,
    pub(crate) groups: Vec<Group>,
    pub(crate) enclosures: Vec<Enclosure>,
    /// What found no free port.
    pub(crate) shortages: Vec<Shortage>,
    pub(crate) scenarios: Vec<UserScenario>,
    pub(crate) accepts: Vec<Accept>,
    /// Own parts that nothing uses.
    pub(crate) unused_parts: Vec<Name>,
    pub(crate) nodes: Vec<PlanNode>,
}

impl Plan {
    /// A plan of nothing yet, with the text that it is read from.
    pub(crate) fn empty(source: Source) -> Self {
        Self {
            source,
            title: None,
            ambient: default_ambient(),
            policy: Policy::default(),
            supplies: Vec::new(),
            branches: Vec::new(),
            converters: Vec::new(),
            boards: Vec::new(),
            shifters: Vec::new(),
            pairs: Vec::new(),
            strips: Vec::new(),
            firmware_limits: Vec::new(),
            panels: Vec::new(),
            loads: Vec::new(),
            drivers: Vec::new(),
            mains: Vec::new(),
            wires: Vec::new(),
            stacks: Vec::new(),
            inputs: Vec::new(),
            buses: Vec::new(),
            sensors: Vec::new(),
            leds: Vec::new(),
            grounds: Vec::new(),
            links: Vec::new(),
            clamps: Vec::new(),
            capacitors: Vec::new(),
            groups: Vec::new(),
            enclosures: Vec::new(),
            shortages: Vec::new(),
            scenarios: Vec::new(),
            accepts: Vec::new(),
            unused_parts: Vec::new(),
            nodes: Vec::new(),
        }
    }

    /// The title, or an empty text.
    #[must_use]
    pub fn title(&self) -> &str {
        self.title.as_ref().map_or("", |t| t.text.as_str())
    }

    /// The text the plan was read from; a plan made in code has the text it would be written as.
    #[must_use]
    pub fn source(&self) -> &Source {
        &self.source
    }

    /// Names of all nodes: supplies, branches, converters, board terminals and outputs, strip ends.
    #[must_use]
    pub fn nodes(&self) -> Vec<&str> {
        self.nodes.iter().map(|n| n.name.as_str()).collect()
    }

    /// Names of all strips.
    #[must_use]
    pub fn strips(&self) -> Vec<&str> {
        self.strips.iter().map(|s| s.name.text.as_str()).collect()
    }

    /// Names of all loads; a load with a `count` once.
    #[must_use]
    pub fn loads(&self) -> Vec<&str> {
        self.loads.iter().map(|l| l.name.text.as_str()).collect()
    }

    /// The words of the text a span covers.
    #[must_use]
    pub fn words(&self, span: Span) -> &str {
        self.source.slice(span)
    }

    /// The warmest ambient: ampacities are judged at it.
    pub(crate) fn warmest_c(&self) -> f64 {
        self.ambient.high.get()
    }

    /// The ambient that goes with the corner's resistances.
    pub(crate) fn ambient_c(&self, corner: Corner) -> f64 {
        self.ambient.at(corner, Role::Resistance).get()
    }
}
