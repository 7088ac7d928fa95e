//! firmware-differs: what the maker says is set in the firmware against the plan.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::lines::lines;
use crate::plan::{Firmware, Plan, Strip};
use crate::quantity::{Amps, Figure};

/// Caps closer than this share are one.
const SAME_CAP: f64 = 0.01;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, strip) in plan.strips.iter().enumerate() {
        let Some(set) = &strip.firmware else { continue };
        let name = &strip.name.text;
        let mut evidence = Vec::new();
        let cap = plan.shared_cap(i).map(|c| &plan.caps[c].current).or(strip.cap.as_ref());
        let differs =
            [count(plan, i, set), pin(strip, set), class(strip, set), caps(set.cap.as_ref(), cap, &mut evidence)];
        let differs: Vec<String> = differs.into_iter().flatten().collect();
        if differs.is_empty() {
            sink.pass(name, "the firmware is set as planned".into());
            continue;
        }
        sink.find(Draft {
            severity: Severity::Fault,
            subject: name,
            span: set.span,
            at: None,
            message: format!("the firmware of strip `{name}` is set to {}", differs.join("; ")),
            cures: vec!["set the firmware to what the plan says, or write into the plan what is built".into()],
            evidence,
        });
    }
}

/// The pixels of the strip, or of all strips on its line: firmware may count either.
fn count(plan: &Plan, strip: usize, set: &Firmware) -> Option<String> {
    let count = set.count?;
    let own = plan.strips[strip].pixels;
    let line = lines(plan).into_iter().find(|l| l.strips.first() == Some(&strip)).map_or(own, |l| l.pixels(plan));
    let planned = if line == own { own.to_string() } else { format!("{own}, {line} on its line") };
    (count != own && count != line).then(|| format!("{count} pixels, and the plan has {planned}"))
}

/// `io27`, or with its board.
fn pin(strip: &Strip, set: &Firmware) -> Option<String> {
    let said = &set.pin.as_ref()?.text;
    let Some(pin) = strip.data.as_ref().and_then(|d| d.pin.as_ref()) else {
        return Some(format!("pin `{said}`, and the plan gives it no pin"));
    };
    let whole = &pin.name.text;
    (said != whole && *said != pin.pin).then(|| format!("pin `{said}`, and the plan says `{whole}`"))
}

fn class(strip: &Strip, set: &Firmware) -> Option<String> {
    let said = &set.class.as_ref()?.text;
    match &strip.class {
        Some(class) => (class != said).then(|| format!("class `{said}`, and the plan says `{class}`")),
        None => Some(format!("class `{said}`, and the plan names none")),
    }
}

fn caps(said: Option<&Figure<Amps>>, planned: Option<&Figure<Amps>>, evidence: &mut Vec<Evidence>) -> Option<String> {
    let said = said?;
    let near = |a: Amps, b: Amps| (a - b).get().abs() <= SAME_CAP * b.get().abs() * (1.0 + 1e-9);
    if planned.is_some_and(|p| near(said.typical, p.typical)) {
        return None;
    }
    evidence.push(Evidence::new("set", said.typical, &said.origin));
    evidence.extend(planned.map(|p| Evidence::new("planned", p.typical, &p.origin)));
    let planned = planned.map_or_else(|| "the plan has no cap".to_owned(), |p| format!("the plan says {}", p.typical));
    Some(format!("a cap of {}, and {planned}", said.typical))
}
