//! relay-pwm and pwm-range: what is switched often, and what follows.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::verdict::compare::{exceeds, is_below};

pub(crate) fn relay(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for driver in &plan.drivers {
        let slow = driver.kind.is_contact();
        // A bare relay's coil is connected to a stage that may be switched often.
        let by = driver.load.and_then(|l| plan.loads[l].driven.as_ref()).and_then(|d| d.at);
        let pwm = driver.pwm.as_ref().or_else(|| plan.drivers.get(by?.0)?.pwm.as_ref());
        let (Some(pwm), true) = (pwm, slow) else {
            if slow {
                sink.pass(&driver.name.text, || "switched occasionally".into());
            }
            continue;
        };
        sink.find(
            Draft::fault(&driver.name)
                .says(format!(
                    "relay `{}` is switched {} by PWM: contacts cannot follow, and wear",
                    driver.name.text, pwm.typical
                ))
                .judged_as_given("pwm", pwm.typical, &pwm.origin),
        );
    }
}

pub(crate) fn range(context: &Context<'_>, sink: &mut Sink) {
    for driver in context.plan.drivers.iter().filter(|d| !d.kind.is_contact()) {
        let (Some(pwm), Some(range)) = (&driver.pwm, &driver.pwm_range) else { continue };
        let name = &driver.name.text;
        let (got, limit, bound) = if exceeds(pwm.high.get(), range.high.get()) {
            (pwm.high, range.high, EvidenceRole::AtMost)
        } else if is_below(pwm.low.get(), range.low.get()) {
            (pwm.low, range.low, EvidenceRole::AtLeast)
        } else {
            sink.pass(name, || format!("{} of {} .. {}", pwm.typical, range.low, range.high));
            continue;
        };
        sink.find(
            Draft::fault(&driver.name)
                .says(format!("the {} is switched at {got}; rated {} {limit}", driver.words(), bound.phrase()))
                .judged_as_given("pwm", got, &pwm.origin)
                .limit(bound, "limit", limit, &range.origin),
        );
    }
}
