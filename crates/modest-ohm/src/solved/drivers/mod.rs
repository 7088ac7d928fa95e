//! What the channels of drivers do in a solved state.

pub(crate) mod channel;
pub(crate) mod drive;
pub(crate) mod heat;
