//! stall-budget: what a motor that is held takes for long, against what carries it for long.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::conductors::{cable_of, fuse_of};
use crate::topology::ratings::node_limit;
use crate::topology::run::Run;
use crate::verdict::compare::{at_most, exceeds};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut told: Vec<NodeId> = Vec::new();
    for (i, load) in plan.loads.iter().enumerate().filter(|(_, l)| l.is_motor() && l.limits.stall.is_some()) {
        let Some((o, amps)) = stalled(context, i) else { continue };
        let Ok(s) = &o.wanted else { continue };
        let name = &load.name.text;
        if lead(context, sink, i, amps, o) || stage(context, sink, i, o, s) || source(context, sink, i, o, s, &mut told)
        {
            continue;
        }
        sink.pass(name, format!("its lead, its stage and its supply carry {} for long", Amps::new(amps)));
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

/// The lead of a load, with no fuse on the way that opens.
fn lead(context: &Context<'_>, sink: &mut Sink, i: usize, amps: f64, o: &Outcome) -> bool {
    let plan = context.plan;
    let load = &plan.loads[i];
    let Some(may) = cable_of(plan, Run::Load(i)).and_then(|c| c.ampacity(context.air_c(Run::Load(i)))) else {
        return false;
    };
    if at_most(amps, may) {
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
            .at(&Worst::at(o, amps.get()))
            .says(format!(
                "held, `{}` takes {amps} for as long as it is held; its lead carries {may}, and no fuse on the \
                 way opens",
                load.name.text
            ))
            .judged("held", amps)
            .at_most("ampacity", may, &Origin::Computed)
            .cure(format!(
                "take a lead for {amps}, or a fuse at its beginning that carries its running current \
                 and opens at this"
            ))
            .cure("or let the firmware switch it off when it is held"),
    );
    true
}

/// The stage in front of it, which stands it for a moment and not for long.
fn stage(context: &Context<'_>, sink: &mut Sink, i: usize, o: &Outcome, s: &Snapshot) -> bool {
    let plan = context.plan;
    let load = &plan.loads[i];
    let NodeKind::Branch(run) = plan.nodes[load.feed.from.id.0].kind else { return false };
    let Some((driver, _)) = plan.stage_of_run(run) else { return false };
    let (Some(rating), Some(branch)) = (&driver.current, context.layout.elements[run]) else { return false };
    let amps = Amps::new(s.amps(branch).abs());
    // Beyond what it stands for a moment another check speaks; contacts do not mind a stall.
    let peak = driver.surge.as_ref().unwrap_or(rating);
    if driver.kind.is_contact() || at_most(amps.get(), rating.low.get()) || exceeds(amps.get(), peak.low.get()) {
        return false;
    }
    let name = &load.name.text;
    sink.find(
        Draft::fault(&load.name)
            .at(&Worst::at(o, amps.get()))
            .says(format!(
                "held, `{name}` takes {amps}; the {} carries that for a moment, and {} for long",
                driver.words(),
                rating.low
            ))
            .judged("held", amps)
            .at_most("rating", rating.low, &rating.origin)
            .cure(format!("take a stage for {amps} or more for long"))
            .cure("or let the firmware switch it off when it is held: an end switch, or a time"),
    );
    true
}

/// A source on its way that is asked for more than its rating, and does not limit yet.
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
                .at(&Worst::at(o, asked.get()))
                .says(format!(
                    "held, `{}` makes `{name}` give {asked} for as long as it is held, where that gives \
                     {rating} for long",
                    load.name.text
                ))
                .judged("asked", asked)
                .at_most("rating", rating, &Origin::Computed)
                .cure(format!("take a supply for {asked} or more, or one of its own for it"))
                .cure("or let the firmware switch it off when it is held"),
        );
        return true;
    }
    false
}
