//! supply-headroom: wanted continuous current against the rating less the policy's headroom.

use super::overloaded::rated;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::format::told_apart;
use crate::quantity::units::{Amps, Celsius, Fraction};
use crate::verdict::compare::exceeds;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for r in rated(context) {
        let (Some(wanted), Some(rating)) = (r.wanted.clone(), r.rating) else { continue };
        if exceeds(wanted.value, rating.get()) {
            // Overloaded; said by the check of that name.
            continue;
        }
        let amps = Amps::new(wanted.value);
        let usable = rating * (1.0 - r.headroom.typical.get());
        let Some(left) = Fraction::left_of(amps, rating) else {
            // A rating that its own board uses up: nothing is left to give, and nothing is drawn.
            if context.all_sustained() {
                sink.pass(&r.name, || format!("draws {amps}; no headroom is left"));
            }
            continue;
        };
        let warm = rating * r.derated.0;
        if warm < usable && exceeds(amps.get(), warm.get()) {
            let air = Celsius::new(r.derated.1);
            sink.find(
                Draft::caution((&r.name, r.span))
                    .at(&wanted)
                    .says(format!(
                        "{} `{}` must supply {amps}; at {air} its {rating} derates to {warm} continuous",
                        r.what, r.name
                    ))
                    .judged("demand", amps)
                    .at_most("derated", warm, &Origin::Default("derating by air temperature (typical of its kind)"))
                    .with("air", air),
            );
        } else if exceeds(amps.get(), usable.get()) {
            let required = r.headroom.typical;
            let (left, _) = told_apart(left.get(), required.get(), "%");
            sink.find(
                Draft::caution((&r.name, r.span))
                    .at(&wanted)
                    .says(format!(
                        "{} `{}` must supply {amps} of {rating}: {left} headroom; {required} required",
                        r.what, r.name
                    ))
                    .judged("demand", amps)
                    .at_most("rating", rating, &r.origin)
                    .given("headroom", r.headroom.typical, &r.headroom.origin),
            );
        } else if context.all_sustained() {
            sink.pass(&r.name, || format!("{left} headroom; {} required", r.headroom.typical));
        }
    }
}
