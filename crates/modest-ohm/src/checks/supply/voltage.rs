//! supply-voltage: a consumer's solved volts against its absolute maximum, its minimum and its recommended range.

use crate::checks::context::{Context, Worst};
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::network::Terminals;
use crate::plan::{LoadState, Name, NodeId};
use crate::quantity::{Figure, Origin, Volts};
use crate::review::{Outcome, Snapshot};

/// A consumer and the volts it wants.
struct Consumer<'a> {
    name: String,
    declared: &'a Name,
    what: &'static str,
    at: Where,
    /// What feeds it over conductors only.
    root: NodeId,
    absolute: Option<Figure<Volts>>,
    /// Below it the consumer does not work.
    minimum: Option<Figure<Volts>>,
    recommended: Option<Figure<Volts>>,
    /// Severity of volts above the recommended range.
    above: Severity,
}

#[derive(Clone, Copy)]
enum Where {
    Terminals(Terminals),
    /// All members of a load: undervoltage is not judged in their own surge, nor while they are off.
    Load(usize),
    /// Only the upper side: how low a strip's pixels get is another check's matter.
    Strip(usize),
}

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    for consumer in consumers(context) {
        judge(context, sink, &consumer);
    }
}

fn consumers<'a>(context: &Context<'a>) -> Vec<Consumer<'a>> {
    let (plan, layout) = (context.plan, context.layout);
    let mut out = Vec::new();
    for (i, load) in plan.loads.iter().enumerate() {
        let recommended = load.recommended_range();
        // Without a stated minimum: below the knee a load no longer draws its rated current.
        let minimum = load.minimum.clone().or_else(|| {
            recommended.as_ref().map(|_| {
                Figure::exact(
                    Volts::new(load.knee_v()),
                    Origin::Default("0.8 × the lower recommended volts where no minimum is given"),
                )
            })
        });
        out.push(Consumer {
            name: load.name.text.clone(),
            declared: &load.name,
            what: "load",
            at: Where::Load(i),
            root: plan.root(load.feed.from.id),
            absolute: load.absolute_maximum(),
            minimum,
            recommended,
            above: Severity::Caution,
        });
    }
    for (c, (t, ..)) in plan.controllers.iter().zip(&layout.controllers) {
        out.push(Consumer {
            name: c.name.text.clone(),
            declared: &c.name,
            what: "board",
            at: Where::Terminals(*t),
            root: plan.root(c.feed.from.id),
            absolute: c.absolute.clone(),
            minimum: c.brown_out.clone(),
            recommended: c.recommended.clone(),
            above: Severity::Caution,
        });
    }
    for (s, (t, _)) in plan.shifters.iter().zip(&layout.shifters) {
        let minimum = s.recommended.as_ref().map(|r| Figure::exact(r.low, r.origin.clone()));
        out.push(Consumer {
            name: s.name.text.clone(),
            declared: &s.name,
            what: "shifter",
            at: Where::Terminals(*t),
            root: plan.root(s.feed.from.id),
            absolute: s.absolute.clone(),
            minimum,
            recommended: s.recommended.clone(),
            above: Severity::Caution,
        });
    }
    for (i, s) in plan.strips.iter().enumerate() {
        let pixel = &s.pixel;
        let absolute = pixel.absolute.clone().or_else(|| {
            let top = pixel.sheet.as_ref()?.high * 1.2;
            Some(Figure::exact(top, Origin::Default("1.2 × the upper sheet volts where no absolute maximum is given")))
        });
        let Some(first) = s.injections.first() else { continue };
        out.push(Consumer {
            name: s.name.text.clone(),
            declared: &s.name,
            what: "strip",
            at: Where::Strip(i),
            root: plan.root(first.feed.from.id),
            absolute,
            minimum: None,
            recommended: pixel.sheet.clone(),
            above: Severity::Advice,
        });
    }
    out
}

fn highest(context: &Context<'_>, consumer: &Consumer<'_>, s: &Snapshot) -> Option<f64> {
    let volts = |t: &Terminals| s.solution.alive[t.plus].then(|| s.solution.across(t.plus, t.minus));
    match consumer.at {
        Where::Terminals(t) => volts(&t),
        Where::Load(i) => context.layout.loads[i].iter().filter_map(|(t, _)| volts(t)).reduce(f64::max),
        Where::Strip(i) => s.solution.ladders[i].alive.then_some(s.solution.ladders[i].highest_v),
    }
}

/// `None` where low volts are not judged.
fn lowest(context: &Context<'_>, consumer: &Consumer<'_>, o: &Outcome, s: &Snapshot) -> Option<f64> {
    match consumer.at {
        Where::Strip(_) => None,
        Where::Load(i) => context.layout.loads[i]
            .iter()
            .zip(&o.case.demands.loads[i])
            .filter(|((t, _), member)| {
                let excused = matches!(member, crate::network::Member::State(LoadState::Surge | LoadState::Off));
                s.solution.alive[t.plus] && !excused
            })
            .map(|((t, _), _)| s.solution.across(t.plus, t.minus))
            .reduce(f64::min),
        Where::Terminals(_) => highest(context, consumer, s),
    }
}

/// What to do about too few volts: another rail where this one could never do, else less drop.
fn more_volts(context: &Context<'_>, c: &Consumer<'_>, wanted: Volts) -> String {
    let root = context.layout.nodes[c.root.0];
    let name = &context.plan.nodes[c.root.0].name;
    let best = context.worst_actual(
        |o| o.case.continuous,
        |_, s| s.solution.alive[root.plus].then(|| s.solution.across(root.plus, root.minus)),
    );
    match best {
        Some(best) if best.value < wanted.get() => {
            format!("`{name}` gives {} at best: feed it from a rail of {wanted} or more", Volts::new(best.value))
        }
        _ => format!("take a thicker or shorter lead from `{name}`, or raise its volts"),
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, c: &Consumer<'_>) {
    if c.absolute.is_none() && c.minimum.is_none() && c.recommended.is_none() {
        sink.unknown(
            &c.name,
            c.declared.span,
            format!("{} `{}` does not say which volts it is made for", c.what, c.name),
            "give its rated volts: `voltage = \"12 V\"`",
        );
        return;
    }
    let high = context.worst_actual(|_| true, |_, s| highest(context, c, s));
    let low = context.worst_actual(|_| true, |o, s| lowest(context, c, o, s).map(|v| -v));
    let mut sound = context.all_actual();
    let mut report =
        |severity, at: &Worst, volts: f64, limit: Volts, origin: &Origin, words: String, cure: String, name| {
            sink.find(Draft {
                severity,
                subject: &c.name,
                span: c.declared.span,
                at: Some(at),
                message: format!("{} `{}` gets {}{words}", c.what, c.name, Volts::new(volts)),
                cures: vec![cure],
                evidence: vec![Evidence::computed("volts", Volts::new(volts)), Evidence::new(name, limit, origin)],
            });
        };
    if let Some(high) = &high {
        let over = |limit: f64| high.value > limit * (1.0 + 1e-9);
        if let Some(a) = c.absolute.as_ref().filter(|a| over(a.typical.get())) {
            sound = false;
            let cure = format!("feed it with {} or less", c.recommended.as_ref().map_or(a.typical, |r| r.high));
            report(
                Severity::Danger,
                high,
                high.value,
                a.typical,
                &a.origin,
                format!(" and stands {} at most", a.typical),
                cure,
                "maximum",
            );
        } else if let Some(r) = c.recommended.as_ref().filter(|r| over(r.high.get())) {
            sound = false;
            let words = format!(", above the recommended {} .. {}", r.low, r.high);
            report(
                c.above,
                high,
                high.value,
                r.high,
                &r.origin,
                words,
                "lower the supply's volts".into(),
                "recommended",
            );
        }
    }
    if let Some(low) = &low {
        let volts = -low.value;
        let under = |limit: f64| volts < limit * (1.0 - 1e-9);
        if let Some(m) = c.minimum.as_ref().filter(|m| under(m.typical.get())) {
            sound = false;
            report(
                Severity::Fault,
                low,
                volts,
                m.typical,
                &m.origin,
                format!(" and needs {} to work", m.typical),
                more_volts(context, c, m.typical),
                "minimum",
            );
        } else if let Some(r) = c.recommended.as_ref().filter(|r| under(r.low.get())) {
            sound = false;
            let words = format!(", below the recommended {} .. {}", r.low, r.high);
            report(
                Severity::Caution,
                low,
                volts,
                r.low,
                &r.origin,
                words,
                more_volts(context, c, r.low),
                "recommended",
            );
        }
    }
    if let (true, Some(high)) = (sound, high) {
        let bottom = low.map_or(String::new(), |l| format!("{} .. ", Volts::new(-l.value)));
        sink.pass(&c.name, format!("{bottom}{}", Volts::new(high.value)));
    }
}
