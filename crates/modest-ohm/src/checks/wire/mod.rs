//! Wires and contacts.

pub(crate) mod cable_unknown;
pub(crate) mod contact;
pub(crate) mod header;
pub(crate) mod holder;
pub(crate) mod overloaded;
pub(crate) mod starved;
pub(crate) mod voltage_drop;

use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Unknown};

/// The family's name.
const FAMILY: &str = "wire";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::WIRE_OVERLOADED,
        FAMILY,
        "the wanted continuous current is above what a wire carries at this ambient",
        &[Danger, Caution, Unknown],
        overloaded::run,
    )
    .of_its_own_limit(),
    Check::new(
        codes::CONTACT_OVERLOADED,
        FAMILY,
        "the wanted continuous current is above what a plug, terminal or other contact carries",
        &[Danger, Caution, Unknown],
        contact::run,
    )
    .of_its_own_limit(),
    Check::new(codes::RETURN_STARVED, FAMILY, "a return has less copper than its feed", &[Caution], starved::run),
    Check::new(
        codes::VOLTAGE_DROP,
        FAMILY,
        "a consumer without regulation loses more of its source's volts than the policy allows",
        &[Caution, Advice],
        voltage_drop::run,
    )
    .fixed_with(OneChange::LoadOnPin),
    Check::new(
        codes::CABLE_UNKNOWN,
        FAMILY,
        "something draws more than 0.5 A over a lead that the plan does not give",
        &[Unknown],
        cable_unknown::run,
    ),
];
