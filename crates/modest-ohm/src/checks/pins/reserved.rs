//! pin-reserved: pins that the board needs itself, or looks at while it starts.

use super::named::pin_of;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::{Input, Source as InputSource};
use crate::plan::kinds::load::Nature;
use crate::plan::model::Plan;
use crate::topology::pin_jobs::{Job, Pulls, jobs};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for job in jobs(plan) {
        let Some(pin) = pin_of(plan, &job).filter(|p| p.is_signal()) else { continue };
        let against = pin.samples.and_then(|wants| job.pulls.iter().find(|pulls| pulls.to != wants));
        let why = match (&pin.reserved, pin.samples, against) {
            (Some(what), ..) => Some((
                format!("{} is taken on the board ({what})", job.pin_words(plan)),
                format!("take another pin for `{}`, or make sure that the board leaves this one alone", job.subject),
            )),
            (None, Some(wants), Some(pulls)) => Some((
                format!(
                    "{} has to be {} when the board starts, and {}",
                    job.pin_words(plan),
                    wants.word(),
                    what_holds(plan, &job, *pulls)
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

fn what_holds(plan: &Plan, job: &Job<'_>, pulls: Pulls) -> String {
    let (subject, level) = (&job.subject, pulls.to.word());
    let is_led = plan.loads.iter().any(|l| l.name.text == job.subject && l.nature == Some(Nature::Led));
    let is_contact = |i: &Input| i.name.text == *subject && !matches!(i.source, InputSource::Swing { .. });
    match (is_led, pulls.always) {
        (true, _) => format!("the LED `{subject}` pulls it {level}"),
        (false, true) => format!("`{subject}` pulls it {level}"),
        (false, false) if plan.inputs.iter().any(is_contact) => {
            format!("`{subject}` holds it {level} while it is closed")
        }
        (false, false) => format!("`{subject}` may drive it {level} at that moment"),
    }
}
