//! pin-cannot: abilities that a job needs and its pin lacks.

use super::named::pin_of;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::pins::{Ability, Has, PinKind};
use crate::topology::pin_jobs::{Direction, Job, by_pin, jobs};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let jobs = jobs(plan);
    let taken: Vec<(usize, usize)> =
        by_pin(&jobs).iter().filter_map(|all| Some((all[0].pin.board, all[0].pin.index?))).collect();
    for job in &jobs {
        let Some(pin) = pin_of(plan, job).filter(|p| p.is_signal()) else {
            unlisted(plan, job, sink);
            continue;
        };
        let index = job.pin.index.unwrap_or_default();
        let board = &plan.boards[job.pin.board];
        let mut lacks: Vec<String> = Vec::new();
        if job.way != Direction::In && pin.kind == PinKind::Input {
            lacks.push("is an input only".into());
        }
        let mut needs = job.needs.clone();
        needs.sort_unstable_by_key(|need| need.word());
        needs.dedup();
        for need in &needs {
            match board.pins.can(index, *need) {
                Some(Has::No) => lacks.push(format!("has no {}", need.word())),
                Some(Has::NotWithRadio) => lacks.push(format!("loses {} while the radio is on", need.word())),
                Some(Has::Yes) | None => {}
            }
        }
        if !lacks.is_empty() {
            sink.find(
                Draft::fault((&job.subject, job.span))
                    .says(format!(
                        "`{}` {} {}, which {}",
                        job.subject,
                        uses(job),
                        job.pin_words(plan),
                        lacks.join(" and ")
                    ))
                    .cures(cures(plan, job, &taken)),
            );
        } else if pin.can.is_none() && !job.needs.is_empty() {
            unlisted(plan, job, sink);
        } else {
            sink.pass(&job.subject, || format!("`{}` has what it needs", job.name));
        }
    }
}

/// What a thing does with its pin, in words.
fn uses(job: &Job<'_>) -> &'static str {
    match (job.what, job.way) {
        ("input", _) => "reads",
        ("feed", _) => "is fed by",
        ("sink", _) => "is switched by",
        ("wire", Direction::In) => "ends at",
        ("wire", _) => "starts at",
        ("stacked board", _) => "takes",
        (_, Direction::In) => "is read by",
        _ => "is driven by",
    }
}

/// Where nothing is said of the pin only its needs are worth a word.
fn unlisted(plan: &Plan, job: &Job<'_>, sink: &mut Sink) {
    let known = job.pin.is_open() || job.pin.index.is_none() && !plan.boards[job.pin.board].pins.list.is_empty();
    if job.needs.is_empty() || known {
        return;
    }
    let needs: Vec<&str> = job.needs.iter().map(|n| n.word()).collect();
    sink.unknown(
        &job.subject,
        job.span,
        format!(
            "cannot check `{}` (needs {}): the functions of {} are not given",
            job.subject,
            needs.join(", "),
            job.pin_words(plan)
        ),
        &format!(
            "set `part` of the board, or list its functions: `pins = {{ {} = {{ functions = [\"{}\"] }} }}`",
            job.pin.pin,
            needs.join("\", \"")
        ),
    );
}

/// Pins of the board that could do it.
pub(crate) fn candidates(plan: &Plan, job: &Job<'_>, taken: &[(usize, usize)]) -> Vec<String> {
    let board = job.pin.board;
    let pins = &plan.boards[board].pins;
    let fits = |i: usize| {
        let pin = &pins.list[i];
        let way = pin.kind == PinKind::Io || (pin.kind == PinKind::Input && job.way == Direction::In);
        let able = |need: &Ability| pins.can(i, *need) == Some(Has::Yes);
        way && pin.reserved.is_none() && pin.samples.is_none() && job.needs.iter().all(able)
    };
    let free = |i: &usize| !taken.contains(&(board, *i));
    (0..pins.list.len()).filter(|i| fits(*i)).filter(free).map(|i| pins.list[i].name.clone()).collect()
}

fn cures(plan: &Plan, job: &Job<'_>, taken: &[(usize, usize)]) -> Vec<String> {
    let board = &plan.boards[job.pin.board];
    let could = candidates(plan, job, taken);
    let mut cures = Vec::new();
    if could.is_empty() {
        let all = !candidates(plan, job, &[]).is_empty();
        let what = if all { "no free pin of" } else { "no pin of" };
        let cure =
            if all { "move another job, or use another board" } else { "use another board, or a part that has it" };
        cures.push(format!("{what} `{}` has it: {cure}", board.name.text));
    } else {
        let few: Vec<String> = could.iter().take(6).map(|p| format!("`{}.{p}`", board.name.text)).collect();
        cures.push(format!("free pins that have it: {}", few.join(", ")));
    }
    let radio = |n: &&Ability| job.pin.index.and_then(|i| board.pins.can(i, **n)) == Some(Has::NotWithRadio);
    if job.needs.iter().any(|n| radio(&n)) {
        cures.push("or, if the firmware leaves the radio off, write `radio = false` in the board".into());
    }
    let pull = job.needs.iter().any(|n| matches!(n, Ability::PullUp | Ability::PullDown));
    if pull {
        cures.push("or fit a resistor: `pull = \"10 kΩ\"`".into());
    }
    cures
}
