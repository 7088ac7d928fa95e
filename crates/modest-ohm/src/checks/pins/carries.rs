//! pin-overloaded: direct current of pins, of groups of pins, and of all pins of a board.

use std::collections::BTreeMap;

use super::coil::coils;
use crate::derived::context::{Context, Worst};
use crate::derived::pin_currents::{PinAmps, pin_amps};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::board::Board;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::figure::Figure;
use crate::quantity::units::Amps;
use crate::solved::outcome::Outcome;
use crate::source::Span;
use crate::topology::pin_jobs::{Job, by_pin, jobs};
use crate::verdict::compare::{at_least, exceeds};
use crate::verdict::severity::Severity;

type ByPin = BTreeMap<(usize, String), PinAmps>;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // What does not belong on a pin at all is pin-drives-coil's matter.
    let coils: Vec<PinAt> = coils(plan)
        .flat_map(|(_, load)| {
            let (out, into) = load.feed.pins();
            out.into_iter().chain(into)
        })
        .cloned()
        .collect();
    let own = |o: &Outcome| -> Option<ByPin> {
        let mut pins = pin_amps(plan, o.sustained.as_ref().ok()?);
        pins.retain(|(board, pin), _| !coils.iter().any(|c| c.board == *board && c.pin == *pin));
        Some(pins)
    };
    let states: Vec<(&Outcome, ByPin)> = context.continuous().filter_map(|o| Some((o, own(o)?))).collect();
    let jobs = jobs(plan);
    for all in by_pin(&jobs) {
        pin(context, sink, &all, &states);
    }
    for (i, board) in plan.boards.iter().enumerate() {
        let groups = board.pins.groups.iter().map(|g| (Some(g.name.as_str()), &g.total));
        for (group, total) in groups.chain(board.pins.total.iter().map(|t| (None, t))) {
            whole(sink, board, group, total, worst_sum(board, i, group, &states));
        }
    }
}

type States<'a> = [(&'a Outcome, ByPin)];

/// The largest of a value over the states.
fn worst(states: &States<'_>, value: impl Fn(&ByPin) -> f64) -> Option<Worst> {
    let mut worst: Option<Worst> = None;
    for (o, pins) in states {
        let v = value(pins);
        if worst.as_ref().is_none_or(|w| exceeds(v, w.value)) {
            worst = Some(Worst::at(o, v));
        }
    }
    worst
}

fn pin(context: &Context<'_>, sink: &mut Sink, all: &[&Job<'_>], states: &States<'_>) {
    let plan = context.plan;
    let job = all[0];
    let board = &plan.boards[job.pin.board];
    let key = (job.pin.board, job.pin.pin.clone());
    let Some(most) = worst(states, |p| p.get(&key).copied().unwrap_or_default().most()) else { return };
    if most.value <= 0.0 {
        return;
    }
    let amps = Amps::new(most.value);
    let sinks = states.iter().any(|(_, p)| p.get(&key).is_some_and(|a| at_least(a.into, most.value)));
    let (recommended, absolute) = board.pins.limits(job.pin.index, sinks);
    let names = subjects(all);
    let (severity, limit, word) = match (recommended, absolute) {
        (_, Some(a)) if amps > a.low => (Severity::Danger, a, "absolute"),
        (Some(r), _) if amps > r.low => (Severity::Caution, r, "recommended"),
        (Some(r), _) => {
            if context.all_sustained() {
                sink.pass(&job.name, || format!("{amps} of {}", r.low));
            }
            return;
        }
        (None, _) => {
            let task = "write `pin-current` and `pin-absolute` of the board, or set `part`";
            let message =
                format!("cannot check {} ({amps} for {names}): its current rating is not given", job.pin_words(plan));
            sink.unknown(&job.name, job.span, message, task);
            return;
        }
    };
    let direction = if sinks { "into" } else { "out of" };
    sink.find(
        Draft::of(severity, (&job.name, job.span))
            .at(&most)
            .says(format!(
                "{amps} flows {direction} {} for {names}; {} {}",
                job.pin_words(plan),
                limit.low,
                if word == "absolute" { "absolute maximum" } else { "recommended" }
            ))
            .judged("carries", amps)
            .at_most(word, limit.low, &limit.origin),
    );
}

fn subjects(all: &[&Job<'_>]) -> String {
    let names: Vec<String> = all.iter().map(|j| format!("`{}`", j.subject)).collect();
    names.join(", ")
}

fn worst_sum(board: &Board, index: usize, group: Option<&str>, states: &States<'_>) -> Option<(Worst, usize)> {
    let belongs = |pin: &str| match group {
        None => true,
        Some(group) => {
            let listed = board.pins.find(pin).and_then(|i| board.pins.list.get(i));
            listed.is_some_and(|p| p.group.as_deref() == Some(group))
        }
    };
    let own = |p: &ByPin| -> Vec<f64> {
        let mine = p.iter().filter(|((c, pin), _)| *c == index && belongs(pin));
        mine.map(|(_, a)| a.most()).filter(|a| *a > 0.0).collect()
    };
    let most = worst(states, |p| own(p).iter().sum())?;
    let count = states.iter().map(|(_, p)| own(p).len()).max().unwrap_or(0);
    Some((most, count))
}

fn whole(sink: &mut Sink, board: &Board, group: Option<&str>, total: &Figure<Amps>, sum: Option<(Worst, usize)>) {
    let Some((most, count)) = sum.filter(|(w, _)| w.value > 0.0) else { return };
    let amps = Amps::new(most.value);
    let name = &board.name.text;
    let what = group.map_or_else(|| "all its pins together".to_owned(), |g| format!("its pins of group `{g}`"));
    if amps <= total.low {
        sink.pass(name, || format!("{what}: {amps} of {}", total.low));
        return;
    }
    let span: Span = board.name.span;
    sink.find(
        Draft::danger((name, span))
            .at(&most)
            .says(format!("{count} pins of `{name}` carry {amps}; {what} are rated {}", total.low))
            .judged("carries", amps)
            .at_most("total", total.low, &total.origin),
    );
}
