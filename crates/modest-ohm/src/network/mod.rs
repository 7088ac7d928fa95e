//! The electrical network of a plan in one scenario and corner: vertices, branches, ladders; no names, no text.

pub(crate) mod boards;
pub(crate) mod build;
pub(crate) mod demands;
pub(crate) mod layout;
pub(crate) mod module_jumpers;
pub(crate) mod names;
pub(crate) mod shift;
pub(crate) mod state;
pub(crate) mod strips;
pub(crate) mod switched_feed;
