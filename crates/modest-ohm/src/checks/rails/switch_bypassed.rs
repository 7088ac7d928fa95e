//! switch-bypassed: what a hand switch should switch is fed with the switch open as well.

use crate::derived::consumers::{Consumer, Where, consumers};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::board::UsbUse;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::Volts;
use crate::solved::outcome::{Outcome, Snapshot};

/// A tenth of the voltage is no longer off (our own figure: no load of the classes works from so little).
const STILL_FED: f64 = 0.1;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let parts = consumers(plan, context.layout);
    for (i, run) in plan.branches.iter().enumerate() {
        let Some(switch) = run.switch() else { continue };
        let (name, Some(node)) = (&run.name.text, plan.node_id(NodeKind::Branch(i))) else { continue };
        let mut variant = plan.clone();
        // A scenario that closes it speaks of another state.
        variant.scenarios.clear();
        variant.branches[i].open = switch.breaks;
        let Some((_, outcomes)) = context.trial(&variant) else {
            sink.unknown(
                name,
                run.name.span,
                format!("cannot check whether something bypasses switch `{name}`: the plan is too large"),
                "check it in a plan of the parts behind the switch",
            );
            continue;
        };
        let worst = |outcomes: &[Outcome], c: &Consumer<'_>| {
            let solved =
                outcomes.iter().filter(|o| o.case.scenario == Scenario::Worst).filter_map(|o| o.actual.as_ref().ok());
            solved.filter_map(|s| c.highest(s)).reduce(f64::max)
        };
        // A board with another feed, or on a computer's USB, is meant to go on.
        let goes_on = |c: &Consumer<'_>| {
            let Where::Board(i) = c.at else { return false };
            let mut feeds = plan.feeders(c.hangs_on);
            plan.boards[i].usb.when == UsbUse::Always || feeds.any(|f| !plan.is_behind(f, node))
        };
        let behind = parts.iter().filter(|c| !goes_on(c) && plan.is_behind(c.hangs_on, node));
        let fed = behind.filter_map(|c| {
            let (open, closed) = (worst(&outcomes, c)?, worst(context.outcomes, c)?);
            let subject = (c.what, c.name.as_str());
            (open > STILL_FED * closed && closed > 0.0).then_some((subject, open, closed))
        });
        let mut fed: Vec<_> = fed.collect();
        fed.extend(without_volts(plan, node, &|l| Some((load_v(&outcomes, l)?, load_v(context.outcomes, l)?))));
        let Some(((what, part), open, closed)) = fed.first() else {
            sink.pass(name, || "switches everything behind it".into());
            continue;
        };
        let gets = if fed.len() > 1 { format!(" and {} more still have", fed.len() - 1) } else { " still has".into() };
        sink.find(
            Draft::fault((name, run.name.span))
                .says(format!(
                    "with switch `{name}` open, {what} `{part}`{gets} {} of {}",
                    Volts::new(*open),
                    Volts::new(*closed)
                ))
                .judged("open", Volts::new(*open))
                .with("closed", Volts::new(*closed))
                .task("remove the other path: a link, a second supply, USB, or a return elsewhere"),
        );
    }
}

/// The highest voltage at a load in *worst*.
fn load_v(outcomes: &[Outcome], load: usize) -> Option<f64> {
    let solved = outcomes.iter().filter(|o| o.case.scenario == Scenario::Worst).filter_map(|o| o.actual.as_ref().ok());
    let volts = |s: &Snapshot| s.layout.loads[load].iter().filter_map(|d| s.volts(d.at)).reduce(f64::max);
    solved.filter_map(volts).reduce(f64::max)
}

/// LEDs and coils have no range of voltages, and are no consumers to other checks; but they go on as well. Each still
/// fed one with its voltage while the switch is open and closed.
fn without_volts<'p>(
    plan: &'p Plan,
    node: NodeId,
    volts: &dyn Fn(usize) -> Option<(f64, f64)>,
) -> Vec<((&'static str, &'p str), f64, f64)> {
    let own = plan.loads.iter().enumerate().filter(|(_, l)| l.nature == Some(Nature::Led) || l.judged_apart);
    let behind = own.filter(|(_, l)| plan.is_behind(l.feed.from.id, node));
    let fed = |(i, load): (usize, &'p Load)| {
        let (open, closed) = volts(i)?;
        let subject = (load.kind.word(), load.name.text.as_str());
        (open > STILL_FED * closed && closed > 0.0).then_some((subject, open, closed))
    };
    behind.filter_map(fed).collect()
}
