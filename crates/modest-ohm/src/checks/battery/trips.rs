//! battery-overdrawn, of a pack's protection board: what makes it open, continuously or at start-up.

use crate::derived::assumed_start::spread;
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::state::Member;
use crate::plan::kinds::battery::Protection;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::Amps;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn trips(context: &Context<'_>, sink: &mut Sink, supply: usize, protection: &Protection) {
    let plan = context.plan;
    let kind = NodeKind::Supply(supply);
    let Some(own) = plan.node_id(kind) else { return };
    let opens = protection.current.low;
    let judged = context.outcomes.iter().filter_map(|o| {
        let s = o.wanted.as_ref().ok()?;
        if !o.case.continuous && longest_start_s(plan, own, o) < protection.delay.high.get() {
            return None;
        }
        let behind = |load: usize| plan.is_behind(plan.loads[load].feed.from.id, own);
        let amps = spread(plan, o, s, &behind, s.current_of(kind));
        if exceeds(amps.least, opens.get()) {
            return Some((Severity::Fault, amps.least, o));
        }
        exceeds(amps.most, opens.get()).then_some((Severity::Caution, amps.most, o))
    });
    let name = &plan.supplies[supply].name.text;
    let Some((severity, amps, o)) = judged.reduce(|a, b| if (b.0, b.1) > (a.0, a.1) { b } else { a }) else {
        if context.all_actual() {
            sink.pass(name, || format!("no load trips its protection at {opens}"));
        }
        return;
    };
    let ask = if severity == Severity::Caution { "; the starting current is assumed: write `stall`" } else { "" };
    sink.find(
        Draft::of(severity, (name, protection.span))
            .at(&Worst::at(o, amps))
            .says(format!(
                "in scenario `{}` the loads of `{name}` draw {}; its protection trips above {opens} after {} and \
                stays open until the load is removed{ask}",
                o.case.scenario,
                Amps::new(amps),
                protection.delay.typical
            ))
            .judged("demand", Amps::new(amps))
            .at_most("opens", opens, &protection.current.origin),
    );
}

/// The longest start of what starts behind a node, s.
fn longest_start_s(plan: &Plan, own: NodeId, o: &Outcome) -> f64 {
    let starts = |m: &Member| matches!(m, Member::State(LoadState::Surge));
    let loads = plan
        .loads
        .iter()
        .enumerate()
        .filter(|(i, l)| o.case.demands.loads[*i].iter().any(starts) && plan.is_behind(l.feed.from.id, own));
    loads.map(|(_, l)| l.start_s()).fold(0.0, f64::max)
}
