//! data-level, for balanced pairs: no level has to be met from end to end, but their grounds may not lie too far apart.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::plan::kinds::differential_pair::DifferentialPair;
use crate::plan::strip::Strip;
use crate::plan::wiring::through::Stage;
use crate::quantity::units::Volts;
use crate::solved::levels::supplied;
use crate::solved::outcome::Outcome;
use crate::topology::signals::{End, Rail};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for strip in &context.plan.strips {
        let through = strip.data.iter().flat_map(|d| &d.through);
        for (_, stage) in through {
            if let Stage::Pair(p) = stage {
                judge(context, sink, strip, &context.plan.pairs[*p]);
            }
        }
    }
}

/// What its wires can have against the far end's ground, lowest and highest: they swing between the near end's ground
/// and its supply.
fn wires(context: &Context<'_>, pair: &DifferentialPair, o: &Outcome) -> Option<(f64, f64)> {
    let s = o.actual.as_ref().ok()?;
    let near = supplied(context.plan, End::Shifter(pair.near, Rail::Main), false, s)?;
    let far = supplied(context.plan, End::Shifter(pair.far, Rail::Main), true, s)?;
    let shift = near.ground - far.ground;
    Some((shift, shift + near.vdd))
}

fn judge(context: &Context<'_>, sink: &mut Sink, strip: &Strip, pair: &DifferentialPair) {
    let (least, most) = (pair.common_mode.low.get(), pair.common_mode.high.get());
    // How far inside its range it stays; the smallest counts.
    let spare = |o: &Outcome| wires(context, pair, o).map(|(low, high)| (low - least).min(most - high));
    let Some((o, negative)) = worst_of(context.outcomes, |o| spare(o).map(|s| -s)) else { return };
    let Some((low, high)) = wires(context, pair, o) else { return };
    let name = &pair.name.text;
    if negative <= 1e-9 {
        if context.all_actual() {
            sink.pass(&strip.name.text, || format!("the ground shift of `{name}` leaves it {}", Volts::new(-negative)));
        }
        return;
    }
    let (is_low, worst, limit) = if low - least < most - high {
        (true, low, pair.common_mode.low)
    } else {
        (false, high, pair.common_mode.high)
    };
    let side = if is_low { "down to" } else { "up to" };
    sink.find(
        Draft::fault((&strip.name.text, strip.data.as_ref().map_or(strip.name.span, |d| d.span)))
            .at(&Worst::at(o, negative))
            .says(format!(
                "the wires of differential pair `{name}` go {side} {} relative to the ground of its far end; rated \
                {limit}",
                Volts::new(worst)
            ))
            .judged("wire", Volts::new(worst))
            .limit(
                if is_low { EvidenceRole::AtLeast } else { EvidenceRole::AtMost },
                "limit",
                limit,
                &pair.common_mode.origin,
            )
            .with("ground_shift", Volts::new(-low)),
    );
}
