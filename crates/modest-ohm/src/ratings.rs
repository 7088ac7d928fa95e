//! What a node carries and what it may carry; which cable a conductor is.

use crate::network::{Demands, Layout, Run};
use crate::plan::{Cable, Contact, ConverterKind, Feed, Fuse, NodeKind, Plan, RunKind};
use crate::quantity::Amps;
use crate::review::Snapshot;

/// What diodes and inputs leak; less is no current that does anything (our own figure: 1 mA lights an indicator).
pub(crate) const LEAK_A: f64 = 1e-3;

/// The word for a kind of node.
pub(crate) fn kind_word(plan: &Plan, kind: NodeKind) -> &'static str {
    match kind {
        NodeKind::Supply(_) => "supply",
        NodeKind::Branch(i) => plan.branches[i].word(),
        NodeKind::Converter(_) => "converter",
        NodeKind::BoardInput(_) => "board input",
        NodeKind::BoardOutput(_) => "board output",
        NodeKind::StripStart(_) | NodeKind::StripEnd(_) => "strip end",
    }
}

/// The branch of a node that is a source.
pub(crate) fn source_of(layout: &Layout, kind: NodeKind) -> Option<usize> {
    match kind {
        NodeKind::Supply(i) => Some(layout.supplies[i]),
        NodeKind::Converter(i) => Some(layout.converters[i].2),
        _ => None,
    }
}

/// The current a node delivers (supplies, converters, board outputs) or takes in (branches, board inputs), A.
pub(crate) fn node_current(layout: &Layout, kind: NodeKind, s: &Snapshot) -> f64 {
    let feed_of = |run: Run| {
        layout.conductors.iter().find(|c| c.run == run).and_then(|c| c.feed).map_or(0.0, |b| s.solution.current[b])
    };
    let amps = match kind {
        NodeKind::Supply(i) => s.solution.current[layout.supplies[i]],
        NodeKind::Branch(i) => layout.through.get(i).map_or(0.0, |b| s.solution.current[*b]),
        NodeKind::Converter(i) => s.solution.current[layout.converters[i].2],
        NodeKind::BoardInput(i) if layout.conductors.iter().any(|c| c.run == Run::Controller(i)) => {
            feed_of(Run::Controller(i))
        }
        // Without a feed of its own: what comes in by its other terminals.
        NodeKind::BoardInput(i) => layout.inlets[i].joins().map(|b| s.solution.current[b]).sum(),
        NodeKind::BoardOutput(i) => layout.controllers[i].2.map_or(0.0, |b| s.solution.current[b]),
        NodeKind::StripStart(_) | NodeKind::StripEnd(_) => 0.0,
    };
    // Less than this is the trace of a source that is kept from giving.
    if amps.abs() < 1e-9 { 0.0 } else { amps }
}

/// What a converter takes in, A.
pub(crate) fn input_current(plan: &Plan, layout: &Layout, converter: usize, s: &Snapshot) -> f64 {
    let (_, intake, output) = layout.converters[converter];
    // What a linear regulator gives comes straight from its input.
    let through =
        if plan.converters[converter].kind == ConverterKind::Linear { s.solution.current[output] } else { 0.0 };
    s.solution.current[intake] + through
}

/// What a node may carry for ever: a rating; for a run the smallest of fuse × load factor and derated ampacity; for a
/// board's output its regulator's limit less the board's own mean. `None` where nothing is known.
pub(crate) fn node_limit(plan: &Plan, kind: NodeKind) -> Option<Amps> {
    match kind {
        NodeKind::Supply(i) => plan.supplies[i].current.as_ref().map(|c| c.low),
        NodeKind::Converter(i) => plan.converters[i].current.as_ref().map(|c| c.low),
        NodeKind::Branch(i) => {
            let run = &plan.branches[i];
            let fuse = run.feed.fuse.as_ref().map(|f| f.continuous_a(plan.warmest_c()));
            let wire = run.feed.cable.as_ref().and_then(|c| c.ampacity(plan.warmest_c()));
            let own = match &run.kind {
                RunKind::Switch(s) => s.rating.as_ref(),
                RunKind::Diode(d) => d.rating.as_ref(),
                RunKind::Port(p) => p.limit.as_ref(),
                RunKind::Stage(at) => plan.drivers[at.driver].current.as_ref(),
                _ => None,
            };
            let own = own.map(|f| f.low.get());
            let contact = contact_limit_of(plan, Run::Branch(i));
            [fuse, wire, own, contact].into_iter().flatten().reduce(f64::min).map(Amps::new)
        }
        NodeKind::BoardInput(i) => {
            let feed = plan.controllers[i].feed.as_ref()?;
            let fuse = feed.fuse.as_ref().map(|f| f.continuous_a(plan.warmest_c()));
            let wire = feed.cable.as_ref().and_then(|c| c.ampacity(plan.warmest_c()));
            let contact = contact_limit_of(plan, Run::Controller(i));
            [fuse, wire, contact].into_iter().flatten().reduce(f64::min).map(Amps::new)
        }
        NodeKind::BoardOutput(i) => {
            let c = &plan.controllers[i];
            let limit = c.regulator.as_ref()?.limit.as_ref()?.low.get();
            // What the board itself takes goes through its logic regulator.
            let own = c.logic_regulator().map_or(0.0, |_| c.mean.high.get());
            Some(Amps::new((limit - own).max(0.0)))
        }
        NodeKind::StripStart(_) | NodeKind::StripEnd(_) => None,
    }
}

/// What a boost with a label may deliver: its output current times what its input current leaves of the label.
pub(crate) fn boost_limit(plan: &Plan, layout: &Layout, kind: NodeKind, s: &Snapshot) -> Option<Amps> {
    let NodeKind::Converter(i) = kind else { return None };
    let label = plan.converters[i].input_current.as_ref()?.low.get();
    let (taken, given) = (input_current(plan, layout, i, s), node_current(layout, kind, s));
    // Where it gives nothing the label says nothing of its output yet.
    (taken > 1e-6 && given > 1e-6).then(|| Amps::new(given * label / taken))
}

/// How a conductor pair is fed; `None` for a ground tie.
pub(crate) fn feed_of(plan: &Plan, run: Run) -> Option<&Feed> {
    match run {
        Run::Branch(i) => Some(&plan.branches[i].feed),
        Run::Converter(i) => Some(&plan.converters[i].feed),
        Run::Controller(i) => plan.controllers[i].feed.as_ref(),
        Run::Shifter(i) => Some(&plan.shifters[i].feed),
        Run::Load(i) => Some(&plan.loads[i].feed),
        Run::Injection(s, q) => Some(&plan.strips[s].injections[q].feed),
        Run::Join(s, k) => plan.strips[s].rows.as_ref()?.joins.get(k),
        Run::Ground(_) => None,
    }
}

/// As [`feed_of`], with change-over switches as they stand in a scenario.
pub(crate) fn feed_in<'p>(plan: &'p Plan, run: Run, demands: &Demands) -> Option<&'p Feed> {
    if let Run::Branch(i) = run
        && let Some(switch) = plan.branches[i].switch()
        && let Some((_, feed)) = switch.throws.get(demands.runs[i].1)
    {
        return Some(feed);
    }
    feed_of(plan, run)
}

/// The cable of a feed, and that of its return where that is another.
pub(crate) fn cables_of(feed: &Feed) -> (Option<&Cable>, Option<&Cable>) {
    let own = feed.cable.as_ref();
    (own, feed.back.as_ref().map_or(own, |back| back.cable.as_ref()))
}

/// The cable of a conductor pair's feed.
pub(crate) fn cable_of(plan: &Plan, run: Run) -> Option<&Cable> {
    match run {
        Run::Ground(i) => plan.grounds[i].cable.as_ref(),
        _ => feed_of(plan, run)?.cable.as_ref(),
    }
}

/// The cable of its return, where that is another.
pub(crate) fn return_cable_of(plan: &Plan, run: Run) -> Option<&Cable> {
    let Some(feed) = feed_of(plan, run) else { return cable_of(plan, run) };
    match &feed.back {
        Some(back) => back.cable.as_ref(),
        None => feed.cable.as_ref(),
    }
}

/// The fuse at the beginning of its feed.
pub(crate) fn fuse_of(plan: &Plan, run: Run) -> Option<&Fuse> {
    feed_of(plan, run)?.fuse.as_ref()
}

/// The contacts that a conductor pair passes, those of its return where that is another cable.
pub(crate) fn contacts_of(plan: &Plan, run: Run) -> impl Iterator<Item = &Contact> {
    contacts_in(plan, run, feed_of(plan, run), cable_of(plan, run))
}

/// As [`contacts_of`], for a feed of a run; `tie` is the cable of what has no feed.
pub(crate) fn contacts_in<'p>(
    plan: &'p Plan,
    run: Run,
    feed: Option<&'p Feed>,
    tie: Option<&'p Cable>,
) -> impl Iterator<Item = &'p Contact> {
    let (own, back) = feed.map_or((tie, None), cables_of);
    let back = back.filter(|b| own.is_none_or(|c| !std::ptr::eq(*b, c)));
    let joint = if let Run::Branch(i) = run { plan.branches[i].joint() } else { None };
    let leads = own.into_iter().chain(back).flat_map(Cable::contacts);
    leads.chain(joint.map(|j| &j.contact))
}

/// What the weakest contact of a conductor pair carries for ever, A.
pub(crate) fn contact_limit_of(plan: &Plan, run: Run) -> Option<f64> {
    contacts_of(plan, run).filter_map(Contact::rating_a).reduce(f64::min)
}

/// What a lead may carry for ever in air of this temperature: the least of fuse × load factor, wire and contacts; and
/// which of them it is.
pub(crate) fn lead_limit(plan: &Plan, run: Run, air_c: f64) -> (Option<Amps>, Option<&'static str>) {
    let fuse = fuse_of(plan, run).map(|f| (f.continuous_a(air_c), "fuse"));
    let wires = cable_of(plan, run).into_iter().chain(return_cable_of(plan, run));
    let wire = wires.filter_map(|c| c.ampacity(air_c)).reduce(f64::min).map(|a| (a, "wire"));
    let contact = contact_limit_of(plan, run).map(|a| (a, "contact"));
    let least = [fuse, wire, contact].into_iter().flatten().reduce(|a, b| if b.0 < a.0 { b } else { a });
    (least.map(|(a, _)| Amps::new(a)), least.map(|(_, what)| what))
}
