//! The plan: what the maker wrote, typed, with spans kept and names resolved.

pub(crate) mod build;
pub(crate) mod driver;
pub(crate) mod kinds;
pub(crate) mod model;
pub(crate) mod pins;
pub(crate) mod read;
pub(crate) mod resolve;
pub(crate) mod strip;
pub(crate) mod wiring;

pub use build::builder::PlanBuilder;
pub use build::drafts::{
    BoardDraft, BranchDraft, CapacitorDraft, ConnectorDraft, ConverterDraft, DiodeDraft, LinkDraft, LoadDraft,
    ShifterDraft, SupplyDraft, SwitchDraft,
};
pub use build::lead::Lead;
pub use build::strip_draft::{InjectionDraft, StripDraft};
pub use wiring::limits::LARGEST_TEXT_BYTES;

pub use crate::source::{Place, Source, Span};
