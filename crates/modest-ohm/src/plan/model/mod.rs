//! The plan: what the maker wrote, typed, with spans kept and names resolved.

pub(crate) mod driver_queries;
pub(crate) mod feeds;
pub(crate) mod figures;
pub(crate) mod joined;
pub(crate) mod limit_queries;
pub(crate) mod list;
pub(crate) mod movable;
pub(crate) mod node;
pub(crate) mod pin_words;
pub(crate) mod scatter;
mod short_ports;
#[cfg(test)]
mod tests;
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
use list::List;
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
    pub(crate) supplies: List<Supply>,
    pub(crate) branches: List<Branch>,
    pub(crate) converters: List<Converter>,
    pub(crate) boards: List<Board>,
    /// Level shifters, and the ends of balanced pairs.
    pub(crate) shifters: List<Shifter>,
    /// DifferentialPair pairs.
    pub(crate) pairs: List<DifferentialPair>,
    pub(crate) strips: List<Strip>,
    /// firmware limits over several strips.
    pub(crate) firmware_limits: List<FirmwareLimit>,
    pub(crate) panels: List<Panel>,
    pub(crate) loads: List<Load>,
    pub(crate) drivers: List<Driver>,
    /// Circuits on the mains that the plan switches.
    pub(crate) mains: List<Mains>,
    /// Leads from pin to pin.
    pub(crate) wires: List<Wire>,
    /// Boards plugged on boards.
    pub(crate) stacks: List<Stack>,
    /// What arrives at pins.
    pub(crate) inputs: List<Input>,
    pub(crate) buses: List<Bus>,
    /// What is connected to buses; each is a load as well.
    pub(crate) sensors: List<Sensor>,
    /// LEDs on a resistor; each is a load as well.
    pub(crate) leds: List<Led>,
    pub(crate) grounds: List<Ground>,
    pub(crate) links: List<Link>,
    pub(crate) clamps: List<Clamp>,
    pub(crate) capacitors: List<Capacitor>,
    pub(crate) groups: List<Group>,
    pub(crate) enclosures: List<Enclosure>,
    /// What found no free port.
    pub(crate) shortages: List<Shortage>,
    pub(crate) scenarios: List<UserScenario>,
    pub(crate) accepts: List<Accept>,
    /// Own parts that nothing uses.
    pub(crate) unused_parts: List<Name>,
    pub(crate) nodes: List<PlanNode>,
}

impl Plan {
    /// A plan of nothing yet, with the text that it is read from.
    pub(crate) fn empty(source: Source) -> Self {
        Self {
            source,
            title: None,
            ambient: default_ambient(),
            policy: Policy::default(),
            supplies: List::default(),
            branches: List::default(),
            converters: List::default(),
            boards: List::default(),
            shifters: List::default(),
            pairs: List::default(),
            strips: List::default(),
            firmware_limits: List::default(),
            panels: List::default(),
            loads: List::default(),
            drivers: List::default(),
            mains: List::default(),
            wires: List::default(),
            stacks: List::default(),
            inputs: List::default(),
            buses: List::default(),
            sensors: List::default(),
            leds: List::default(),
            grounds: List::default(),
            links: List::default(),
            clamps: List::default(),
            capacitors: List::default(),
            groups: List::default(),
            enclosures: List::default(),
            shortages: List::default(),
            scenarios: List::default(),
            accepts: List::default(),
            unused_parts: List::default(),
            nodes: List::default(),
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
