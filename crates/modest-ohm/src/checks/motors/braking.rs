//! braking-energy: what motors feed back into a rail whose source takes nothing, against what is fed from it.

use crate::derived::braking::{Braking, braking, is_on};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Farads, Joules, Volts};
use crate::size::capacitor::next_e6;
use crate::topology::clamps::{LETS_THROUGH, lets_through};
use crate::topology::parts::parts;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// Less is taken by whatever is connected to the rail, J (electrical corrections, section 26).
const NOTHING_J: f64 = 0.1;
/// Of the voltage that all of the energy would make of the capacitors so much arrives: supplies, ripple and losses take
/// the rest.
const ARRIVES: f64 = 0.7;
/// A suppressor conducts from 1.1 times the rail on at the earliest.
const ABOVE_RAIL: f64 = 1.1;
/// A capacitor of more is no capacitor that anybody fits to a rail, F.
const MOST_F: f64 = 22e-3;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for rail in braking(context) {
        judge(context, sink, &rail);
    }
}

/// The voltage that some energy makes of a rail.
fn rises_to(rail: &Braking<'_>, joules: f64) -> f64 {
    ARRIVES * (rail.volts * rail.volts + 2.0 * joules / rail.farads.max(1e-9)).sqrt()
}

fn judge(context: &Context<'_>, sink: &mut Sink, rail: &Braking<'_>) {
    let plan = context.plan;
    let motor = &rail.motor.name;
    let Some((part, withstands)) = weakest(plan, rail) else { return };
    let on_rail = plan.clamps.iter().filter(|c| !c.diode.reversed && is_on(plan, rail.held_by, c.across.id));
    let clamped = on_rail.filter_map(lets_through).any(|v| at_most(v, withstands));
    let rises = rises_to(rail, rail.energy_j);
    if clamped || rail.energy_j < NOTHING_J || !exceeds(rises, withstands) {
        let text = if clamped { "a suppressor limits the rail".into() } else { pass(rail) };
        sink.pass(&motor.text, || text);
        return;
    }
    // Whether it happens is connected to the start that is assumed.
    let sure = rail.least_j >= NOTHING_J && exceeds(rises_to(rail, rail.least_j), withstands);
    let assumed = if sure { "" } else { "; its stall current is assumed: write `stall`" };
    let source = &plan.nodes[rail.held_by.0].name;
    let kept = match rail.behind_diode {
        true => format!("diode `{source}` blocks it"),
        false => format!("`{source}` cannot absorb it"),
    };
    let (volts, top) = (Volts::new(rises), Volts::new(withstands));
    let joules = Joules::new(rail.energy_j);
    sink.find(
        Draft::of(if sure { Severity::Caution } else { Severity::Advisory }, motor)
            .says(format!(
                "braking `{}` returns {joules} to its rail, and {kept}: the rail may rise from {} to {volts}; `{part}` withstands \
                 {top}{assumed}",
                motor.text,
                Volts::new(rail.volts)
            ))
            .judged("rises_to", volts)
            .at_most("maximum", top, &Origin::Computed)
            .with("energy", joules)
            .with("capacitance", Farads::new(rail.farads))
            .cures(cures(rail, withstands)),
    );
}

fn pass(rail: &Braking<'_>) -> String {
    format!("braking returns {}", Joules::new(rail.energy_j))
}

fn cures(rail: &Braking<'_>, withstands: f64) -> Vec<String> {
    let mut cures = vec!["let the motors run down before reversing and write `reverses = \"from-rest\"`".to_owned()];
    // It must not conduct in normal operation, and at its pulse current not let more through than the part withstands.
    let (least, most) = (ABOVE_RAIL * rail.volts, withstands / LETS_THROUGH);
    if least < most {
        let volts = Volts::new((10.0 * (least + most) / 2.0).round() / 10.0);
        cures
            .push(format!("or fit a suppressor across the rail: `[diode.x]` with `across` and `clamps = \"{volts}\"`"));
    } else {
        let from = Volts::new((100.0 * least).ceil() / 100.0);
        cures.push(format!(
            "or a braking resistor switched across the rail from {from}: `[diode.x]` with `across`, `clamps = \
            \"{from}\"` and `clamps-at`, the voltage at which it takes the whole current"
        ));
    }
    let may = withstands / ARRIVES;
    let wanted = 2.0 * rail.energy_j / (may * may - rail.volts * rail.volts).max(1e-9) - rail.farads;
    if wanted > 0.0 && next_e6(wanted) <= MOST_F {
        let farads = Farads::new(next_e6(wanted));
        cures.push(format!("or add {farads} across the rail: `[capacitor.x]` with `capacitance = \"{farads}\"`"));
    }
    cures
}

/// Of what is fed from the rail and is harmed by voltage the part that withstands least.
fn weakest<'p>(plan: &'p Plan, rail: &Braking<'_>) -> Option<(&'p str, f64)> {
    let on_rail = parts(plan).into_iter().filter(|p| p.electronic && is_on(plan, rail.held_by, p.from));
    let known = on_rail.filter_map(|p| Some((p.name.text.as_str(), p.stands?)));
    known.min_by(|a, b| a.1.total_cmp(&b.1))
}
