//! wire-overloaded: wanted continuous current against the derated ampacity, feed and return each.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::plan::Cable;
use crate::quantity::{Amps, Origin};
use crate::ratings::{cable_of, return_cable_of};
use crate::tables::WireSize;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, ambient) = (context.plan, context.plan.warmest_c());
    let mut nameless: Vec<(String, crate::text::Span)> = Vec::new();
    let mut told = Vec::new();
    for info in &context.layout.conductors {
        let sides = [
            (info.feed, cable_of(plan, info.run), "lead to"),
            (Some(info.back), return_cable_of(plan, info.run), "return of"),
        ];
        // The members of a count have equal leads: the first one speaks for all.
        if told.contains(&info.run) {
            continue;
        }
        let mut fired = false;
        for (branch, cable, side) in sides {
            let (Some(branch), Some(cable), false) = (branch, cable, fired) else { continue };
            if !context.alive(branch) {
                continue;
            }
            let Some(wanted) = context.worst_sustained(|s| s.solution.current[branch].abs()) else { continue };
            let amps = Amps::new(wanted.value);
            let Some(ampacity) = cable.ampacity(ambient) else {
                if amps.get() > 0.5 && !nameless.iter().any(|(n, _)| *n == info.name) {
                    nameless.push((info.name.clone(), cable.span));
                }
                continue;
            };
            let ampacity = Amps::new(ampacity);
            if amps.get() > ampacity.get() * (1.0 + 1e-9) {
                fired = true;
                told.push(info.run);
                let size = cable.size.map_or_else(|| "this lead".into(), |s| s.name());
                sink.find(Draft {
                    severity: Severity::Danger,
                    subject: &info.name,
                    span: cable.span,
                    at: Some(&wanted),
                    message: format!(
                        "the {side} `{}` carries {amps}; {size} carries {ampacity} at {}",
                        info.name, plan.ambient.high
                    ),
                    cures: vec![thicker(cable, amps.get(), ambient)],
                    evidence: vec![
                        Evidence::computed("wanted", amps),
                        Evidence::new("ampacity", ampacity, &Origin::Plan(cable.span)),
                        Evidence::new("ambient", plan.ambient.high, &plan.ambient.origin),
                    ],
                });
            } else if side == "lead to" && context.all_sustained() {
                sink.pass(&info.name, format!("{amps} of {ampacity}"));
            }
        }
    }
    if let Some((first, span)) = nameless.first() {
        let names: Vec<String> = nameless.iter().map(|(n, _)| format!("`{n}`")).collect();
        let message =
            format!("leads of stated resistance carry more than 0.5 A and have no size: {}", names.join(", "));
        sink.unknown(first, *span, message, "give the `size`, or the `ampacity`, beside the resistance");
    }
}

/// The thinnest listed size of the same kind that carries the current.
fn thicker(cable: &Cable, amps: f64, ambient: f64) -> String {
    let insulation = cable.insulation.as_ref().map(|t| t.typical.get());
    let carries = |size: &WireSize| {
        crate::tables::ampacity_at(*size, cable.material, insulation, ambient).is_some_and(|a| a >= amps)
    };
    let sizes: Vec<WireSize> = match cable.size {
        Some(WireSize::Mm2(_)) => [0.25, 0.5, 0.75, 1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0].map(WireSize::Mm2).into(),
        _ => (2..=15).rev().map(|n| WireSize::Awg(2 * n)).collect(),
    };
    match sizes.iter().find(|s| carries(s)) {
        Some(size) => format!("take {} or thicker", size.name()),
        None => "no listed size carries it: split the run".into(),
    }
}
