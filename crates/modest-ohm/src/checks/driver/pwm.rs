//! relay-pwm and pwm-range: what is switched often, and what follows.

use crate::derived::context::Context;
use crate::findings::finding::Evidence;
use crate::findings::sink::{Draft, Sink};
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

pub(crate) fn relay(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for driver in &plan.drivers {
        let slow = driver.kind.is_contact();
        // A bare relay's coil hangs on a stage that may be switched often.
        let by = driver.load.and_then(|l| plan.loads[l].driven.as_ref()).and_then(|d| d.at);
        let pwm = driver.pwm.as_ref().or_else(|| plan.drivers.get(by?.0)?.pwm.as_ref());
        let (Some(pwm), true) = (pwm, slow) else {
            if slow {
                sink.pass(&driver.name.text, "switched now and then".into());
            }
            continue;
        };
        sink.find(Draft {
            severity: Severity::Fault,
            subject: &driver.name.text,
            span: driver.name.span,
            at: None,
            message: format!(
                "the relay `{}` is switched {} by PWM: contacts do not follow, and wear",
                driver.name.text, pwm.typical
            ),
            cures: vec!["dim or slow its load with a MOSFET in place of the relay, or leave `pwm` out".into()],
            evidence: vec![Evidence::new("pwm", pwm.typical, &pwm.origin)],
        });
    }
}

pub(crate) fn range(context: &Context<'_>, sink: &mut Sink) {
    for driver in context.plan.drivers.iter().filter(|d| !d.kind.is_contact()) {
        let (Some(pwm), Some(range)) = (&driver.pwm, &driver.pwm_range) else { continue };
        let name = &driver.name.text;
        let (got, limit, side) = if exceeds(pwm.high.get(), range.high.get()) {
            (pwm.high, range.high, "at most")
        } else if is_below(pwm.low.get(), range.low.get()) {
            (pwm.low, range.low, "at least")
        } else {
            sink.pass(name, format!("{} of {} .. {}", pwm.typical, range.low, range.high));
            continue;
        };
        sink.find(Draft {
            severity: Severity::Fault,
            subject: name,
            span: driver.name.span,
            at: None,
            message: format!("the {} is switched at {got}, and follows {side} {limit}", driver.words()),
            cures: vec![format!("let the firmware switch it at {limit}, or take a stage that follows")],
            evidence: vec![Evidence::new("pwm", got, &pwm.origin), Evidence::new("limit", limit, &range.origin)],
        });
    }
}
