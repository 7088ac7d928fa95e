//! rails-joined and supplies-paralleled: two sources joined at +, through a link or otherwise, of different or equal
//! voltage.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::joined::Pair;
use crate::quantity::units::Amps;
use crate::verdict::severity::Severity;

/// The pair whose voltage is furthest apart comes first.
fn furthest(pairs: &mut [Pair]) {
    let apart = |p: &Pair| (p.sources[0].volts.typical.get() - p.sources[1].volts.typical.get()).abs();
    pairs.sort_by(|a, b| apart(b).total_cmp(&apart(a)));
}

pub(crate) fn rails(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut pairs = plan.joined_sources();
    furthest(&mut pairs);
    for (l, link) in plan.links.iter().enumerate() {
        let name = &link.name.text;
        let guilty = pairs.iter().find(|p| p.links.contains(&l) && p.differ());
        let Some(Pair { sources: [a, b], .. }) = guilty else {
            sink.pass(name, || if link.closed { "joins no rails of different voltage".into() } else { "open".into() });
            continue;
        };
        let branch = context.layout.links[l];
        let through = context.worst_sustained(|s| s.amps(branch).abs());
        let amps = Amps::new(through.as_ref().map_or(0.0, |w| w.value));
        sink.find(
            Draft::danger(&link.name)
                .at(through.as_ref())
                .says(format!(
                    "the {} `{name}` joins `{}` ({}) and `{}` ({}): {}",
                    link.what.word(),
                    a.name,
                    a.volts.typical,
                    b.name,
                    b.volts.typical,
                    // A battery takes what it is charged with, which the network does not show.
                    if a.is_battery != b.is_battery {
                        "one charges the other without a charger".to_owned()
                    } else {
                        format!("{amps} flows through it, more if a source gives way")
                    }
                ))
                .judged_as_given("first", a.volts.typical, &a.volts.origin)
                .given("second", b.volts.typical, &b.volts.origin)
                .with("through", amps),
        );
    }
}

pub(crate) fn supplies(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut pairs = plan.joined_sources();
    furthest(&mut pairs);
    let mut told: Vec<&str> = Vec::new();
    for Pair { sources: [a, b], links } in pairs.iter().filter(|p| p.links.is_empty() || !p.differ()) {
        let pair = Pair { sources: [a.clone(), b.clone()], links: Vec::new() };
        if told.contains(&b.name.as_str()) {
            continue;
        }
        told.push(&b.name);
        let by = links.first().map_or_else(String::new, |l| {
            format!(" by the {} `{}`", plan.links[*l].what.word(), plan.links[*l].name.text)
        });
        let (severity, what) = match pair.differ() {
            true if a.is_battery != b.is_battery => (Severity::Danger, "one would charge the other without a charger"),
            true => (Severity::Danger, "the higher one feeds into the lower"),
            false => (Severity::Caution, "the slightly higher one carries the whole load; they do not share it"),
        };
        sink.find(
            Draft::of(severity, (&b.name, b.span))
                .says(format!(
                    "`{}` ({}) and `{}` ({}) are paralleled{by}: {what}",
                    a.name, a.volts.typical, b.name, b.volts.typical
                ))
                .judged_as_given("first", a.volts.typical, &a.volts.origin)
                .given("second", b.volts.typical, &b.volts.origin),
        );
    }
    for source in plan.sources() {
        let alive = context.alive_at(context.layout.nodes[source.node.0].plus);
        if alive && !pairs.iter().any(|p| p.sources.iter().any(|s| s.node == source.node)) {
            sink.pass(&source.name, || "the only source on its rail".into());
        }
    }
}
