//! Scenarios, policy and acceptances.

use std::convert::Infallible;
use std::fmt;
use std::str::FromStr;

use super::mains::Region;
use crate::plan::wiring::name::{Name, read_share};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction};
use crate::source::Span;
use crate::text::Named;
use crate::text::figures::figure_of_node;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::{Node, Value};
use modest_ohm_derive::Figures;

/// A scenario: one of those that every plan has, or one of the plan's own.
///
/// ```
/// use modest_ohm::Scenario;
/// assert_eq!(Scenario::Worst.to_string(), "worst");
/// assert_eq!(Scenario::from("surge"), Scenario::Surge);
/// assert_eq!(Scenario::from("evening"), Scenario::Own("evening".into()));
/// ```
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Scenario {
    /// Everything is fed and dark, at rest.
    Idle,
    /// Strips at three tenths of their light, loads as they usually run.
    Typical,
    /// Full light, loads at their peak, boards at peak current.
    Worst,
    /// Power comes on: what surges does, unless it rests off.
    Start,
    /// One load, or a group that starts together, surges while the rest is at its peak.
    Surge,
    /// Everything that can move does so at once, whatever rests off: only the program keeps it apart.
    AllAtOnce,
    /// A board is plugged into a computer while the rest is powered.
    Programming,
    /// A board is plugged into a computer while no other supply is on.
    ProgrammingAlone,
    /// A `[scenario.x]` of the plan.
    Own(String),
}

impl Scenario {
    /// Those that every plan has, in the order in which they are solved.
    pub const BUILT_IN: [Self; 8] = [
        Self::Idle,
        Self::Typical,
        Self::Worst,
        Self::Start,
        Self::Surge,
        Self::AllAtOnce,
        Self::Programming,
        Self::ProgrammingAlone,
    ];

    /// Those in which what flows flows continuously.
    pub(crate) const CONTINUOUS: [Self; 3] = [Self::Idle, Self::Typical, Self::Worst];

    /// Those that are solved once in every plan; the others as often as the plan has loads or boards for them.
    pub(crate) const ALWAYS: [Self; 4] = [Self::Idle, Self::Typical, Self::Worst, Self::Start];

    /// The name, as in plans, tables and JSON.
    #[must_use]
    pub fn name(&self) -> &str {
        match self {
            Self::Idle => "idle",
            Self::Typical => "typical",
            Self::Worst => "worst",
            Self::Start => "start",
            Self::Surge => "surge",
            Self::AllAtOnce => "all-at-once",
            Self::Programming => "programming",
            Self::ProgrammingAlone => "programming-alone",
            Self::Own(name) => name,
        }
    }
}

impl fmt::Display for Scenario {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.name())
    }
}

impl From<&str> for Scenario {
    fn from(name: &str) -> Self {
        Self::BUILT_IN.into_iter().find(|s| s.name() == name).unwrap_or_else(|| Self::Own(name.to_owned()))
    }
}

impl FromStr for Scenario {
    type Err = Infallible;

    fn from_str(name: &str) -> Result<Self, Infallible> {
        Ok(Self::from(name))
    }
}

/// `[scenario.x]`.
#[derive(Clone, Debug, Figures)]
pub(crate) struct UserScenario {
    pub name: Name,
    /// True for `based-on = "typical"`; otherwise it starts from *worst*.
    pub from_typical: bool,
    pub set: Vec<(Named, Setting)>,
    pub off: Vec<Named>,
    /// Boards that a computer is plugged into.
    pub plugged: Vec<Named>,
}

/// What a scenario says of one thing.
#[derive(Clone, Debug, Figures)]
pub(crate) enum Setting {
    /// Share of full light, before the firmware limit.
    Light(Figure<Fraction>),
    /// A share of full light for some colours of a strip; the others are dark.
    Colours(Vec<(Named, Figure<Fraction>)>),
    /// A state of a load.
    State(LoadState),
    /// A load's current while it lasts.
    Current(Figure<Amps>),
    /// A switch that is opened or closed.
    Closed(bool),
    /// A change-over switch in a position.
    Position(Named),
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum LoadState {
    Off,
    Idle,
    Typical,
    Peak,
    Surge,
}

const STATES: [(&str, LoadState); 5] = [
    ("off", LoadState::Off),
    ("idle", LoadState::Idle),
    ("typical", LoadState::Typical),
    ("peak", LoadState::Peak),
    ("surge", LoadState::Surge),
];

pub(crate) fn read_scenario(reader: &mut Reader<'_>, name: Name) -> UserScenario {
    let from_typical = reader.choice("based-on", &[("worst", false), ("typical", true)]).unwrap_or(false);
    let off = reader.texts("off");
    let plugged = reader.texts("plugged");
    let mut set = Vec::new();
    if let Some(mut table) = reader.child("set") {
        for (key, key_span) in table.keys() {
            let Some((node, _)) = table.any(&key) else { continue };
            let named = Named { text: key.clone(), span: Some(key_span) };
            if let Value::Table(colours) = &node.value {
                let inner = table.nested(colours, format!("`set.{key}`"), node.span, None);
                set.push((named, Setting::Colours(read_colours(inner))));
                continue;
            }
            let Value::Text(text, _) = &node.value else {
                table.problem(Problem::new(
                    node.span,
                    format!("`{key}` in {} is {}, not a setting", table.what(), node.value.kind()),
                    "write a share of full white such as `\"25 %\"`, a state such as `\"idle\"`, or a current",
                ));
                continue;
            };
            if let "open" | "closed" = text.as_str() {
                set.push((named, Setting::Closed(text == "closed")));
            } else if let Some((_, state)) = STATES.iter().find(|(word, _)| word == text) {
                set.push((named, Setting::State(*state)));
            } else if text.trim_end().ends_with('%') {
                set.extend(read_light(&table, node, &key).map(|f| (named, Setting::Light(f))));
            } else if !text.is_empty() && text.chars().all(|c| c.is_ascii_alphabetic() || c == '-') {
                let at = Named { text: text.clone(), span: Some(node.span) };
                set.push((named, Setting::Position(at)));
            } else if let Some(f) = figure_of_node::<Amps>(&table, node, &key, Need::NotNegative) {
                set.push((named, Setting::Current(f)));
            }
        }
    }
    UserScenario { name, from_typical, set, off, plugged }
}

/// A share of full light.
fn read_light(reader: &Reader<'_>, node: &Node, key: &str) -> Option<Figure<Fraction>> {
    let light = figure_of_node::<Fraction>(reader, node, key, Need::NotNegative)?;
    if light.high.get() > 1.0 {
        reader.problem(Problem::new(node.span, format!("`{key}` is set to {}", light.high), "full white is 100 %"));
    }
    Some(light)
}

/// `{ red = "100 %", green = "20 %" }`.
fn read_colours(mut inner: Reader<'_>) -> Vec<(Named, Figure<Fraction>)> {
    let mut colours = Vec::new();
    for (key, span) in inner.keys() {
        let Some((node, _)) = inner.any(&key) else { continue };
        colours.extend(read_light(&inner, node, &key).map(|f| (Named { text: key, span: Some(span) }, f)));
    }
    colours
}

/// `[policy]`.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Policy {
    pub headroom: Figure<Fraction>,
    pub drop: Figure<Fraction>,
    /// Frames a second that every line of pixels is to show, and where that is said.
    pub frames: Option<(usize, Span)>,
    /// Where it is built: the mains' voltage and the colours of their conductors.
    pub region: Option<Region>,
    /// What touchable voltage is judged by.
    pub wet: bool,
    /// Whether proposals name wires in mm², else by AWG; `None`: as the plan does.
    pub metric: Option<bool>,
}

impl Default for Policy {
    fn default() -> Self {
        Self {
            headroom: Figure::exact(Fraction::new(0.2), Origin::Default("policy: 20 % headroom")),
            drop: Figure::exact(Fraction::new(0.05), Origin::Default("policy: 5 % drop")),
            frames: None,
            region: None,
            wet: false,
            metric: None,
        }
    }
}

pub(crate) fn read_policy(reader: &mut Reader<'_>) -> Policy {
    let default = Policy::default();
    Policy {
        headroom: read_share(reader, "headroom").unwrap_or(default.headroom),
        drop: read_share(reader, "drop").unwrap_or(default.drop),
        region: reader.choice("region", &Region::WORDS),
        metric: reader.choice("wire-sizes", &[("mm²", true), ("AWG", false), ("mm2", true), ("awg", false)]),
        wet: reader.choice("surroundings", &[("wet", true), ("dry", false)]).unwrap_or(false),
        frames: reader
            .whole("frame-rate", 1..=10_000)
            .map(|n| (n, reader.own_span("frame-rate").unwrap_or(reader.span))),
    }
}

/// `[[accept]]`: a finding the maker has decided to live with.
#[derive(Clone, Debug)]
pub(crate) struct Accept {
    pub span: Span,
    pub code: Named,
    pub on: Option<Named>,
    pub because: String,
}

pub(crate) fn read_accept(reader: &mut Reader<'_>) -> Option<Accept> {
    let code = reader.text("code");
    let on = reader.text("on");
    let because = reader.text("because");
    if code.is_none() && !reader.has("code") {
        reader.missing("code", "write the code of the finding: `code = \"voltage-drop\"`");
    }
    if because.is_none() && !reader.has("because") {
        reader.missing("because", "write why it is acceptable: `because = \"runs for a minute a day\"`");
    }
    Some(Accept { span: reader.span, code: code?, on, because: because?.text })
}
