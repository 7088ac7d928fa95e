//! One finding where one change fixes all: of what is fed from a pin and takes too much, what is said of the pin, of
//! the LED on it and of the voltage that is left to a load; of an input without a divider, that the pin does not stand
//! what arrives and that its converter does not tell it apart.

use super::root_causes::{put_head, take};
use crate::checks;
use crate::findings::check::OneChange;
use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::topology::pin_jobs::{by_pin, jobs};
use crate::verdict::severity::Severity;

/// Which findings one change fixes, as their checks say.
fn role(f: &Finding) -> OneChange {
    checks::of(f.code).map_or(OneChange::No, |c| c.one_change)
}

/// Puts what is said of a pin with one job, and of the load that is this job, under one head.
pub(crate) fn gather(plan: &Plan, findings: &mut Vec<Finding>) {
    for input in plan.inputs.iter().filter(|i| i.divider.is_none()) {
        let of = |f: &Finding, leads| f.subject == input.name.text && role(f) == OneChange::UndividedInput { leads };
        if [true, false].into_iter().all(|leads| findings.iter().any(|f| of(f, leads))) {
            let both = take(findings, |f| of(f, true) || of(f, false));
            put_together(findings, both, |f| of(f, true));
        }
    }
    let jobs = jobs(plan);
    for all in by_pin(&jobs) {
        let [job] = all.as_slice() else { continue };
        let Some(load) = plan.loads.iter().position(|l| l.name.text == job.subject) else { continue };
        let is_led = plan.leds.iter().any(|led| led.load == load);
        let wanted = if is_led { OneChange::LedOnPin } else { OneChange::LoadOnPin };
        let of_load = |f: &Finding| f.subject == job.subject && role(f) == wanted;
        let of_pin = |f: &Finding| match role(f) {
            OneChange::PinOfJob => f.subject == job.name,
            OneChange::LoadOfPin => f.subject == job.subject && f.severity > Severity::Unknown,
            _ => false,
        };
        if findings.iter().any(of_load) && findings.iter().any(of_pin) {
            let both = take(findings, |f| of_load(f) || of_pin(f));
            put_together(findings, both, |f| if is_led { of_load(f) } else { of_pin(f) });
        }
    }
}

/// One change ends them all, and none causes another: the worst is the head, what leads before its equals.
fn put_together(findings: &mut Vec<Finding>, all: Vec<Finding>, leads: impl Fn(&Finding) -> bool) {
    let worst = all.iter().map(|f| f.severity).max();
    put_head(findings, all, |f| Some(f.severity) == worst && leads(f));
}
