//! ground-shift: a margin that is there without the difference of the grounds, and gone with it.

use crate::derived::context::Context;
use crate::derived::shift_taken::taken;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::units::Volts;
use crate::topology::signals::{Hop, Of, hops};
use crate::verdict::codes;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let judged = |h: &&Hop<'_>| !matches!(h.of, Of::Strip(_)) && h.wants_levels(plan) && h.opto(plan).is_none();
    for hop in hops(plan).iter().filter(judged) {
        let (subject, span) = hop.item(plan);
        let worst = [true, false].into_iter().filter_map(|high| taken(context, hop, high));
        let Some(t) = worst.min_by(|a, b| a.margin.value.total_cmp(&b.margin.value)) else {
            sink.pass(subject, || "its margins do not depend on the ground".into());
            continue;
        };
        let (from, to) = hop.words(plan);
        let severity = if t.margin.value < 0.0 { Severity::Fault } else { Severity::Caution };
        let (shift, margin) = (Volts::new(t.margin.shift), Volts::new(t.margin.value));
        let level = if t.high { "high" } else { "low" };
        sink.find(
            Draft::of(severity, (subject, span))
                .at(&t.margin.at)
                .says(format!(
                    "the ground of {to} is shifted {shift} from that of {from}: {level}-level margin {margin}; {} \
                    required",
                    Volts::new(t.enough)
                ))
                .judged("margin", margin)
                .with("ground_shift", shift)
                .at_least("required", Volts::new(t.enough), &Origin::Default("0.3 V; 0.1 V between parts of one rail"))
                .implies(if t.high { codes::LEVEL_HIGH } else { codes::LEVEL_LOW }, subject),
        );
    }
}
