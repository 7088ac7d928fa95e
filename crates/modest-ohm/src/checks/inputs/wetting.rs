//! contact-wetting: silver contacts made for power, and the current that breaks through their skin.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Source as InputSource;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::input_source::Front;
use crate::verdict::compare::at_least;

/// A silver contact needs this much (typical of sheets of power relays and float switches; at 5 V and more).
const WETTING_A: f64 = 1e-3;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for input in &plan.inputs {
        let InputSource::Contact { power, .. } = &input.source else { continue };
        let name = &input.name.text;
        if !power {
            sink.pass(name, || "made for signals".into());
            continue;
        }
        let front = Front { plan, layout: context.layout, input };
        let amps = context.outcomes.iter().filter_map(|o| front.wetting_a(o.actual.as_ref().ok()?)).reduce(f64::min);
        let Some(amps) = amps.map(Amps::new) else { continue };
        if at_least(amps.get(), WETTING_A) {
            sink.pass(name, || format!("{amps} keeps it clean"));
            continue;
        }
        sink.find(
            Draft::caution(&input.name)
                .says(format!(
                    "{amps} flows through the closed contact of `{name}`, a power contact that needs {}",
                    Amps::new(WETTING_A)
                ))
                .judged("current", amps)
                .at_least("required", Amps::new(WETTING_A), &Origin::Default("1 mA, typical of silver contacts")),
        );
    }
}
