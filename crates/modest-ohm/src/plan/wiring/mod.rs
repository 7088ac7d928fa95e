//! What any item is connected by: names, nodes, pins, cables, fuses and feeds.

pub(crate) mod between;
pub(crate) mod cable;
pub(crate) mod cable_text;
pub(crate) mod contact;
pub(crate) mod driven;
pub(crate) mod feed;
pub(crate) mod fuse;
pub(crate) mod limits;
pub(crate) mod name;
pub(crate) mod named;
pub(crate) mod no_figures;
pub(crate) mod pin;
pub(crate) mod resistor;
pub(crate) mod threshold;
pub(crate) mod through;
