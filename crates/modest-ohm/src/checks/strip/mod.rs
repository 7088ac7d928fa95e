//! Strips and pixels.

pub(crate) mod cap_missing;
pub(crate) mod cap_set;
pub(crate) mod copper;
pub(crate) mod cure;
pub(crate) mod data_lead;
pub(crate) mod data_level;
pub(crate) mod disagree;
pub(crate) mod firmware;
pub(crate) mod lines;
pub(crate) mod off_grid;
pub(crate) mod pair_grounds;
pub(crate) mod panel_order;
pub(crate) mod sags;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "strip-sags",
        family: "strip",
        title: "pixels get too few volts: below working volts, a colour shifts, or below the sheet's range",
        severities: &[Fault, Caution, Advice, Unknown],
        about: include_str!("../../about/strip-sags.md"),
        solves: Solves::Nothing,
        run: sags::run,
    },
    Check {
        code: "strip-copper",
        family: "strip",
        title: "a strip's copper turns too much into heat where it is fed",
        severities: &[Danger, Caution],
        about: include_str!("../../about/strip-copper.md"),
        solves: Solves::Nothing,
        run: copper::run,
    },
    Check {
        code: "feeds-disagree",
        family: "strip",
        title: "one piece of a strip's + is fed from two sources",
        severities: &[Danger],
        about: include_str!("../../about/feeds-disagree.md"),
        solves: Solves::Nothing,
        run: disagree::run,
    },
    Check {
        code: "cap-missing",
        family: "strip",
        title: "full white exceeds the path and the firmware has no cap",
        severities: &[Caution],
        about: include_str!("../../about/cap-missing.md"),
        solves: Solves::Caps,
        run: cap_missing::run,
    },
    Check {
        code: "cap-too-high",
        family: "strip",
        title: "a firmware cap lets through more than the way carries",
        severities: &[Danger, Caution],
        about: include_str!("../../about/cap-too-high.md"),
        solves: Solves::Caps,
        run: cap_set::too_high,
    },
    Check {
        code: "cap-too-low",
        family: "strip",
        title: "a firmware cap is below half of what the way carries",
        severities: &[Advice],
        about: include_str!("../../about/cap-too-low.md"),
        solves: Solves::Caps,
        run: cap_set::too_low,
    },
    Check {
        code: "panel-order",
        family: "strip",
        title: "strips, rows or tiles of a panel do not make one data path, or their counts differ",
        severities: &[Fault, Unknown],
        about: include_str!("../../about/panel-order.md"),
        solves: Solves::Nothing,
        run: panel_order::run,
    },
    Check {
        code: "cut-off-grid",
        family: "strip",
        title: "a strip ends, is cut or is parted into rows between two marks",
        severities: &[Fault],
        about: include_str!("../../about/cut-off-grid.md"),
        solves: Solves::Nothing,
        run: off_grid::run,
    },
    Check {
        code: "pixels-slow",
        family: "strip",
        title: "a line of pixels shows fewer frames a second than are wished",
        severities: &[Caution],
        about: include_str!("../../about/pixels-slow.md"),
        solves: Solves::Nothing,
        run: lines::slow,
    },
    Check {
        code: "pixels-memory",
        family: "strip",
        title: "a frame of the pixels on a board is more than its memory",
        severities: &[Caution, Unknown],
        about: include_str!("../../about/pixels-memory.md"),
        solves: Solves::Nothing,
        run: lines::memory,
    },
    Check {
        code: "data-level",
        family: "strip",
        title: "a data line's high or low level misses the receiver's threshold, or meets it without margin",
        severities: &[Fault, Caution, Unknown],
        about: include_str!("../../about/data-level.md"),
        solves: Solves::Nothing,
        run: data_level::run,
    },
    Check {
        code: "data-slow-edge",
        family: "strip",
        title: "a shifter in a one-wire data line rises too slowly for 800 kHz",
        severities: &[Fault],
        about: include_str!("../../about/data-slow-edge.md"),
        solves: Solves::Nothing,
        run: data_lead::slow_edge,
    },
    Check {
        code: "data-cable",
        family: "strip",
        title: "a data lead is long for what drives it, or has no series resistor",
        severities: &[Caution],
        about: include_str!("../../about/data-cable.md"),
        solves: Solves::Nothing,
        run: data_lead::cable,
    },
    Check {
        code: "firmware-differs",
        family: "strip",
        title: "what is said to be set in the firmware differs from the plan",
        severities: &[Fault],
        about: include_str!("../../about/firmware-differs.md"),
        solves: Solves::Nothing,
        run: firmware::run,
    },
];
