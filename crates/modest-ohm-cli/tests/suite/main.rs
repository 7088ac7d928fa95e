//! The tool as a user calls it, one module per subject.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod answers;
mod commands;
mod docs;
mod docs_json;
mod firmware;
mod fix;
mod hardened;
mod leads;
mod odds;
mod phrases;
mod pins;
mod shown;
mod sources;
mod stages;
mod starters;
mod strips;
mod tool;
mod widths;
