//! Motors, pumps and servos: what feeds them, what they take while they are held, what that does to boards.

pub(crate) mod braking;
pub(crate) mod brown_out;
pub(crate) mod on_time;
pub(crate) mod reversal;
pub(crate) mod servo;
pub(crate) mod stall;
pub(crate) mod undo;
pub(crate) mod voltage;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "motors";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::SERVO_SUPPLY,
        FAMILY,
        "a servo or motor is fed from logic volts, or from a pin that cannot carry it",
        &[Danger],
        servo::run,
    )
    .undone_by(undo::feed_past_board),
    Check::new(
        codes::STALL_BUDGET,
        FAMILY,
        "a motor that is held for long takes more than its lead, its stage or its supply carries for long",
        &[Danger, Fault, Advice],
        stall::run,
    ),
    Check::new(
        codes::BROWN_OUT,
        FAMILY,
        "a motor that starts takes a board below its brown-out",
        &[Fault, Caution],
        brown_out::run,
    )
    .solving(Solves::Variants),
    Check::new(
        codes::MOTOR_VOLTAGE,
        FAMILY,
        "a motor or coil gets more volts than it stands, or too few to run",
        &[Danger, Fault],
        voltage::run,
    ),
    Check::new(
        codes::REVERSAL,
        FAMILY,
        "a motor that is turned round at speed takes more than its bridge stands for a moment",
        &[Fault, Advice],
        reversal::run,
    ),
    Check::new(
        codes::BRAKING_ENERGY,
        FAMILY,
        "motors that their bridge slows down lift the volts of a rail whose source takes nothing back",
        &[Caution, Advice],
        braking::run,
    ),
    Check::new(
        codes::ON_TIME,
        FAMILY,
        "nothing ends what may not go on: a pump that runs dry, a coil that stays on, contacts that wear out",
        &[Advice],
        on_time::run,
    ),
];
