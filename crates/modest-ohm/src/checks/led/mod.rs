//! LEDs on a resistor: its value, its heat, and how sure the current is.

pub(crate) mod current;
pub(crate) mod heat;
pub(crate) mod junction;
mod keys;
pub(crate) mod spread;

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::change::Change::{Keys, OwnResistors, Rail, Voltage};
use crate::findings::check::{Check, OneChange};
use crate::network::state::Member;
use crate::plan::kinds::led::Led;
use crate::plan::kinds::load::Demand;
use crate::plan::kinds::scenario::LoadState;
use crate::quantity::figure::Corner;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "leds";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::LED_NO_RESISTOR,
        FAMILY,
        "only the supply sets the current of an LED",
        &[Danger, Caution],
        current::no_resistor,
    )
    .fixed_by(&[Keys(keys::LED_NO_RESISTOR)])
    .fixed_with(OneChange::LedOnPin),
    Check::new(
        codes::LED_OVERCURRENT,
        FAMILY,
        "an LED carries more than its absolute maximum, or than its recommended continuous current",
        &[Danger, Caution],
        current::over,
    )
    .fixed_by(&[Keys(keys::LED_OVERCURRENT)])
    .fixed_with(OneChange::LedOnPin),
    Check::new(
        codes::LED_SPREAD,
        FAMILY,
        "an LED's current is poorly defined: too little voltage across its resistor, one resistor for several, or \
        below the minimum",
        &[Fault, Caution],
        spread::run,
    )
    .fixed_by(&[OwnResistors, Keys(keys::LED_SPREAD), Voltage, Rail])
    .beside_nominal(),
    Check::new(
        codes::RESISTOR_HEAT,
        FAMILY,
        "a resistor dissipates more than its rating, or more than 60 % of it",
        &[Danger, Caution],
        heat::run,
    )
    .fixed_by(&[Keys(keys::RESISTOR_HEAT)]),
    Check::new(
        codes::LED_HEAT,
        FAMILY,
        "a power LED's junction is above its limit, or within 15 K of it",
        &[Danger, Caution],
        junction::run,
    )
    .fixed_by(&[Keys(keys::LED_HEAT)])
    .beside_nominal(),
];

/// The largest current of a branch of an LED's members, A.
fn most_a(context: &Context<'_>, led: &Led, s: &Snapshot) -> f64 {
    if let Some(source) = &led.source {
        let is_on = context.layout.loads[led.load].iter().any(|d| s.amps(d.branch) > 1e-9);
        return if is_on { source.current.high.get() } else { 0.0 };
    }
    context.layout.loads[led.load].iter().map(|d| s.amps(d.branch)).fold(0.0, f64::max)
}

/// The least current of one LED while it is lit, A: its rail and its resistor at their own worst, which no corner
/// joins: the voltage lowest, Vf and resistance largest.
pub(crate) fn least_a(context: &Context<'_>, led: &Led) -> Option<(Worst, f64)> {
    let load = &context.plan.loads[led.load];
    let Demand::Leds(draw) = &load.demand else { return None };
    let lit = |m: &Member| !matches!(m, Member::State(LoadState::Off | LoadState::Idle));
    let of = |o: &Outcome| {
        let s = o.sustained.as_ref().ok()?;
        let rail = s.volts_at(load.feed.from.id)?;
        let members = s.layout.loads[led.load].iter().zip(&o.case.demands.loads[led.load]);
        let each = members.filter(|(_, m)| lit(m)).filter_map(|(d, _)| {
            let (amps, volts) = (s.amps(d.branch).max(0.0), s.volts(d.at)?);
            // What lies between its rail and its terminals: leads, the pin, a stage's resistance.
            let before = if amps > 1e-9 { ((rail - volts) / amps).max(0.0) } else { 0.0 };
            let diode = draw.diode.as_ref().map_or(0.0, |v| v.high.get());
            let left = rail - draw.vf.high.get() - diode;
            Some((left / (draw.ohms.high.get() + before).max(1e-9)).max(0.0))
        });
        each.reduce(f64::min)
    };
    let low = context.continuous().filter(|o| o.corner == Corner::Low);
    let (o, value) = worst_of(low, |o| of(o).map(|v| -v))?;
    Some((Worst::at(o, -value), -value / led.parallel as f64))
}

/// The largest current of one LED at nominal figures, A.
pub(crate) fn nominal_a(context: &Context<'_>, led: &Led) -> f64 {
    if let Some(source) = &led.source {
        return source.current.typical.get() / led.parallel as f64;
    }
    let typical = context.continuous().filter(|o| o.corner == Corner::Typical);
    let amps = typical.filter_map(|o| Some(most_a(context, led, o.sustained.as_ref().ok()?)));
    amps.fold(0.0, f64::max) / led.parallel as f64
}

/// As `"the LED `x`"`, or `"each LED of `x`"` where there are several.
fn each(context: &Context<'_>, led: &Led) -> String {
    let several = context.plan.loads[led.load].count * led.in_series * led.parallel > 1;
    if several { format!("each LED of `{}`", led.name.text) } else { format!("LED `{}`", led.name.text) }
}
