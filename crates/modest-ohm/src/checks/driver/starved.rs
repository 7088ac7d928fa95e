//! base-drive: the base current against what the collector current needs; an array's input against its datasheet.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::figures::{Transistor, needed_at};
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Fraction, Volts};
use crate::size::base::{GOOD_OVERDRIVE, LEAST_OVERDRIVE, Saturates};
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::drivers::drive::{Drive, base_amps, drive_of};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::is_below;
use crate::verdict::severity::Severity;

/// An input that gets less than this above what its datasheet needs has no margin (our own figure).
const NEEDS_MARGIN: f64 = 0.05;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for channel in channels(context.plan) {
        let Some(transistor) = channel.driver.transistor() else { continue };
        let name = channel.name();
        let Some(drive) = drive_of(context.plan, channel.at.driver, channel.at.channel) else {
            let message = format!("cannot check the base current of {}: no pin drives it", channel.words());
            sink.unknown(name, channel.span(), message, "name its pin: `pin = \"keeper.io32\"`");
            continue;
        };
        if !transistor.needs.is_empty() {
            array(context, sink, &channel, transistor, &drive);
        } else if let Some(hfe) = transistor.hfe {
            judge(context, sink, &channel, transistor, &drive, hfe as f64);
        } else {
            let message = format!("cannot check {}: its minimum current gain is not given", channel.words());
            sink.unknown(name, channel.span(), message, "write it, `hfe = 50`, or set `part`");
        }
    }
}

/// Collector current and the least base current in an outcome, A.
fn currents(channel: &Channel<'_>, t: &Transistor, drive: &Drive<'_>, o: &Outcome) -> Option<(f64, f64)> {
    let s = o.wanted.as_ref().ok()?;
    let amps = channel.amps(s)?;
    let volts = drive.volts_of(channel, s)?;
    (amps > 1e-9).then(|| (amps, base_amps(t, drive, volts).0))
}

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, t: &Transistor, drive: &Drive<'_>, hfe: f64) {
    let of = |o: &Outcome| currents(channel, t, drive, o);
    let lack = |o: &Outcome| of(o).map(|(ic, ib)| -hfe * ib / ic);
    // What saturates while it runs and not while it starts is short of margin, no more.
    let lasting = worst_of(context.continuous(), lack);
    let any = worst_of(context.outcomes.iter(), lack);
    let (Some((o, value)), name) = (any, channel.name()) else { return };
    let overdrive = -value;
    let least = lasting.map_or(f64::INFINITY, |(_, v)| -v);
    let verdict = match (Saturates::of(least), Saturates::of(overdrive)) {
        (Saturates::Fault, _) => Saturates::Fault,
        (_, Saturates::Pass) => Saturates::Pass,
        _ => Saturates::Caution,
    };
    let (o, overdrive) =
        if verdict == Saturates::Fault { lasting.map_or((o, overdrive), |(o, v)| (o, -v)) } else { (o, overdrive) };
    let Some((collector, base_a)) = of(o) else { return };
    let (collector, base_a) = (Amps::new(collector), Amps::new(base_a));
    let severity = match verdict {
        Saturates::Fault => Severity::Fault,
        Saturates::Caution => Severity::Caution,
        Saturates::Pass => {
            sink.pass(name, || format!("{overdrive:.1} times the base current that {collector} needs"));
            return;
        }
    };
    let limit = if severity == Severity::Fault { LEAST_OVERDRIVE } else { GOOD_OVERDRIVE };
    let can = Amps::new(hfe * base_a.get());
    let follows =
        if overdrive < 1.0 { format!(": it limits at {can} and drops the rest of the supply") } else { String::new() };
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(&Worst::at(o, overdrive))
            .says(format!(
                "{} has a base current of {base_a}, enough for {can} at minimum gain; {} draws {collector}{follows}",
                channel.words(),
                channel.behind_words()
            ))
            .judged("overdrive", Fraction::new(overdrive))
            .at_least(
                "required_overdrive",
                Fraction::new(limit),
                &Origin::Default(
                    "overdrive h_FE·I_B/I_C of 1.3 and \
                of 2",
                ),
            )
            .with("base", base_a)
            .with("collector", collector),
    );
}

/// An array's input: the voltage that its datasheet needs at the current through the channel.
fn array(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, t: &Transistor, drive: &Drive<'_>) {
    let of = |o: &Outcome| {
        let s = o.wanted.as_ref().ok()?;
        let amps = channel.amps(s).filter(|a| *a > 1e-9)?;
        let volts = drive.volts_of(channel, s)?;
        let gets = volts - base_amps(t, drive, volts).1 * drive.ohms.1;
        Some((gets, needed_at(&t.needs, amps)?, amps))
    };
    let Some((o, _)) = worst_of(context.outcomes.iter(), |o| of(o).map(|(gets, needs, _)| needs - gets)) else {
        return;
    };
    let Some((gets, needs, amps)) = of(o) else { return };
    let name = channel.name();
    let (got, wants, amps) = (Volts::new(gets), Volts::new(needs), Amps::new(amps));
    let severity = if is_below(gets, needs) {
        Severity::Fault
    } else if is_below(gets, needs * (1.0 + NEEDS_MARGIN)) {
        Severity::Caution
    } else {
        sink.pass(name, || format!("input at {got}; needs {wants} for {amps}"));
        return;
    };
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(&Worst::at(o, gets))
            .says(format!("the input of {} is at {got}; needs {wants} to switch {amps}", channel.words()))
            .judged("input", got)
            .at_least("required_input", wants, &Origin::Computed)
            .with("collector", amps),
    );
}
