//! Rails that meet, and what protects them.

pub(crate) mod back_fed;
pub(crate) mod bus_half;
pub(crate) mod clamp;
pub(crate) mod cranking;
pub(crate) mod diode_heat;
pub(crate) mod joined;
pub(crate) mod polarity;
pub(crate) mod reversed;
pub(crate) mod switch_bypassed;
pub(crate) mod switch_overloaded;
pub(crate) mod transient;
pub(crate) mod undo;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "rails";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::RAILS_JOINED,
        FAMILY,
        "a closed link, jumper, bus or track joins rails of different volts",
        &[Danger],
        joined::rails,
    )
    .undone_by(undo::open_link),
    Check::new(codes::SUPPLIES_PARALLELED, FAMILY, "two sources are joined at +", &[Danger, Caution], joined::supplies)
        .undone_by(undo::part_from_others),
    Check::new(
        codes::BACK_FED,
        FAMILY,
        "through a closed link a part receives more volts than it may",
        &[Danger],
        back_fed::run,
    )
    .solving(Solves::Variants)
    .undone_first_by(undo::open_links),
    Check::new(
        codes::SERIES_DIODE_REVERSED,
        FAMILY,
        "a diode in a feed shows the wrong way and blocks it",
        &[Fault],
        reversed::run,
    )
    .undone_by(undo::turn_diode),
    Check::new(
        codes::CLAMP_CONDUCTS,
        FAMILY,
        "a clamp conducts at the volts of the rail it sits on",
        &[Danger],
        clamp::run,
    )
    .undone_by(undo::remove_clamp),
    Check::new(
        codes::SWITCH_OVERLOADED,
        FAMILY,
        "the wanted continuous current is above a hand switch's or series diode's rating",
        &[Danger, Unknown],
        switch_overloaded::run,
    )
    .of_its_own_limit(),
    Check::new(
        codes::SWITCH_BYPASSED,
        FAMILY,
        "with a hand switch open, what it should switch is still fed",
        &[Fault],
        switch_bypassed::run,
    )
    .solving(Solves::Variants),
    Check::new(
        codes::BUS_HALF_UNFED,
        FAMILY,
        "half of a split bus bar has consumers and no feed",
        &[Fault],
        bus_half::run,
    )
    .undone_by(undo::bridge_half),
    Check::new(
        codes::POLARITY_UNPROTECTED,
        FAMILY,
        "a battery or vehicle supply can be connected the wrong way round",
        &[Advice],
        polarity::run,
    )
    .about_the_feed(),
    Check::new(
        codes::TRANSIENT_UNPROTECTED,
        FAMILY,
        "electronics hang on a vehicle's supply without what stops its transients",
        &[Caution],
        transient::run,
    ),
    Check::new(
        codes::CRANKING_RESET,
        FAMILY,
        "a converter or board on a vehicle's supply restarts while the engine starts",
        &[Fault, Advice],
        cranking::run,
    ),
    Check::new(
        codes::DIODE_HEAT,
        FAMILY,
        "the junction of a diode in a feed is over its limit, or within 15 K of it",
        &[Danger, Caution],
        diode_heat::run,
    ),
];
