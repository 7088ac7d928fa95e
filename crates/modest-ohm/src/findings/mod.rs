//! Findings: what a check is, what it says, and where it goes.

pub(crate) mod change;
pub(crate) mod check;
pub(crate) mod draft;
pub(crate) mod evidence;
pub(crate) mod finding;
pub(crate) mod fix;
pub(crate) mod mix;
pub(crate) mod obstacle;
pub(crate) mod setting;
pub(crate) mod sink;

pub use check::Check;
pub use evidence::{Evidence, EvidenceRole};
pub use finding::{Consequence, Passed};
pub use fix::{Effect, Fix};
pub use mix::{Mix, MixedFigure};
pub use obstacle::Obstacle;

pub use crate::verdict::severity::NoSeverity;
