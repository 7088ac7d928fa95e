//! fuse-too-small, of starts: what heats a fuse as motors start, against what melts it.

use crate::derived::assumed_start::{Spread, spread};
use crate::derived::context::{Context, Worst};
use crate::derived::filaments::filaments;
use crate::findings::draft::Draft;
use crate::network::layout::ConductorInfo;
use crate::network::state::Member;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::scenario::{LoadState, Scenario};
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Fraction, Seconds};
use crate::size::fuse::{FuseStart, fuse_start};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::run::Run;
use crate::verdict::severity::Severity;

/// Up to here a start is nothing to a fuse; up to the second it ages it, up to the third it may open it (our own
/// figures, from the spread of fuses).
pub(crate) const NOTHING: f64 = 0.35;
pub(crate) const AGES: f64 = 0.6;
const OPENS: f64 = 2.5;

/// The hardest start through a fuse.
pub(crate) struct Start<'o> {
    pub outcome: &'o Outcome,
    /// Of its heat, at least, typical and the most of what is assumed.
    pub share: [f64; 3],
    pub need: FuseStart,
    /// What is missing in the plan where a start is assumed.
    pub ask: &'static str,
}

/// The hardest start that goes through the cable of a run; `None` where nothing starts.
pub(crate) fn hardest<'o>(context: &Context<'o>, info: &ConductorInfo, fuse: &Fuse) -> Option<Start<'o>> {
    let branch = info.feed?;
    let lasting = context.worst_sustained(|s| s.amps(branch).abs())?;
    let behind = |load: usize| is_behind(context, info.run, load);
    let of = |o: &'o Outcome, s: &Snapshot, amps: Spread, time: f64| {
        let cold = time == 0.0 || o.case.scenario == Scenario::Start;
        let lamps = filaments(context, s, &behind, cold);
        let need = |start: f64, filaments: f64| FuseStart {
            start: Amps::new(start),
            filaments: Amps::new(filaments),
            runs: Amps::new(lasting.value.min(start)),
            time: Seconds::new(time),
            hot: Seconds::new(lamps.time),
            rating: fuse.rating.low,
            family: fuse.family,
            speed: fuse.speed,
        };
        let starts = [amps.least, amps.typical, amps.most].map(|a| (a - lamps.in_state).max(0.0));
        let needs = [0, 1, 2].map(|end| need(starts[end], lamps.above[end]));
        let ask = match (lamps.assumed, amps.stated) {
            (_, false) => "; the starting current is assumed: write `stall`",
            (true, _) => "; the inrush is assumed: write the lamp's `surge`",
            _ => "",
        };
        Start { outcome: o, share: needs.map(|n| fuse_start(&n)), need: needs[1], ask }
    };
    let start = |o: &'o Outcome| {
        let s = o.wanted.as_ref().ok()?;
        let time = start_s(context, info.run, o, s)?;
        Some(of(o, s, spread(context.plan, o, s, &behind, s.amps(branch).abs()), time))
    };
    let starts = context.outcomes.iter().filter(|o| !o.case.continuous).filter_map(start);
    // Lamps alone: at the moment that loads the cable most.
    let cold = context.outcome(&lasting).and_then(|o| {
        let s = o.sustained.as_ref().ok()?;
        let amps = Spread { least: lasting.value, typical: lasting.value, most: lasting.value, stated: true };
        filaments(context, s, &behind, true).assumed.then(|| of(o, s, amps, 0.0))
    });
    starts.chain(cold).reduce(|a, b| if b.share[1] > a.share[1] { b } else { a })
}

/// The longest start of what starts behind a run; `None` where nothing does.
fn start_s(context: &Context<'_>, run: Run, o: &Outcome, s: &Snapshot) -> Option<f64> {
    let starts = |m: &Member| matches!(m, Member::State(LoadState::Surge));
    let loads = context.plan.loads.iter().enumerate().filter(|(i, _)| {
        o.case.demands.loads[*i].iter().any(starts) && s.current_into(*i) > 0.0 && is_behind(context, run, *i)
    });
    let time = |l: &Load| if l.nature == Some(Nature::Lamp) { 0.0 } else { l.start_s() };
    loads.map(|(_, l)| time(l)).reduce(f64::max)
}

/// True where a load takes its current through the feed of a run.
fn is_behind(context: &Context<'_>, run: Run, load: usize) -> bool {
    use crate::plan::model::node::NodeKind;
    match run {
        Run::Load(i) => i == load,
        Run::Branch(i) => {
            let node = context.plan.node_id(NodeKind::Branch(i));
            node.is_some_and(|n| context.plan.is_behind(context.plan.loads[load].feed.from.id, n))
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
        share if share <= AGES => Severity::Advisory,
        share if share <= OPENS || least <= OPENS => Severity::Caution,
        _ => Severity::Fault,
    };
    // An assumed start that at its least is nothing only asks for the figure.
    let severity = if assumed && least <= NOTHING { Severity::Advisory } else { severity };
    let does = match severity {
        Severity::Fault => "the first start blows it",
        Severity::Caution => "a start may blow it",
        _ => "each start ages it",
    };
    let FuseStart { start: motors, filaments, runs, time, hot, .. } = start.need;
    let (amps, time) = (motors + filaments, if motors > runs { time } else { hot });
    let ask = start.ask;
    Some(
        Draft::of(severity, (name, fuse.span))
            .at(&Worst::at(start.outcome, typical))
            .says(format!(
                "at start-up {amps}, falling to {runs} within {time}, flows through the {} of `{name}`, {} of what \
                melts it: {does}{ask}",
                fuse.name(),
                Fraction::new(typical)
            ))
            .judged("heat", Fraction::new(typical))
            .at_most(
                "ages_from",
                Fraction::new(NOTHING),
                &Origin::Default(
                    "a start below 35 % of what melts a fuse \
                does not age it",
                ),
            )
            .with("start", amps),
    )
}
