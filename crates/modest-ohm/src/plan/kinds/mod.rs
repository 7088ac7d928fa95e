//! The kinds of items, one file each: the record and how it is read.

pub(crate) mod balanced;
pub(crate) mod battery;
pub(crate) mod bus;
pub(crate) mod cap;
pub(crate) mod controller;
pub(crate) mod converter;
pub(crate) mod flyback;
pub(crate) mod ground;
pub(crate) mod group;
pub(crate) mod heater;
pub(crate) mod housing;
pub(crate) mod input;
pub(crate) mod joint;
pub(crate) mod led;
pub(crate) mod link;
pub(crate) mod load;
pub(crate) mod load_kind;
pub(crate) mod mains;
pub(crate) mod negotiated;
pub(crate) mod run;
pub(crate) mod scenario;
pub(crate) mod shifter;
pub(crate) mod shortage;
pub(crate) mod signal_lines;
pub(crate) mod supply;
