//! usb-while-fed: a board plugged into a computer, with its other supply on and off.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::board::Board;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Amps, Volts};
use crate::solved::currents::LEAK_A;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::verdict::compare::exceeds;

/// A rail above this is no longer off (our own figure: what a pin may see of a part that is off).
const OFF_V: f64 = 0.5;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, board) in context.plan.boards.iter().enumerate() {
        // A socket that the plan feeds itself is a source like others.
        let Some(port) = context.layout.inlets[i].usb.as_ref().and_then(|u| u.port) else { continue };
        let programming = context.programming.iter().filter(|o| o.case.surging.as_deref() == Some(&board.name.text));
        let own: Vec<&Outcome> =
            context.continuous().chain(programming).filter(|o| o.case.demands.plugged[i]).collect();
        if own.is_empty() {
            continue;
        }
        judge(context, sink, board, port, &own);
    }
}

/// The largest of a value over some outcomes that have a solution, limits lifted, boards at their mean.
fn largest(outcomes: &[&Outcome], value: impl Fn(&Snapshot) -> f64) -> Option<Worst> {
    let (o, value) = worst_of(outcomes.iter().copied(), |o| Some(value(o.sustained.as_ref().ok()?)))?;
    Some(Worst::at(o, value))
}

fn judge(context: &Context<'_>, sink: &mut Sink, board: &Board, port: usize, own: &[&Outcome]) {
    let name = &board.name.text;
    let limit = board.usb.limit.low;
    let mut quiet = own.iter().all(|o| o.sustained.is_ok());
    let back = largest(own, |s| -s.amps(port));
    if let Some(at) = back.filter(|w| w.value > LEAK_A) {
        quiet = false;
        let amps = Amps::new(at.value);
        sink.find(
            Draft::danger(&board.name)
                .at(&at)
                .says(format!("with a computer connected to `{name}`, {amps} flows back into its port"))
                .judged("back", amps),
        );
    }
    let out = largest(own, |s| s.amps(port));
    if let Some(at) = out.filter(|w| exceeds(w.value, limit.get())) {
        quiet = false;
        let amps = Amps::new(at.value);
        let alone = at.scenario == Scenario::ProgrammingAlone;
        let when = if alone { ", its other supply off," } else { "" };
        sink.find(
            Draft::fault(&board.name)
                .at(&at)
                .says(format!(
                    "connected to a computer{when} `{name}` and its rail draw {amps} from a port rated {limit}"
                ))
                .judged("demand", amps)
                .at_most("rating", limit, &board.usb.limit.origin),
        );
    } else if let Some((rail, at)) = lifted(context, own) {
        quiet = false;
        let volts = Volts::new(at.value);
        sink.find(
            Draft::caution(&board.name)
                .at(&at)
                .says(format!("a computer connected to `{name}` raises `{rail}` to {volts} while that is off"))
                .judged("lifted", volts),
        );
    }
    if quiet {
        let most = largest(own, |s| s.amps(port)).map_or(0.0, |w| w.value);
        sink.pass(name, || format!("{} of {limit} from the port", Amps::new(most.max(0.0))));
    }
}

/// A source that is off and has voltage at its output.
fn lifted(context: &Context<'_>, own: &[&Outcome]) -> Option<(String, Worst)> {
    let mut found: Option<(String, Worst)> = None;
    for (id, node) in context.plan.nodes.iter().enumerate() {
        let is_off = |o: &Outcome, s: &Snapshot| match node.kind {
            NodeKind::Supply(i) => !o.case.demands.supplies_on[i],
            NodeKind::Converter(i) => !s.solution.alive[context.layout.converters[i].input.plus],
            _ => false,
        };
        let volts = |o: &Outcome| o.sustained.as_ref().ok().filter(|s| is_off(o, s))?.volts_at(NodeId(id));
        let at = worst_of(own.iter().copied(), volts).map(|(o, v)| Worst::at(o, v)).filter(|w| w.value > OFF_V);
        if let Some(at) = at.filter(|w| found.as_ref().is_none_or(|(_, f)| w.value > f.value + 1e-6)) {
            found = Some((node.name.clone(), at));
        }
    }
    found
}
