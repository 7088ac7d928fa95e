//! driver-heat: the junction of a stage, its losses while it conducts and while it switches, for long.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::DriverKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Celsius, KelvinsPerWatt, Watts};
use crate::size::regulator::MARGIN_K;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::drivers::drive::{base_amps, drive_of, gate_volts};
use crate::solved::drivers::heat::{junction_c, junction_limit};
use crate::solved::outcome::Outcome;
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

fn watts(context: &Context<'_>, channel: &Channel<'_>, o: &Outcome) -> Option<f64> {
    let s = o.sustained.as_ref().ok()?;
    let drive = drive_of(context.plan, channel.at.driver, channel.at.channel);
    let base = channel
        .driver
        .transistor()
        .zip(drive.as_ref())
        .and_then(|(t, d)| Some(base_amps(t, d, d.volts_of(channel, s)?).1));
    let gate = gate_volts(channel, drive.as_ref(), s);
    Some(channel.heat(s, base.unwrap_or(0.0), gate)?.total())
}

const SILICON: Origin = Origin::Default("150 °C, typical of silicon");

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, together: &[&Channel<'_>]) {
    let sum = |o: &Outcome| {
        let each: Vec<f64> = together.iter().filter_map(|c| watts(context, c, o)).collect();
        (!each.is_empty()).then(|| each.iter().sum::<f64>())
    };
    let junction = |o: &Outcome| junction_c(channel, sum(o)?, o.sustained.as_ref().ok()?);
    let (name, span) = if together.len() > 1 {
        (channel.driver.name.text.as_str(), channel.driver.name.span)
    } else {
        (channel.name(), channel.span())
    };
    let words = if together.len() > 1 { format!("the {}", channel.driver.words()) } else { channel.words() };
    let Some((o, tj)) = worst_of(context.continuous(), junction) else {
        let Some((_, most)) = worst_of(context.continuous(), sum) else { return };
        if most <= SHEDS_W {
            sink.pass(name, format!("{} in it, which any package sheds", Watts::new(most)));
        } else {
            let message = format!("{words} turns {} into heat; how that leaves it is not given", Watts::new(most));
            let cure = "give `theta`, junction to ambient, or `theta-case` and `sink`; or name its class with `part`";
            sink.unknown(name, span, message, cure);
        }
        return;
    };
    let limit = junction_limit(channel.driver);
    let loss = Watts::new(sum(o).unwrap_or(0.0));
    let (warm, most) = (Celsius::new(tj), Celsius::new(limit));
    let severity = if tj > limit {
        Severity::Danger
    } else if tj > limit - MARGIN_K {
        Severity::Caution
    } else {
        if context.all_sustained() {
            sink.pass(name, format!("{warm} of {most} at {loss}"));
        }
        return;
    };
    sink.find(
        Draft::of(severity, (name, span))
            .at(&Worst::at(o, tj))
            .says(format!("{words} turns {loss} into heat and gets {warm} warm, where {most} is its limit"))
            .judged("junction", warm)
            .at_most("limit", most, channel.driver.heat.most.as_ref().map_or(&SILICON, |m| &m.origin))
            .with("loss", loss)
            .cures(cures(channel, o, loss)),
    );
}

/// What lets the heat out, and what makes less of it.
fn cures(channel: &Channel<'_>, o: &Outcome, loss: Watts) -> Vec<String> {
    let limit = junction_limit(channel.driver);
    let air = o.sustained.as_ref().ok().and_then(|s| junction_c(channel, 0.0, s)).unwrap_or(0.0);
    let wants = KelvinsPerWatt::new(((limit - MARGIN_K - air) / loss.get().max(1e-9)).max(0.0));
    let mut cures = vec![match &channel.driver.heat.case {
        Some(case) if wants.get() > case.high.get() => {
            let sink_theta = KelvinsPerWatt::new(wants.get() - case.high.get());
            format!("a heat sink of {sink_theta} or less on it: `sink = \"{sink_theta}\"`")
        }
        _ => format!("let its heat leave by {wants} or less, junction to air"),
    }];
    cures.push(match channel.driver.kind {
        DriverKind::Npn | DriverKind::Darlington => "or take a MOSFET, which drops less".into(),
        DriverKind::Bridge => "or take a bridge of the MOSFET kind, which drops less".into(),
        _ => "or take one with less resistance, or switch it less often".to_owned(),
    });
    cures
}
