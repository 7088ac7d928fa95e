//! pin-unknown and pin-not-signal: what a plan names where a pin belongs.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::pins::Pin;
use crate::topology::pin_jobs::{Job, jobs};

/// A board's pins by name, as far as they are shown.
const SHOWN: usize = 16;

fn signal_pins(plan: &Plan, board: usize) -> String {
    let pins: Vec<&str> =
        plan.boards[board].pins.list.iter().filter(|p| p.is_signal()).map(|p| p.name.as_str()).collect();
    let more = if pins.len() > SHOWN { ", …" } else { "" };
    format!("{}{more}", pins[..pins.len().min(SHOWN)].join(", "))
}

pub(crate) fn unknown(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for job in jobs(plan) {
        let board = &plan.boards[job.pin.board];
        if job.pin.is_open() {
            sink.unknown(
                &job.subject,
                job.span,
                format!("no pin of `{1}` is chosen yet for `{0}`", job.subject, board.name.text),
                "choose one: `mohm pins PLAN --assign` proposes pins for all that have none",
            );
            continue;
        }
        if board.pins.list.is_empty() {
            continue;
        }
        if job.pin.index.is_some() {
            sink.pass(&job.subject, || format!("`{}` exists", job.name));
            continue;
        }
        sink.find(
            Draft::fault((&job.subject, job.span)).says(format!("`{}` has no pin `{}`", board.name.text, job.pin.pin)),
        );
    }
}

/// The listed pin of a job.
pub(crate) fn pin_of<'p>(plan: &'p Plan, job: &Job<'_>) -> Option<&'p Pin> {
    plan.boards[job.pin.board].pins.list.get(job.pin.index?)
}

pub(crate) fn not_signal(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for job in jobs(plan) {
        let Some(pin) = pin_of(plan, &job) else { continue };
        if pin.is_signal() {
            sink.pass(&job.subject, || format!("`{}` is a signal pin", job.name));
            continue;
        }
        sink.find(
            Draft::fault((&job.subject, job.span))
                .says(format!("{} is {}, not a signal pin", job.pin_words(plan), pin.kind_words()))
                .task(format!(
                    "count the positions again from the mark at `p1`; signal pins of `{}`: {}",
                    plan.boards[job.pin.board].name.text,
                    signal_pins(plan, job.pin.board)
                )),
        );
    }
}
