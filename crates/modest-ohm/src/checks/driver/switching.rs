//! driver-switching: how much of a PWM period the edges of a MOSFET take.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::DriverKind;
use crate::plan::driver::figures::Fet;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Fraction, Hertz, Seconds};
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::drivers::drive::{drive_of, gate_volts};
use crate::solved::drivers::heat::Ends;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// Edges that take more of the period cost more than they carry; beyond half of it nothing switches (our own figures).
const CAUTION: f64 = 0.10;
const FAULT: f64 = 0.50;

/// From 90 % to 10 % of an RC: ln 9.
const RC: f64 = 2.2;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for channel in channels(context.plan) {
        let (Some(fet), Some(pwm)) = (channel.driver.fet(), &channel.driver.pwm) else { continue };
        let drive = drive_of(context.plan, channel.at.driver, channel.at.channel);
        let edges = |o: &Outcome| {
            let s = o.actual.as_ref().ok()?;
            let gate = gate_volts(&channel, drive.as_ref(), s);
            let edges = channel.switching(s, gate, Ends::Worst)?;
            Some(edges.on_s + edges.off_s.max(pulled_off_s(&channel, fet)))
        };
        let fallback = pulled_off_s(&channel, fet);
        let worst = worst_of(context.outcomes.iter(), edges);
        let (at, time) = match worst {
            Some((o, time)) => (Some(Worst::at(o, time)), time),
            None if fallback > 0.0 => (None, fallback),
            // What its edges take is part of its heat, and not known here.
            None => continue,
        };
        judge(sink, &channel, fet, time, pwm.high.get(), at.as_ref());
    }
}

/// A P-channel gate is lifted by its pull-up: 2.2·R·C.
fn pulled_off_s(channel: &Channel<'_>, fet: &Fet) -> f64 {
    if channel.driver.kind != DriverKind::Pmos {
        return 0.0;
    }
    let rc = fet.pull.as_ref().zip(fet.ciss.as_ref()).map(|(r, c)| RC * r.high.get() * c.high.get());
    rc.unwrap_or(0.0)
}

fn judge(sink: &mut Sink, channel: &Channel<'_>, _fet: &Fet, time: f64, pwm: f64, at: Option<&Worst>) {
    let name = channel.name();
    let share = time * pwm;
    let severity = if exceeds(share, FAULT) {
        Severity::Fault
    } else if exceeds(share, CAUTION) {
        Severity::Caution
    } else {
        sink.pass(name, || format!("its switching times take {} of the period", Fraction::new(share)));
        return;
    };
    let limit = if severity == Severity::Fault { FAULT } else { CAUTION };
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(at)
            .says(format!(
                "{} switches in {}, {} of the period at {}",
                channel.words(),
                Seconds::new(time),
                Fraction::new(share),
                Hertz::new(pwm)
            ))
            .judged("share", Fraction::new(share))
            .with("switching_time", Seconds::new(time))
            .at_most("limit", Fraction::new(limit), &Origin::Default("switching times of 10 % and 50 % of a period")),
    );
}
