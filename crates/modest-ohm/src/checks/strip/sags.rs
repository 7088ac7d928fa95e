//! strip-voltage-low: the lowest pixel against working and sheet voltage, and every colour along the strip.

use crate::checks::shared::consumer_voltage::is_on_wrong_rail;
use crate::derived::consumers::Where;
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::plan::strip::Strip;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Figure};
use crate::quantity::units::{Amps, Fraction, Metres, Volts};
use crate::solved::colour_shift::{Figures, colour_shift, least_light, shift_that_shows, shift_with};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::conductors::cable_of;
use crate::topology::run::Run;
use crate::verdict::compare::{clearly_below, exceeds};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let consumers = context.consumers();
    let wrong = |i: usize| {
        consumers.iter().any(|c| matches!(c.at, Where::Strip(own) if own == i) && is_on_wrong_rail(context, c))
    };
    // On the wrong rail only that is reported, by supply-voltage.
    for (i, strip) in plan.strips.iter().enumerate().filter(|(i, _)| !wrong(*i)) {
        judge(context, sink, i, strip);
    }
}

fn lit(o: &Outcome, strip: usize) -> bool {
    o.case.demands.lights(strip)
}

fn judge(context: &Context<'_>, sink: &mut Sink, i: usize, strip: &Strip) {
    let name = &strip.name.text;
    let lowest_v = |s: &Snapshot| s.solution.strips[i].alive.then_some(s.solution.strips[i].lowest.0);
    let stands = |o: &Outcome| !is_down(context, o, i);
    let Some(lowest) = context.worst_actual(stands, |_, s| lowest_v(s).map(|v| -v)) else { return };
    let Some(works) = &strip.pixel.works else {
        sink.unknown(
            name,
            strip.name.span,
            format!("cannot check {} `{name}`: its minimum voltage is not given", strip.word()),
            "set `part`, or write `minimum = \"3.5 V\"`",
        );
        return;
    };
    if clearly_below(-lowest.value, works.typical.get()) {
        let words = format!("needs {}", works.typical);
        report(context, sink, i, Severity::Fault, &lowest, words, ("minimum", works.typical, works));
        return;
    }
    if dims(context, sink, i, strip, works) {
        return;
    }
    let long = context.worst_actual(|o| o.case.continuous && stands(o), |_, s| lowest_v(s).map(|v| -v));
    if let (Some(sheet), Some(long)) = (&strip.pixel.sheet, &long)
        && clearly_below(-long.value, sheet.low.get())
    {
        let words = format!("below the recommended {} .. {}", sheet.low, sheet.high);
        report(context, sink, i, Severity::Advisory, long, words, ("recommended", sheet.low, sheet));
        return;
    }
    if context.all_actual() {
        sink.pass(name, || format!("lowest {} {}; needs {}", strip.unit(), Volts::new(-lowest.value), works.typical));
    }
}

/// Whether less light, or another colour, shows along it: at nominal figures and at the worst. True where that is
/// reported.
fn dims(context: &Context<'_>, sink: &mut Sink, i: usize, strip: &Strip, works: &Figure<Volts>) -> bool {
    let shift = |wanted: &dyn Fn(&Outcome) -> bool, figures: Figures| {
        context.worst_actual(
            |o| o.case.continuous && lit(o, i) && !is_down(context, o, i) && wanted(o),
            |_, s| {
                let l = &s.solution.strips[i];
                l.alive.then(|| shift_with(strip, l, figures).0)
            },
        )
    };
    let (nominal, worst) =
        (shift(&|o| o.corner == Corner::Typical, Figures::Nominal), shift(&|_| true, Figures::Largest));
    let (Some(nominal), Some(worst)) = (nominal, worst) else { return false };
    let shows = shift_that_shows(strip);
    let dark = if strip.pixel.plain { least_light_of(context, i, strip) } else { None };
    let (severity, at, words) = match dark.filter(|w| -w.value < HALF_LIGHT) {
        Some(w) => {
            let words = format!("brightness {} at nominal values", Fraction::new(-w.value));
            (Severity::Caution, w, words)
        }
        None => {
            let colour = colour_of(context, i, strip, &worst);
            let (typical, most) = (Fraction::new(nominal.value), Fraction::new(worst.value));
            let both = if nominal.value < UNSEEN {
                format!("where {colour} is {most} dimmer than the brightest at worst, typically as bright")
            } else {
                format!("where {colour} is {typical} dimmer than the brightest (typical), {most} at worst")
            };
            let over = exceeds(nominal.value, shows.nominal) || exceeds(worst.value, shows.worst);
            let severity = if over { Severity::Caution } else { Severity::Advisory };
            if !over && !exceeds(nominal.value, shows.advice) {
                return false;
            }
            (severity, worst, both)
        }
    };
    report(context, sink, i, severity, &at, words, ("minimum", works.typical, works));
    true
}

/// Less than this is as bright to any eye.
const UNSEEN: f64 = 0.01;

/// A plain strip that gives less than half of its light looks switched wrongly (our own figure).
const HALF_LIGHT: f64 = 0.5;

/// The state in which a plain strip is darkest at nominal figures, its light with its sign turned.
fn least_light_of(context: &Context<'_>, i: usize, strip: &Strip) -> Option<Worst> {
    let wanted = |o: &Outcome| o.case.continuous && lit(o, i) && o.corner == Corner::Typical && !is_down(context, o, i);
    context.worst_actual(wanted, |_, s| {
        let l = &s.solution.strips[i];
        l.alive.then(|| -least_light(strip, l))
    })
}

fn colour_of<'c>(context: &'c Context<'_>, i: usize, strip: &'c Strip, worst: &Worst) -> &'c str {
    at(context, worst).map_or("a colour", |s| {
        let l = &s.solution.strips[i];
        strip.pixel.colours.get(colour_shift(strip, l).1).map_or("a colour", |c| c.name.as_str())
    })
}

/// True where the source of a strip has collapsed: only that is reported.
fn is_down(context: &Context<'_>, o: &Outcome, i: usize) -> bool {
    context.plan.strips[i].injections.iter().all(|q| o.is_down(q.feed.from.id))
}

fn at<'c>(context: &'c Context<'_>, worst: &Worst) -> Option<&'c Snapshot> {
    context.outcome(worst)?.actual.as_ref().ok()
}

/// A strip that sags takes less than it will once it is fed well: what flows then, and the first lead that does not
/// carry it.
fn then_flows(context: &Context<'_>, i: usize, s: &Snapshot) -> Option<String> {
    let plan = context.plan;
    let strip = &plan.strips[i];
    if plan.has_firmware_limit(i) {
        return None;
    }
    let full = strip.nominal_full_a();
    let first = strip.injections.first()?;
    let limit = |id: NodeId| match plan.nodes[id.0].kind {
        NodeKind::Branch(b) => Some((b, cable_of(plan, Run::Branch(b))?.ampacity(plan.warmest_c())?)),
        _ => None,
    };
    let leads = plan.path_up(first.feed.from.id).into_iter().filter_map(limit);
    let (run, may) = leads.reduce(|a, b| if b.1 < a.1 { b } else { a })?;
    let flows = s.layout.conductors.iter().find(|c| c.run == Run::Branch(run)).and_then(|c| c.feed);
    let now = flows.map_or(0.0, |b| s.amps(b).abs());
    (now <= may && full > may).then(|| {
        format!(
            "; at full voltage it draws {}, and the cable to `{}` is rated {}",
            Amps::new(full),
            plan.branches[run].name.text,
            Amps::new(may)
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
        if strip.is_panel { strip.place_in_words(position.get()) } else { format!("{position} from the start") };
    sink.find(
        Draft::of(severity, &strip.name)
            .at(worst)
            .says(format!(
                "{} `{}` is at {v} at {} {} ({place}), {words}{}",
                strip.word(),
                strip.name.text,
                strip.unit(),
                solved.lowest.1,
                then_flows(context, i, snapshot).unwrap_or_default()
            ))
            .judged("lowest_pixel", v)
            .at_least(limit_name, limit, &figure.origin)
            .with("position", position)
            .with("colour_shift", Fraction::new(colour_shift(strip, solved).0)),
    );
}
