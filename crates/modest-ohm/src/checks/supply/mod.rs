//! Supplies, rails and boards.

pub(crate) mod box_heat;
pub(crate) mod bulk;
pub(crate) mod capacitor_ripple;
pub(crate) mod capacitor_voltage;
pub(crate) mod collapse;
pub(crate) mod converter_heat;
pub(crate) mod converter_input;
pub(crate) mod headroom;
pub(crate) mod inrush;
mod keys;
pub(crate) mod limiter;
pub(crate) mod local_capacitor;
pub(crate) mod overloaded;
pub(crate) mod ringing;
pub(crate) mod sleeps;
pub(crate) mod surge;
pub(crate) mod undo;
pub(crate) mod voltage;

use crate::derived::solves::Solves;
use crate::findings::change::Change::{
    Bleeder, Capacitor, Cells, FirmwareLimit, Keys, Limiter, OwnRail, Part, Rail, Rating, Source, Voltage, Wire,
};
use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "supply";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::FEED_COLLAPSES,
        FAMILY,
        "the loads draw more power than a supply path can deliver: there is no working voltage",
        &[Fault, Unknown],
        collapse::run,
    )
    .fixed_by(&[Wire, FirmwareLimit, Voltage])
    .solving(Solves::Limits),
    Check::new(
        codes::SUPPLY_OVERLOADED,
        FAMILY,
        "a supply, converter or board output must supply more than its continuous rating",
        &[Danger, Unknown],
        overloaded::run,
    )
    .fixed_by(&[FirmwareLimit, Source, Rating, Cells, Rail])
    .milder_under(codes::SUPPLY_HEADROOM)
    .beside_nominal()
    .of_its_own_limit()
    .lifted(),
    Check::new(
        codes::SUPPLY_HEADROOM,
        FAMILY,
        "a source has less headroom than the policy requires",
        &[Caution],
        headroom::run,
    )
    .fixed_by(&[FirmwareLimit, Source, Rating, Cells, Rail])
    .of_its_own_limit(),
    Check::new(
        codes::SUPPLY_VOLTAGE,
        FAMILY,
        "a consumer is above its maximum voltage, below its minimum, or outside its recommended range",
        &[Danger, Fault, Caution, Advisory, Unknown],
        voltage::run,
    )
    .fixed_by(&[Voltage, Wire, Cells, Rail, OwnRail, Source])
    .undone_by(undo::rated_volts)
    .fixed_with(OneChange::LoadOnPin),
    Check::new(
        codes::CONVERTER_INPUT,
        FAMILY,
        "a converter's input is above its range, or too low for its output",
        &[Danger, Fault],
        converter_input::run,
    )
    .fixed_by(&[Keys(keys::CONVERTER_INPUT), Voltage, Part, Rating]),
    Check::new(
        codes::CONVERTER_HEAT,
        FAMILY,
        "the junction of a converter or on-board regulator is above its limit, or nearly",
        &[Danger, Caution],
        converter_heat::run,
    )
    .fixed_by(&[Keys(keys::CONVERTER_HEAT), Part, Voltage]),
    Check::new(
        codes::SUPPLY_SURGE,
        FAMILY,
        "a start or surge drives a source into its limit, or a board below its brown-out voltage",
        &[Fault, Caution],
        surge::run,
    )
    .fixed_by(&[Source, Rating, Keys(keys::SUPPLY_SURGE), Cells, OwnRail])
    .beside_nominal()
    .lifted(),
    Check::new(
        codes::INRUSH,
        FAMILY,
        "charging current welds a contact, or lasts longer than a supply waits",
        &[Fault, Caution],
        inrush::run,
    )
    .fixed_by(&[Limiter, Source, Rating, Capacitor, Keys(keys::INRUSH)]),
    Check::new(
        codes::INRUSH_LIMITER,
        FAMILY,
        "an inrush limiter carries too much or too little, or absorbs more energy than its rating",
        &[Danger, Fault, Caution, Advisory, Unknown],
        limiter::run,
    )
    .fixed_by(&[Rating, Part]),
    Check::new(
        codes::LOCAL_CAPACITOR,
        FAMILY,
        "a part that needs a capacitor beside it has none",
        &[Caution],
        local_capacitor::run,
    )
    .fixed_by(&[Capacitor])
    .about_the_feed(),
    Check::new(
        codes::SOURCE_SLEEPS,
        FAMILY,
        "a power bank switches off because its load current is too small",
        &[Caution],
        sleeps::run,
    )
    .fixed_by(&[Bleeder]),
    Check::new(
        codes::BULK_CAPACITOR,
        FAMILY,
        "a load step on a board's rail needs a capacitor to hold the dip",
        &[Advisory],
        bulk::run,
    )
    .fixed_by(&[Capacitor])
    .beside_nominal()
    .about_the_feed(),
    Check::new(
        codes::ENCLOSURE_HEAT,
        FAMILY,
        "the air in an enclosure is hotter than the parts inside withstand",
        &[Caution],
        box_heat::run,
    ),
    Check::new(
        codes::CAPACITOR_VOLTAGE,
        FAMILY,
        "a capacitor is above its rated voltage",
        &[Danger, Caution, Advisory],
        capacitor_voltage::run,
    )
    .fixed_by(&[Rating, Part]),
    Check::new(
        codes::CAPACITOR_RIPPLE,
        FAMILY,
        "PWM draws more ripple current from a capacitor than its rating",
        &[Fault, Caution],
        capacitor_ripple::run,
    )
    .fixed_by(&[Rating, Part]),
    Check::new(
        codes::PLUG_IN_RINGING,
        FAMILY,
        "a contact closes on ceramic capacitors over a cable, and the ringing exceeds a part's maximum",
        &[Caution],
        ringing::run,
    )
    .fixed_by(&[Capacitor]),
];
