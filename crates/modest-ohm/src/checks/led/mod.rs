//! LEDs on a resistor: its value, its heat, and how sure the current is.

pub(crate) mod current;
pub(crate) mod heat;
pub(crate) mod spread;

use crate::derived::context::Context;
use crate::findings::check::{Check, OneChange};
use crate::plan::kinds::led::Led;
use crate::solved::outcome::Snapshot;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger};

/// The family's name.
const FAMILY: &str = "leds";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::LED_NO_RESISTOR,
        FAMILY,
        "nothing but its supply sets the current of an LED",
        &[Danger, Caution],
        current::no_resistor,
    )
    .fixed_with(OneChange::LedOnPin),
    Check::new(
        codes::LED_OVERCURRENT,
        FAMILY,
        "an LED carries more than its absolute maximum, or than is recommended for long",
        &[Danger, Caution],
        current::over,
    )
    .fixed_with(OneChange::LedOnPin),
    Check::new(
        codes::LED_SPREAD,
        FAMILY,
        "an LED's current is not defined: too few volts on its resistor, one resistor for several, or less than wished",
        &[Caution],
        spread::run,
    ),
    Check::new(
        codes::RESISTOR_HEAT,
        FAMILY,
        "a resistor turns more into heat than it stands, or more than 60 % of that",
        &[Danger, Caution],
        heat::run,
    ),
];

/// The largest current of a branch of an LED's members, A.
fn most_a(context: &Context<'_>, led: &Led, s: &Snapshot) -> f64 {
    context.layout.loads[led.load].iter().map(|d| s.amps(d.branch)).fold(0.0, f64::max)
}

/// As `"the LED `x`"`, or `"each LED of `x`"` where there are several.
fn each(context: &Context<'_>, led: &Led) -> String {
    let several = context.plan.loads[led.load].count * led.in_series * led.parallel > 1;
    if several { format!("each LED of `{}`", led.name.text) } else { format!("the LED `{}`", led.name.text) }
}
