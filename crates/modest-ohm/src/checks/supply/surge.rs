//! supply-surge: a start, a surge or boards that burst together against source limits, and boards' brown-out.

use crate::derived::assumed_start::spread;
use crate::derived::class_starts;
use crate::derived::context::{Context, Worst};
use crate::derived::hiccup::{self, Start};
use crate::derived::motor_starts::drives;
use crate::derived::starved::starved;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::board::Board;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::kinds::supply::Hiccup;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Seconds, Volts};
use crate::solved::currents::{boost_limit, source_of};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::ratings::node_limit;
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let limited = sources(context, sink);
    boards(context, sink, &limited);
}

/// Sources that a surge or a burst drives into their limit; one that its lasting load overloads is another check's
/// matter.
fn sources(context: &Context<'_>, sink: &mut Sink) -> Vec<NodeId> {
    let plan = context.plan;
    let mut limited = Vec::new();
    for (id, node) in plan.nodes.iter().enumerate() {
        let (what, declared) = match node.kind {
            NodeKind::Supply(i) => (plan.supplies[i].kind.word(), &plan.supplies[i].name),
            NodeKind::Converter(i) => ("converter", &plan.converters[i].name),
            _ => continue,
        };
        let (Some(limited_to), Some(branch)) = (limit_of(plan, node.kind), source_of(context.layout, node.kind)) else {
            continue;
        };
        if !context.alive(branch) || lasts_beyond(context, node.kind, &limited_to) {
            continue;
        }
        let Some((hardest, judged)) = hardest(context, NodeId(id), &limited_to) else {
            if context.all_actual() {
                sink.pass(&node.name, || format!("starts, surges and bursts stay below {}", limited_to.words()));
            }
            continue;
        };
        let wanted = hardest.wanted.as_ref().ok();
        let Some(limit) = wanted.and_then(|s| limited_to.amps(context.plan, s)).map(Amps::new) else { continue };
        limited.push(NodeId(id));
        let (amps, scenario) = (Amps::new(judged.asked_a), &hardest.case.scenario);
        let during =
            hardest.case.surging.as_ref().map_or_else(|| scenario.to_string(), |s| format!("{scenario} of {s}"));
        let bursts = if hardest.case.continuous { ", its boards at peak current," } else { "" };
        sink.find(
            Draft::of(judged.severity, (&node.name, declared.span))
                .at(&context.worst_at(hardest, judged.asked_a, |o| Some(o.wanted.as_ref().ok()?.current_of(node.kind))))
                .says(format!(
                    "in scenario `{during}`{bursts} {what} `{}` must supply {amps}; current limit {}{}",
                    node.name, limit, judged.comes
                ))
                .judged("demand", amps)
                .at_most("limit", limit, limited_to.origin())
                .facts(judged.low_s.map(|s| Evidence::computed("low_for", Seconds::new(s)))),
        );
    }
    limited
}

/// What bounds a source's current.
enum Limit<'p> {
    /// Its own output.
    Output(&'p Figure<Amps>),
    /// Its input, of a boost that is known by its label: what that leaves at its output is connected to its voltage.
    Input(NodeKind, &'p Figure<Amps>),
}

fn limit_of(plan: &Plan, kind: NodeKind) -> Option<Limit<'_>> {
    match kind {
        NodeKind::Supply(i) => plan.supplies[i].limit.as_ref().map(Limit::Output),
        NodeKind::Converter(i) => {
            let own = &plan.converters[i];
            let label = || own.input_limit.as_ref().map(|label| Limit::Input(kind, label));
            own.limit.as_ref().map(Limit::Output).or_else(label)
        }
        _ => None,
    }
}

impl Limit<'_> {
    /// At the source's output in a state, A.
    fn amps(&self, plan: &Plan, s: &Snapshot) -> Option<f64> {
        match self {
            Self::Output(limit) => Some(limit.low.get()),
            Self::Input(kind, label) => boost_limit(plan, *kind, s, label.low.get()).map(Amps::get),
        }
    }

    fn origin(&self) -> &Origin {
        let (Self::Output(figure) | Self::Input(_, figure)) = self;
        &figure.origin
    }

    fn words(&self) -> String {
        match self {
            Self::Output(limit) => limit.low.to_string(),
            Self::Input(_, label) => format!("what its label of {} leaves at its output", label.low),
        }
    }
}

/// Whether the lasting load is more than the source gives: that is reported of the load.
fn lasts_beyond(context: &Context<'_>, kind: NodeKind, limit: &Limit<'_>) -> bool {
    let rated = node_limit(context.plan, kind).map_or(f64::INFINITY, Amps::get);
    let lasts = |o: &Outcome| {
        let Ok(s) = o.sustained.as_ref() else { return false };
        limit.amps(context.plan, s).is_some_and(|most| exceeds(s.current_of(kind), rated.min(most)))
    };
    context.continuous().any(lasts)
}

/// A start that asks a source for up to this much more than its limit only takes a little longer (simulated).
const SLOWER: f64 = 1.25;
/// Motors that only the program keeps apart slow down, up to here.
const SLOW: f64 = 1.8;

/// What a state asks of a source beyond what it gives.
struct Judged {
    asked_a: f64,
    severity: Severity,
    /// What comes of it.
    comes: &'static str,
    /// For how long the source's output is too low, where it hiccups.
    low_s: Option<f64>,
}

/// The state that asks most of a source; `None` where all pass.
fn hardest<'c>(context: &Context<'c>, id: NodeId, limit: &Limit<'_>) -> Option<(&'c Outcome, Judged)> {
    let all = context.outcomes.iter().chain(context.at_once);
    let judged = all.filter_map(|o| Some((o, judge(context, id, limit, o)?)));
    let rank = |j: &Judged| (j.severity, j.asked_a);
    judged.reduce(|a, b| if rank(&b.1) > rank(&a.1) { b } else { a })
}

const ONLY_PROGRAM: &str = "; only the program keeps these starts apart";
const RESET_LOOP: &str = "; the board that switches them resets and restarts: a reset loop";
const MAY_NOT: &str = "; only the program keeps these starts apart, and whether the supply shuts down first depends \
    on its delay: write `hiccup`";
const NEVER: &str = "; its voltage stays low for longer than it waits: it shuts down and retries, and they never start";

fn judge(context: &Context<'_>, id: NodeId, limit: &Limit<'_>, o: &Outcome) -> Option<Judged> {
    let plan = context.plan;
    let s = o.wanted.as_ref().ok()?;
    let limit = limit.amps(plan, s)?;
    let asked_a = s.current_of(plan.nodes[id.0].kind);
    let behind = |load: usize| plan.is_behind(plan.loads[load].feed.from.id, id);
    let amps = spread(plan, o, s, &behind, asked_a);
    if !exceeds(amps.most, limit) {
        return None;
    }
    let down = reset(context, id, o);
    // What a usual part of its class takes, where the start is one of a class.
    let usual = class_starts::nominal(context, o, &behind);
    let only_worst = usual.is_some_and(|u| {
        let asked = u.wanted.as_ref().map_or(f64::INFINITY, |s| s.current_of(plan.nodes[id.0].kind));
        let fails = reset(context, id, u).is_some() || starved(context, id, u).is_some();
        !exceeds(asked, if fails { limit } else { SLOWER * limit })
    });
    let fault = if only_worst { Severity::Caution } else { Severity::Fault };
    let hiccup = hiccup::start(context, id, o).filter(|_| exceeds(asked_a, SLOWER * limit));
    let never = hiccup.is_some_and(|(start, _)| start == Start::Never);
    let apart = match hiccup {
        Some((Start::MayHiccup, _)) if stated_delay(plan, id).is_none() => MAY_NOT,
        _ => ONLY_PROGRAM,
    };
    let low_s = hiccup.map(|(_, seconds)| seconds).filter(|s| *s > 0.0 && s.is_finite());
    let found = |asked_a, severity, comes| Some(Judged { asked_a, severity, comes, low_s });
    if o.case.scenario == Scenario::AllAtOnce {
        return match down {
            Some(board) if drives(plan, board, o) => found(asked_a, fault, RESET_LOOP),
            _ if never && !only_worst => found(asked_a, Severity::Fault, NEVER),
            Some(_) => found(asked_a, Severity::Caution, apart),
            None if exceeds(asked_a, SLOW * limit) || is_low(context, id, o) => {
                exceeds(asked_a, limit).then_some(())?;
                found(asked_a, Severity::Caution, apart)
            }
            None => None,
        };
    }
    // Boards that burst find no voltage that fall slowly; what starts takes a little longer.
    let may = if o.case.continuous || down.is_some() { limit } else { SLOWER * limit };
    // What shares its source may not: it has the low voltage for as long as the start takes.
    if !exceeds(amps.most, may)
        && let Some(severity) = starved(context, id, o)
    {
        return found(amps.most, severity.min(fault), "");
    }
    let assumed = "; its starting current is assumed: write `stall`";
    if exceeds(amps.least, may) {
        let comes = match amps.stated {
            true if only_worst => "; only the worst of its kind draws that much: write `stall`",
            true if never => NEVER,
            true => "",
            false => assumed,
        };
        found(asked_a, fault, comes)
    } else {
        exceeds(amps.most, may).then_some(())?;
        found(amps.most, Severity::Caution, assumed)
    }
}

/// The hiccup cycle that the plan states of a source.
fn stated_delay(plan: &Plan, id: NodeId) -> Option<&Hiccup> {
    let NodeKind::Supply(i) = plan.nodes[id.0].kind else { return None };
    plan.supplies[i].hiccup.as_ref()
}

/// A board behind a source that an outcome takes below its reset.
fn reset(context: &Context<'_>, id: NodeId, o: &Outcome) -> Option<usize> {
    below(context, id, o, &|board| Some(board.brown_out.as_ref()?.typical.get()))
}

/// True where a board behind a source gets less than is recommended.
fn is_low(context: &Context<'_>, id: NodeId, o: &Outcome) -> bool {
    below(context, id, o, &|board| Some(board.recommended.as_ref()?.low.get())).is_some()
}

fn below(context: &Context<'_>, id: NodeId, o: &Outcome, limit: &dyn Fn(&Board) -> Option<f64>) -> Option<usize> {
    let (plan, s) = (context.plan, o.actual.as_ref().ok()?);
    (0..plan.boards.len()).find(|i| {
        let own = plan.node_id(NodeKind::BoardInput(*i)).is_some_and(|n| plan.is_behind(n, id));
        let volts = s.volts(context.layout.boards[*i].main);
        own && volts.zip(limit(&plan.boards[*i])).is_some_and(|(v, l)| is_below(v, l))
    })
}

fn boards(context: &Context<'_>, sink: &mut Sink, limited: &[NodeId]) {
    let plan = context.plan;
    for (i, board) in plan.boards.iter().enumerate() {
        let (name, Some(brown_out)) = (&board.name.text, &board.brown_out) else { continue };
        let t = context.layout.boards[i].main;
        let lowest = |short: bool| context.worst_actual(|o| o.case.continuous != short, |_, s| s.volts(t).map(|v| -v));
        let below = |w: &Worst| is_below(-w.value, brown_out.typical.get());
        let Some(at) = lowest(true) else { continue };
        let volts = Volts::new(-at.value);
        // What is too low continuously is reported of the voltage; what a limiting source causes stands with that
        // source.
        let path = plan.node_id(NodeKind::BoardInput(i)).map_or_else(Vec::new, |id| plan.path_up(id));
        if lowest(false).as_ref().is_some_and(below) || path.iter().any(|id| limited.contains(id)) {
            continue;
        }
        if !below(&at) {
            if context.all_actual() {
                sink.pass(name, || format!("{volts} or more in starts and surges; resets below {}", brown_out.typical));
            }
            continue;
        }
        // What motors bring about has a check of its own, with fixes that were tried.
        if crate::derived::motor_starts::by_motors(context, &at) {
            continue;
        }
        sink.find(
            Draft::fault((name, board.name.span))
                .at(&at)
                .says(format!(
                    "in scenario `{}` board `{name}` is at {volts}; resets below {}",
                    at.scenario, brown_out.typical
                ))
                .judged("voltage", volts)
                .at_least("brown_out", brown_out.typical, &brown_out.origin),
        );
    }
}
