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
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "strip";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::STRIP_SAGS,
        FAMILY,
        "pixels get too few volts: below working volts, a colour shifts, or below the sheet's range",
        &[Fault, Caution, Advice, Unknown],
        sags::run,
    ),
    Check::new(
        codes::STRIP_COPPER,
        FAMILY,
        "a strip's copper turns too much into heat where it is fed",
        &[Danger, Caution],
        copper::run,
    )
    .of_its_own_limit(),
    Check::new(
        codes::FEEDS_DISAGREE,
        FAMILY,
        "one piece of a strip's + is fed from two sources",
        &[Danger],
        disagree::run,
    ),
    Check::new(
        codes::CAP_MISSING,
        FAMILY,
        "full white exceeds the path and the firmware has no cap",
        &[Caution],
        cap_missing::run,
    )
    .solving(Solves::Caps),
    Check::new(
        codes::CAP_TOO_HIGH,
        FAMILY,
        "a firmware cap lets through more than the way carries",
        &[Danger, Caution],
        cap_set::too_high,
    )
    .solving(Solves::Caps),
    Check::new(
        codes::CAP_TOO_LOW,
        FAMILY,
        "a firmware cap is below half of what the way carries",
        &[Advice],
        cap_set::too_low,
    )
    .solving(Solves::Caps),
    Check::new(
        codes::PANEL_ORDER,
        FAMILY,
        "strips, rows or tiles of a panel do not make one data path, or their counts differ",
        &[Fault, Caution, Unknown],
        panel_order::run,
    ),
    Check::new(
        codes::CUT_OFF_GRID,
        FAMILY,
        "a strip ends, is cut or is parted into rows between two marks",
        &[Fault],
        off_grid::run,
    ),
    Check::new(
        codes::PIXELS_SLOW,
        FAMILY,
        "a line of pixels shows fewer frames a second than are wished",
        &[Caution],
        lines::slow,
    ),
    Check::new(
        codes::PIXELS_MEMORY,
        FAMILY,
        "a frame of the pixels on a board is more than its memory",
        &[Caution, Unknown],
        lines::memory,
    ),
    Check::new(
        codes::DATA_LEVEL,
        FAMILY,
        "a data line's high or low level misses the receiver's threshold, or meets it without margin",
        &[Fault, Caution, Unknown],
        data_level::run,
    ),
    Check::new(
        codes::DATA_SLOW_EDGE,
        FAMILY,
        "a shifter or a resistor in a one-wire data line makes it rise too slowly for 800 kHz",
        &[Fault],
        data_lead::slow_edge,
    ),
    Check::new(
        codes::DATA_CABLE,
        FAMILY,
        "a data lead is long for what drives it, or has no series resistor",
        &[Caution],
        data_lead::cable,
    ),
    Check::new(
        codes::FIRMWARE_DIFFERS,
        FAMILY,
        "what is said to be set in the firmware differs from the plan",
        &[Fault],
        firmware::run,
    ),
];
