//! pin-cannot: abilities that a job needs and its pin lacks.

use super::named::pin_of;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::pins::{Has, PinKind};
use crate::topology::pin_jobs::{Direction, Job, jobs};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let jobs = jobs(plan);
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
            sink.find(Draft::fault((&job.subject, job.span)).says(format!(
                "`{}` {} {}, which {}",
                job.subject,
                uses(job),
                job.pin_words(plan),
                lacks.join(" and ")
            )));
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
