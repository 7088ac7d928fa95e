//! bus-half-unfed: consumers on the half of a bus bar that nothing feeds.

use super::reversed::behind;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::node::NodeKind;
use crate::solved::outcome::Outcome;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, half) in plan.branches.iter().enumerate().filter(|(_, b)| matches!(b.kind, RunKind::Bridge(_))) {
        let Some(node) = plan.node_id(NodeKind::Branch(i)) else { continue };
        let (name, other) = (&half.name.text, &half.feed.from.name.text);
        let behind = behind(plan, node);
        let missing = match (half.open.plus, half.open.minus) {
            (true, true) => "joined to",
            (true, false) => "joined at positive to",
            (false, true) => "joined at negative to",
            (false, false) => {
                sink.pass(name, || "its halves are joined".into());
                continue;
            }
        };
        // A jumper across the gap, `[link.x]`, joins them as well.
        let fed = |o: &Outcome| o.actual.as_ref().ok().and_then(|s| s.volts_at(node)).is_some();
        if context.outcomes.iter().any(fed) {
            sink.pass(name, || "its halves are joined by a link".into());
            continue;
        }
        if behind.is_empty() {
            sink.pass(name, || "nothing is connected to it".into());
            continue;
        }
        let names = behind.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ");
        let verb = if behind.len() == 1 { "is" } else { "are" };
        sink.find(Draft::fault((name, half.name.span)).says(format!(
            "{names} {verb} connected to `{name}`, which is not {missing} `{other}` and has no \
                    supply"
        )));
    }
}
