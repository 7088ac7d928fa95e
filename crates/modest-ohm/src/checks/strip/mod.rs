//! Strips and pixels.

pub(crate) mod copper;
pub(crate) mod data_lead;
pub(crate) mod data_level;
pub(crate) mod disagree;
pub(crate) mod firmware;
mod keys;
pub(crate) mod limit_missing;
pub(crate) mod limit_set;
pub(crate) mod lines;
pub(crate) mod off_grid;
pub(crate) mod pair_grounds;
pub(crate) mod panel_order;
pub(crate) mod sags;

use crate::derived::solves::Solves;
use crate::findings::change::Change::{
    CutMark, FeedPoints, FirmwareLimit, Keys, Level, Part, Rail, Source, Voltage, Wire,
};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "strip";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::STRIP_VOLTAGE_LOW,
        FAMILY,
        "pixels are below their minimum voltage, below the recommended range, or so low that a colour shifts",
        &[Fault, Caution, Advisory, Unknown],
        sags::run,
    )
    .fixed_by(&[FeedPoints, Wire, FirmwareLimit, Voltage, Source])
    .beside_nominal(),
    Check::new(
        codes::STRIP_COPPER,
        FAMILY,
        "a strip's copper dissipates too much at a feed point",
        &[Danger, Caution],
        copper::run,
    )
    .fixed_by(&[FeedPoints, FirmwareLimit])
    .of_its_own_limit(),
    Check::new(
        codes::STRIP_SOURCES_PARALLELED,
        FAMILY,
        "one piece of a strip's positive is fed from two sources",
        &[Danger],
        disagree::run,
    )
    .fixed_by(&[Rail]),
    Check::new(
        codes::FIRMWARE_LIMIT_MISSING,
        FAMILY,
        "full white exceeds the path and no firmware limit is set",
        &[Caution],
        limit_missing::run,
    )
    .fixed_by(&[FirmwareLimit])
    .solving(Solves::FirmwareLimits),
    Check::new(
        codes::FIRMWARE_LIMIT_TOO_HIGH,
        FAMILY,
        "a firmware limit is above what the path is rated for",
        &[Danger, Caution],
        limit_set::too_high,
    )
    .fixed_by(&[FirmwareLimit])
    .solving(Solves::FirmwareLimits),
    Check::new(
        codes::FIRMWARE_LIMIT_TOO_LOW,
        FAMILY,
        "a firmware limit is below half of what the path is rated for",
        &[Advisory],
        limit_set::too_low,
    )
    .fixed_by(&[Keys(keys::FIRMWARE_LIMIT_TOO_LOW)])
    .solving(Solves::FirmwareLimits),
    Check::new(
        codes::PANEL_ORDER,
        FAMILY,
        "strips, rows or tiles of a panel do not form one data path, or their counts differ",
        &[Fault, Caution, Unknown],
        panel_order::run,
    )
    .fixed_by(&[Keys(keys::PANEL_ORDER)]),
    Check::new(codes::CUT_MARK_MISSED, FAMILY, "a strip ends or is cut between two cut marks", &[Fault], off_grid::run)
        .fixed_by(&[CutMark]),
    Check::new(
        codes::FRAME_RATE_LOW,
        FAMILY,
        "a line of pixels is below the required frame rate",
        &[Caution],
        lines::slow,
    ),
    Check::new(
        codes::PIXELS_MEMORY,
        FAMILY,
        "a frame of a board's pixels exceeds its memory",
        &[Caution, Unknown],
        lines::memory,
    )
    .fixed_by(&[Part]),
    Check::new(
        codes::DATA_LEVEL,
        FAMILY,
        "a data line's high or low level is beyond the receiver's threshold, or has no margin",
        &[Fault, Caution, Unknown],
        data_level::run,
    )
    .fixed_by(&[Level, Part]),
    Check::new(
        codes::DATA_SLOW_EDGE,
        FAMILY,
        "a shifter or resistor in a one-wire data line makes its edges too slow for 800 kHz",
        &[Fault],
        data_lead::slow_edge,
    )
    .fixed_by(&[Keys(keys::DATA_SLOW_EDGE), Level, Part]),
    Check::new(
        codes::DATA_CABLE,
        FAMILY,
        "a data cable is too long for its driver, or has no series resistor",
        &[Caution],
        data_lead::cable,
    )
    .fixed_by(&[Keys(keys::DATA_CABLE), Level, Part]),
    Check::new(codes::FIRMWARE_DIFFERS, FAMILY, "the firmware settings differ from the plan", &[Fault], firmware::run)
        .fixed_by(&[Keys(keys::FIRMWARE_DIFFERS)]),
];
