//! cut-mark-missed: a strip that ends, is cut or is parted into rows between two marks.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::strip::Strip;
use crate::plan::strip::geometry::Marks;
use crate::quantity::units::Metres;
use crate::source::Span;
use crate::verdict::compare::exceeds;

/// A cut this near to a mark is on it, in shares of the distance between marks; and what is lost when a length is
/// written in whole centimetres (our own figures).
const NEAR_SHARE: f64 = 0.05;
const NEAR_M: f64 = 0.005;

/// How far a place is from the mark nearest to it, m; of a spacing with a range, from the nearest place where that mark
/// may be.
fn off(marks: &Marks, x: f64) -> f64 {
    let every = &marks.every;
    let number = (x / every.typical.get()).round();
    (number * every.low.get() - x).max(x - number * every.high.get()).max(0.0)
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, strip) in context.plan.strips.iter().enumerate() {
        let Some(marks) = &strip.marks else { continue };
        let every = marks.every.typical.get();
        let near = NEAR_M.max(NEAR_SHARE * every);
        let wrong = places(strip).into_iter().find(|(_, x, _)| exceeds(off(marks, *x), near));
        let name = &strip.name.text;
        let Some((what, x, span)) = wrong else {
            if context.strip_is_fed(i) {
                sink.pass(name, || format!("every cut is at a mark, one every {}", Metres::new(every)));
            }
            continue;
        };
        sink.find(
            Draft::fault((name, span))
                .says(format!(
                    "strip `{name}` {what} at {}, between two cut marks: they are {} apart, and a cut between them \
                    goes through a {}",
                    mark(x),
                    mark(every),
                    strip.unit()
                ))
                .judged("place", Metres::new(x))
                .given("cut_spacing", marks.every.typical, &marks.every.origin)
                .with("off", Metres::new(off(marks, x))),
        );
    }
}

/// Places are read off a tape: to the tenth of a millimetre.
fn mark(x: f64) -> String {
    if x < 1.0 { format!("{:.1} mm", 1e3 * x).replace(".0 mm", " mm") } else { format!("{x:.4} m") }
}

/// Where scissors go: the end, cuts of the +, the ends of rows.
fn places(strip: &Strip) -> Vec<(&'static str, f64, Span)> {
    let end = strip.length.typical.get();
    let mut places = vec![("ends", end, strip.name.span)];
    places.extend(strip.cuts.iter().map(|(x, span)| ("is cut", *x, *span)));
    if let Some(rows) = &strip.rows {
        let row_m = strip.pixels as f64 / strip.density.typical.get() / rows.count as f64;
        places.push(("is split into rows", row_m, rows.span));
    }
    places
}
