//! battery-runtime: how long a battery lasts, against the wish where there is one.

use crate::derived::context::{Context, Worst};
use crate::derived::discharge::DischargeEnd;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::kinds::supply::Supply;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Corner;
use crate::quantity::format::duration;
use crate::quantity::units::Seconds;
use crate::verdict::compare::is_below;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let rows = context.runtimes();
    for (i, supply) in context.plan.supplies.iter().enumerate() {
        let Some(battery) = &supply.battery else { continue };
        let name = &supply.name.text;
        // A wish holds in *typical* unless it names another.
        let scenario = battery.runtime_in.as_ref().map_or(Scenario::Typical, |s| Scenario::from(s.text.as_str()));
        let Some(row) = rows.iter().find(|r| r.battery == *name && r.scenario == scenario) else {
            if battery.is_below_its_figures(context.plan.ambient.typical.get()) {
                cold(context, sink, supply);
                continue;
            }
            let drawn = context.worst_sustained(|s| s.current_of(NodeKind::Supply(i)));
            if drawn.is_some_and(|w| w.value > 1e-6) && battery.charge_ah(0.1).is_none() {
                sink.unknown(
                    name,
                    supply.name.span,
                    format!("cannot compute the runtime of `{name}`: `capacity` not given"),
                    "write `capacity = \"10 Ah\"` and the `cell`",
                );
            } else if battery.charge_ah(0.1).is_some() && context.all_actual() {
                sink.pass(name, || format!("supplies no continuous current in {scenario}"));
            }
            continue;
        };
        let at = Worst::lasting(row.lasts.get(), row.scenario.clone(), Corner::Typical);
        let ends = ends(&row.end);
        let lasts = duration(row.lasts);
        let evidence = |wish: Option<&crate::quantity::figure::Figure<Seconds>>| {
            let mut evidence = vec![Evidence::judged("lasts", row.lasts), Evidence::computed("left", row.left)];
            evidence.extend(wish.map(|w| Evidence::at_least("required", w.typical, &w.origin)));
            evidence
        };
        match &battery.runtime {
            Some(wish) if is_below(row.lasts.get(), wish.typical.get()) => sink.find(
                Draft::fault(&supply.name)
                    .at(&at)
                    .says(format!(
                        "`{name}` runs {lasts} in scenario `{scenario}`; {} required ({ends})",
                        duration(wish.typical)
                    ))
                    .facts(evidence(Some(wish))),
            ),
            Some(_) if battery.is_below_its_figures(context.plan.ambient.low.get()) => cold(context, sink, supply),
            Some(wish) => sink.pass(name, || format!("{lasts} in {scenario}; {} required", duration(wish.typical))),
            None => sink.find(
                Draft::advisory(&supply.name)
                    .at(&at)
                    .says(format!("`{name}` runs {lasts} in scenario `{scenario}`; {ends}"))
                    .facts(evidence(None))
                    .task("to have it checked, write the runtime you need: `runtime = \"6 h\"`"),
            ),
        }
    }
}

fn ends(end: &DischargeEnd) -> String {
    match end {
        DischargeEnd::Stops(consumer) => format!("`{consumer}` stops first"),
        DischargeEnd::CutOff(battery) => format!("then the cut-off of `{battery}` acts"),
        DischargeEnd::Collapse => "then its supply collapses".into(),
        DischargeEnd::Empty => "then it is empty".into(),
    }
}

/// Below −10 °C no class says what cells give.
fn cold(context: &Context<'_>, sink: &mut Sink, supply: &Supply) {
    let name = &supply.name.text;
    let (low, high) = (context.plan.ambient.low, context.plan.ambient.high);
    let air = if low == high { low.to_string() } else { format!("{low} .. {high}") };
    sink.unknown(
        name,
        supply.name.span,
        format!("cannot compute the runtime of `{name}` at {air}: cell data end at −10 °C"),
        "use the manufacturer's capacity at low temperature, or keep the battery warmer",
    );
}
