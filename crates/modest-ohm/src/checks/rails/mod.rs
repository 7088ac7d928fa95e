//! Rails that meet, and what protects them.

pub(crate) mod back_fed;
pub(crate) mod bus_half;
pub(crate) mod clamp;
pub(crate) mod cranking;
pub(crate) mod diode_heat;
pub(crate) mod joined;
mod keys;
pub(crate) mod polarity;
pub(crate) mod reversed;
pub(crate) mod switch_bypassed;
pub(crate) mod switch_overloaded;
pub(crate) mod transient;
pub(crate) mod undo;

use crate::derived::solves::Solves;
use crate::findings::change::Change::{Flyback, Keys, OwnRail, Part, Rail, Rating, Remove, Voltage};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "rails";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::RAILS_JOINED,
        FAMILY,
        "a closed link, jumper, bus or track joins rails of different voltage",
        &[Danger],
        joined::rails,
    )
    .fixed_by(&[Remove, Keys(keys::JOINED)])
    .undone_by(undo::open_link),
    Check::new(codes::SUPPLIES_PARALLELED, FAMILY, "two sources are paralleled", &[Danger, Caution], joined::supplies)
        .fixed_by(&[Remove, Keys(keys::JOINED)])
        .undone_by(undo::part_from_others),
    Check::new(
        codes::BACK_FED,
        FAMILY,
        "through a closed link a part is above its maximum voltage",
        &[Danger],
        back_fed::run,
    )
    .fixed_by(&[Remove, Keys(keys::BACK_FED)])
    .solving(Solves::Variants)
    .undone_first_by(undo::open_links),
    Check::new(
        codes::SERIES_DIODE_REVERSED,
        FAMILY,
        "a diode in a supply path is reversed and blocks it",
        &[Fault],
        reversed::run,
    )
    .fixed_by(&[Keys(keys::SERIES_DIODE_REVERSED)])
    .undone_by(undo::turn_diode),
    Check::new(codes::CLAMP_CONDUCTS, FAMILY, "a clamp conducts at the voltage of its rail", &[Danger], clamp::run)
        .fixed_by(&[Keys(keys::CLAMP_CONDUCTS), Rating, Flyback])
        .undone_by(undo::remove_clamp),
    Check::new(
        codes::SWITCH_OVERLOADED,
        FAMILY,
        "a hand switch or series diode carries more than its continuous rating",
        &[Danger, Unknown],
        switch_overloaded::run,
    )
    .fixed_by(&[Rating, Part])
    .of_its_own_limit(),
    Check::new(
        codes::SWITCH_BYPASSED,
        FAMILY,
        "with a hand switch open, a part that it should switch still has power",
        &[Fault],
        switch_bypassed::run,
    )
    .fixed_by(&[Remove])
    .solving(Solves::Variants),
    Check::new(
        codes::BUS_HALF_UNFED,
        FAMILY,
        "one half of a split bus bar has consumers and no supply",
        &[Fault],
        bus_half::run,
    )
    .fixed_by(&[Keys(keys::BUS_HALF_UNFED), Rail, OwnRail])
    .undone_by(undo::bridge_half),
    Check::new(
        codes::POLARITY_UNPROTECTED,
        FAMILY,
        "reverse polarity at a battery or vehicle supply would destroy parts",
        &[Advisory],
        polarity::run,
    )
    .fixed_by(&[Keys(keys::POLARITY_UNPROTECTED)])
    .about_the_feed(),
    Check::new(
        codes::TRANSIENT_UNPROTECTED,
        FAMILY,
        "electronics are connected to a vehicle supply without transient protection",
        &[Caution],
        transient::run,
    )
    .fixed_by(&[Keys(keys::TRANSIENT_UNPROTECTED)]),
    Check::new(
        codes::CRANKING_RESET,
        FAMILY,
        "a converter or board on a vehicle supply restarts during cranking",
        &[Fault, Advisory],
        cranking::run,
    )
    .fixed_by(&[Keys(keys::CRANKING_RESET), Voltage, Part, Rating]),
    Check::new(
        codes::DIODE_HEAT,
        FAMILY,
        "the junction of a diode in a supply path is above its limit, or within 15 K of it",
        &[Danger, Caution],
        diode_heat::run,
    )
    .fixed_by(&[Keys(keys::DIODE_HEAT), Part, Voltage])
    .beside_nominal(),
];
