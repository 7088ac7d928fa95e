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
pub(crate) mod rest;
pub(crate) mod side;
pub(crate) mod starved;
pub(crate) mod switching;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

macro_rules! check {
    ($code:literal, $title:literal, $severities:expr, $solves:expr, $run:path) => {
        Check {
            code: $code,
            family: "driver",
            title: $title,
            severities: $severities,
            about: include_str!(concat!("../../about/", $code, ".md")),
            solves: $solves,
            run: $run,
        }
    };
}

pub(crate) const CHECKS: &[Check] = &[
    check!(
        "transistor-starved",
        "a transistor's base gets too little to saturate",
        &[Fault, Caution, Unknown],
        Solves::Nothing,
        starved::run
    ),
    check!(
        "transistor-current",
        "a stage carries more than its rating, stall and surge included, or all but as much",
        &[Danger, Caution, Unknown],
        Solves::Nothing,
        carries::run
    ),
    check!(
        "transistor-voltage",
        "a stage holds off more than its rating, or all but as much; a bridge's motor supply is out of its range",
        &[Danger, Fault, Caution, Unknown],
        Solves::Nothing,
        holds::run
    ),
    check!(
        "gate-drive",
        "a MOSFET's gate gets less than the volts for which its resistance is given, or cannot be turned off",
        &[Fault, Caution, Unknown],
        Solves::Nothing,
        gate::drive
    ),
    check!("gate-overvoltage", "a MOSFET's gate gets more than it stands", &[Danger], Solves::Nothing, gate::over),
    check!(
        "gate-floating",
        "nothing holds a gate or an enable off while its board starts",
        &[Caution],
        Solves::Nothing,
        gate::floating
    ),
    check!(
        "driver-heat",
        "a stage's junction is over its limit, or within 15 K of it",
        &[Danger, Caution, Unknown],
        Solves::Nothing,
        heat::run
    ),
    check!(
        "driver-headroom",
        "what a stage drops leaves its load under its volts",
        &[Fault, Caution],
        Solves::Nothing,
        headroom::run
    ),
    check!(
        "driver-switching",
        "a stage's edges take too much of the period of its PWM",
        &[Fault, Caution],
        Solves::Nothing,
        switching::run
    ),
    check!(
        "side-mismatch",
        "a stage lies on the side on which it cannot switch its load",
        &[Fault],
        Solves::Nothing,
        side::run
    ),
    check!(
        "relay-coil",
        "a relay's coil gets too little to pull in, or more than it stands",
        &[Danger, Fault, Unknown],
        Solves::Nothing,
        coil::run
    ),
    check!(
        "relay-logic",
        "a relay module's jumper joins two rails, or it pulls in while its board starts",
        &[Danger, Fault],
        Solves::Nothing,
        logic::run
    ),
    check!(
        "bridge-logic",
        "nothing feeds a bridge's logic, or something feeds the terminal that its own regulator feeds",
        &[Danger, Fault],
        Solves::Nothing,
        enable::logic
    ),
    check!(
        "relay-contact",
        "a contact switches more than it can for this kind of load",
        &[Danger, Unknown],
        Solves::Nothing,
        contact::run
    ),
    check!("relay-pwm", "a relay is switched by PWM", &[Fault], Solves::Nothing, pwm::relay),
    check!(
        "solid-state-kind",
        "a solid-state relay is of a kind that does not switch this load",
        &[Fault],
        Solves::Nothing,
        kinds::run
    ),
    check!(
        "pwm-range",
        "a stage is switched at a frequency that it does not follow",
        &[Fault],
        Solves::Nothing,
        pwm::range
    ),
    check!(
        "thermal-legs-open",
        "the legs that carry a package's heat away are left open",
        &[Caution],
        Solves::Nothing,
        legs::thermal
    ),
    check!(
        "legs-mixed",
        "a package's legs are wired in another order than its class has them",
        &[Fault],
        Solves::Nothing,
        legs::mixed
    ),
    check!("enable-open", "a bridge's enable is joined to nothing", &[Fault], Solves::Nothing, enable::run),
    check!(
        "rest-state",
        "at power-off, reset or boot a load is not where it is wished",
        &[Caution],
        Solves::Nothing,
        rest::run
    ),
    check!(
        "interlock-software-only",
        "only firmware keeps loads apart that together are too much",
        &[Caution],
        Solves::Variants,
        interlock::run
    ),
];
