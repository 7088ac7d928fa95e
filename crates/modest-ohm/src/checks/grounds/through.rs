//! ground-through-logic: what returns through a board or a signal's −, as the plan stands, and with one return opened.

use crate::plan::kinds::ground::GroundKind;
use crate::plan::kinds::scenario::Scenario;
use modest_ohm_solve::Groups;
use modest_ohm_solve::network::Law;
use modest_ohm_solve::solve::{Limits, Workspace, solve};

use crate::checks::shared::joined::joined;
use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::layout::ConductorInfo;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::conductors::{cable_of, return_cable_of};
use crate::topology::run::Run;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// What may return through a board in addition to its own current: signals' (our own figure); beyond what a header's
/// pin carries it burns (electrical reference, "Contacts").
const ASIDE_A: f64 = 0.1;
const PIN_A: f64 = 3.0;

/// A thin way for a load's current: a board's return, or the − of a signal's lead.
struct Thin<'l> {
    info: &'l ConductorInfo,
    name: String,
    /// What it carries continuously.
    may: f64,
    is_board: bool,
}

fn thin<'l>(context: &'l Context<'_>) -> Vec<Thin<'l>> {
    let plan = context.plan;
    let warmest = plan.warmest_c();
    let of = |info: &'l ConductorInfo| match info.run {
        Run::Board(c) => {
            // A board with ports is made to carry loads and their returns.
            if plan.boards[c].total.is_some() {
                return None;
            }
            let may = return_cable_of(plan, info.run).and_then(|c| c.ampacity(warmest)).unwrap_or(PIN_A);
            Some(Thin {
                info,
                name: format!("board `{0}`", plan.boards[c].name.text),
                may: may.min(PIN_A),
                is_board: true,
            })
        }
        Run::Ground(g) if plan.grounds[g].what == GroundKind::WithSignal => {
            let may = cable_of(plan, info.run).and_then(|c| c.ampacity(warmest)).unwrap_or(PIN_A);
            let item = plan.grounds[g].name.text.split('.').next().unwrap_or_default();
            Some(Thin { info, name: format!("the signal ground wire of `{item}`"), may, is_board: false })
        }
        _ => None,
    };
    context.layout.conductors.iter().filter_map(of).collect()
}

/// The current of a load that goes through a thin way, A: of a board's return what its feed does not bring.
fn aside(t: &Thin<'_>, s: &Snapshot, current: &[f64]) -> f64 {
    let back = current[t.info.back];
    match t.info.feed.filter(|_| t.is_board) {
        // The return counts the other way round.
        Some(feed) if s.alive(feed) => (current[feed] + back).abs(),
        _ => back.abs(),
    }
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let ways = thin(context);
    // Only a − that something joins in addition to can carry what is not its own.
    let Some(groups) = joined(context) else { return };
    let mut told: Vec<String> = Vec::new();
    for way in &ways {
        let flows = |o: &Outcome| {
            let s = o.sustained.as_ref().ok()?;
            s.alive(way.info.back).then(|| aside(way, s, &s.solution.current))
        };
        let Some((o, amps)) = worst_of(context.continuous(), flows) else { continue };
        let severity = if exceeds(amps, way.may) {
            Severity::Danger
        } else if exceeds(amps, ASIDE_A) {
            Severity::Caution
        } else {
            sink.pass(&way.info.name, || format!("{} of load current returns through it", Amps::new(amps)));
            continue;
        };
        told.push(way.info.name.clone());
        whole(context, sink, way, o, amps, severity);
    }
    opened(context, sink, &ways, &told, groups);
}

fn span_of(context: &Context<'_>, run: Run) -> crate::source::Span {
    match run {
        Run::Board(c) => context.plan.boards[c].name.span,
        Run::Ground(g) => context.plan.grounds[g].name.span,
        _ => crate::source::Span { start: 0, end: 0 },
    }
}

fn whole(context: &Context<'_>, sink: &mut Sink, way: &Thin<'_>, o: &Outcome, amps: f64, severity: Severity) {
    let (got, may) = (Amps::new(amps), Amps::new(if severity == Severity::Danger { way.may } else { ASIDE_A }));
    let limit = if severity == Severity::Danger { format!("; rated {may}") } else { String::new() };
    sink.find(
        Draft::of(severity, (&way.info.name, span_of(context, way.info.run)))
            .at(&Worst::at(o, amps))
            .says(format!("{got} of load current returns through {}{limit}", way.name))
            .judged("through", got)
            .at_most("rating", may, &Origin::Default("0.1 A plus its own current; its wire's or a pin's rating"))
            .task("run a separate, thicker return wire to the supply"),
    );
}

/// Each load's return opened in turn.
fn opened(context: &Context<'_>, sink: &mut Sink, ways: &[Thin<'_>], told: &[String], mut groups: Groups) {
    let plan = context.plan;
    let worst = context.outcomes.iter().find(|o| o.case.scenario == Scenario::Worst && o.actual.is_ok());
    let Some((o, Ok(s))) = worst.map(|o| (o, o.actual.as_ref())) else { return };
    let mut workspace = Workspace::default();
    let mut found: Vec<&str> = Vec::new();
    for info in &context.layout.conductors {
        let is_load = matches!(info.run, Run::Load(_) | Run::Injection(..))
            || matches!(info.run, Run::Branch(i) if matches!(plan.node_id(NodeKind::Branch(i)), Some(id) if plan.loads.iter().any(|l| l.feed.from.id == id)));
        if !is_load || !s.alive(info.back) || s.amps(info.back).abs() < 1e-3 {
            continue;
        }
        // Where nothing else joins its − nothing flows at all.
        let far = s.net.branches[info.back].to;
        let others = ways.iter().filter(|w| {
            let b = &s.net.branches[w.info.back];
            b.from == far || b.to == far || groups.together(b.to, far) || groups.together(b.from, far)
        });
        if others.count() == 0 || !has_other_way(s, info.back, far) || !context.may_try(1) {
            continue;
        }
        let mut net = s.net.as_ref().clone();
        net.branches[info.back].law = Law::OPEN;
        let Ok(open) = solve(&net, Limits::IN_FORCE, &mut workspace) else { continue };
        for way in ways.iter().filter(|w| !told.contains(&w.info.name)) {
            let (before, after) = (aside(way, s, &s.solution.current), aside(way, s, &open.current));
            if at_most(after, way.may) || before > way.may || found.contains(&way.info.name.as_str()) {
                continue;
            }
            found.push(&way.info.name);
            let (got, may) = (Amps::new(after), Amps::new(way.may));
            sink.find(
                Draft::caution((&way.info.name, span_of(context, way.info.run)))
                    .at(&Worst::at(o, after))
                    .says(format!(
                        "if the return of `{}` opens, {got} flows through {}; rated {may}",
                        info.name, way.name
                    ))
                    .judged("through", got)
                    .at_most("rating", may, &Origin::Computed)
                    .task(format!("secure the return of `{}`: a second wire, a screwed end", info.name)),
            );
        }
    }
}

/// True where conductors in addition to one join its far end to the rest.
fn has_other_way(s: &Snapshot, without: usize, far: usize) -> bool {
    let near = s.net.branches[without].from;
    let mut groups = Groups::new(s.net.vertices);
    for (i, b) in s.net.branches.iter().enumerate() {
        if i != without && matches!(b.law, Law::Conductor { .. } | Law::Copper { .. } | Law::Diode { .. }) {
            groups.join(b.from, b.to);
        }
    }
    for ladder in &s.net.ladders {
        for pair in ladder.ports.windows(2) {
            groups.join(pair[0].minus, pair[1].minus);
        }
    }
    groups.together(near, far)
}
