//! Motors, pumps and servos: what feeds them, what they take while they are held, what that does to boards.

pub(crate) mod braking;
pub(crate) mod brown_out;
mod keys;
pub(crate) mod on_time;
pub(crate) mod reversal;
pub(crate) mod servo;
pub(crate) mod stall;
pub(crate) mod undo;
pub(crate) mod voltage;

use crate::derived::solves::Solves;
use crate::findings::change::Change::{
    Capacitor, Cells, Fuse, Keys, OwnRail, Part, Rail, Rating, Source, Stop, Voltage, Wire,
};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "motors";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::SERVO_SUPPLY,
        FAMILY,
        "a servo or motor is fed from a logic rail, or from a pin that cannot supply it",
        &[Danger],
        servo::run,
    )
    .fixed_by(&[Rail, OwnRail])
    .undone_by(undo::feed_past_board),
    Check::new(
        codes::STALL_CURRENT,
        FAMILY,
        "a stalled motor draws more than its cable, driver or supply is rated for continuously",
        &[Danger, Fault, Advisory],
        stall::run,
    )
    .fixed_by(&[Source, Rating, Cells, Part, Fuse, Wire]),
    Check::new(
        codes::BROWN_OUT,
        FAMILY,
        "a starting motor pulls a board below its brown-out voltage",
        &[Fault, Caution],
        brown_out::run,
    )
    .fixed_by(&[Keys(keys::BROWN_OUT), Capacitor, Rail, OwnRail, Source, Wire])
    .beside_nominal()
    .solving(Solves::Variants),
    Check::new(
        codes::MOTOR_VOLTAGE,
        FAMILY,
        "a motor or coil is above its rated voltage, or below what it needs to run",
        &[Danger, Fault],
        voltage::run,
    )
    .fixed_by(&[Voltage, Wire, Cells, Rail, OwnRail, Source])
    .milder_under(codes::SUPPLY_VOLTAGE),
    Check::new(
        codes::REVERSAL_CURRENT,
        FAMILY,
        "a motor reversed at speed draws more than the peak rating of its bridge",
        &[Fault, Advisory],
        reversal::run,
    )
    .fixed_by(&[Keys(keys::REVERSAL_CURRENT), Rating, Part]),
    Check::new(
        codes::BRAKING_ENERGY,
        FAMILY,
        "braking motors raise the voltage of a rail whose source absorbs no current",
        &[Caution, Advisory],
        braking::run,
    )
    .fixed_by(&[Keys(keys::BRAKING_ENERGY), Capacitor])
    .beside_nominal(),
    Check::new(
        codes::ON_TIME,
        FAMILY,
        "nothing limits what must not go on: a pump running dry, an energised coil, wearing contacts",
        &[Advisory],
        on_time::run,
    )
    .fixed_by(&[Stop, Keys(keys::ON_TIME)]),
];
