//! Motors, pumps and servos: what feeds them, what they take while they are held, what that does to boards.

pub(crate) mod brown_out;
pub(crate) mod on_time;
pub(crate) mod reversal;
pub(crate) mod servo;
pub(crate) mod stall;
pub(crate) mod voltage;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Danger, Fault};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "servo-supply",
        family: "motors",
        title: "a servo or motor is fed from logic volts, or from a pin that cannot carry it",
        severities: &[Danger],
        about: include_str!("../../about/servo-supply.md"),
        solves: Solves::Nothing,
        run: servo::run,
    },
    Check {
        code: "stall-budget",
        family: "motors",
        title: "a motor that is held for long takes more than its lead, its stage or its supply carries for long",
        severities: &[Danger, Fault],
        about: include_str!("../../about/stall-budget.md"),
        solves: Solves::Nothing,
        run: stall::run,
    },
    Check {
        code: "brown-out",
        family: "motors",
        title: "a motor that starts takes a board below its brown-out",
        severities: &[Fault],
        about: include_str!("../../about/brown-out.md"),
        solves: Solves::Variants,
        run: brown_out::run,
    },
    Check {
        code: "motor-voltage",
        family: "motors",
        title: "a motor or coil gets more volts than it stands, or too few to run",
        severities: &[Danger, Fault],
        about: include_str!("../../about/motor-voltage.md"),
        solves: Solves::Nothing,
        run: voltage::run,
    },
    Check {
        code: "reversal",
        family: "motors",
        title: "a motor that is turned round at speed takes more than its bridge stands for a moment",
        severities: &[Fault],
        about: include_str!("../../about/reversal.md"),
        solves: Solves::Nothing,
        run: reversal::run,
    },
    Check {
        code: "on-time",
        family: "motors",
        title: "nothing ends what may not go on: a pump that runs dry, a coil that stays on, contacts that wear out",
        severities: &[Advice],
        about: include_str!("../../about/on-time.md"),
        solves: Solves::Nothing,
        run: on_time::run,
    },
];
