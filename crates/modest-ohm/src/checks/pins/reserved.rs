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
            (Some(what), ..) => Some(format!("{} is used by the board itself ({what})", job.pin_words(plan))),
            (None, Some(wants), Some(pulls)) => Some(format!(
                "{} must be {} when the board boots, and {}",
                job.pin_words(plan),
                wants.word(),
                what_holds(plan, &job, *pulls)
            )),
            _ => None,
        };
        let Some(message) = why else {
            let at = pin.samples.map_or("not sampled at boot", |_| "keeps its level");
            sink.pass(&job.subject, || format!("`{}` at boot: {at}", job.name));
            continue;
        };
        sink.find(Draft::caution((&job.subject, job.span)).says(message));
    }
}

fn what_holds(plan: &Plan, job: &Job<'_>, pulls: Pulls) -> String {
    let (subject, level) = (&job.subject, pulls.to.word());
    let is_led = plan.loads.iter().any(|l| l.name.text == job.subject && l.nature == Some(Nature::Led));
    let is_contact = |i: &Input| i.name.text == *subject && !matches!(i.source, InputSource::Swing { .. });
    match (is_led, pulls.always) {
        (true, _) => format!("LED `{subject}` pulls it {level}"),
        (false, true) => format!("`{subject}` pulls it {level}"),
        (false, false) if plan.inputs.iter().any(is_contact) => {
            format!("`{subject}` holds it {level} while closed")
        }
        (false, false) => format!("`{subject}` may drive it {level} at that moment"),
    }
}
