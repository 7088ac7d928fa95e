//! driver-voltage: what a stage holds off while it is open, with what its coil's path adds; a bridge's motor supply.

use super::carries::NEAR;
use crate::derived::coils::zener_v;
use crate::derived::context::{Context, Worst, worst_of};
use crate::derived::flyback_path::path_of;
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::plan::kinds::flyback::Flyback;
use crate::quantity::units::Volts;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let mut seen: Vec<usize> = Vec::new();
    for channel in channels(context.plan).iter().filter(|c| !c.driver.kind.is_contact()) {
        if channel.driver.bridge().is_some() {
            // One motor supply for all its channels.
            if !seen.contains(&channel.at.driver) {
                seen.push(channel.at.driver);
                supply(context, sink, channel);
            }
        } else {
            judge(context, sink, channel);
        }
    }
}

/// What the path of a coil's current adds to the supply across the switch, V.
fn added_v(channel: &Channel<'_>) -> f64 {
    let plan = channel.plan;
    let loads = plan.loads_behind(channel.run).filter(|i| plan.loads[*i].is_winding());
    let adds = |i: usize| match path_of(channel, &plan.loads[i]) {
        Some(Flyback::Diode(d)) => d.vf.high.get() + zener_v(d),
        _ => 0.0,
    };
    loads.map(adds).fold(0.0, f64::max)
}

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>) {
    let name = channel.name();
    let highest = |o: &Outcome| channel.holds_v(o.actual.as_ref().ok()?);
    let Some((o, volts)) = worst_of(context.outcomes.iter(), highest) else { return };
    let added = added_v(channel);
    let holds = Volts::new(volts + added);
    let Some(rating) = &channel.driver.voltage else {
        let message = format!("cannot check {} ({holds}): its voltage rating is not given", channel.words());
        sink.unknown(name, channel.span(), message, "write `voltage`, or set `part`");
        return;
    };
    let share = holds.get() / rating.low.get();
    let severity = if share > 1.0 + 1e-9 {
        Severity::Danger
    } else if exceeds(share, NEAR) {
        Severity::Caution
    } else {
        if context.all_actual() {
            sink.pass(name, || format!("{holds} of {}", rating.low));
        }
        return;
    };
    let with = if added > 0.0 { ", flyback path included" } else { "" };
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(&Worst::at(o, volts))
            .says(format!("{} blocks {holds}{with}; rated {}", channel.words(), rating.low))
            .judged("blocked", holds)
            .at_most("rating", rating.low, &rating.origin),
    );
}

/// A bridge's motor supply against the range of its class.
fn supply(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>) {
    let (driver, name) = (channel.driver, channel.driver.name.text.as_str());
    let Some(range) = &driver.voltage else {
        let message = format!("cannot check bridge `{name}`: its motor supply range is not given");
        sink.unknown(name, driver.name.span, message, "write `voltage`, or set `part`");
        return;
    };
    let volts = |o: &Outcome| channel.holds_v(o.actual.as_ref().ok()?);
    let (Some((top, most)), Some((bottom, least))) =
        (worst_of(context.outcomes.iter(), volts), worst_of(context.continuous(), |o| volts(o).map(|v| -v)))
    else {
        return;
    };
    let (severity, at, got, limit) = if exceeds(most, range.high.get()) {
        (Severity::Danger, top, Volts::new(most), range.high)
    } else if is_below(-least, range.low.get()) {
        (Severity::Fault, bottom, Volts::new(-least), range.low)
    } else {
        if context.all_actual() {
            sink.pass(name, || {
                format!("{} .. {} of {} .. {}", Volts::new(-least), Volts::new(most), range.low, range.high)
            });
        }
        return;
    };
    let bound = if severity == Severity::Danger { EvidenceRole::AtMost } else { EvidenceRole::AtLeast };
    sink.find(
        Draft::of(severity, (name, driver.name.span))
            .at(&Worst::at(at, got.get()))
            .says(format!("the motor supply of bridge `{name}` is {got}; rated {} {limit}", bound.phrase()))
            .judged("supply", got)
            .limit(bound, "limit", limit, &range.origin),
    );
}
