//! Finds the strips of shared firmware limits.

use super::names::Names;
use crate::plan::kinds::firmware_limit::FirmwareLimit;
use crate::plan::model::Plan;
use crate::quantity::figure::Figure;
use crate::quantity::units::Amps;
use crate::text::problem::Problem;

/// Finds the strips of firmware limits; a share that is given becomes its strip's own firmware limit.
pub(crate) fn firmware_limits(plan: &mut Plan, names: &Names, note: &impl Fn(Problem)) {
    let mut limited: Vec<(usize, String)> = Vec::new();
    let mut own = Vec::new();
    for firmware_limit in &mut plan.firmware_limits {
        for (name, index) in &mut firmware_limit.strips {
            let i = match names.thing(name, "strip") {
                Ok(i) => i,
                Err(p) => {
                    note(p);
                    continue;
                }
            };
            *index = i;
            let strip = &plan.strips[i];
            let twice = limited.iter().find(|(other, _)| *other == i).map(|(_, by)| format!("`{by}`"));
            let twice = twice.or_else(|| strip.firmware_limit.as_ref().map(|_| "its own `firmware-limit`".to_owned()));
            if let Some(by) =
                twice.filter(|_| !limited.iter().any(|(o, by)| *o == i && *by == firmware_limit.name.text))
            {
                let message =
                    format!("`{}` has two firmware limits: `{}` and {by}", name.text, firmware_limit.name.text);
                note(Problem::new(name.span, message, "keep one of them"));
            }
            if strip.pixel.plain {
                let message =
                    format!("`{}` is a plain strip: under PWM it draws its full current while it is on", name.text);
                note(Problem::new(name.span, message, "remove it, and plan the supply for full current"));
            }
            limited.push((i, firmware_limit.name.text.clone()));
            if let Some((_, _, share)) = firmware_limit.split.iter().find(|(n, ..)| *n == name.text) {
                let of = |a: Amps| a * share.typical.get();
                let current = &firmware_limit.current;
                let amps = Figure {
                    low: of(current.low),
                    typical: of(current.typical),
                    high: of(current.high),
                    origin: current.origin.clone(),
                    bare: current.bare,
                };
                own.push((i, amps));
            }
        }
    }
    let read = |i: usize| plan.strips.get(i).is_some_and(|s| !s.pixel.quiescent.is_stand_in());
    let known = |c: &FirmwareLimit| c.strips.iter().all(|(_, i)| read(*i)) && !c.current.is_stand_in();
    for firmware_limit in plan.firmware_limits.iter().filter(|c| known(c)) {
        below_dark(plan, firmware_limit, note);
    }
    for (i, amps) in own {
        plan.strips[i].firmware_limit = Some(amps);
    }
}

/// No firmware gets below what pixels draw when they are dark.
fn below_dark(plan: &Plan, firmware_limit: &FirmwareLimit, note: &impl Fn(Problem)) {
    let dark = Amps::new(firmware_limit.strips.iter().map(|(_, i)| plan.strips[*i].nominal_dark_a()).sum());
    if firmware_limit.current.high < dark {
        let message = format!(
            "firmware limit `{}` is {}; the dark current of its strips is {dark}",
            firmware_limit.name.text, firmware_limit.current.high
        );
        note(Problem::new(
            firmware_limit.name.span,
            message,
            "write what the firmware is set to; it must be above that",
        ));
    }
    for (name, span, share) in &firmware_limit.split {
        let Some((_, i)) = firmware_limit.strips.iter().find(|(n, _)| n.text == *name) else { continue };
        let (own, dark) =
            (firmware_limit.current.high * share.typical.get(), Amps::new(plan.strips[*i].nominal_dark_a()));
        if firmware_limit.current.high >= dark && own < dark {
            let message = format!(
                "the share of `{name}` is {own} of firmware limit `{}`; its dark current is {dark}",
                firmware_limit.name.text
            );
            note(Problem::new(*span, message, "increase its share"));
        }
    }
}
