//! What drivers on the way to a load drop, and whether the load lacks that voltage.

use super::context::{Context, worst_of};
use crate::network::state::Member;
use crate::plan::kinds::load::Load;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::verdict::compare::{at_least, is_below};
use crate::verdict::severity::Severity;

/// What the stages on the way to a load drop in a state, V.
pub(crate) fn stage_drop_v(context: &Context<'_>, load: usize, s: &Snapshot) -> f64 {
    let (plan, layout) = (context.plan, context.layout);
    let runs = plan.path_up(plan.loads[load].feed.from.id);
    let stages = runs.into_iter().filter_map(|id| match plan.nodes[id.0].kind {
        NodeKind::Branch(i) => plan.stage_of_run(i).and(layout.elements[i]),
        _ => None,
    });
    stages.map(|b| if s.alive(b) { s.drop_v(b).max(0.0) } else { 0.0 }).sum()
}

pub(crate) fn is_behind_stage(plan: &Plan, load: usize) -> bool {
    let id = plan.loads[load].feed.from.id;
    matches!(plan.nodes[id.0].kind, NodeKind::Branch(i) if plan.stage_of_run(i).is_some())
}

/// The lowest voltage of a load that runs, V, with what its stages drop there.
pub(crate) fn lowest<'o>(context: &Context<'o>, load: usize) -> Option<(&'o Outcome, f64, f64)> {
    let volts = |o: &Outcome| {
        let s = o.actual.as_ref().ok()?;
        let runs = context.layout.loads[load].iter().zip(&o.case.demands.loads[load]);
        let those =
            runs.filter(|(_, m)| !matches!(m, Member::State(LoadState::Surge | LoadState::Off | LoadState::Idle)));
        those.filter_map(|(d, _)| s.volts(d.at)).reduce(f64::min)
    };
    let (o, least) = worst_of(context.outcomes.iter(), |o| volts(o).map(|v| -v))?;
    Some((o, -least, stage_drop_v(context, load, o.actual.as_ref().ok()?)))
}

/// The severity of what a stage takes from a load, and the limit; `None` where the load would lack it anyhow, or does
/// not.
pub(crate) fn verdict(load: &Load, volts: f64, drop: f64) -> Option<(Severity, Figure<Volts>)> {
    let minimum = load.minimum.clone().or_else(|| {
        load.recommended_range().map(|_| {
            Figure::exact(
                Volts::new(load.knee_v()),
                Origin::Default("0.8 × the lower recommended voltage if no minimum is given"),
            )
        })
    });
    let takes = |limit: f64| is_below(volts, limit) && at_least(volts + drop, limit);
    if let Some(minimum) = minimum.filter(|m| takes(m.low.get())) {
        return Some((Severity::Fault, minimum));
    }
    let range = load.recommended_range()?;
    takes(range.low.get()).then_some((Severity::Caution, range))
}

/// True where a load lacks voltage because of its stage: then no other check speaks of it.
pub(crate) fn stage_is_why(context: &Context<'_>, load: usize) -> bool {
    is_behind_stage(context.plan, load)
        && lowest(context, load).is_some_and(|(_, v, drop)| verdict(&context.plan.loads[load], v, drop).is_some())
}
