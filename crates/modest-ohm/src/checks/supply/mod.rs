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
pub(crate) mod limiter;
pub(crate) mod local_capacitor;
pub(crate) mod overloaded;
pub(crate) mod ringing;
pub(crate) mod sleeps;
pub(crate) mod surge;
pub(crate) mod undo;
pub(crate) mod voltage;

use crate::derived::solves::Solves;
use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "supply";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::FEED_COLLAPSES,
        FAMILY,
        "more power is asked of a feed than it can deliver: there is no working voltage",
        &[Fault, Unknown],
        collapse::run,
    )
    .solving(Solves::Limits),
    Check::new(
        codes::SUPPLY_OVERLOADED,
        FAMILY,
        "the wanted continuous current is above a supply's, converter's or board output's rating",
        &[Danger, Unknown],
        overloaded::run,
    )
    .of_its_own_limit()
    .lifted(false),
    Check::new(
        codes::SUPPLY_HEADROOM,
        FAMILY,
        "the wanted continuous current leaves less than the policy's headroom",
        &[Caution],
        headroom::run,
    )
    .of_its_own_limit(),
    Check::new(
        codes::SUPPLY_VOLTAGE,
        FAMILY,
        "a consumer's volts are above its maximum, below its minimum, or outside its recommended range",
        &[Danger, Fault, Caution, Advice, Unknown],
        voltage::run,
    )
    .undone_by(undo::rated_volts)
    .fixed_with(OneChange::LoadOnPin),
    Check::new(
        codes::CONVERTER_INPUT,
        FAMILY,
        "a converter's input is above its range, or too low to make the output",
        &[Danger, Fault],
        converter_input::run,
    ),
    Check::new(
        codes::CONVERTER_HEAT,
        FAMILY,
        "a converter or on-board regulator gets hotter than its junction stands, or nearly",
        &[Danger, Caution],
        converter_heat::run,
    ),
    Check::new(
        codes::SUPPLY_SURGE,
        FAMILY,
        "a start or a surge drives a source into its limit, or a board below its brown-out",
        &[Fault, Caution],
        surge::run,
    )
    .lifted(true),
    Check::new(
        codes::INRUSH,
        FAMILY,
        "charging capacitors is too much for a contact, or takes longer than a supply waits",
        &[Fault, Caution],
        inrush::run,
    ),
    Check::new(
        codes::INRUSH_LIMITER,
        FAMILY,
        "an inrush limiter carries too much or too little, or meets more energy than it withstands",
        &[Danger, Fault, Caution, Advice, Unknown],
        limiter::run,
    ),
    Check::new(
        codes::LOCAL_CAPACITOR,
        FAMILY,
        "what needs a capacitor beside it has none there",
        &[Caution],
        local_capacitor::run,
    )
    .about_the_feed(),
    Check::new(
        codes::SOURCE_SLEEPS,
        FAMILY,
        "a power bank switches off because too little is drawn from it",
        &[Caution],
        sleeps::run,
    ),
    Check::new(
        codes::BULK_CAPACITOR,
        FAMILY,
        "a load step on a board's rail wants a capacitor that holds the dip",
        &[Advice],
        bulk::run,
    )
    .about_the_feed(),
    Check::new(
        codes::BOX_HEAT,
        FAMILY,
        "a closed box gets warmer inside than what is in it stands",
        &[Caution],
        box_heat::run,
    ),
    Check::new(
        codes::CAPACITOR_VOLTAGE,
        FAMILY,
        "a capacitor gets more volts than it is rated for",
        &[Danger, Caution, Advice],
        capacitor_voltage::run,
    ),
    Check::new(
        codes::CAPACITOR_RIPPLE,
        FAMILY,
        "PWM draws more ripple current from a capacitor than it is rated for",
        &[Fault, Caution],
        capacitor_ripple::run,
    ),
    Check::new(
        codes::PLUG_IN_RINGING,
        FAMILY,
        "a contact closes on ceramic capacitors over a lead, and the volts swing above a part's maximum",
        &[Caution],
        ringing::run,
    ),
];
