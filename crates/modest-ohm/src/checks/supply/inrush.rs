//! inrush: what charging capacitors asks of contacts, and how long it takes a source at its limit.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::{Amps, Farads, Ohms, Seconds, Volts};
use crate::size::capacitor::{charging_time, inrush_peak};
use crate::solved::currents::source_of;
use crate::solved::loop_ohms::loop_ohms;
use crate::solved::outcome::Outcome;
use crate::topology::rail::way_up;
use crate::verdict::compare::at_most;

/// A supply that is still at its limit after this switches off and tries again (typical).
const HICCUP_S: f64 = 0.020;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    contacts(context, sink);
    starts(context, sink);
}

/// The corner with the highest volts and the smallest resistances, everything idle.
fn stiffest<'c>(context: &'c Context<'_>) -> Option<&'c Outcome> {
    context.outcomes.iter().find(|o| o.case.scenario == Scenario::Idle && o.corner == Corner::High && o.actual.is_ok())
}

/// Peak V/(Rs + R_loop + ESR) against what the switches on the way may make.
fn contacts(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let Some(outcome) = stiffest(context) else { return };
    let Ok(s) = &outcome.actual else { return };
    for cap in &plan.capacitors {
        let name = &cap.name.text;
        let Some(volts) = s.volts_at(cap.across.id) else { continue };
        let path = way_up(plan, cap.across.id);
        let source = path.last().and_then(|id| source_ohms(context, *id, outcome)).unwrap_or(0.0);
        let ohms = source + loop_ohms(plan, cap.across.id, s) + cap.esr.low.get();
        let peak = inrush_peak(Volts::new(volts), Ohms::new(ohms));
        let switches = path.iter().filter_map(|id| match plan.nodes[id.0].kind {
            NodeKind::Branch(i) => plan.branches[i].switch().map(|s| (&plan.branches[i].name.text, s)),
            _ => None,
        });
        // A contact that may switch so much may also make it; capacitors are the reason for the rule (typical).
        let allowed = switches.filter_map(|(n, s)| s.making.as_ref().or(s.rating.as_ref()).map(|r| (n, r)));
        let Some((contact, rating)) = allowed.reduce(|a, b| if b.1.low < a.1.low { b } else { a }) else { continue };
        if at_most(peak.get(), rating.low.get()) {
            sink.pass(name, format!("{peak} through `{contact}`, which makes {}", rating.low));
            continue;
        }
        let at = Worst::at(outcome, peak.get());
        let series = volts / rating.low.get() - ohms;
        sink.find(
            Draft::caution((name, cap.name.span))
                .at(&at)
                .says(format!(
                    "charging `{name}` ({}) draws {peak} through `{contact}`, which makes {}: its contacts weld \
                     in time",
                    cap.capacitance.typical, rating.low
                ))
                .judged("peak", peak)
                .at_most("makes", rating.low, &rating.origin)
                .with("resistance", Ohms::new(ohms))
                .with("enough_series", Ohms::new(series))
                .cure(format!(
                    "put an inrush limiter of {} or more in series, or the capacitor on the source's side of \
                     `{contact}`",
                    Ohms::new(series)
                )),
        );
    }
}

fn source_ohms(context: &Context<'_>, id: NodeId, o: &Outcome) -> Option<f64> {
    let branch = source_of(context.layout, context.plan.nodes[id.0].kind)?;
    match o.actual.as_ref().ok()?.net.branches[branch].law {
        modest_ohm_solve::network::Law::Source { ohms, .. } => Some(ohms),
        _ => None,
    }
}

/// C·V/(I_lim − I_load) against the time a hiccuping supply waits.
fn starts(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, supply) in plan.supplies.iter().enumerate() {
        let (Some(limit), true) = (&supply.limit, supply.hiccups) else { continue };
        let Some(own) = plan.node_id(NodeKind::Supply(i)) else { continue };
        let on_it = plan.capacitors.iter().filter(|c| way_up(plan, c.across.id).last() == Some(&own));
        let farads: f64 = on_it.map(|c| c.capacitance.high.get()).sum();
        if farads == 0.0 {
            continue;
        }
        let name = &supply.name.text;
        let starts = || context.outcomes.iter().filter(|o| o.case.scenario == Scenario::Start);
        let load = worst_of(starts(), |o| Some(o.wanted.as_ref().ok()?.current_of(NodeKind::Supply(i))));
        let load = load.map_or(0.0, |(_, amps)| amps.max(0.0));
        let known = starts().all(|o| o.wanted.is_ok());
        let (volts, left) = (supply.voltage.high.get(), limit.low.get() - load);
        let time = charging_time(Farads::new(farads), supply.voltage.high, limit.low, Amps::new(load));
        let seconds = time.unwrap_or(Seconds::new(f64::MAX));
        if at_most(seconds.get(), HICCUP_S) {
            if known {
                sink.pass(name, format!("its capacitors are full after {seconds}"));
            }
            continue;
        }
        let total = Farads::new(farads);
        let how = if left > 0.0 { format!("takes {seconds}") } else { "never ends".to_owned() };
        let most = Farads::new((HICCUP_S * left / volts).max(0.0));
        let mut evidence = vec![
            Evidence::judged("capacitance", total),
            Evidence::at_most("limit", limit.low, &limit.origin),
            Evidence::computed("load", Amps::new(load)),
            Evidence::context(
                "waits",
                Seconds::new(HICCUP_S),
                &Origin::Default("20 ms, typical of supplies that hiccup"),
            ),
        ];
        if left > 0.0 {
            evidence.push(Evidence::computed("time", seconds));
            evidence.push(Evidence::computed("enough_capacitance", most));
        }
        let later = "let the load start later";
        sink.find(
            Draft::caution(&supply.name)
                .says(format!(
                    "`{name}` limits at {} and its load takes {} of it: charging {total} {how}, and it gives up \
                     after {}",
                    limit.low,
                    Amps::new(load),
                    Seconds::new(HICCUP_S)
                ))
                .facts(evidence)
                .cure(if left > 0.0 {
                    format!("take {most} or less, {later}, or a supply that limits higher")
                } else {
                    format!("{later}, or take a supply that limits higher")
                }),
        );
    }
}
