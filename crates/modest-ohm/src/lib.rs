//! Modest Ohm works out the supply side of LED strips, motors, pumps and servos from a written plan, and checks it.
//!
//! ```text
//! text → plan → network → solution → checks → findings → renderers
//! ```
//!
//! Read a plan with [`Plan::from_toml`] or write one with [`Plan::builder`].

#![forbid(unsafe_code)]

pub(crate) mod advise;
pub(crate) mod catalogue;
pub(crate) mod checks;
pub(crate) mod derived;
pub(crate) mod findings;
pub(crate) mod network;
pub mod panel;
pub(crate) mod plan;
pub(crate) mod quantity;
pub(crate) mod review;
pub mod size;
pub(crate) mod solved;
pub(crate) mod source;
pub(crate) mod tables;
pub(crate) mod text;
pub(crate) mod topology;
pub(crate) mod verdict;
pub(crate) mod views;

pub use crate::advise::assign::why::NoAssignment;
pub use crate::advise::assign::{Assigned, PinAssignment};
pub use crate::advise::feeds::alternatives::FeedAlternative;
pub use crate::advise::feeds::{FeedLead, FeedOption, FeedPlan, FeedWish, NoFeedPlan};
pub use crate::advise::offers::{StageOffer, StageOffers, StagePassedOver, StageWish, stages};
pub use crate::catalogue::{PartClass, catalogue};
pub use crate::checks::{nearest_code, nearest_name, registry};
pub use crate::derived::discharge::{DischargeEnd, RuntimeRow};
pub use crate::derived::feed_row::FeedRow;
pub use crate::findings::check::Check;
pub use crate::findings::evidence::{Evidence, EvidenceRole};
pub use crate::findings::finding::{Consequence, Finding, Passed};
pub use crate::plan::build::builder::PlanBuilder;
pub use crate::plan::build::drafts::{
    BranchDraft, CapacitorDraft, ControllerDraft, ConverterDraft, DiodeDraft, InjectionDraft, JointDraft, LinkDraft,
    LoadDraft, ShifterDraft, StripDraft, SupplyDraft, SwitchDraft,
};
pub use crate::plan::build::lead::Lead;
pub use crate::plan::model::Plan;
pub use crate::plan::wiring::limits::LARGEST_TEXT_BYTES;
pub use crate::plan::wiring::scenario_name::Scenario;
pub use crate::quantity::figure::{Corner, Figure, NoCorner, Origin, Role};
pub use crate::quantity::format::{duration, engineering};
pub use crate::quantity::parse::{ParseProblem, parse_figure, parse_quantity};
pub use crate::quantity::units::{
    AmpHours, Amps, AmpsPerMetre, Bytes, Celsius, Coulombs, Farads, Fraction, Henries, Hertz, Joules, KelvinsPerWatt,
    Metres, Ohms, OhmsPerMetre, PerMetre, Quantity, Seconds, SquareMetres, Volts, Watts, WattsPerMetre,
};
pub use crate::review::{Review, Verdict};
pub use crate::source::{Place, Source, Span};
pub use crate::tables::fuse::{FuseBody, FuseFamily, FuseSpeed};
pub use crate::tables::wire::WireSize;
pub use crate::text::problem::{PlanErrors, Problem};
pub use crate::topology::panel_map::{NoPanel, PanelMap, PanelPart};
pub use crate::verdict::severity::{NoSeverity, Severity};
pub use crate::views::firmware::{CapFigures, FirmwareFigures, LayoutFigures, OutputFigures, OutputPart};
pub use crate::views::pins::{BoardPins, PinFigures, PinJob, pin_abilities};
pub use crate::views::profile::{ColourRange, StripProfile};
pub use crate::views::release::ReleaseRow;
pub use crate::views::select::{Row, Select};
pub use crate::views::shapes::{
    ConductorRow, ConverterRow, InjectionFlow, LeadRow, LinkRow, LoadRow, NodeRow, ProfilePoint, StripRow, TotalRow,
};
pub use crate::views::supply_tree::{SupplyTree, TreeItem, TreeLink};
pub use crate::views::why::Trace;

/// README's program is compiled with the other examples.
#[cfg(doctest)]
#[doc = include_str!("../../../README.md")]
struct Readme;
