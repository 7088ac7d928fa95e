//! One finding where one change mends all: of what hangs on a pin and takes too much, what is said of the pin, of the LED on it
//! and of the volts that are left to a load; of an input without a divider, that the pin does not stand what arrives and that
//! its converter does not tell it apart.

use super::root_causes::{put_head, take};
use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::topology::pin_jobs::{by_pin, jobs};
use crate::verdict::severity::Severity;

/// Of an LED, by its own name: the same resistor is too small.
const OF_LED: [&str; 2] = ["led-overcurrent", "led-no-resistor"];
/// Of any load: the pin's own resistance takes its volts.
const OF_LOAD: [&str; 2] = ["supply-voltage", "voltage-drop"];

/// Puts what is said of a pin with one job, and of the load that is this job, under one head.
pub(crate) fn gather(plan: &Plan, findings: &mut Vec<Finding>) {
    for input in plan.inputs.iter().filter(|i| i.divider.is_none()) {
        let of = |f: &Finding, code: &str| f.code == code && f.subject == input.name.text;
        let both = |f: &Finding| of(f, "pin-overvoltage") || of(f, "divider-range");
        if ["pin-overvoltage", "divider-range"].iter().all(|code| findings.iter().any(|f| of(f, code))) {
            let both = take(findings, both);
            put_head(findings, both, None, |f| of(f, "pin-overvoltage"));
        }
    }
    let jobs = jobs(plan);
    for all in by_pin(&jobs) {
        let [job] = all.as_slice() else { continue };
        let Some(load) = plan.loads.iter().position(|l| l.name.text == job.subject) else { continue };
        let codes = if plan.leds.iter().any(|led| led.load == load) { OF_LED } else { OF_LOAD };
        let of_load = |f: &Finding| codes.contains(&f.code) && f.subject == job.subject;
        let of_pin = |f: &Finding| match f.code {
            "pin-overloaded" => f.subject == job.name,
            "pin-drives-coil" => f.subject == job.subject && f.severity > Severity::Unknown,
            _ => false,
        };
        if findings.iter().any(of_load) && findings.iter().any(of_pin) {
            let both = take(findings, |f| of_load(f) || of_pin(f));
            put_head(findings, both, None, |f| if codes == OF_LED { of_load(f) } else { of_pin(f) });
        }
    }
}
