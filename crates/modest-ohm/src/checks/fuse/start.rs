//! fuse-too-small, of starts: what heats a fuse as motors start, against what melts it.

use super::cure::larger;
use crate::derived::assumed_start::spread;
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::network::layout::ConductorInfo;
use crate::network::state::Member;
use crate::plan::kinds::load::Nature;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Fraction, Seconds};
use crate::size::fuse::{FuseStart, fuse_start};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::run::Run;
use crate::verdict::severity::Severity;

/// Up to here a start is nothing to a fuse; up to the second it ages it, up to the third it may open it (our own figures,
/// from the spread of fuses).
pub(crate) const NOTHING: f64 = 0.35;
pub(crate) const AGES: f64 = 0.6;
const OPENS: f64 = 2.5;

/// The hardest start through a fuse.
pub(crate) struct Start<'o> {
    pub outcome: &'o Outcome,
    /// Of its heat, at the least, typical and the most of what is assumed.
    pub share: [f64; 3],
    pub need: FuseStart,
}

/// The hardest start that goes through the lead of a run; `None` where nothing starts.
pub(crate) fn hardest<'o>(context: &Context<'o>, info: &ConductorInfo, fuse: &Fuse) -> Option<Start<'o>> {
    let branch = info.feed?;
    let runs = context.worst_sustained(|s| s.amps(branch).abs())?.value;
    let of = |o: &'o Outcome| {
        let s = o.wanted.as_ref().ok()?;
        let time = start_s(context, info.run, o, s)?;
        let behind = |load: usize| is_behind(context, info.run, load);
        let amps = spread(context.plan, o, s, &behind, s.amps(branch).abs());
        let need = |start: f64| FuseStart {
            start: Amps::new(start),
            runs: Amps::new(runs.min(start)),
            time: Seconds::new(time),
            rating: fuse.rating.low,
            family: fuse.family,
            speed: fuse.speed,
        };
        let share = [amps.least, amps.typical, amps.most].map(|a| fuse_start(&need(a)));
        Some(Start { outcome: o, share, need: need(amps.typical) })
    };
    let starts = context.outcomes.iter().filter(|o| !o.case.continuous);
    starts.filter_map(of).reduce(|a, b| if b.share[1] > a.share[1] { b } else { a })
}

/// The longest start of what starts behind a run; `None` where nothing does, or only lamps.
fn start_s(context: &Context<'_>, run: Run, o: &Outcome, s: &Snapshot) -> Option<f64> {
    let starts = |m: &Member| matches!(m, Member::State(LoadState::Surge));
    let loads = context.plan.loads.iter().enumerate().filter(|(i, l)| {
        l.nature != Some(Nature::Lamp)
            && o.case.demands.loads[*i].iter().any(starts)
            && s.current_into(*i) > 0.0
            && is_behind(context, run, *i)
    });
    loads.map(|(_, l)| l.start_s()).reduce(f64::max)
}

/// True where a load takes its current through the feed of a run.
fn is_behind(context: &Context<'_>, run: Run, load: usize) -> bool {
    use crate::plan::model::node::NodeKind;
    match run {
        Run::Load(i) => i == load,
        Run::Branch(i) => {
            let node = context.plan.node_id(NodeKind::Branch(i));
            node.is_some_and(|n| context.plan.path_up(context.plan.loads[load].feed.from.id).contains(&n))
        }
        _ => false,
    }
}

/// What a start does to a fuse; `None` where that is nothing.
pub(crate) fn judge(context: &Context<'_>, info: &ConductorInfo, name: &str, fuse: &Fuse) -> Option<Draft> {
    let start = hardest(context, info, fuse)?;
    let [least, typical, most] = start.share;
    let assumed = most > least * (1.0 + 1e-9);
    let severity = match typical {
        share if share <= NOTHING => return None,
        share if share <= AGES => Severity::Advice,
        share if share <= OPENS || least <= OPENS => Severity::Caution,
        _ => Severity::Fault,
    };
    // An assumed start that at its least is nothing only asks for the figure.
    let severity = if assumed && least <= NOTHING { Severity::Advice } else { severity };
    let does = match severity {
        Severity::Fault => "the first start opens it",
        Severity::Caution => "a start may open it",
        _ => "each start ages it",
    };
    let FuseStart { start: amps, runs, time, .. } = start.need;
    let ask = if assumed { "; the start is assumed: give `stall`" } else { "" };
    Some(
        Draft::of(severity, (name, fuse.span))
            .at(&Worst::at(start.outcome, typical))
            .says(format!(
                "a start through the {} of `{name}`, {amps} falling to {runs} within {time}, brings {} of what melts it: \
                 {does}{ask}",
                fuse.name(),
                Fraction::new(typical)
            ))
            .judged("heat", Fraction::new(typical))
            .at_most("nothing", Fraction::new(NOTHING), &Origin::Default("a third of what melts it does not age it"))
            .with("start", amps)
            .cure(larger(context, info.run, fuse, runs)),
    )
}

/// The largest current of the start through a run, where the outcome matters no more.
pub(crate) fn survives(context: &Context<'_>, run: Run, fuse: &Fuse) -> bool {
    let info = context.layout.conductors.iter().find(|c| c.run == run);
    info.and_then(|info| hardest(context, info, fuse)).is_none_or(|s| s.share[1] <= AGES)
}
