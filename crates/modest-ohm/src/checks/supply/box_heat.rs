//! enclosure-heat: the air in a closed box against what is in it.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::quantity::units::{Celsius, SquareMetres, Watts};
use crate::solved::heat::{BOX_W_PER_M2_K, box_rise_k, box_w};
use crate::verdict::compare::at_most;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, enclosure) in plan.enclosures.iter().enumerate() {
        let name = &enclosure.name.text;
        let air = |s: &crate::solved::outcome::Snapshot| plan.warmest_c() + box_rise_k(plan, i, s);
        let Some(worst) = context.worst_sustained(air) else { continue };
        let watts = Watts::new(context.worst_sustained(|s| box_w(plan, i, s)).map_or(0.0, |w| w.value));
        let (inside, stands) = (Celsius::new(worst.value), enclosure.stands.typical);
        if at_most(inside.get(), stands.get()) {
            if context.all_sustained() {
                sink.pass(name, || format!("{inside} inside; rated {stands}"));
            }
            continue;
        }
        let room = stands.get() - plan.warmest_c();
        let area = (room > 0.0).then(|| SquareMetres::new(watts.get() / (BOX_W_PER_M2_K * room)));
        let larger = area.map_or_else(String::new, |a| format!("an enclosure of {a}, "));
        sink.find(
            Draft::caution(&enclosure.name)
                .at(&worst)
                .says(format!(
                    "{watts} of heat warms the air in `{name}` to {inside}; the parts inside are rated \
                    {stands}"
                ))
                .judged("inside", inside)
                .with("heat", watts)
                .at_most("rating", stands, &enclosure.stands.origin)
                .facts(area.map(|a| Evidence::computed("enough_area", a)))
                .task(format!("use {larger}openings at top and bottom, or move the sources of heat outside")),
        );
    }
}
