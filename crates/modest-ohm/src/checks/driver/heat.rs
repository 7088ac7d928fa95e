//! driver-heat: the junction of a stage, its losses while it conducts and while it switches, continuously.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::{Celsius, Watts};
use crate::size::regulator::MARGIN_K;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::drivers::drive::{base_amps, drive_of, gate_volts};
use crate::solved::drivers::heat::{Ends, junction_c, junction_limit};
use crate::solved::outcome::Outcome;
use crate::source::Span;
use crate::verdict::severity::Severity;

/// What every package sheds without getting warm (our own figure; the smallest leads away 2 mW/K).
const SHEDS_W: f64 = 0.25;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let all = channels(context.plan);
    let mut shared: Vec<usize> = Vec::new();
    for channel in all.iter().filter(|c| !c.driver.kind.is_contact()) {
        // Channels of one package warm each other.
        let together: Vec<&Channel<'_>> = if channel.driver.heat.shared {
            if shared.contains(&channel.at.driver) {
                continue;
            }
            shared.push(channel.at.driver);
            all.iter().filter(|c| c.at.driver == channel.at.driver).collect()
        } else {
            vec![channel]
        };
        judge(context, sink, channel, &together);
    }
}

fn watts(context: &Context<'_>, channel: &Channel<'_>, o: &Outcome, ends: Ends) -> Option<f64> {
    let s = o.sustained.as_ref().ok()?;
    let drive = drive_of(context.plan, channel.at.driver, channel.at.channel);
    let base = channel
        .driver
        .transistor()
        .zip(drive.as_ref())
        .and_then(|(t, d)| Some(base_amps(t, d, d.volts_of(channel, s)?).1));
    let gate = gate_volts(channel, drive.as_ref(), s);
    Some(channel.heat(s, base.unwrap_or(0.0), gate, ends)?.total())
}

const SILICON: Origin = Origin::Default("150 °C, typical of silicon");

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, together: &[&Channel<'_>]) {
    let sum_with = |o: &Outcome, ends: Ends| {
        let each: Vec<f64> = together.iter().filter_map(|c| watts(context, c, o, ends)).collect();
        (!each.is_empty()).then(|| each.iter().sum::<f64>())
    };
    let sum = |o: &Outcome| sum_with(o, Ends::Worst);
    let junction = |o: &Outcome| junction_c(channel, sum(o)?, o.sustained.as_ref().ok()?, Ends::Worst);
    let typical = context.continuous().filter(|o| o.corner == Corner::Typical);
    let nominal = typical
        .filter_map(|o| junction_c(channel, sum_with(o, Ends::Nominal)?, o.sustained.as_ref().ok()?, Ends::Nominal))
        .reduce(f64::max);
    let (name, span) = if together.len() > 1 {
        (channel.driver.name.text.as_str(), channel.driver.name.span)
    } else {
        (channel.name(), channel.span())
    };
    let words = if together.len() > 1 { format!("the {}", channel.driver.words()) } else { channel.words() };
    let Some((o, tj)) = worst_of(context.continuous(), junction) else {
        let Some((_, most)) = worst_of(context.continuous(), sum) else { return };
        if most <= SHEDS_W {
            sink.pass(name, || format!("{} dissipated, within any package's rating", Watts::new(most)));
        } else {
            let message = format!("cannot check {words} ({}): its thermal resistance is not given", Watts::new(most));
            let task = "write `theta-ja`, junction to ambient, or `theta-jc` and `heatsink`; or set `part`";
            sink.unknown(name, span, message, task);
        }
        return;
    };
    let limit = junction_limit(channel.driver);
    let loss = Watts::new(sum(o).unwrap_or(0.0));
    let (warm, most) = (Celsius::new(tj), Celsius::new(limit));
    if unknown_edges(context, sink, channel, (name, span)) {
        return;
    }
    // What rests on figures of a class is a danger where a usual part of it gets too warm; a stated one where the worst
    // does.
    let stated = channel.driver.heat.theta.as_ref().is_some_and(|t| !t.origin.is_assumed());
    let decides = if stated { tj } else { nominal.unwrap_or(tj) };
    let severity = if decides > limit {
        Severity::Danger
    } else if tj > limit - MARGIN_K {
        Severity::Caution
    } else {
        if context.all_sustained() {
            sink.pass(name, || format!("{warm} of {most} at {loss}"));
        }
        return;
    };
    sink.find(
        Draft::of(severity, (name, span))
            .at(&Worst::at(o, tj))
            .says(format!(
                "{words} dissipates {loss}: junction {warm} at worst{}; limit {most}",
                nominal.map_or_else(String::new, |t| format!(" ({} nominal)", Celsius::new(t)))
            ))
            .judged("junction", warm)
            .at_most("limit", most, channel.driver.heat.most.as_ref().map_or(&SILICON, |m| &m.origin))
            .with("loss", loss)
            .facts(nominal.map(|t| Evidence::computed("nominal", Celsius::new(t)))),
    );
}

/// From here on edges that are not known can decide.
const OFTEN_HZ: f64 = 200.0;
const MUCH_A: f64 = 1.0;

/// A stage that PWM switches and whose edges nothing says: what they cost is not known.
fn unknown_edges(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, (name, span): (&str, Span)) -> bool {
    let driver = channel.driver;
    let often = driver.pwm.as_ref().is_some_and(|f| f.high.get() >= OFTEN_HZ);
    let known = driver.edge.is_some() || driver.fet().is_some_and(|f| f.qgd.is_some() && f.plateau.is_some());
    let amps = |o: &Outcome| channel.amps(o.sustained.as_ref().ok()?);
    let most = worst_of(context.continuous(), amps).map_or(0.0, |(_, a)| a);
    // Transistors and arrays switch within microseconds; nothing of that is worth asking.
    if !often || known || driver.transistor().is_some() || most < MUCH_A {
        return false;
    }
    let message = format!(
        "cannot check the switching loss of {} ({} by PWM): its switching time is not given",
        channel.words(),
        crate::quantity::units::Amps::new(most)
    );
    sink.unknown(
        name,
        span,
        message,
        "write `edge`, turn-on and turn-off together, or `gate-charge` and `plateau` \
        of its MOSFET",
    );
    true
}
