//! voltage-drop: what an unregulated consumer loses of its source's terminal voltage, feed and return together.

use crate::derived::context::Context;
use crate::derived::driver_drop::stage_drop_v;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::units::{Fraction, Volts};
use crate::solved::outcome::Snapshot;
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
                .with("lost", Volts::new(volts)),
        );
    }
}
