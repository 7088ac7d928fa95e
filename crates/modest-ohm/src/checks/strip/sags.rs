//! strip-sags: the lowest pixel against working and sheet volts, and every colour along the strip.

use super::cure::feed_that_cures;
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::strip::Strip;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Fraction, Metres, Volts};
use crate::solved::colour_shift::{colour_shift, shift_that_shows};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

/// Solves that looking for a cure may take.
const CURE_SOLVES: usize = 3;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, strip) in context.plan.strips.iter().enumerate() {
        judge(context, sink, i, strip);
    }
}

fn lit(o: &Outcome, strip: usize) -> bool {
    o.case.demands.lights(strip)
}

fn judge(context: &Context<'_>, sink: &mut Sink, i: usize, strip: &Strip) {
    let name = &strip.name.text;
    let lowest_v = |s: &Snapshot| s.solution.strips[i].alive.then_some(s.solution.strips[i].lowest.0);
    let Some(lowest) = context.worst_actual(|_| true, |_, s| lowest_v(s).map(|v| -v)) else { return };
    let Some(works) = &strip.pixel.works else {
        sink.unknown(
            name,
            strip.name.span,
            format!("{} `{name}` does not say from which volts it works", strip.word()),
            "name its class with `part`, or give `works = \"3.5 V\"`",
        );
        return;
    };
    if is_below(-lowest.value, works.typical.get()) {
        let words = format!("and works from {}", works.typical);
        report(context, sink, i, Severity::Fault, &lowest, words, ("works", works.typical, works));
        return;
    }
    let shifted = context.worst_actual(
        |o| o.case.continuous && lit(o, i),
        |_, s| {
            let l = &s.solution.strips[i];
            l.alive.then(|| colour_shift(strip, l).0)
        },
    );
    let shows = shift_that_shows(strip);
    if let Some(shifted) = shifted.as_ref().filter(|w| exceeds(w.value, shows)) {
        let colour = at(context, shifted).map_or("a colour", |s| {
            let l = &s.solution.strips[i];
            strip.pixel.colours.get(colour_shift(strip, l).1).map_or("a colour", |c| c.name.as_str())
        });
        let words = format!(
            "where {colour} is {} weaker than at the brightest; {} shows",
            Fraction::new(shifted.value),
            Fraction::new(shows)
        );
        report(context, sink, i, Severity::Caution, shifted, words, ("works", works.typical, works));
        return;
    }
    let long = context.worst_actual(|o| o.case.continuous, |_, s| lowest_v(s).map(|v| -v));
    if let (Some(sheet), Some(long)) = (&strip.pixel.sheet, &long)
        && is_below(-long.value, sheet.low.get())
    {
        let words = format!("below the sheet's {} .. {}", sheet.low, sheet.high);
        report(context, sink, i, Severity::Advice, long, words, ("sheet", sheet.low, sheet));
        return;
    }
    if context.all_actual() {
        sink.pass(name, format!("lowest {} {}, works from {}", strip.unit(), Volts::new(-lowest.value), works.typical));
    }
}

fn at<'c>(context: &'c Context<'_>, worst: &Worst) -> Option<&'c Snapshot> {
    context.outcome(worst)?.actual.as_ref().ok()
}

/// Where more is lost on the way to the strip than along it, the way is what to mend.
fn way_that_loses(context: &Context<'_>, i: usize, s: &Snapshot) -> Option<String> {
    let root = context.plan.root(context.plan.strips[i].injections.first()?.feed.from.id);
    let fed =
        s.net.strips[i].ports.iter().map(|p| s.solution.across(p.plus, p.minus)).fold(f64::NEG_INFINITY, f64::max);
    let before = s.volts_at(root)? - fed;
    (before > fed - s.solution.strips[i].lowest.0).then(|| {
        let name = &context.plan.nodes[root.0].name;
        format!(
            "the way from `{name}` loses {} before the strip begins: take thicker or shorter leads there",
            Volts::new(before)
        )
    })
}

fn report(
    context: &Context<'_>,
    sink: &mut Sink,
    i: usize,
    severity: Severity,
    worst: &Worst,
    words: String,
    (limit_name, limit, figure): (&'static str, Volts, &Figure<Volts>),
) {
    let strip = &context.plan.strips[i];
    let Some(snapshot) = at(context, worst) else { return };
    let solved = &snapshot.solution.strips[i];
    let position = Metres::new(strip.position_m(solved.lowest.1));
    let v = Volts::new(solved.lowest.0);
    let place =
        if strip.is_panel { strip.place_in_words(position.get()) } else { format!("{position} from its start") };
    let mut cures = Vec::new();
    let source = strip.injections.first().map(|q| context.plan.root(q.feed.from.id));
    let past = source.and_then(|s| context.fed_past(s, worst));
    cures.extend(way_that_loses(context, i, snapshot).filter(|_| past.is_none()));
    // Advice is one line for all strips: the first one's cure speaks for them.
    let first = severity != Severity::Advice || !sink.has_advice();
    if let Some(past) = past {
        cures.push(past);
    } else if first {
        let tried = if context.may_try(CURE_SOLVES) { feed_that_cures(context, i, worst) } else { None };
        cures.push(tried.unwrap_or_else(|| "feed it at more points, or over thicker or shorter leads".into()));
    }
    if !strip.pixel.plain && !context.plan.is_capped(i) && !context.causes().iter().any(|c| c.strips.contains(&i)) {
        cures.push("or let the firmware cap its current".into());
    }
    sink.find(
        Draft::of(severity, &strip.name)
            .at(worst)
            .says(format!(
                "{} `{}` gets {v} at {} {} ({place}), {words}",
                strip.word(),
                strip.name.text,
                strip.unit(),
                solved.lowest.1
            ))
            .judged("lowest_pixel", v)
            .at_least(limit_name, limit, &figure.origin)
            .with("position", position)
            .with("colour_shift", Fraction::new(colour_shift(strip, solved).0))
            .cures(cures),
    );
}
