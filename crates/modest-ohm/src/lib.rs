//! Modest Ohm works out the supply side of LED strips, motors, pumps and servos from a written plan, and checks it.
//!
//! ```text
//! text → plan → network → solution → checks → findings → renderers
//! ```
//!
//! Read a plan with [`Plan::from_toml`] or write one with [`Plan::builder`].

#![forbid(unsafe_code)]

mod assign;
mod bus;
mod checks;
mod consumers;
mod feeds;
mod finding;
mod front;
mod groups;
mod heat;
mod lines;
mod names;
mod network;
mod offers;
pub mod panel;
mod panels;
mod parts;
mod pin_currents;
mod pinout;
mod plan;
mod protect;
mod quantity;
mod rail;
mod ratings;
mod review;
mod shift;
mod signal;
pub mod size;
mod solve;
mod stage;
mod tables;
mod text;
#[cfg(feature = "trial")]
#[doc(hidden)]
pub mod trial;

pub use assign::{Assigned, NoAssignment, PinAssignment};
pub use checks::{Check, nearest_code, nearest_name, registry};
pub use feeds::{FeedAlternative, FeedLead, FeedOption, FeedPlan, FeedWish, NoFeedPlan};
pub use finding::{Evidence, Finding, Passed, Severity};
pub use offers::{StageOffer, StageOffers, StagePassedOver, StageWish, stages};
pub use panels::{NoPanel, PanelMap, PanelPart};
pub use parts::{PartClass, catalogue};
pub use plan::{
    BranchDraft, CapacitorDraft, ControllerDraft, ConverterDraft, DiodeDraft, InjectionDraft, JointDraft,
    LARGEST_TEXT_BYTES, Lead, LinkDraft, LoadDraft, Plan, PlanBuilder, ShifterDraft, StripDraft, SupplyDraft,
    SwitchDraft,
};
pub use quantity::{
    AmpHours, Amps, AmpsPerMetre, Bytes, Celsius, Corner, Coulombs, Farads, Figure, Fraction, Henries, Hertz, Joules,
    KelvinsPerWatt, Metres, Ohms, OhmsPerMetre, Origin, ParseProblem, PerMetre, Quantity, Role, Seconds, SquareMetres,
    Volts, Watts, WattsPerMetre, duration, engineering, parse_figure, parse_quantity,
};
pub use review::{
    BoardPins, CapFigures, ColourRange, ConductorRow, ConverterRow, DischargeEnd, FeedRow, FirmwareFigures,
    InjectionFlow, LayoutFigures, LeadRow, LinkRow, LoadRow, NodeRow, OutputFigures, OutputPart, PinFigures, PinJob,
    ProfilePoint, ReleaseRow, Review, Row, RuntimeRow, Select, StripProfile, StripRow, SupplyTree, TotalRow, Trace,
    TreeItem, TreeLink, pin_abilities,
};
pub use tables::{FuseBody, FuseFamily, FuseSpeed, WireSize};
pub use text::{Place, PlanErrors, Problem, Source, Span};

/// README's program is compiled with the other examples.
#[cfg(doctest)]
#[doc = include_str!("../../../README.md")]
struct Readme;
