//! One resistor that is too small: an LED that gets too much from a pin, and the pin that gives too much, are one finding.

use super::heads::{put_head, take};
use crate::finding::Finding;
use crate::pinout::{by_pin, jobs};
use crate::plan::Plan;

const LED_CODES: [&str; 2] = ["led-overcurrent", "led-no-resistor"];

/// Puts what is said of a pin that only feeds one LED, and of that LED's current, under one head.
pub(crate) fn gather(plan: &Plan, findings: &mut Vec<Finding>) {
    let jobs = jobs(plan);
    for all in by_pin(&jobs) {
        let [job] = all.as_slice() else { continue };
        if !plan.leds.iter().any(|led| led.name.text == job.subject) {
            continue;
        }
        let of_led = |f: &Finding| LED_CODES.contains(&f.code) && f.subject == job.subject;
        let of_pin = |f: &Finding| f.code == "pin-overloaded" && f.subject == job.name;
        if findings.iter().any(of_led) && findings.iter().any(of_pin) {
            let both = take(findings, |f| of_led(f) || of_pin(f));
            put_head(findings, both, None, of_led);
        }
    }
}
