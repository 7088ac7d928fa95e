//! fuse-too-small: what flows continuously against a fuse's rating and its load factor.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::names::lead_name;
use crate::network::switched_feed::feed_in;
use crate::plan::kinds::run::RunKind;
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::Outcome;
use crate::topology::run::Run;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut seen = Vec::new();
    for info in &context.layout.conductors {
        let Some(branch) = info.feed else { continue };
        // A port's fuse is the port's matter.
        let is_port = matches!(info.run, Run::Branch(i) if matches!(plan.branches[i].kind, RunKind::Port(_)));
        if is_port || seen.contains(&info.run) || !context.alive(branch) {
            continue;
        }
        seen.push(info.run);
        // Every member of a count has a fuse of its own; the one that carries most speaks for all.
        let branches: Vec<usize> =
            context.layout.conductors.iter().filter(|c| c.run == info.run).filter_map(|c| c.feed).collect();
        let air = context.air_c(info.run);
        // A change-over switch has a fuse on each throw.
        let at = |o: &Outcome| -> Option<(f64, &Fuse)> {
            let fuse = feed_in(plan, info.run, &o.case.demands)?.fuse.as_ref()?;
            let s = o.sustained.as_ref().ok()?;
            Some((branches.iter().map(|b| s.amps(*b).abs()).fold(0.0, f64::max), fuse))
        };
        let share = |o: &Outcome| at(o).map(|(amps, fuse)| amps / fuse.continuous_a(air));
        let Some((o, share)) = worst_of(context.continuous(), share) else { continue };
        let Some((amps, fuse)) = at(o) else { continue };
        let wanted = Worst::at(o, share);
        let (name, amps) = (lead_name(plan, info), Amps::new(amps));
        let (holds, carries) = (Amps::new(fuse.holds_a(air)), Amps::new(fuse.continuous_a(air)));
        let (severity, limit, words) = if exceeds(amps.get(), holds.get()) {
            (Severity::Fault, holds, "it blows, sooner or later")
        } else if exceeds(amps.get(), carries.get()) {
            (Severity::Caution, carries, "a higher current ages it until it blows")
        } else {
            match super::start::judge(context, info, name, fuse) {
                Some(draft) => sink.find(draft),
                None if context.all_sustained() => sink.pass(name, || format!("{amps} of {carries}")),
                None => {}
            }
            continue;
        };
        sink.find(
            Draft::of(severity, (name, fuse.span))
                .at(&wanted)
                .says(format!("the {} of `{name}` carries {amps}; good for {limit} continuous: {words}", fuse.name()))
                .judged("demand", amps)
                .at_most("rating", limit, &Origin::Computed)
                .at_most("rating", fuse.rating.low, &fuse.rating.origin),
        );
    }
}
