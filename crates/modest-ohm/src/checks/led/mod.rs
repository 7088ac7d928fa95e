//! LEDs on a resistor: its value, its heat, and how sure the current is.

pub(crate) mod current;
pub(crate) mod heat;
pub(crate) mod spread;

use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::plan::kinds::led::Led;
use crate::solved::outcome::Snapshot;
use crate::verdict::severity::Severity::{Caution, Danger};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "led-no-resistor",
        family: "leds",
        title: "nothing but its supply sets the current of an LED",
        severities: &[Danger, Caution],
        about: include_str!("../../about/led-no-resistor.md"),
        solves: Solves::Nothing,
        run: current::no_resistor,
    },
    Check {
        code: "led-overcurrent",
        family: "leds",
        title: "an LED carries more than its absolute maximum, or than is recommended for long",
        severities: &[Danger, Caution],
        about: include_str!("../../about/led-overcurrent.md"),
        solves: Solves::Nothing,
        run: current::over,
    },
    Check {
        code: "led-spread",
        family: "leds",
        title: "an LED's current is not defined: too few volts on its resistor, one resistor for several, or less than wished",
        severities: &[Caution],
        about: include_str!("../../about/led-spread.md"),
        solves: Solves::Nothing,
        run: spread::run,
    },
    Check {
        code: "resistor-heat",
        family: "leds",
        title: "a resistor turns more into heat than it stands, or more than 60 % of that",
        severities: &[Danger, Caution],
        about: include_str!("../../about/resistor-heat.md"),
        solves: Solves::Nothing,
        run: heat::run,
    },
];

/// The largest current of a branch of an LED's members, A.
fn most_a(context: &Context<'_>, led: &Led, s: &Snapshot) -> f64 {
    context.layout.loads[led.load].iter().map(|(_, b)| s.solution.current[*b]).fold(0.0, f64::max)
}

/// As `"the LED `x`"`, or `"each LED of `x`"` where there are several.
fn each(context: &Context<'_>, led: &Led) -> String {
    let several = context.plan.loads[led.load].count * led.in_series * led.parallel > 1;
    if several { format!("each LED of `{}`", led.name.text) } else { format!("the LED `{}`", led.name.text) }
}
