//! driver-headroom: what a stage drops, where that takes its load below its voltage.

use crate::derived::context::{Context, Worst};
use crate::derived::driver_drop::{is_behind_stage, lowest, verdict};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Volts;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, load) in plan.loads.iter().enumerate() {
        if load.judged_apart || !is_behind_stage(plan, i) {
            continue;
        }
        let Some((o, volts, drop)) = lowest(context, i) else { continue };
        let (name, dropped) = (&load.name.text, Volts::new(drop));
        let NodeKind::Branch(run) = plan.nodes[load.feed.from.id.0].kind else { continue };
        let Some((driver, _)) = plan.stage_of_run(run) else { continue };
        let stage = &plan.branches[run].name.text;
        let Some((severity, limit)) = verdict(load, volts, drop) else {
            if context.all_actual() && load.recommended_range().is_some() {
                sink.pass(stage, || format!("drops {dropped}; `{name}` is at {}", Volts::new(volts)));
            }
            continue;
        };
        let left = Volts::new(volts);
        let what = if severity == Severity::Fault { "needs" } else { "is recommended for" };
        sink.find(
            Draft::of(severity, (stage, plan.branches[run].name.span))
                .at(&Worst::at(o, volts))
                .says(format!(
                    "{} `{stage}` drops {dropped}: `{name}` is at {left}; it {what} {} or more",
                    driver.kind.words(),
                    limit.low
                ))
                .judged("left", left)
                .with("drop", dropped)
                .at_least("limit", limit.low, &limit.origin),
        );
    }
}
