//! ports-exhausted and port-overloaded: consumers without a port; ports beyond their limit, fuse or the board's total.

use crate::derived::context::Context;
use crate::derived::protection::paths::ways_of;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::{Branch, Port, RunKind};
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::Snapshot;
use crate::topology::run::Run;
use crate::verdict::compare::{at_most, exceeds};

fn ports<'p>(context: &Context<'p>) -> impl Iterator<Item = (usize, &'p Branch, &'p Port)> {
    context.plan.branches.iter().enumerate().filter_map(|(i, run)| match &run.kind {
        RunKind::Port(port) => Some((i, run, port)),
        _ => None,
    })
}

pub(crate) fn exhausted(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (c, board) in plan.boards.iter().enumerate() {
        let mut families: Vec<&str> = Vec::new();
        for (_, _, port) in ports(context).filter(|(_, _, p)| p.board == c) {
            if !families.contains(&port.family.as_str()) {
                families.push(&port.family);
            }
        }
        for family in families {
            let count = ports(context).filter(|(_, _, p)| p.board == c && p.family == family).count();
            let without: Vec<_> = plan.shortages.iter().filter(|s| s.board == c && s.family == family).collect();
            let subject = format!("{}.{family}", board.name.text);
            let Some(first) = without.first() else {
                sink.pass(&subject, || format!("{count} ports are enough"));
                continue;
            };
            let mut wanting: Vec<(&str, usize)> = Vec::new();
            for s in &without {
                match wanting.iter_mut().find(|(name, _)| *name == s.wanted_by) {
                    Some((_, feeds)) => *feeds += 1,
                    None => wanting.push((&s.wanted_by, 1)),
                }
            }
            let verb = if wanting.len() == 1 { "finds" } else { "find" };
            let several = |feeds: usize| if feeds == 1 { String::new() } else { format!(" ({feeds} feed points)") };
            let names: Vec<String> =
                wanting.iter().map(|(name, feeds)| format!("`{name}`{}", several(*feeds))).collect();
            let names = names.join(", ");
            sink.find(Draft::fault((&subject, first.span)).says(format!(
                "{names} {verb} no free port: `{subject}` has {count}; {} needed",
                count + without.len()
            )));
        }
    }
}

/// What a port carries.
fn amps(context: &Context<'_>, run: usize, s: &Snapshot) -> f64 {
    let feed = context.layout.conductors.iter().find(|c| c.run == Run::Branch(run)).and_then(|c| c.feed);
    feed.map_or(0.0, |b| s.amps(b).abs())
}

pub(crate) fn overloaded(context: &Context<'_>, sink: &mut Sink) {
    let warm = context.plan.warmest_c();
    for (i, run, port) in ports(context) {
        let fuse =
            run.feed.fuse.as_ref().map(|f| (Amps::new(f.continuous_a(warm)), &f.rating.origin, "its fuse is rated"));
        let limit = port.limit.as_ref().map(|l| (l.low, &l.origin, "its limit is"));
        // What found no port was put on one of them for the solving only: the missing port is what is reported.
        if context.plan.is_short_port(i) {
            continue;
        }
        behind_larger_fuse(context, sink, i, run, port);
        let binding = [limit, fuse].into_iter().flatten().reduce(|a, b| if b.0 < a.0 { b } else { a });
        let Some((limit, origin, words)) = binding else { continue };
        judge(context, sink, run, (limit, origin, words), &|s| amps(context, i, s));
    }
    for (c, board) in context.plan.boards.iter().enumerate() {
        let Some(total) = &board.total else { continue };
        let own: Vec<usize> = ports(context).filter(|(_, _, p)| p.board == c).map(|(i, ..)| i).collect();
        let Some((_, run, _)) = ports(context).find(|(_, _, p)| p.board == c) else { continue };
        let board_run = Branch { name: board.name.clone(), ..run.clone() };
        let sum = |s: &Snapshot| own.iter().map(|i| amps(context, *i, s)).sum();
        judge(context, sink, &board_run, (total.low, &total.origin, "all its ports together are rated"), &sum);
    }
}

/// A port without a fuse of its own meets, in a fault behind it, what the fuse before the board lets through.
fn behind_larger_fuse(context: &Context<'_>, sink: &mut Sink, i: usize, run: &Branch, port: &Port) {
    let (Some(limit), None) = (&port.limit, &run.feed.fuse) else { return };
    let ways = ways_of(context.plan, Run::Branch(i));
    let guard = ways.first().and_then(|w| w.guard(context.plan));
    let Some((_, fuse)) = guard.filter(|(_, f)| exceeds(f.rating.high.get(), limit.low.get())) else { return };
    // A source that limits below it protects the port all the same.
    let most = ways.iter().map(|w| w.most_a(context.plan, Run::Branch(i))).sum::<f64>();
    let flows = most.min(fuse.opens_a());
    if at_most(flows, limit.low.get()) {
        return;
    }
    sink.find(
        Draft::caution((&run.name.text, run.name.span))
            .says(format!(
                "port `{}` is rated {} and has no fuse; in a short circuit the {} upstream of the board passes {}",
                run.name.text,
                limit.low,
                fuse.name(),
                Amps::new(flows)
            ))
            .judged("flows", Amps::new(flows))
            .at_most("limit", limit.low, &limit.origin),
    );
}

fn judge(
    context: &Context<'_>,
    sink: &mut Sink,
    run: &Branch,
    (limit, origin, words): (Amps, &Origin, &str),
    amps: &dyn Fn(&Snapshot) -> f64,
) {
    let Some(wanted) = context.worst_sustained(amps) else { return };
    let (name, amps) = (&run.name.text, Amps::new(wanted.value));
    if exceeds(amps.get(), limit.get()) {
        sink.find(
            Draft::danger((name, run.name.span))
                .at(&wanted)
                .says(format!("`{name}` carries {amps}; {words} {limit}"))
                .judged("demand", amps)
                .at_most("limit", limit, origin),
        );
    } else if context.all_sustained() {
        sink.pass(name, || format!("{amps} of {limit}"));
    }
}
