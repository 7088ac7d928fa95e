//! return-undersized: a return with more resistance than its feed. One that carries more than its ampacity while its
//! feed does not is reported by wire-overloaded, with this code under it.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::names::lead_name;
use crate::plan::model::Plan;
use crate::plan::wiring::cable::{Cable, Conductor};
use crate::quantity::figure::Corner;
use crate::quantity::units::{Ohms, Volts};
use crate::topology::conductors::{cable_of, return_cable_of};
use crate::verdict::compare::at_most;

/// A return may have this much of its feed's resistance.
const RATIO: f64 = 1.2;

/// A return that loses less than this is no trouble, whatever its feed is (our own figure: a fiftieth of the least
/// logic margin).
const WORTH_V: f64 = 0.01;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut seen = Vec::new();
    for info in &context.layout.conductors {
        let (Some(_), false) = (info.feed, seen.contains(&info.run)) else { continue };
        seen.push(info.run);
        if !context.alive(info.back) {
            continue;
        }
        let (Some(feed), Some(back)) = (cable_of(plan, info.run), return_cable_of(plan, info.run)) else { continue };
        let name = lead_name(plan, info);
        let [out, home] = [ohms(plan, feed, &feed.feed), ohms(plan, back, &back.back)];
        let members: Vec<usize> =
            context.layout.conductors.iter().filter(|c| c.run == info.run).map(|c| c.back).collect();
        let lost = context.worst_sustained(|s| members.iter().map(|b| s.amps(*b).abs()).fold(0.0, f64::max) * home);
        let Some(lost) = lost else { continue };
        // Beside a feed of no length nothing is to be compared.
        if out <= 0.0 || at_most(home, RATIO * out) || lost.value < WORTH_V {
            if context.all_sustained() {
                sink.pass(name, || format!("{} against {}", Ohms::new(home), Ohms::new(out)));
            }
            continue;
        }
        sink.find(
            Draft::caution((name, back.span))
                .at(&lost)
                .says(format!(
                    "the return of `{name}` has {}, its feed {}: its ground rises by {}",
                    Ohms::new(home),
                    Ohms::new(out),
                    Volts::new(lost.value)
                ))
                .judged("return", Ohms::new(home))
                .with("feed", Ohms::new(out))
                .with("lost", Volts::new(lost.value)),
        );
    }
}

/// A conductor with its contacts at nominal figures, Ω.
fn ohms(plan: &Plan, cable: &Cable, conductor: &Conductor) -> f64 {
    cable.ohms(conductor, plan.ambient_c(Corner::Typical), Corner::Typical).ohms + cable.contact_ohms(Corner::Typical)
}
