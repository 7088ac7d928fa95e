//! braking-energy: what motors feed back into a rail whose source takes nothing, against what is fed from it.

use crate::derived::braking::{Braking, braking, is_on};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Farads, Joules, Volts};
use crate::topology::clamps::lets_through;
use crate::topology::parts::parts;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// Less is taken by whatever is connected to the rail, J (electrical corrections, section 26).
const NOTHING_J: f64 = 0.1;
/// Of the voltage that all of the energy would make of the capacitors so much arrives: supplies, ripple and losses take
/// the rest.
const ARRIVES: f64 = 0.7;

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
            .with("capacitance", Farads::new(rail.farads)),
    );
}

fn pass(rail: &Braking<'_>) -> String {
    format!("braking returns {}", Joules::new(rail.energy_j))
}

/// Of what is fed from the rail and is harmed by voltage the part that withstands least.
fn weakest<'p>(plan: &'p Plan, rail: &Braking<'_>) -> Option<(&'p str, f64)> {
    let on_rail = parts(plan).into_iter().filter(|p| p.electronic && is_on(plan, rail.held_by, p.from));
    let known = on_rail.filter_map(|p| Some((p.name.text.as_str(), p.stands?)));
    known.min_by(|a, b| a.1.total_cmp(&b.1))
}
