//! Searches by trial: feed points, drivers and pins, each candidate tried in a plan of its own.

pub(crate) mod assign;
pub(crate) mod feeds;
pub(crate) mod offers;

pub use assign::why::NoAssignment;
pub use assign::{Assigned, PinAssignment};
pub use feeds::alternatives::FeedAlternative;
pub use feeds::verdict::FeedVerdict;
pub use feeds::{FeedCable, FeedLimit, FeedOption, FeedPlan, FeedRequest, NoFeedPlan};
pub use offers::{DriverOffer, DriverOffers, DriverRejected, DriverRequest, NoDrivers, drivers};
