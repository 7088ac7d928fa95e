//! Renderers: what a [`modest_ohm::Review`] says, as text for people, as JSON for programs, and as pictures.
//!
//! Every function returns a `String`; nothing here prints, reads files or decides a verdict. Text may carry terminal
//! styles (ANSI sequences); whoever writes it out strips them where they do not belong.
//!
//! ```
//! use modest_ohm::Plan;
//! use modest_ohm_report::{Input, check_json};
//! let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"1 A\"\n";
//! let review = Plan::from_toml(text).unwrap().review();
//! let json = check_json(&Input { path: "shed.toml" }, &review, false);
//! assert!(json.contains("\"unused\""));
//! ```

#![forbid(unsafe_code)]

mod about;
mod budget;
mod budget_json;
mod catalogue;
mod coordinates;
mod demo;
mod document;
mod drop;
mod figure;
mod findings;
mod firmware;
mod first_screen;
mod fixes;
mod json;
mod odds;
mod odds_json;
mod pages;
mod pins;
mod pins_json;
mod problems;
mod proposals;
mod sheet;
mod size;
mod size_feeds;
mod size_leads;
mod size_signals;
mod size_stages;
mod table;
mod why;

pub use about::{about_text, about_word, codes_text};
pub use budget::budget_text;
pub use budget_json::budget_json;
pub use catalogue::{catalogue_json, catalogue_list_text, catalogue_text};
pub use coordinates::{coordinates_csv, coordinates_json, coordinates_text, pattern_csv, pattern_json, pattern_text};
pub use demo::demo_text;
pub use drop::{drop_json, drop_text};
#[cfg(feature = "png")]
pub use figure::png;
pub use figure::{FigureError, drop_svg, panel_svg, pattern_svg, pins_svg, power_svg, release_svg};
pub use findings::{check_json, check_terse, check_text, finding_text};
pub use firmware::{firmware_csv, firmware_json, firmware_text};
pub use fixes::{diff_text, fix_text, fixed_text};
pub use odds::odds_text;
pub use odds_json::odds_json;
pub use pages::checks_page;
pub use pins::{Wanted, assignment_text, free_pins_text, pins_text};
pub use pins_json::{assignment_json, pins_csv, pins_json};
pub use problems::{problems_json, problems_text};
pub use size::{Offered, SizeAnswer, size_battery, size_capacitor, size_regulator, size_supply};
pub use size_feeds::{size_firmware_limit, size_frames, size_injection};
pub use size_leads::{FarEnd, size_fuse, size_wire, size_wire_and_fuse};
pub use size_signals::{LedLimits, size_bus_pull, size_divider, size_led, size_level, size_pull};
pub use size_stages::{
    BridgeTried, GateAsked, RelayTried, size_base, size_bridge, size_driver, size_flyback, size_gate, size_relay,
    size_transistor,
};
pub use why::{why_json, why_text};

/// Which plan a text speaks of.
#[derive(Clone, Copy, Debug)]
pub struct Input<'a> {
    /// The path as the user gave it.
    pub path: &'a str,
}

/// How wide a text may be and how many tables it shows.
#[derive(Clone, Copy, Debug)]
pub struct Layout {
    /// Columns of the terminal.
    pub width: usize,
    /// True to list what passed as well.
    pub passed: bool,
    /// Lines of the terminal, where `check` is to show what fits on one screen; `None` for everything.
    pub rows: Option<usize>,
}
