//! Driver stages: whether they are fully on, what they carry and hold off, how warm they get, where they rest.

pub(crate) mod carries;
pub(crate) mod coil;
pub(crate) mod contact;
pub(crate) mod enable;
pub(crate) mod gate;
pub(crate) mod headroom;
pub(crate) mod heat;
pub(crate) mod holds;
pub(crate) mod interlock;
pub(crate) mod kinds;
pub(crate) mod legs;
pub(crate) mod logic;
pub(crate) mod pwm;
pub(crate) mod pwm_supply;
pub(crate) mod rest;
pub(crate) mod side;
pub(crate) mod starved;
pub(crate) mod switching;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "driver";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::TRANSISTOR_STARVED,
        FAMILY,
        "a transistor's base gets too little to saturate",
        &[Fault, Caution, Unknown],
        starved::run,
    ),
    Check::new(
        codes::TRANSISTOR_CURRENT,
        FAMILY,
        "a stage carries more than its rating, stall and surge included, or all but as much",
        &[Danger, Caution, Unknown],
        carries::run,
    ),
    Check::new(
        codes::TRANSISTOR_VOLTAGE,
        FAMILY,
        "a stage holds off more than its rating, or all but as much; a bridge's motor supply is out of its range",
        &[Danger, Fault, Caution, Unknown],
        holds::run,
    ),
    Check::new(
        codes::GATE_DRIVE,
        FAMILY,
        "a MOSFET's gate gets less than the volts for which its resistance is given, or cannot be turned off",
        &[Fault, Caution, Unknown],
        gate::drive,
    )
    .undone_by(gate::between),
    Check::new(
        codes::GATE_OVERVOLTAGE,
        FAMILY,
        "a MOSFET's gate gets more than it stands",
        &[Danger, Caution],
        gate::over,
    ),
    Check::new(
        codes::GATE_FLOATING,
        FAMILY,
        "nothing holds a gate or an enable off while its board starts",
        &[Caution],
        gate::floating,
    ),
    Check::new(
        codes::DRIVER_HEAT,
        FAMILY,
        "a stage's junction is over its limit, or within 15 K of it",
        &[Danger, Caution, Unknown],
        heat::run,
    ),
    Check::new(
        codes::DRIVER_HEADROOM,
        FAMILY,
        "what a stage drops leaves its load under its volts",
        &[Fault, Caution],
        headroom::run,
    )
    .standing_alone(),
    Check::new(
        codes::DRIVER_SWITCHING,
        FAMILY,
        "a stage's edges take too much of the period of its PWM",
        &[Fault, Caution],
        switching::run,
    ),
    Check::new(
        codes::SIDE_MISMATCH,
        FAMILY,
        "a stage lies on the side on which it cannot switch its load",
        &[Fault],
        side::run,
    ),
    Check::new(
        codes::RELAY_COIL,
        FAMILY,
        "a relay's coil gets too little to pull in, or more than it stands",
        &[Danger, Fault, Caution, Unknown],
        coil::run,
    ),
    Check::new(
        codes::RELAY_LOGIC,
        FAMILY,
        "a relay module's jumper joins two rails, or it pulls in while its board starts",
        &[Danger, Fault],
        logic::run,
    ),
    Check::new(
        codes::BRIDGE_LOGIC,
        FAMILY,
        "nothing feeds a bridge's logic, or something feeds the terminal that its own regulator feeds",
        &[Danger, Fault],
        enable::logic,
    ),
    Check::new(
        codes::RELAY_CONTACT,
        FAMILY,
        "a contact carries, breaks or closes on more than it is made for",
        &[Danger, Fault, Caution, Unknown],
        contact::run,
    ),
    Check::new(
        codes::PWM_UNSUITED,
        FAMILY,
        "PWM chops the supply of something that wants it steady",
        &[Fault, Caution],
        pwm_supply::run,
    ),
    Check::new(codes::RELAY_PWM, FAMILY, "a relay is switched by PWM", &[Fault], pwm::relay),
    Check::new(
        codes::SOLID_STATE_KIND,
        FAMILY,
        "a solid-state relay is of a kind that does not switch this load",
        &[Fault],
        kinds::run,
    ),
    Check::new(
        codes::PWM_RANGE,
        FAMILY,
        "a stage is switched at a frequency that it does not follow",
        &[Fault],
        pwm::range,
    ),
    Check::new(
        codes::THERMAL_LEGS_OPEN,
        FAMILY,
        "the legs that carry a package's heat away are left open",
        &[Caution],
        legs::thermal,
    ),
    Check::new(
        codes::LEGS_MIXED,
        FAMILY,
        "a package's legs are wired in another order than its class has them",
        &[Fault],
        legs::mixed,
    ),
    Check::new(codes::ENABLE_OPEN, FAMILY, "a bridge's enable is joined to nothing", &[Fault], enable::run),
    Check::new(
        codes::REST_STATE,
        FAMILY,
        "at power-off, reset or boot a load is not where it is wished",
        &[Caution],
        rest::run,
    ),
    Check::new(
        codes::INTERLOCK_SOFTWARE_ONLY,
        FAMILY,
        "only firmware keeps loads apart that together are too much",
        &[Caution],
        interlock::run,
    )
    .solving(Solves::Variants),
];
