//! flyback-rating: what the path of a coil's current has to carry and hold off.

use crate::derived::coils::{highest_v, most_a, switched};
use crate::derived::context::{Context, Worst};
use crate::derived::flyback_path::path_of;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::flyback::{FlyDiode, Flyback};
use crate::plan::kinds::load::Load;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Hertz, Volts};
use crate::size::flyback::SINGLE_SHARE;
use crate::solved::drivers::channel::Channel;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// Nearer than this to a maximum there is no margin.
const NEAR: f64 = 0.8;
/// Faster than this a slow diode conducts backwards for part of the period (electrical reference, "Letting go").
const SLOW_UP_TO_HZ: f64 = 1000.0;

const FOLLOWS: Origin = Origin::Default("slow rectifiers are good up to 1 kHz");

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (channel, i, load) in switched(context.plan).into_iter().filter(|(_, _, l)| l.is_winding()) {
        let Some(Flyback::Diode(diode)) = path_of(&channel, load) else { continue };
        // One that is the wrong way round carries all it can.
        if diode.reversed || channel.driver.bridge().is_some() {
            continue;
        }
        judge(context, sink, &channel, i, load, diode);
    }
}

/// A maximum and what is asked of it.
struct Limit {
    asked: f64,
    may: f64,
    at: Worst,
    text: String,
    evidence: Vec<Evidence>,
}

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, i: usize, load: &Load, diode: &FlyDiode) {
    let name = &load.name.text;
    let pwm = channel.driver.pwm.as_ref().map(|p| p.high.get());
    let mut limits: Vec<Limit> = Vec::new();
    match current(context, channel, i, load, diode) {
        Ok(limit) => limits.extend(limit),
        Err(message) => {
            sink.unknown(name, diode.span, message, "write `current` and `surge-current` of the diode, or set `part`");
            return;
        }
    }
    if let (Some(reverse), Some((at, v))) = (&diode.reverse, highest_v(context, channel)) {
        // With a Zener diode it stands in series the other way; a clamp is another check's matter.
        if !diode.at_switch {
            let (supply, may) = (Volts::new(v), reverse.low);
            limits.push(Limit {
                asked: v,
                may: may.get(),
                at,
                text: format!("blocks {supply} while `{name}` is on; rated {may}"),
                evidence: vec![Evidence::judged("blocked", supply), Evidence::at_most("reverse", may, &reverse.origin)],
            });
        }
    }
    let slow = pwm.filter(|f| *f > SLOW_UP_TO_HZ && diode.fast == Some(false));
    let worst = limits.into_iter().max_by(|a, b| (a.asked / a.may).total_cmp(&(b.asked / b.may)));
    let share = worst.as_ref().map_or(0.0, |l| l.asked / l.may.max(1e-12));
    let class =
        diode.class.as_deref().map_or_else(|| "the flyback diode".to_owned(), |c| format!("flyback diode `{c}`"));
    if let (Some(l), true) = (&worst, exceeds(share, NEAR)) {
        let severity = if share > 1.0 + 1e-9 { Severity::Danger } else { Severity::Caution };
        sink.find(
            Draft::of(severity, (name, diode.span))
                .at(&l.at)
                .says(format!("{class} of `{name}` {}", l.text))
                .facts(l.evidence.clone()),
        );
    } else if let Some(f) = slow {
        sink.find(
            Draft::caution((name, diode.span))
                .says(format!(
                    "{class} of `{name}` is a slow rectifier, switched {}: it conducts backwards for part of each \
                    cycle",
                    Hertz::new(f)
                ))
                .judged("pwm", Hertz::new(f))
                .at_most("slow_up_to", Hertz::new(SLOW_UP_TO_HZ), &FOLLOWS),
        );
    } else if let Some(l) = worst {
        sink.pass(name, || l.text);
    }
}

/// What it carries, once or over and over; an error where nothing says what it may.
fn current(
    context: &Context<'_>,
    channel: &Channel<'_>,
    i: usize,
    load: &Load,
    diode: &FlyDiode,
) -> Result<Option<Limit>, String> {
    let name = &load.name.text;
    let often = channel.driver.pwm.is_some();
    let Some((at, amps)) = most_a(context, i, |o| !often || o.case.continuous) else { return Ok(None) };
    let asked = Amps::new(amps);
    let (may, origin, when) = match (often, &diode.surge, &diode.current) {
        // At a small share of the time on it carries all but all of the current.
        (true, _, Some(f)) => (f.low.get(), &f.origin, "repetitively"),
        (false, Some(surge), f) => {
            let once = surge.low.get() * SINGLE_SHARE;
            match f.as_ref().filter(|f| f.low.get() > once) {
                Some(f) => (f.low.get(), &f.origin, "at each turn-off"),
                None => (once, &surge.origin, "at each turn-off"),
            }
        }
        (false, None, Some(f)) => (f.low.get(), &f.origin, "at each turn-off"),
        _ => {
            return Err(format!(
                "cannot check the flyback diode of `{name}` ({asked}): its current rating is not given"
            ));
        }
    };
    let may_a = Amps::new(may);
    let evidence = vec![Evidence::judged("carries", asked), Evidence::at_most("rating", may_a, origin)];
    let text = format!("carries {asked} {when}; rated {may_a}");
    Ok(Some(Limit { asked: amps, may, at, text, evidence }))
}
