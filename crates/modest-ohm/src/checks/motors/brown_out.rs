//! brown-out: a motor that starts takes a board below its brown-out; the fixes are tried, and ranked by what they
//! leave.

use crate::derived::class_starts;
use crate::derived::context::{Context, worst_of};
use crate::derived::motor_starts::drives;
use crate::derived::motor_starts::starting;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Volts;
use crate::solved::outcome::Outcome;
use crate::verdict::codes;
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

/// The lowest voltage of a board in a start or a surge.
fn lowest(outcomes: &[Outcome], board: usize) -> Option<(&Outcome, f64)> {
    let volts = |o: &Outcome| {
        let s = o.actual.as_ref().ok()?;
        s.volts(s.layout.boards[board].main).map(|v| -v)
    };
    worst_of(outcomes.iter().filter(|o| !o.case.continuous), volts).map(|(o, v)| (o, -v))
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, board) in plan.boards.iter().enumerate() {
        let (name, Some(brown_out)) = (&board.name.text, &board.brown_out) else { continue };
        let limit = brown_out.typical;
        // Where only the program keeps starts apart it is a caution, and a fault where the reset lets them all go
        // again.
        let apart = lowest(context.outcomes, i);
        let at_once = lowest(context.at_once, i).filter(|(_, v)| is_below(*v, limit.get()));
        let only_program = apart.as_ref().is_none_or(|(_, v)| !is_below(*v, limit.get())) && at_once.is_some();
        let Some((o, volts)) = at_once.filter(|_| only_program).or(apart) else { continue };
        let below = |v: f64| is_below(v, limit.get());
        let who = starting(plan, o);
        let t = context.layout.boards[i].main;
        let lasting = context.worst_actual(|o| o.case.continuous, |_, s| s.volts(t).map(|v| -v));
        // What is too low continuously is reported of the voltage; what a source's limit brings about, of that source.
        let limited = o.wanted.as_ref().is_ok_and(|s| limits(plan, i, s));
        if who.is_empty() || lasting.is_some_and(|w| below(-w.value)) || limited {
            continue;
        }
        if !below(volts) {
            if context.all_actual() {
                sink.pass(name, || format!("{} or more while motors start; resets below {limit}", Volts::new(volts)));
            }
            continue;
        }
        let motors: Vec<String> = who.iter().map(|l| format!("`{}`", plan.loads[*l].name.text)).collect();
        let motors = motors.join(", ");
        let got = Volts::new(volts);
        let starts = if who.len() == 1 { "starts" } else { "start" };
        // Of a class the usual part decides.
        let usual = class_starts::nominal(context, o, &|_| true).and_then(|u| u.actual.as_ref().ok());
        let only_worst = usual.and_then(|s| s.volts(t)).is_some_and(|v| !below(v));
        let severity = match only_worst || only_program && !drives(plan, i, o) {
            true => Severity::Caution,
            false => Severity::Fault,
        };
        let keeps = match (only_program, severity) {
            _ if only_worst => "; only the worst of its kind draws that much: write `stall`",
            (true, Severity::Caution) => "; only the program keeps these starts apart",
            (true, _) => "; only its program keeps these starts apart, and a reset restarts it: a reset loop",
            _ => "",
        };
        sink.find(
            Draft::of(severity, (name, board.name.span))
                .at(&context.worst_at(o, volts, |o| o.actual.as_ref().ok()?.volts(t)))
                .says(format!("when {motors} {starts}, board `{name}` is at {got}; resets below {limit}{keeps}"))
                .judged("voltage", got)
                .at_least("brown_out", limit, &brown_out.origin)
                .implies(codes::SUPPLY_SURGE, name),
        );
    }
}

/// True where a source on the way to a board holds its limit.
fn limits(plan: &Plan, board: usize, s: &crate::solved::outcome::Snapshot) -> bool {
    let path = plan.node_id(NodeKind::BoardInput(board)).map_or_else(Vec::new, |id| plan.path_up(id));
    path.into_iter().any(|id| {
        let kind = plan.nodes[id.0].kind;
        let limit = match kind {
            NodeKind::Supply(n) => plan.supplies[n].limit.as_ref(),
            NodeKind::Converter(n) => plan.converters[n].limit.as_ref(),
            _ => None,
        };
        limit.is_some_and(|l| exceeds(s.current_of(kind), l.low.get()))
    })
}
