//! A plan without the mistake that this family finds: what is gone in it follows from the mistake.

use crate::findings::finding::Finding;
use crate::plan::kinds::load::Demand;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::verdict::severity::Severity;

/// A strip or a load on a supply of too high a voltage, as if both suited each other: what it draws and loses at the
/// wrong voltage is no matter of its own. The range of a supply stays as wide.
pub(crate) fn rated_volts(plan: &mut Plan, finding: &Finding) -> bool {
    if finding.severity != Severity::Danger {
        return false;
    }
    if let Some(i) = plan.loads.iter().position(|l| l.name.text == finding.subject) {
        return load_for_its_supply(plan, i);
    }
    let strip = plan.strips.iter().find(|s| s.name.text == finding.subject);
    let Some((rated, from)) =
        strip.and_then(|s| Some((s.voltage.as_ref()?.typical, s.injections.first()?.feed.from.id)))
    else {
        return false;
    };
    let NodeKind::Supply(i) = plan.nodes[plan.root(from).0].kind else { return false };
    let volts = &mut plan.supplies[i].voltage;
    let share = rated / volts.typical;
    *volts = volts.scaled(share);
    true
}

/// A load of the same power that is made for the supply that it is connected to: other loads there keep their voltage.
fn load_for_its_supply(plan: &mut Plan, load: usize) -> bool {
    let (from, rated) = (plan.loads[load].feed.from.id, plan.loads[load].voltage.as_ref().map(|v| v.typical.get()));
    let supply = match plan.nodes[plan.root(from).0].kind {
        NodeKind::Supply(i) => plan.supplies[i].voltage.typical.get(),
        NodeKind::Converter(i) => plan.converters[i].output.typical.get(),
        _ => return false,
    };
    let Some(share) = rated.filter(|v| *v > 0.0).map(|v| supply / v) else { return false };
    let load = &mut plan.loads[load];
    let own = [&mut load.voltage, &mut load.recommended, &mut load.minimum, &mut load.absolute, &mut load.knee];
    for volts in own.into_iter().flatten() {
        *volts = volts.scaled(share);
    }
    if let Demand::Resistance(states) = &mut load.demand {
        states.scale(share * share);
    }
    true
}
