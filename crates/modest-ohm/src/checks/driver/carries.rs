//! driver-current: what a semiconductor stage carries, continuously and in a start or a stall.

use crate::derived::context::{Context, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Demand;
use crate::quantity::figure::{Corner, Figure};
use crate::quantity::units::Amps;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// Nearer than this to its rating a stage has no margin (electrical reference, "The checks": within 20 %).
pub(crate) const NEAR: f64 = 0.8;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    // What contacts carry depends on the kind of load: another check's matter.
    for channel in channels(context.plan).iter().filter(|c| !c.driver.kind.is_contact()) {
        judge(context, sink, channel);
    }
}

const LONG: &str = "continuous";

/// True where what a load behind it takes is the figure of a class, or assumed.
fn rests_on_class(channel: &Channel<'_>, for_long: bool) -> bool {
    let assumed = |i: usize| match &channel.plan.loads[i].demand {
        Demand::Current(states) if for_long => states.peak.origin.is_assumed(),
        Demand::Current(states) => states.surge.as_ref().is_some_and(|s| s.origin.is_assumed()),
        Demand::Power(states) => states.peak.origin.is_assumed(),
        Demand::Resistance(states) => states.peak.origin.is_assumed(),
        Demand::Leds(_) => false,
    };
    channel.plan.loads_behind(channel.run).any(assumed)
}

/// What it carries in the same state with every figure at its nominal.
fn nominal(context: &Context<'_>, channel: &Channel<'_>, at: &Outcome) -> Option<f64> {
    let same = |o: &&Outcome| {
        o.corner == Corner::Typical && o.case.scenario == at.case.scenario && o.case.surging == at.case.surging
    };
    let o = context.outcomes.iter().find(same)?;
    channel.amps(if at.case.continuous { o.sustained.as_ref() } else { o.wanted.as_ref() }.ok()?)
}

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>) {
    let name = channel.name();
    let lasting = |o: &Outcome| channel.amps(o.sustained.as_ref().ok()?);
    let short = |o: &Outcome| channel.amps(o.wanted.as_ref().ok()?);
    let Some((long, long_a)) = worst_of(context.continuous(), lasting) else { return };
    // One that limits by itself lets no more through than it withstands briefly.
    let surge =
        worst_of(context.outcomes.iter().filter(|o| !o.case.continuous), short).filter(|_| !channel.driver.limits);
    let Some(rating) = &channel.driver.current else {
        let message =
            format!("cannot check {} ({}): its current rating is not given", channel.words(), Amps::new(long_a));
        sink.unknown(name, channel.span(), message, "write `current`, or set `part`");
        return;
    };
    let peak = channel.driver.surge.as_ref().unwrap_or(rating);
    let over = |value: f64, of: &Figure<Amps>| value / of.low.get();
    let mut worst = (long, long_a, rating, LONG);
    if let Some((o, a)) = surge.filter(|(_, a)| exceeds(over(*a, peak), over(long_a, rating))) {
        worst = (o, a, peak, "at start or stall");
    }
    let (o, amps, limit, when) = worst;
    let carries = Amps::new(amps);
    // Where a class says what the load takes, its usual part decides; the worst of the class alone is a caution.
    let usual = if rests_on_class(channel, when == LONG) { nominal(context, channel, o) } else { None };
    let (share, usual) = (over(amps, limit), over(usual.unwrap_or(amps), limit));
    let severity = if usual > 1.0 + 1e-9 {
        Severity::Danger
    } else if share > 1.0 + 1e-9 || exceeds(usual, NEAR) {
        Severity::Caution
    } else {
        if context.all_sustained() {
            sink.pass(name, || format!("{carries} of {}", limit.low));
        }
        return;
    };
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(&context.worst_at(o, amps, |o| if when == LONG { lasting(o) } else { short(o) }))
            .says(format!(
                "{} carries {carries} {when} of {}; rated {}",
                channel.words(),
                channel.behind_words(),
                limit.low
            ))
            .judged("carries", carries)
            .at_most("rating", limit.low, &limit.origin),
    );
}
