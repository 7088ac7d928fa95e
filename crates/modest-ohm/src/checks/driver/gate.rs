//! gate-drive, gate-overvoltage and gate-floating: what a gate gets, stands, and where it is while nobody drives it.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::finding::Finding;
use crate::findings::sink::Sink;
use crate::plan::driver::DriverKind;
use crate::plan::driver::channels::Enable;
use crate::plan::driver::figures::{Fet, GateDriver};
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::pins::{AtBoot, Level};
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::figure::Figure;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::size::gate::{GateNeed, GateVerdict, gate};
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::drivers::drive::{Drive, drive_of, gate_volts, most_gate_volts};
use crate::solved::outcome::Outcome;
use crate::topology::rail::way_up;
use crate::verdict::compare::{at_most, exceeds, is_below};
use crate::verdict::severity::Severity;

fn fets<'p>(plan: &'p Plan) -> impl Iterator<Item = (Channel<'p>, &'p Fet, Option<Drive<'p>>)> {
    channels(plan).into_iter().filter_map(|c| {
        let fet = c.driver.fet()?;
        Some((c, fet, drive_of(c.plan, c.at.driver, c.at.channel)))
    })
}

pub(crate) fn drive(context: &Context<'_>, sink: &mut Sink) {
    for (channel, fet, drive) in fets(context.plan) {
        if channel.driver.kind == DriverKind::Pmos && !turns_off(context, sink, &channel, fet, drive.as_ref()) {
            continue;
        }
        let name = channel.name();
        if matches!(fet.gate, GateDriver::Pin) && channel.driver.kind != DriverKind::Pmos && drive.is_none() {
            let message = format!("cannot check the gate voltage of {}: no pin drives it", channel.words());
            sink.unknown(name, channel.span(), message, "name its pin: `pin = \"keeper.io32\"`");
            continue;
        }
        let Some(specified) = &fet.specified else {
            let message =
                format!("cannot check {}: the gate voltage of its on-resistance is not given", channel.words());
            let task = "write the datasheet value, `rds-on-at = \"4.5 V\"`, or set `part`";
            sink.unknown(name, channel.span(), message, task);
            continue;
        };
        on(context, sink, &channel, fet, drive.as_ref(), specified);
    }
}

fn on(
    context: &Context<'_>,
    sink: &mut Sink,
    channel: &Channel<'_>,
    fet: &Fet,
    drive: Option<&Drive<'_>>,
    specified: &Figure<Volts>,
) {
    let name = channel.name();
    // Of a board whose supply has collapsed another check speaks: what its pins give with all limits lifted counts.
    let gets = |o: &Outcome| gate_volts(channel, drive, o.wanted.as_ref().ok()?);
    let Some((o, least)) = worst_of(context.outcomes.iter(), |o| gets(o).map(|v| -v)) else { return };
    let volts = Volts::new(-least);
    let flows = |o: &Outcome| channel.amps(o.wanted.as_ref().ok()?);
    let amps = worst_of(context.outcomes.iter(), flows).map_or(0.0, |(_, a)| a);
    let need = GateNeed {
        volts,
        specified: specified.low,
        threshold: fet.threshold.as_ref().map(|t| t.high),
        current: Amps::new(amps),
        rating: channel.driver.current.as_ref().map(|c| c.low),
    };
    let severity = match gate(&need) {
        GateVerdict::Pass => {
            if context.all_sustained() {
                sink.pass(name, || format!("gate voltage {volts}; on-resistance specified at {}", specified.low));
            }
            return;
        }
        GateVerdict::Caution => Severity::Caution,
        GateVerdict::Fault => Severity::Fault,
    };
    let from = drive
        .map_or_else(|| "gate voltage is".to_owned(), |d| format!("gate voltage from {} is", d.words(context.plan)));
    let opens = fet.threshold.as_ref().map_or_else(String::new, |t| format!(", threshold up to {}", t.high));
    if !channel.is_low_side() && channel.driver.kind == DriverKind::Nmos {
        sink.find(high_side(channel, volts, specified).at(&context.worst_at(o, volts.get(), gets)));
        return;
    }
    let mut evidence = vec![
        Evidence::judged("gate", volts),
        Evidence::at_least("specified", specified.low, &specified.origin),
        Evidence::computed("carries", Amps::new(amps)),
    ];
    evidence.extend(fet.threshold.as_ref().map(|t| Evidence::context("threshold", t.high, &t.origin)));
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(&context.worst_at(o, volts.get(), gets))
            .says(format!(
                "{0} may not turn on fully at {2}: {from} {volts}, on-resistance specified at {1}{opens}",
                channel.words(),
                specified.low,
                Amps::new(amps)
            ))
            .facts(evidence),
    );
}

/// An N-channel MOSFET whose source rises to the rail as it turns on.
fn high_side(channel: &Channel<'_>, volts: Volts, specified: &Figure<Volts>) -> Draft {
    Draft::fault((channel.name(), channel.span()))
        .says(format!(
            "{} is an N-channel MOSFET on the high side: its source rises to the rail, so its gate voltage is {volts}; \
            on-resistance specified at {}",
            channel.words(),
            specified.low
        ))
        .judged("gate", volts)
        .at_least("specified", specified.low, &specified.origin)
}

/// A P-channel gate on a pin stays at the pin's voltage when it is to be off: V_GS is what the rail has above them.
fn turns_off(
    context: &Context<'_>,
    sink: &mut Sink,
    channel: &Channel<'_>,
    fet: &Fet,
    drive: Option<&Drive<'_>>,
) -> bool {
    let name = channel.name();
    let (message, evidence, at) = match &fet.gate {
        GateDriver::Pin => {
            let Some(drive) = drive else { return true };
            let left = |o: &Outcome| {
                let s = o.actual.as_ref().ok()?;
                Some(channel.holds_v(s)? - drive.volts(context.plan, s)?)
            };
            let Some((o, most)) = worst_of(context.outcomes.iter(), left) else { return true };
            let Some(threshold) = &fet.threshold else {
                let message = format!(
                    "cannot check {}: its threshold is not given, so its pin may not turn it off",
                    channel.words()
                );
                sink.unknown(name, channel.span(), message, "write `threshold`, or set `part`");
                return false;
            };
            if is_below(most, threshold.low.get()) {
                return true;
            }
            let (left, opens) = (Volts::new(most), threshold.low);
            let message = format!(
                "{} is on the high side, driven by {}: with the pin high, {left} remains at its gate; it may conduct \
                from {opens}",
                channel.words(),
                drive.words(context.plan)
            );
            let evidence =
                vec![Evidence::judged("left", left), Evidence::context("threshold", opens, &threshold.origin)];
            (message, evidence, Some(Worst::at(o, most)))
        }
        _ if fet.pull.is_none() => {
            let message = format!("{} has no gate pull-up: it never turns off", channel.words());
            (message, Vec::new(), None)
        }
        _ => return true,
    };
    sink.find(Draft::fault((name, channel.span())).at(at.as_ref()).says(message).facts(evidence));
    false
}

pub(crate) fn over(context: &Context<'_>, sink: &mut Sink) {
    guards(context, sink);
    for (channel, fet, drive) in fets(context.plan) {
        let Some(most) = &fet.gate_max else { continue };
        let gets = |o: &Outcome| most_gate_volts(&channel, drive.as_ref(), o.actual.as_ref().ok()?);
        let Some((o, volts)) = worst_of(context.outcomes.iter(), gets) else { continue };
        let (name, got) = (channel.name(), Volts::new(volts));
        // A clamp that only some boards of its class have.
        let differs = fet.clamp.as_ref().is_some_and(|c| c.origin.is_assumed() && at_most(c.low.get(), most.low.get()));
        if at_most(volts, most.low.get()) {
            if context.all_actual() {
                sink.pass(name, || format!("gate voltage {got} of {}", most.low));
            }
            continue;
        }
        sink.find(
            Draft::of(if differs { Severity::Caution } else { Severity::Danger }, (name, channel.span()))
                .at(&Worst::at(o, volts))
                .says(if differs {
                    format!(
                        "the gate of {} may reach {got}; rated {}. Boards differ in whether they limit it",
                        channel.words(),
                        most.low
                    )
                } else {
                    format!("the gate of {} is at {got}; rated {}", channel.words(), most.low)
                })
                .judged("gate", got)
                .at_most("rating", most.low, &most.origin)
                .tasks(
                    differs.then(|| "look up in its datasheet how it limits its gate, and write `gate-clamp`".into()),
                ),
        );
    }
}

/// The suppressed load dump that a vehicle's gate meets where no clamp stands before it, V (ISO 16750-2).
const DUMP_V: [f64; 2] = [35.0, 58.0];

/// The gate of a P-channel MOSFET against reversed polarity lies at −: it gets the whole rail.
pub(crate) fn guards(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for branch in &plan.branches {
        let Some(diode) = branch.diode().filter(|d| d.fet && !d.reversed) else { continue };
        let Some(most) = &diode.gate.most else { continue };
        let Some(rail) = context.worst_actual(|_| true, |_, s| s.volts_at(branch.feed.from.id)) else { continue };
        let clamp = diode.gate.clamp.as_ref().map_or(f64::INFINITY, |c| c.high.get());
        let steady = Volts::new(rail.value.min(clamp));
        let dump = dump_v(plan, branch.feed.from.id).map(|v| Volts::new(v.min(clamp)));
        let name = &branch.name.text;
        let (severity, gets, limit, why) = if exceeds(steady.get(), most.low.get()) {
            (Severity::Danger, steady, most.low, "the gate oxide breaks down and the MOSFET stays on")
        } else if exceeds(steady.get(), MARGIN * most.low.get()) {
            (Severity::Caution, steady, most.low * MARGIN, "no margin is left")
        } else if let Some(dump) = dump.filter(|d| exceeds(d.get(), most.low.get())) {
            (Severity::Caution, dump, most.low, "a load dump is enough")
        } else {
            sink.pass(name, || format!("gate voltage {steady} of {}", most.low));
            continue;
        };
        sink.find(
            Draft::of(severity, &branch.name)
                .at(&rail)
                .says(format!("the gate of `{name}` is at {gets}; rated {}: {why}", most.low))
                .judged("gate", gets)
                .at_most("rating", limit, &most.origin),
        );
    }
}

/// Four fifths of a gate's maximum are used (typical practice).
const MARGIN: f64 = 0.8;

/// The load dump at a node that a vehicle feeds and no clamp protects.
fn dump_v(plan: &Plan, node: NodeId) -> Option<f64> {
    let path = way_up(plan, node);
    let NodeKind::Supply(i) = plan.nodes[path.last()?.0].kind else { return None };
    let SupplyKind::Vehicle { volts } = plan.supplies[i].kind else { return None };
    let clamped = plan.clamps.iter().any(|c| !c.diode.reversed && path.contains(&c.across.id));
    (!clamped).then_some(DUMP_V[usize::from(volts == 24)])
}

/// What the board or the stage does to a pin while nobody drives it.
fn held_low(plan: &Plan, pin: &PinAt) -> bool {
    let board = &plan.boards[pin.board];
    let listed = pin.index.and_then(|i| board.pins.list.get(i));
    listed.is_some_and(|p| p.boot == AtBoot::At(Level::Low) || p.pull_down.is_some())
}

pub(crate) fn floating(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (channel, fet, drive) in fets(plan) {
        // What a transistor drives, or an optocoupler, is off without it; a P-channel gate needs its pull-up anyhow.
        if !matches!(fet.gate, GateDriver::Pin) || channel.driver.kind == DriverKind::Pmos {
            continue;
        }
        let through = !channel.driver.line.through.is_empty();
        let held = drive.as_ref().and_then(|d| d.hop.pins.0).is_some_and(|p| held_low(plan, p)) && !through;
        let what = format!("the gate of {}", channel.words());
        judge(sink, channel.name(), channel.span(), &what, fet.pull.is_some() || held);
    }
    for driver in &plan.drivers {
        let Some(bridge) = driver.bridge() else { continue };
        for channel in &driver.channels {
            let Enable::Pin(pin) = &channel.enable else { continue };
            let held = bridge.enable_pull.is_some() || held_low(plan, &pin.at);
            judge(sink, &channel.name, channel.span, &format!("the enable of bridge `{}`", channel.name), held);
        }
    }
}

fn judge(sink: &mut Sink, name: &str, span: crate::source::Span, what: &str, held: bool) {
    if held {
        sink.pass(name, || "held off while no pin drives it".into());
        return;
    }
    sink.find(
        Draft::caution((name, span))
            .says(format!("{what} has no pull-down: until the firmware drives its pin it may turn on, or partly on"))
            .given("pull", crate::quantity::units::Ohms::new(10e3), &Origin::Default("10 kΩ .. 100 kΩ (typical)")),
    );
}

/// A P-channel stage with a driver between its gate and the pin: its pull-up no longer lifts the pin.
pub(crate) fn between(plan: &mut Plan, finding: &Finding) -> bool {
    let own = plan.branches.iter().position(|b| b.name.text == finding.subject);
    let driver = own.and_then(|run| plan.stage_of_run(run)).map(|(driver, _)| driver.name.text.clone());
    let driver = plan.drivers.iter_mut().find(|d| Some(&d.name.text) == driver.as_ref());
    match driver.and_then(|d| if d.kind == DriverKind::Pmos { d.fet_mut() } else { None }) {
        Some(fet) if matches!(fet.gate, GateDriver::Pin) => {
            fet.gate = GateDriver::Rail;
            true
        }
        _ => false,
    }
}
