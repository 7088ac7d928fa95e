//! pin-reserved: pins that the board needs itself, or looks at while it starts.

use super::named::pin_of;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Nature;
use crate::plan::model::Plan;
use crate::topology::pin_jobs::{Job, jobs};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for job in jobs(plan) {
        let Some(pin) = pin_of(plan, &job).filter(|p| p.is_signal()) else { continue };
        let why = match (&pin.reserved, pin.samples, job.pulls) {
            (Some(what), ..) => Some((
                format!("{} is taken on the board ({what})", job.pin_words(plan)),
                format!("take another pin for `{}`, or make sure that the board leaves this one alone", job.subject),
            )),
            (None, Some(wants), Some(pulls)) if pulls.to != wants => Some((
                format!(
                    "{} has to be {} when the board starts, and {} pulls it {}",
                    job.pin_words(plan),
                    wants.word(),
                    what_pulls(plan, &job, pulls.always),
                    pulls.to.word()
                ),
                format!("take a pin for `{}` that the board does not look at while it starts", job.subject),
            )),
            _ => None,
        };
        let Some((message, cure)) = why else {
            let at = pin.samples.map_or("not looked at", |_| "keeps its level");
            sink.pass(&job.subject, format!("`{}` at the start: {at}", job.name));
            continue;
        };
        sink.find(Draft::caution((&job.subject, job.span)).says(message).cure(cure));
    }
}

fn what_pulls(plan: &Plan, job: &Job<'_>, always: bool) -> String {
    let is_led = plan.loads.iter().any(|l| l.name.text == job.subject && l.nature == Some(Nature::Led));
    match (is_led, always) {
        (true, _) => format!("the LED `{}`", job.subject),
        (false, true) => format!("`{}`", job.subject),
        (false, false) => format!("`{}`, while it is closed,", job.subject),
    }
}
