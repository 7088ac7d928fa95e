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
mod keys;
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
use crate::findings::change::Change::{Fuse, Keys, Level, Part, Pin, Rail, Rating, Source, Voltage, Wire};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "driver";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::BASE_DRIVE,
        FAMILY,
        "a transistor's base current is too small to saturate it",
        &[Fault, Caution, Unknown],
        starved::run,
    )
    .fixed_by(&[Keys(keys::BASE_DRIVE), Part, Level]),
    Check::new(
        codes::DRIVER_CURRENT,
        FAMILY,
        "a driver carries more than its rating, or nearly as much, start and stall included",
        &[Danger, Caution, Unknown],
        carries::run,
    )
    .fixed_by(&[Rating, Part, Voltage])
    .beside_nominal(),
    Check::new(
        codes::DRIVER_VOLTAGE,
        FAMILY,
        "a driver blocks more than its voltage rating, or nearly as much; or a bridge's motor supply is out of range",
        &[Danger, Fault, Caution, Unknown],
        holds::run,
    )
    .fixed_by(&[Rating, Part, Voltage]),
    Check::new(
        codes::GATE_DRIVE,
        FAMILY,
        "a MOSFET's gate voltage is too low for its on-resistance, or cannot turn it off",
        &[Fault, Caution, Unknown],
        gate::drive,
    )
    .fixed_by(&[Keys(keys::GATE_DRIVE), Part, Level])
    .undone_by(gate::between),
    Check::new(
        codes::GATE_OVERVOLTAGE,
        FAMILY,
        "a MOSFET's gate voltage exceeds its rating",
        &[Danger, Caution],
        gate::over,
    )
    .fixed_by(&[Keys(keys::GATE_OVERVOLTAGE), Part]),
    Check::new(
        codes::GATE_FLOATING,
        FAMILY,
        "nothing holds a gate or enable off while the board starts",
        &[Caution],
        gate::floating,
    )
    .fixed_by(&[Keys(keys::GATE_FLOATING)]),
    Check::new(
        codes::DRIVER_HEAT,
        FAMILY,
        "a driver's junction is above its limit, or within 15 K of it",
        &[Danger, Caution, Unknown],
        heat::run,
    )
    .fixed_by(&[Keys(keys::DRIVER_HEAT), Part, Voltage])
    .beside_nominal(),
    Check::new(
        codes::DRIVER_HEADROOM,
        FAMILY,
        "a driver drops so much that the load's voltage is too low",
        &[Fault, Caution],
        headroom::run,
    )
    .fixed_by(&[Rating, Part, Voltage])
    .standing_alone(),
    Check::new(
        codes::DRIVER_SWITCHING,
        FAMILY,
        "a driver's switching times take too much of the PWM period",
        &[Fault, Caution],
        switching::run,
    )
    .fixed_by(&[Keys(keys::DRIVER_SWITCHING), Part, Voltage]),
    Check::new(
        codes::SIDE_MISMATCH,
        FAMILY,
        "a driver is on the side where it cannot switch its load",
        &[Fault],
        side::run,
    )
    .fixed_by(&[Keys(keys::SIDE_MISMATCH), Part]),
    Check::new(
        codes::RELAY_COIL,
        FAMILY,
        "a relay coil's voltage is too low to pull in, or above its rating",
        &[Danger, Fault, Caution, Unknown],
        coil::run,
    )
    .fixed_by(&[Voltage, Part, Wire, Rail]),
    Check::new(
        codes::RELAY_LOGIC,
        FAMILY,
        "a relay module's jumper joins two rails, or the relay pulls in at power-on",
        &[Danger, Fault],
        logic::run,
    )
    .fixed_by(&[Keys(keys::RELAY_LOGIC)]),
    Check::new(codes::BRIDGE_LOGIC, FAMILY, "a bridge has no logic supply, or two", &[Danger, Fault], enable::logic)
        .fixed_by(&[Keys(keys::BRIDGE_LOGIC), Rail]),
    Check::new(
        codes::RELAY_CONTACT,
        FAMILY,
        "a contact carries, breaks or closes on more than its rating",
        &[Danger, Fault, Caution, Unknown],
        contact::run,
    )
    .fixed_by(&[Rating, Part, Voltage]),
    Check::new(
        codes::PWM_UNSUITED,
        FAMILY,
        "PWM switches the supply of a part that needs a steady one",
        &[Fault, Caution],
        pwm_supply::run,
    )
    .fixed_by(&[Keys(keys::PWM_UNSUITED)]),
    Check::new(codes::RELAY_PWM, FAMILY, "PWM switches a relay", &[Fault], pwm::relay)
        .fixed_by(&[Keys(keys::RELAY_PWM)]),
    Check::new(
        codes::SOLID_STATE_KIND,
        FAMILY,
        "a solid-state relay is of a kind that cannot switch this load",
        &[Fault],
        kinds::run,
    )
    .fixed_by(&[Keys(keys::SOLID_STATE_KIND), Part]),
    Check::new(codes::PWM_RANGE, FAMILY, "a driver is switched at a frequency outside its range", &[Fault], pwm::range)
        .fixed_by(&[Keys(keys::PWM_RANGE)]),
    Check::new(codes::THERMAL_PINS_OPEN, FAMILY, "pins that cool a package are open", &[Caution], legs::thermal)
        .fixed_by(&[Keys(keys::THERMAL_PINS_OPEN)]),
    Check::new(
        codes::PINOUT_WRONG,
        FAMILY,
        "a package is wired in another order than its pinout",
        &[Fault],
        legs::mixed,
    )
    .fixed_by(&[Keys(keys::PINOUT_WRONG)]),
    Check::new(codes::ENABLE_OPEN, FAMILY, "a bridge's enable input is open", &[Fault], enable::run)
        .fixed_by(&[Keys(keys::ENABLE_OPEN)]),
    Check::new(
        codes::SAFE_STATE,
        FAMILY,
        "at power-off, reset or power-on a load is not in its safe state",
        &[Caution],
        rest::run,
    )
    .fixed_by(&[Keys(keys::SAFE_STATE), Pin]),
    Check::new(
        codes::INTERLOCK_SOFTWARE_ONLY,
        FAMILY,
        "only firmware keeps apart loads that together overload something",
        &[Caution],
        interlock::run,
    )
    .fixed_by(&[Source, Rating, Fuse])
    .solving(Solves::Variants),
];
