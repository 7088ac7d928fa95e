//! wire-overloaded: wanted continuous current against the derated ampacity, feed and return each.

use crate::checks::context::{Context, Worst};
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::heat::air_of_run_c;
use crate::network::Run;
use crate::plan::Cable;
use crate::quantity::{Amps, Celsius, Origin};
use crate::ratings::{cable_of, contact_limit_of, return_cable_of};
use crate::review::Snapshot;
use crate::tables::WireSize;

/// A conductor's current beside what it carries, in the outcome in which it is most loaded.
pub(super) struct Loaded {
    pub worst: Worst,
    pub amps: f64,
    pub ampacity: f64,
    pub air_c: f64,
}

impl Loaded {
    pub fn is_over(&self) -> bool {
        self.amps > self.ampacity * (1.0 + 1e-9)
    }
}

/// The most loaded outcome of a conductor; `None` where its ampacity is not known or nothing has a solution.
pub(super) fn loaded(context: &Context<'_>, branch: usize, cable: &Cable, run: Run) -> Option<Loaded> {
    cable.ampacity(context.plan.warmest_c())?;
    let air = |s: &Snapshot| air_of_run_c(context.plan, context.layout, run, s);
    let ampacity = |s: &Snapshot| cable.ampacity(air(s)).unwrap_or(0.0);
    let amps = |s: &Snapshot| s.solution.current[branch].abs();
    // A wire that carries nothing at all in such air is beyond any current.
    let worst = context.worst_sustained(|s| {
        let share = amps(s) / ampacity(s).max(1e-12);
        if share.is_finite() { share } else { 0.0 }
    })?;
    let s = context.outcome(&worst)?.sustained.as_ref().ok()?;
    Some(Loaded { amps: amps(s), ampacity: ampacity(s), air_c: air(s), worst })
}

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
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
            let Some(wire) = loaded(context, branch, cable, info.run) else {
                let wanted = context.worst_sustained(|s| s.solution.current[branch].abs());
                // A jumper lead is judged as the contact that it is.
                let known = contact_limit_of(plan, info.run).is_some() && cable.length_m() == Some(0.0);
                let much = wanted.is_some_and(|w| w.value > 0.5);
                if much && !known && !nameless.iter().any(|(n, _)| *n == info.name) {
                    nameless.push((info.name.clone(), cable.span));
                }
                continue;
            };
            let (amps, ampacity, air) = (Amps::new(wire.amps), Amps::new(wire.ampacity), Celsius::new(wire.air_c));
            if wire.is_over() {
                fired = true;
                told.push(info.run);
                let mut evidence = vec![
                    Evidence::computed("wanted", amps),
                    Evidence::new("ampacity", ampacity, &Origin::Plan(cable.span)),
                ];
                if wire.air_c > plan.warmest_c() + 1e-9 {
                    evidence.push(Evidence::computed("air", air));
                } else {
                    evidence.push(Evidence::new("ambient", plan.ambient.high, &plan.ambient.origin));
                }
                sink.find(Draft {
                    severity: Severity::Danger,
                    subject: &info.name,
                    span: cable.span,
                    at: Some(&wire.worst),
                    message: format!(
                        "the {side} `{}` carries {amps}; {} carries {ampacity} at {air}",
                        info.name,
                        words(cable)
                    ),
                    cures: vec![thicker(cable, wire.amps, wire.air_c)],
                    evidence,
                });
                // A return that carries more than its feed does is short of copper of its own.
                let feed_is_fine = info
                    .feed
                    .zip(cable_of(plan, info.run))
                    .is_none_or(|(feed, cable)| loaded(context, feed, cable, info.run).is_none_or(|f| !f.is_over()));
                if side == "return of" && info.feed.is_some() && feed_is_fine {
                    sink.stands_under("return-starved", &info.name);
                }
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

/// The wire, and what lessens what it carries.
fn words(cable: &Cable) -> String {
    let size = cable.size.map_or_else(|| "this lead".to_owned(), WireSize::name);
    let many = if cable.parallel > 1 { format!("{} × {size}", cable.parallel) } else { size };
    if cable.pairs > cable.parallel.max(1) && cable.stated_ampacity().is_none() {
        format!("{many} among {} loaded pairs", cable.pairs)
    } else {
        many
    }
}

/// The thinnest listed size of the same kind that carries the current.
fn thicker(cable: &Cable, amps: f64, air_c: f64) -> String {
    let kind = cable.size.unwrap_or(WireSize::Awg(16));
    let carries = |size: &WireSize| cable.ampacity_of(*size, air_c).is_some_and(|a| a * cable.parallel as f64 >= amps);
    let insulation = cable.insulation_c();
    match kind.listed_like().iter().find(|s| carries(s)) {
        Some(size) => format!("take {} or thicker", size.name()),
        None if air_c >= insulation => {
            format!(
                "its insulation stands {}: take one that stands more than the air around it",
                Celsius::new(insulation)
            )
        }
        None => "no listed size carries it: split the run".into(),
    }
}
