//! fuse-missing, fuse-too-large, fuse-may-not-blow: one verdict a cable, listed together for each fuse or source that
//! causes it.

use super::names::{name_of, size_words};
use crate::derived::context::Context;
use crate::derived::protection::judge::{Guard, Protection, Reason};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::topology::run::Run;
use crate::verdict::severity::Severity;

pub(crate) fn missing(context: &Context<'_>, sink: &mut Sink) {
    for leads in gathered(context, Reason::Missing) {
        for lead in &leads {
            let sources = listed(sources_of(context, lead).into_iter());
            let (long, carries) = (Amps::new(lead.long_a), Amps::new(lead.wire.ampacity_a));
            let own = if lead.factory { "; accepted as a factory cable up to 1 m" } else { "" };
            let message = format!(
                "no fuse on the cable to `{}`: {} can feed {long} continuously into a short circuit; {} is rated \
                {carries}{own}",
                name(context, lead),
                sources.join(" and "),
                size_words(context, lead),
            );
            tell(context, sink, (lead, &leads), message, None);
        }
    }
    let unknown: Vec<&Protection> = context.protections().iter().filter(|p| p.reason == Reason::Unknown).collect();
    if let Some(first) = unknown.first() {
        let sources: Vec<String> = listed(unknown.iter().flat_map(|p| sources_of(context, p)));
        let leads: Vec<String> = listed(unknown.iter().map(|p| name(context, p).to_owned()));
        sink.unknown(
            name(context, first),
            first.cable.span,
            format!(
                "cannot check the cables to {1}: the short-circuit current of {0} is not given",
                sources.join(", "),
                leads.join(", ")
            ),
            "write its `current` or its `limit`, or put a fuse in the cable",
        );
    }
    pass(context, sink, |p| p.reason == Reason::Protected && matches!(p.guard, Guard::Source(_)));
}

pub(crate) fn too_large(context: &Context<'_>, sink: &mut Sink) {
    for leads in gathered(context, Reason::TooLarge) {
        for lead in &leads {
            let (Some(fuse), Guard::Fuse(at)) = (lead.fuse.as_ref(), &lead.guard) else { continue };
            let message = exceeds_words(context, lead, fuse, *at);
            tell(context, sink, (lead, &leads), message, Some(fuse));
        }
    }
    pass(context, sink, |p| p.reason == Reason::Protected && matches!(p.guard, Guard::Fuse(_)));
}

/// What a fuse exceeds, and what then protects the cable.
fn exceeds_words(context: &Context<'_>, lead: &Protection, fuse: &Fuse, at: Run) -> String {
    let (long, carries) = (Amps::new(lead.long_a), Amps::new(lead.wire.ampacity_a));
    let allows = lead.wire.ampacity_a * fuse.family.ampacity_factor();
    let mut allowed = Amps::new(allows).to_string();
    if allowed == fuse.rating.high.to_string() {
        // Just below: three digits would call it equal.
        allowed = format!("{allows:.4} A");
    }
    let size = size_words(context, lead);
    let cable = if lead.run == at {
        format!("its own cable, {size},")
    } else {
        format!("the cable to `{}`, {size},", name(context, lead))
    };
    let what = match lead.severity {
        _ if lead.factory => format!("is rated {carries}; accepted as a factory cable up to 1 m"),
        _ if lead.outlasts_short => format!("is rated {carries}; a short circuit is cleared before it overheats"),
        Some(Severity::Advisory) => format!("is rated {carries}; the source's limit of {long} protects it"),
        _ => format!("is rated {carries}; {long} can flow continuously"),
    };
    format!("the {} of `{}` exceeds the {allowed} that {cable} allows: it {what}", fuse.name(), name_of(context, at))
}

pub(crate) fn cannot_act(context: &Context<'_>, sink: &mut Sink) {
    for leads in gathered(context, Reason::CannotAct) {
        let harmless = leads.first().is_some_and(|p| p.severity == Some(Severity::Advisory));
        let least_of_all = leads.iter().map(|p| p.least_a).fold(f64::INFINITY, f64::min);
        // Of cables that are all well enough one speaks for all.
        for lead in if harmless { &leads[..1] } else { leads.as_slice() } {
            let (Some(fuse), Guard::Fuse(at)) = (lead.fuse.as_ref(), &lead.guard) else { continue };
            let (opens, least) = (Amps::new(fuse.opens_a()), Amps::new(lead.least_a));
            let (long, carries) = (Amps::new(lead.long_a), Amps::new(lead.wire.ampacity_a));
            let (place, flow, verdict) = if harmless {
                let verdict = format!("the wires behind it are rated for the {long} that can flow continuously");
                (name_of(context, *at), Amps::new(least_of_all), verdict)
            } else {
                let verdict = format!("{long} can flow continuously; {} is rated {carries}", size_words(context, lead));
                (name(context, lead), least, verdict)
            };
            let message = format!(
                "a short circuit behind `{place}` may not blow the {} of `{}`: it needs {opens}, only {flow} is \
                guaranteed; {verdict}",
                fuse.name(),
                name_of(context, *at),
            );
            tell(context, sink, (lead, &leads), message, Some(fuse));
        }
    }
    pass(context, sink, |p| p.reason == Reason::Protected && matches!(p.guard, Guard::Fuse(_)));
}

/// Leads of one reason in groups of one cause, each group worst first. What is only advice stands apart from what is
/// more only where nothing of the group is.
fn gathered<'c>(context: &'c Context<'_>, reason: Reason) -> Vec<Vec<&'c Protection>> {
    let mut groups: Vec<Vec<&Protection>> = Vec::new();
    for p in context.protections().iter().filter(|p| p.reason == reason && p.severity.is_some()) {
        match groups.iter_mut().find(|g| g[0].guard == p.guard) {
            Some(group) => group.push(p),
            None => groups.push(vec![p]),
        }
    }
    for group in &mut groups {
        // Of cables that are all well enough, the one with the fuse speaks for those behind it.
        let rank = |p: &Protection| {
            let own = p.severity == Some(Severity::Advisory) && p.guard == Guard::Fuse(p.run);
            (p.severity, own)
        };
        // Without any fuse the cable with the most to carry is the one that matters.
        let weight = |p: &Protection| match reason {
            Reason::Missing => context.sustained_a(p.run),
            _ => p.excess(),
        };
        // Each weight once: it goes through all that is solved.
        let mut weighed: Vec<(f64, &Protection)> = group.drain(..).map(|p| (weight(p), p)).collect();
        weighed.sort_by(|(a, p), (b, q)| rank(q).cmp(&rank(p)).then(b.total_cmp(a)));
        group.extend(weighed.into_iter().map(|(_, p)| p));
    }
    groups
}

fn tell(
    context: &Context<'_>,
    sink: &mut Sink,
    (lead, group): (&Protection, &[&Protection]),
    message: String,
    fuse: Option<&Fuse>,
) {
    let mut evidence = vec![
        Evidence::judged("continuous", Amps::new(lead.long_a)),
        Evidence::at_most("ampacity", Amps::new(lead.wire.ampacity_a), &Origin::Computed),
    ];
    if let Some(fuse) = fuse {
        evidence.push(Evidence::context("rating", fuse.rating.high, &fuse.rating.origin));
        evidence.push(Evidence::computed("guaranteed", Amps::new(lead.least_a)));
        evidence.push(Evidence::computed("opens", Amps::new(fuse.opens_a())));
    }
    let draft = Draft::of(lead.severity.unwrap_or(Severity::Advisory), (name(context, lead), lead.cable.span))
        .says(message)
        .facts(evidence);
    let cause = group.first().map_or("", |worst| name(context, worst));
    sink.find(draft.listed_with(cause));
}

fn pass(context: &Context<'_>, sink: &mut Sink, of: impl Fn(&Protection) -> bool) {
    for p in context.protections().iter().filter(|p| of(p)) {
        let (long, carries) = (Amps::new(p.long_a), Amps::new(p.wire.ampacity_a));
        sink.pass(name(context, p), || format!("{long} can flow continuously; rated {carries}"));
    }
}

fn name<'c>(context: &'c Context<'_>, p: &'c Protection) -> &'c str {
    name_of(context, p.run)
}

/// All that feed a cable: `wall`, `five` and `pack`.
fn sources_of(context: &Context<'_>, p: &Protection) -> Vec<String> {
    p.sources.iter().map(|(id, ..)| context.plan.nodes[id.0].name.clone()).collect()
}

/// Each name once, quoted.
fn listed(names: impl Iterator<Item = String>) -> Vec<String> {
    let mut out: Vec<String> = Vec::new();
    for name in names.map(|n| format!("`{n}`")) {
        if !out.contains(&name) {
            out.push(name);
        }
    }
    out
}
