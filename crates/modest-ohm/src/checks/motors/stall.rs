//! stall-current: what a motor that is held takes continuously, against what carries it continuously.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::conductors::{cable_of, contact_limit_of, fuse_of};
use crate::topology::ratings::node_limit;
use crate::topology::run::Run;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut told: Vec<NodeId> = Vec::new();
    for (i, load) in plan.loads.iter().enumerate().filter(|(_, l)| l.is_motor() && l.limits.stall.is_some()) {
        let Some((o, amps)) = stalled(context, i) else { continue };
        let Ok(s) = o.wanted.as_ref() else { continue };
        let name = &load.name.text;
        let stops = lead(context, sink, i, amps, o)
            || stage(context, sink, i, o, s)
            || contacts(context, sink, i, o, s)
            || source(context, sink, i, o, s, &mut told);
        if !stops {
            sink.pass(name, || format!("everything on its path is rated {} continuous", Amps::new(amps)));
        }
    }
}

/// The outcome in which a load is held, with what one member takes.
fn stalled<'o>(context: &Context<'o>, load: usize) -> Option<(&'o Outcome, f64)> {
    use crate::network::state::Member;
    use crate::plan::kinds::scenario::{LoadState, Scenario};
    let held = |o: &&Outcome| {
        o.case.scenario == Scenario::Surge
            && o.case.demands.loads[load].iter().any(|m| matches!(m, Member::State(LoadState::Surge)))
    };
    let flows = |o: &Outcome| {
        let s = o.wanted.as_ref().ok()?;
        s.currents_into(load).reduce(f64::max)
    };
    worst_of(context.outcomes.iter().filter(held), flows)
}

/// While it is held a cable may get this much more than its ampacity: some 115 °C, until someone sees it (IEC
/// 60364-4-43).
const HELD_SHARE: f64 = 1.45;
/// What a contact carries beyond its rating while a motor is held.
const CONTACT_SHARE: f64 = 1.25;

/// Switches, diodes, plugs and ports on its way.
fn contacts(context: &Context<'_>, sink: &mut Sink, i: usize, o: &Outcome, s: &Snapshot) -> bool {
    let plan = context.plan;
    let load = &plan.loads[i];
    let mut ways: Vec<(String, f64, f64)> = Vec::new();
    let run_amps = |run: Run| {
        let info = s.layout.conductors.iter().find(|c| c.run == run);
        info.and_then(|c| c.feed).map_or(0.0, |b| s.amps(b).abs())
    };
    let mut add = |what: String, amps: f64, limit: Option<f64>| ways.extend(limit.map(|l| (what, amps, l)));
    add(
        format!("a connector in the cable of `{}`", load.name.text),
        run_amps(Run::Load(i)),
        contact_limit_of(plan, Run::Load(i)),
    );
    for id in plan.path_up(load.feed.from.id) {
        let NodeKind::Branch(b) = plan.nodes[id.0].kind else { continue };
        let (branch, amps) = (&plan.branches[b], run_amps(Run::Branch(b)));
        let name = format!("the {} `{}`", branch.word(), branch.name.text);
        let own = match &branch.kind {
            RunKind::Switch(switch) => switch.rating.as_ref(),
            RunKind::Diode(diode) => diode.rating.as_ref(),
            RunKind::Port(port) => port.limit.as_ref(),
            _ => None,
        };
        add(name, amps, own.map(|r| r.low.get()));
        add(
            format!("a connector in the cable to `{}`", branch.name.text),
            amps,
            contact_limit_of(plan, Run::Branch(b)),
        );
    }
    let over = |(_, amps, limit): &(String, f64, f64)| *amps / limit.max(1e-9);
    let Some(worst) = ways.into_iter().max_by(|a, b| over(a).total_cmp(&over(b))) else { return false };
    let (what, amps, limit) = (worst.0.clone(), Amps::new(worst.1), Amps::new(worst.2));
    if at_most(amps.get(), CONTACT_SHARE * limit.get()) {
        return false;
    }
    // Beyond what it carries continuously anyhow another check speaks.
    sink.find(
        Draft::fault(&load.name)
            .at(&Worst::at(o, amps.get()))
            .says(format!("stalled, `{}` sends {amps} continuously through {what}; rated {limit}", load.name.text))
            .judged("stalled", amps)
            .at_most("rating", limit, &Origin::Computed),
    );
    true
}

/// The cable of a load, with no fuse on the way that opens.
fn lead(context: &Context<'_>, sink: &mut Sink, i: usize, amps: f64, o: &Outcome) -> bool {
    let plan = context.plan;
    let load = &plan.loads[i];
    let Some(may) = cable_of(plan, Run::Load(i)).and_then(|c| c.ampacity(context.air_c(Run::Load(i)))) else {
        return false;
    };
    if at_most(amps, HELD_SHARE * may) {
        return false;
    }
    let mut runs = vec![Run::Load(i)];
    runs.extend(plan.path_up(load.feed.from.id).into_iter().filter_map(|id| match plan.nodes[id.0].kind {
        NodeKind::Branch(b) => Some(Run::Branch(b)),
        _ => None,
    }));
    // A blade fuse opens from 1.35 times its rating on.
    let opens = runs.iter().filter_map(|r| fuse_of(plan, *r)).any(|f| amps >= f.opens_a());
    if opens {
        return false;
    }
    let (amps, may) = (Amps::new(amps), Amps::new(may));
    sink.find(
        Draft::danger(&load.name)
            .at(&context.worst_at(o, amps.get(), |o| o.wanted.as_ref().ok()?.currents_into(i).reduce(f64::max)))
            .says(format!(
                "stalled, `{}` draws {amps} continuously; its cable is rated {may}, and no fuse on its path blows",
                load.name.text
            ))
            .judged("stalled", amps)
            .at_most("ampacity", may, &Origin::Computed),
    );
    true
}

/// The stage in front of it, which stands it briefly and not continuously.
fn stage(context: &Context<'_>, sink: &mut Sink, i: usize, o: &Outcome, s: &Snapshot) -> bool {
    let plan = context.plan;
    let load = &plan.loads[i];
    let NodeKind::Branch(run) = plan.nodes[load.feed.from.id.0].kind else { return false };
    let Some((driver, _)) = plan.stage_of_run(run) else { return false };
    let (Some(rating), Some(branch)) = (&driver.current, context.layout.elements[run]) else { return false };
    let amps = Amps::new(s.amps(branch).abs());
    // Beyond what it withstands briefly another check speaks; contacts do not mind a stall.
    let peak = driver.surge.as_ref().unwrap_or(rating);
    if driver.kind.is_contact() || at_most(amps.get(), rating.low.get()) || exceeds(amps.get(), peak.low.get()) {
        return false;
    }
    let name = &load.name.text;
    // One that limits, or goes off by its own heat, comes to no harm.
    let severity = if driver.limits { Severity::Advisory } else { Severity::Fault };
    let then = if driver.limits { ": it limits the current itself" } else { "" };
    sink.find(
        Draft::of(severity, &load.name)
            .at(&context.worst_at(o, amps.get(), |o| Some(o.wanted.as_ref().ok()?.amps(branch).abs())))
            .says(format!(
                "stalled, `{name}` draws {amps}; the {} is rated for that as a peak, and {} continuous{then}",
                driver.words(),
                rating.low
            ))
            .judged("stalled", amps)
            .at_most("rating", rating.low, &rating.origin),
    );
    true
}

/// A source on its path that must supply more than its rating, and does not limit yet.
fn source(context: &Context<'_>, sink: &mut Sink, i: usize, o: &Outcome, s: &Snapshot, told: &mut Vec<NodeId>) -> bool {
    let plan = context.plan;
    let load = &plan.loads[i];
    for id in plan.path_up(load.feed.from.id) {
        let kind = plan.nodes[id.0].kind;
        let limit = match kind {
            NodeKind::Supply(n) => plan.supplies[n].limit.as_ref(),
            NodeKind::Converter(n) => plan.converters[n].limit.as_ref(),
            _ => continue,
        };
        let Some(rating) = node_limit(plan, kind) else { continue };
        let asked = s.current_of(kind);
        let over = exceeds(asked, rating.get());
        let limits = limit.is_some_and(|l| exceeds(asked, l.low.get()));
        let lasting = context.worst_sustained(|s| s.current_of(kind)).is_some_and(|w| w.value > rating.get());
        if !over || limits || lasting {
            continue;
        }
        if told.contains(&id) {
            return true;
        }
        told.push(id);
        let (name, asked) = (&plan.nodes[id.0].name, Amps::new(asked));
        sink.find(
            Draft::fault(&load.name)
                .at(&context.worst_at(o, asked.get(), |o| Some(o.wanted.as_ref().ok()?.current_of(kind))))
                .says(format!(
                    "with `{}` stalled, `{name}` must supply {asked}; rated {rating} continuous",
                    load.name.text
                ))
                .judged("demand", asked)
                .at_most("rating", rating, &Origin::Computed),
        );
        return true;
    }
    false
}
