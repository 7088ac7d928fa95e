//! ports-exhausted and port-overloaded: consumers without a port; ports beyond their limit, fuse or the board's total.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::{Branch, Port, RunKind};
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::Snapshot;
use crate::topology::run::Run;
use crate::verdict::compare::exceeds;

fn ports<'p>(context: &Context<'p>) -> impl Iterator<Item = (usize, &'p Branch, &'p Port)> {
    context.plan.branches.iter().enumerate().filter_map(|(i, run)| match &run.kind {
        RunKind::Port(port) => Some((i, run, port)),
        _ => None,
    })
}

pub(crate) fn exhausted(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (c, board) in plan.controllers.iter().enumerate() {
        let mut families: Vec<&str> = Vec::new();
        for (_, _, port) in ports(context).filter(|(_, _, p)| p.controller == c) {
            if !families.contains(&port.family.as_str()) {
                families.push(&port.family);
            }
        }
        for family in families {
            let count = ports(context).filter(|(_, _, p)| p.controller == c && p.family == family).count();
            let without: Vec<_> = plan.shortages.iter().filter(|s| s.controller == c && s.family == family).collect();
            let subject = format!("{}.{family}", board.name.text);
            let Some(first) = without.first() else {
                sink.pass(&subject, format!("{count} ports suffice"));
                continue;
            };
            let names = without.iter().map(|s| format!("`{}`", s.wanted_by)).collect::<Vec<_>>().join(", ");
            let verb = if without.len() == 1 { "finds" } else { "find" };
            sink.find(
                Draft::fault((&subject, first.span))
                    .says(format!(
                        "{names} {verb} no free port: `{subject}` has {count}, and {} are wanted",
                        count + without.len()
                    ))
                    .cure("take a board with more ports, or chain two strings on one port and say which: `from`"),
            );
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
            run.feed.fuse.as_ref().map(|f| (Amps::new(f.continuous_a(warm)), &f.rating.origin, "its fuse carries"));
        let limit = port.limit.as_ref().map(|l| (l.low, &l.origin, "its limit is"));
        let binding = [limit, fuse].into_iter().flatten().reduce(|a, b| if b.0 < a.0 { b } else { a });
        let Some((limit, origin, words)) = binding else { continue };
        judge(context, sink, run, (limit, origin, words), &|s| amps(context, i, s));
    }
    for (c, board) in context.plan.controllers.iter().enumerate() {
        let Some(total) = &board.total else { continue };
        let own: Vec<usize> = ports(context).filter(|(_, _, p)| p.controller == c).map(|(i, ..)| i).collect();
        let Some((_, run, _)) = ports(context).find(|(_, _, p)| p.controller == c) else { continue };
        let board_run = Branch { name: board.name.clone(), ..run.clone() };
        let sum = |s: &Snapshot| own.iter().map(|i| amps(context, *i, s)).sum();
        judge(context, sink, &board_run, (total.low, &total.origin, "all its ports together may carry"), &sum);
    }
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
                .says(format!("`{name}` carries {amps} and {words} {limit}"))
                .judged("wanted", amps)
                .at_most("limit", limit, origin)
                .cure("spread the load over more ports, feed part of it past the board, or set a firmware cap"),
        );
    } else if context.all_sustained() {
        sink.pass(name, format!("{amps} of {limit}"));
    }
}
