//! fuse-too-small: what flows for long against a fuse's rating and its load factor.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::names::lead_name;
use crate::network::Run;
use crate::plan::RunKind;
use crate::quantity::Amps;
use crate::ratings::fuse_of;

use super::cure::larger;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut seen = Vec::new();
    for info in &context.layout.conductors {
        let (Some(fuse), Some(branch)) = (fuse_of(plan, info.run), info.feed) else { continue };
        // A port's fuse is the port's matter.
        let is_port = matches!(info.run, Run::Branch(i) if matches!(plan.branches[i].kind, RunKind::Port(_)));
        if is_port || seen.contains(&info.run) || !context.alive(branch) {
            continue;
        }
        seen.push(info.run);
        // Every member of a count has a fuse of its own; the one that carries most speaks for all.
        let branches: Vec<usize> =
            context.layout.conductors.iter().filter(|c| c.run == info.run).filter_map(|c| c.feed).collect();
        let most =
            |s: &crate::review::Snapshot| branches.iter().map(|b| s.solution.current[*b].abs()).fold(0.0, f64::max);
        let Some(wanted) = context.worst_sustained(most) else { continue };
        let air = context.air_c(info.run);
        let (name, amps) = (lead_name(plan, info), Amps::new(wanted.value));
        let (holds, carries) = (Amps::new(fuse.holds_a(air)), Amps::new(fuse.continuous_a(air)));
        let (severity, limit, words) = if amps.get() > holds.get() * (1.0 + 1e-9) {
            (Severity::Fault, holds, "it opens, sooner or later")
        } else if amps.get() > carries.get() * (1.0 + 1e-9) {
            (Severity::Caution, carries, "more ages it until it opens")
        } else {
            if context.all_sustained() {
                sink.pass(name, format!("{amps} of {carries}"));
            }
            continue;
        };
        sink.find(Draft {
            severity,
            subject: name,
            span: fuse.span,
            at: Some(&wanted),
            message: format!(
                "the {} of `{name}` carries {amps} for long and stands {limit} for ever; {words}",
                fuse.name()
            ),
            cures: vec![larger(context, info.run, fuse, amps)],
            evidence: vec![
                Evidence::computed("wanted", amps),
                Evidence::computed("carries", limit),
                Evidence::new("rating", fuse.rating.low, &fuse.rating.origin),
            ],
        });
    }
}
