//! brown-out: a motor that starts takes a board below its brown-out; the fixes are tried, and ranked by what they
//! leave.

use crate::derived::class_starts;
use crate::derived::context::{Context, worst_of};
use crate::derived::motor_starts::drives;
use crate::derived::motor_starts::starting;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Demand;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Volts;
use crate::solved::outcome::Outcome;
use crate::verdict::codes;
use crate::verdict::compare::{at_least, exceeds, is_below};
use crate::verdict::severity::Severity;

/// A ramp keeps a start at this many times the running current (typical of a PWM ramp).
const RAMP: f64 = 1.5;

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
                .cures(cures(context, i, &who, limit.get(), &motors))
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

/// What helps, by the voltage that is left: each tried on a copy of the plan.
fn cures(context: &Context<'_>, board: usize, who: &[usize], limit: f64, motors: &str) -> Vec<String> {
    let plan = context.plan;
    let mut tried: Vec<(f64, String)> = Vec::new();
    let own_supply = changed(plan, |p| who.iter().for_each(|l| p.loads[*l].demand = nothing()));
    let own_lead = changed(plan, |p| {
        for l in who {
            p.loads[*l].feed.from.id = plan.root(plan.loads[*l].feed.from.id);
        }
    });
    let heavier = changed(plan, |p| {
        let path = p.node_id(NodeKind::BoardInput(board)).map_or_else(Vec::new, |id| p.path_up(id));
        for id in path {
            let feed = match p.nodes[id.0].kind {
                NodeKind::Branch(i) => Some(&mut p.branches[i].feed),
                NodeKind::BoardInput(i) => p.boards[i].feed.as_mut(),
                _ => None,
            };
            if let Some(cable) = feed.and_then(|f| f.cable.as_mut()) {
                cable.double();
            }
        }
    });
    let ramp = changed(plan, |p| {
        for l in who {
            if let Demand::Current(s) = &mut p.loads[*l].demand {
                s.surge = Some(s.peak.scaled(RAMP));
            }
        }
    });
    let all = [
        (own_supply, format!("feed {motors} from a supply or converter of its own")),
        (own_lead, format!("feed {motors} with a separate cable from the source")),
        (heavier, "double the copper of the cables that the board shares with it".to_owned()),
        (ramp, format!("soft-start {motors} by PWM in the firmware, at no more than 1.5 times its running current")),
    ];
    for (variant, words) in all {
        let Some((_, outcomes)) = context.trial(&variant) else { break };
        if let Some((_, volts)) = lowest(&outcomes, board).filter(|(_, v)| at_least(*v, limit)) {
            tried.push((volts, format!("{words}: the board then has {}", Volts::new(volts))));
        }
    }
    tried.sort_by(|a, b| b.0.total_cmp(&a.0));
    if tried.is_empty() {
        return vec!["feed the board from a supply of its own: no smaller change is enough (tried)".to_owned()];
    }
    tried.into_iter().map(|(_, words)| words).collect()
}

fn changed(plan: &Plan, change: impl FnOnce(&mut Plan)) -> Plan {
    let mut variant = plan.clone();
    change(&mut variant);
    variant
}

fn nothing() -> Demand {
    use crate::quantity::figure::Figure;
    use crate::quantity::figure::Origin;
    use crate::quantity::units::Amps;
    let none = Figure::exact(Amps::new(0.0), Origin::Computed);
    Demand::nothing(none)
}
