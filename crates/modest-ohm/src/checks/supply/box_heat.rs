//! box-heat: the air in a closed box against what is in it.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::quantity::units::{Celsius, SquareMetres, Watts};
use crate::solved::heat::{BOX_W_PER_M2_K, box_rise_k, box_w};
use crate::verdict::compare::at_most;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, housing) in plan.housings.iter().enumerate() {
        let name = &housing.name.text;
        let air = |s: &crate::solved::outcome::Snapshot| plan.warmest_c() + box_rise_k(plan, i, s);
        let Some(worst) = context.worst_sustained(air) else { continue };
        let watts = Watts::new(context.worst_sustained(|s| box_w(plan, i, s)).map_or(0.0, |w| w.value));
        let (inside, stands) = (Celsius::new(worst.value), housing.stands.typical);
        if at_most(inside.get(), stands.get()) {
            if context.all_sustained() {
                sink.pass(name, format!("{inside} inside, {stands} stood"));
            }
            continue;
        }
        let room = stands.get() - plan.warmest_c();
        let area = (room > 0.0).then(|| SquareMetres::new(watts.get() / (BOX_W_PER_M2_K * room)));
        let larger = area.map_or_else(String::new, |a| format!("a box of {a}, "));
        sink.find(
            Draft::caution(&housing.name)
                .at(&worst)
                .says(format!("{watts} of heat takes the air in `{name}` to {inside}; what is in it stands {stands}"))
                .judged("inside", inside)
                .with("heat", watts)
                .at_most("stands", stands, &housing.stands.origin)
                .facts(area.map(|a| Evidence::computed("enough_area", a)))
                .cure(format!("take {larger}openings at top and bottom, or put what makes the heat outside")),
        );
    }
}
