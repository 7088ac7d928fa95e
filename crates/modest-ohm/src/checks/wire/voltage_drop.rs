//! voltage-drop: what an unregulated consumer loses of its source's terminal voltage, feed and return together.

use crate::derived::context::Context;
use crate::derived::driver_drop::stage_drop_v;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Fraction, Volts};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::rail::way_up;
use crate::verdict::compare::clearly_exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let policy = &plan.policy.drop;
    // What a pin drops is no loss of a cable.
    // An LED's resistor sets its current, and has checks of its own.
    let on_wires = |l: &Load| !l.regulated && l.feed.pins() == (None, None) && l.nature != Some(Nature::Led);
    for (i, load) in plan.loads.iter().enumerate().filter(|(_, l)| on_wires(l)) {
        let root_id = plan.root(load.feed.from.id);
        let root_name = &plan.nodes[root_id.0].name;
        let name = &load.name.text;
        // Members of a count differ by their settings only; the one that loses most counts.
        let share_lost = |s: &Snapshot| {
            let source = s.volts_at(root_id)?;
            // What a stage drops is reported of the stage.
            let stage_v = stage_drop_v(context, i, s);
            let lost = context.layout.loads[i]
                .iter()
                .filter(|d| s.amps(d.branch) > 1e-9)
                .filter_map(|d| Some((source - stage_v - s.volts(d.at)?) / source))
                .reduce(f64::max);
            lost.filter(|_| source > 0.0).map(|share| (share, share * source))
        };
        let lost =
            context.worst_actual(|o| o.case.scenario == Scenario::Worst, |_, s| share_lost(s).map(|(share, _)| share));
        let Some(lost) = lost else { continue };
        let share = Fraction::new(lost.value);
        let severity = if clearly_exceeds(lost.value, policy.typical.get()) {
            Severity::Caution
        } else if clearly_exceeds(lost.value, 0.5 * policy.typical.get()) {
            Severity::Advisory
        } else {
            if context.all_actual() {
                sink.pass(name, || format!("{share} of {}", policy.typical));
            }
            continue;
        };
        let at = context.outcome(&lost);
        let volts = at.and_then(|o| share_lost(o.actual.as_ref().ok()?)).map_or(0.0, |(_, volts)| volts);
        let allowed = if severity == Severity::Caution { 1.0 } else { 0.5 } * policy.typical.get();
        let diodes = at.map_or_else(Default::default, |o| diodes_on(context, load.feed.from.id, o));
        let source_v = volts / lost.value;
        sink.find(
            Draft::of(severity, &load.name)
                .at(&lost)
                .says(format!(
                    "load `{name}` loses {} of `{root_name}`'s voltage in its cables, {share}; the policy allows {}",
                    Volts::new(volts),
                    policy.typical
                ))
                .judged("drop", share)
                .at_most("policy", policy.typical, &policy.origin)
                .with("lost", Volts::new(volts))
                .cure(cure(volts, allowed * source_v, &diodes)),
        );
    }
}

/// The diodes in the feed of a node: their names, and what they drop together, V.
fn diodes_on(context: &Context<'_>, node: NodeId, o: &Outcome) -> (Vec<String>, f64) {
    let mut diodes = (Vec::new(), 0.0);
    let (plan, Ok(s)) = (context.plan, o.actual.as_ref()) else { return diodes };
    for id in way_up(plan, node) {
        let NodeKind::Branch(i) = plan.nodes[id.0].kind else { continue };
        if let (Some(_), Some(branch)) = (plan.branches[i].diode(), context.layout.elements[i]) {
            diodes.0.push(format!("`{}`", plan.branches[i].name.text));
            diodes.1 += s.drop_v(branch);
        }
    }
    diodes
}

/// What helps: copper where leads lose the voltage, other diodes where those alone lose too many.
fn cure(lost_v: f64, allowed_v: f64, (diodes, diodes_v): &(Vec<String>, f64)) -> String {
    if !diodes.is_empty() && *diodes_v >= 0.99 * allowed_v {
        let (drop, place) = if diodes.len() == 1 { ("drops", "its") } else { ("drop", "their") };
        return format!(
            "{} alone {drop} {}: use a P-channel MOSFET in {place} place, or raise the source by as much",
            diodes.join(" and "),
            Volts::new(*diodes_v)
        );
    }
    // Rounded up: less would not do.
    let copper = ((lost_v - diodes_v) / (allowed_v - diodes_v).max(1e-6) * 10.0 - 1e-6).ceil() / 10.0;
    format!("use {copper:.1} times the copper, or shorter cables")
}
