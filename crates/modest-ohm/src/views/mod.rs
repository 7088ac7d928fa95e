//! Rows, trees and traces of a review, for tables, pictures and machine output.

pub(crate) mod beyond;
pub(crate) mod firmware;
pub(crate) mod groups;
pub(crate) mod leads;
pub(crate) mod link_row;
pub(crate) mod parts;
pub(crate) mod pins;
pub(crate) mod profile;
pub(crate) mod release;
pub(crate) mod rows;
pub(crate) mod select;
pub(crate) mod selected;
pub(crate) mod shapes;
pub(crate) mod supply_tree;
pub(crate) mod why;
mod why_findings;
pub(crate) mod why_leads;

pub use beyond::BeyondCorners;
pub use firmware::{FirmwareFigures, FirmwareLimitFigures, LayoutFigures, OutputFigures, OutputPart};
pub use groups::FindingGroup;
pub use pins::{BoardPins, PinFigures, PinJob, PinRole, pin_abilities};
pub use profile::{ColourRange, StripProfile};
pub use release::ReleaseRow;
pub use select::{Row, Select};
pub use selected::Selected;
pub use shapes::{
    CableRow, ConductorRow, ConverterRow, InjectionFlow, LoadRow, NodeRow, ProfilePoint, SignalRow, StripRow, TotalRow,
};
pub use supply_tree::{SupplyTree, TreeItem, TreeLink};
pub use why::Trace;

pub use crate::plan::pins::{AtBoot, Header, Level};
pub use crate::topology::panel_map::{NoPanel, PanelMap, PanelPart};
pub use crate::topology::pin_jobs::Direction;
pub use crate::topology::ratings::CableLimit;
