//! strip-copper: what a strip's copper turns into heat where it is fed.

use crate::derived::context::{Context, worst_of};
use crate::derived::path::copper_w_per_m;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, WattsPerMetre};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// Beyond this many times what copper may turn into heat it is danger.
const DANGER: f64 = 2.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, strip) in plan.strips.iter().enumerate() {
        let heat = |o: &Outcome| {
            let solved = &o.sustained.as_ref().ok()?.solution.strips[i];
            solved.alive.then_some(solved.copper_max_w_per_m)
        };
        let Some((o, most)) = worst_of(context.continuous(), heat) else { continue };
        let usable = copper_w_per_m(strip);
        let name = &strip.name.text;
        let (got, may) = (WattsPerMetre::new(most), WattsPerMetre::new(usable));
        if at_most(most, usable) {
            if context.all_sustained() {
                sink.pass(name, || format!("{got} of {may}"));
            }
            continue;
        }
        let danger = exceeds(most, DANGER * usable);
        let Ok(s) = o.sustained.as_ref() else { continue };
        let solved = &s.solution.strips[i];
        let amps = Amps::new(solved.copper_max_feed_a.max(solved.copper_max_return_a));
        let word = strip.word();
        let how = if strip.sealed { "sealed" } else { "open" };
        let origin = Origin::Default("5 W/m of heat in an open strip, 2 W/m in a sealed one (typical)");
        sink.find(
            Draft::of(if danger { Severity::Danger } else { Severity::Caution }, &strip.name)
                .at(&context.worst_at(o, most, heat))
                .says(
                    format!(
                        "the copper of {word} `{name}` carries {amps} at its feed point and dissipates {got}; an \
                        {how} {word} is rated {may}",
                    )
                    .replace("an sealed", "a sealed"),
                )
                .judged("heat", got)
                .at_most("limit", may, &origin)
                .with("current", amps),
        );
    }
}
