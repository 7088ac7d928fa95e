//! Wires and contacts.

pub(crate) mod cable_unknown;
pub(crate) mod contact;
pub(crate) mod header;
pub(crate) mod holder;
mod keys;
pub(crate) mod overloaded;
pub(crate) mod starved;
pub(crate) mod voltage_drop;

use crate::findings::change::Change::{FirmwareLimit, Keys, Part, Rating, Source, Wire, WireAndFuse};
use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Unknown};

/// The family's name.
const FAMILY: &str = "wire";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::WIRE_OVERLOADED,
        FAMILY,
        "a wire carries more than its ampacity at this air temperature",
        &[Danger, Caution, Unknown],
        overloaded::run,
    )
    .fixed_by(&[Wire, WireAndFuse, FirmwareLimit])
    .of_its_own_limit(),
    Check::new(
        codes::CONTACT_OVERLOADED,
        FAMILY,
        "a plug, terminal or other contact carries more than its rating",
        &[Danger, Caution, Unknown],
        contact::run,
    )
    .fixed_by(&[Rating, Keys(keys::CONTACT_OVERLOADED), Part, FirmwareLimit])
    .of_its_own_limit(),
    Check::new(codes::RETURN_UNDERSIZED, FAMILY, "a return has less copper than its feed", &[Caution], starved::run)
        .fixed_by(&[Wire, Keys(keys::RETURN_UNDERSIZED)]),
    Check::new(
        codes::VOLTAGE_DROP,
        FAMILY,
        "an unregulated load loses more of its supply voltage than the policy allows",
        &[Caution, Advisory],
        voltage_drop::run,
    )
    .fixed_by(&[Wire, Source])
    .fixed_with(OneChange::LoadOnPin),
    Check::new(
        codes::CABLE_UNKNOWN,
        FAMILY,
        "a cable that carries more than 0.5 A is not given",
        &[Unknown],
        cable_unknown::run,
    ),
];
