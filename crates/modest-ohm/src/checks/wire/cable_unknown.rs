//! cable-unknown: what draws more than 0.5 A over a cable of which nothing is said; one line per plan.

use crate::derived::context::Context;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Amps;
use crate::topology::conductors::{cable_of, feed_of};
use crate::topology::run::Run;
use crate::verdict::compare::exceeds;

/// Below this a missing lead is taken as ideal without a word.
const WORTH_ASKING_A: f64 = 0.5;

/// The copper of a port or a bus bar belongs to the part; a connector without a cable of its own sits on what feeds it.
fn inside_a_part(plan: &Plan, run: Run) -> bool {
    let is_part = |kind: &RunKind| {
        matches!(kind, RunKind::Port(_) | RunKind::Bridge(_) | RunKind::Connector(_) | RunKind::Stage(_))
    };
    match run {
        Run::Branch(i) => is_part(&plan.branches[i].kind),
        // The 5 V regulator on a bridge's own board.
        Run::Converter(i) => {
            let owner = plan.converters[i].name.text.split_once('.').map(|(owner, _)| owner);
            owner.is_some_and(|owner| plan.drivers.iter().any(|d| d.name.text == owner))
        }
        _ => false,
    }
}

/// A USB or negotiated source has its cable in `cable-resistance`.
fn is_usb_cable(plan: &Plan, run: Run) -> bool {
    let Some(NodeKind::Supply(i)) = feed_of(plan, run).map(|f| plan.nodes[f.from.id.0].kind) else { return false };
    matches!(plan.supplies[i].kind, SupplyKind::Usb | SupplyKind::Negotiated)
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut missing: Vec<(f64, &str)> = Vec::new();
    for info in context.layout.conductors.iter().filter(|c| !matches!(c.run, Run::Ground(_))) {
        let Some(feed) = info.feed else { continue };
        if cable_of(plan, info.run).is_some() || inside_a_part(plan, info.run) || is_usb_cable(plan, info.run) {
            continue;
        }
        let amps = context
            .worst_actual(|o| o.case.continuous, |_, s| Some(s.amps(feed).abs()))
            .or_else(|| context.worst_sustained(|s| s.amps(feed).abs()))
            .map_or(0.0, |w| w.value);
        if exceeds(amps, WORTH_ASKING_A) {
            missing.push((amps, &info.name));
        }
    }
    let Some((_, first)) = missing.first() else {
        if let Some(supply) = plan.supplies.first() {
            sink.pass(&supply.name.text, || "every cable that carries more than 500 mA is given".into());
        }
        return;
    };
    let list: Vec<String> = missing.iter().map(|(a, n)| format!("`{n}` ({})", Amps::new(*a))).collect();
    let item = first.split(['.', '[']).next().unwrap_or(first);
    let span = plan
        .feeds()
        .into_iter()
        .find(|(n, ..)| n == first || n.split(['.', '[']).next() == Some(item))
        .and_then(|(_, f, _)| f.from.name.span);
    let Some(span) = span.or_else(|| plan.supplies.first().map(|s| s.name.span)) else { return };
    // The cables between rows and tiles have a key of their own.
    let key = if first.contains(".join[") { "join" } else { "cable" };
    sink.unknown(
        first,
        span,
        format!("cannot check voltage drop: no cable given for {}", list.join(", ")),
        &format!("write length and size: `{key} = \"1.2 m {}\"`", plan.wire_kind(None).name()),
    );
}
