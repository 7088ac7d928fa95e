//! bus-pull-ups: the pull-ups of an I²C bus (I²C-bus specification, section 7.1), their voltage, and its addresses.

use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::bus::{Bus, BusKind, Sensor};
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Ohms, Volts};
use crate::size::pull::{BusPull, BusPullRange, bus_pull};
use crate::solved::pulls::volts_of;
use crate::tables::input::ABOVE_V;
use crate::topology::buses::{PullUp, board_of, logic_node, pulls};
use crate::verdict::compare::{at_most, exceeds, is_below};
use crate::verdict::severity::Severity;

/// What an output of the bus sinks while it holds its low of 0.4 V.
pub(crate) const SINK_A: f64 = 3e-3;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, bus) in plan.buses.iter().enumerate().filter(|(_, b)| b.kind == BusKind::I2c) {
        let members: Vec<&Sensor> = plan.sensors.iter().filter(|s| s.bus.1 == i).collect();
        addresses(sink, bus, &members);
        volts(context, sink, i, bus, &members);
        ohms(context, sink, i, bus, &members);
    }
}

fn addresses(sink: &mut Sink, bus: &Bus, members: &[&Sensor]) {
    for (n, member) in members.iter().enumerate() {
        let name = &member.name.text;
        let Some((address, span)) = member.address else {
            if members.len() > 1 {
                sink.unknown(
                    name,
                    member.name.span,
                    format!(
                        "cannot check `{name}` on `{}` for equal addresses: its address is not given",
                        bus.name.text
                    ),
                    "write it: `address = \"0x76\"`",
                );
            }
            continue;
        };
        let same = members[..n].iter().find(|m| m.address.is_some_and(|(a, _)| a == address));
        let Some(other) = same else {
            sink.pass(name, || format!("no other part has address 0x{address:02x}"));
            continue;
        };
        sink.find(
            Draft::fault((name, span))
                .says(format!(
                    "`{name}` and `{}` have the same address 0x{address:02x} on `{}`",
                    other.name.text, bus.name.text
                ))
                .task("change one with its address pins or solder jumper, if its datasheet gives a second address"),
        );
    }
}

/// A pin's protection conducts from here on, V, and so much through it is harmless continuously, A (typical).
const PROTECTION_V: f64 = 0.6;
const HARMLESS_A: f64 = 1e-3;

/// A pull-up that lifts a line beyond what a member withstands.
struct Pulled {
    over: f64,
    v: f64,
    stands: f64,
    of: String,
    who: String,
    at: Worst,
    /// What flows through its protection, A, where only that bounds it.
    through: Option<f64>,
}

/// Every pull-up's rail against the lowest supply of the members.
fn volts(context: &Context<'_>, sink: &mut Sink, index: usize, bus: &Bus, members: &[&Sensor]) {
    let (plan, _layout) = (context.plan, context.layout);
    let Some(board) = board_of(plan, index) else { return };
    let pulls = pulls(plan, index, bus.lines.first().map(|(_, p)| &p.at));
    let mut worst: Option<Pulled> = None;
    for o in context.outcomes {
        let Ok(s) = o.actual.as_ref() else { continue };
        let node = |id: NodeId| s.volts_at(id);
        // The board, and every member with what its pins stand.
        let pins = &plan.boards[board].pins;
        let own = logic_node(plan, board).and_then(node).map(|v| {
            let stated = pins.volts.as_ref().map(|f| f.low.get());
            (plan.boards[board].name.text.clone(), stated.unwrap_or(v + ABOVE_V), stated.is_none().then_some(v))
        });
        let theirs = members.iter().filter_map(|m| {
            let v = node(plan.loads[m.load].feed.from.id)?;
            let stated = m.volts.as_ref().map(|f| f.low.get());
            Some((m.name.text.clone(), stated.unwrap_or(v + ABOVE_V), stated.is_none().then_some(v)))
        });
        let lowest = own.into_iter().chain(theirs).reduce(|a, b| if b.1 < a.1 { b } else { a });
        let Some((who, stands, rail)) = lowest else { continue };
        for pull in &pulls {
            let Some(v) = volts_of(pull, s) else { continue };
            if worst.as_ref().is_none_or(|w| v - stands > w.over + 1e-9) {
                // Through its protection into its own rail.
                let through = rail.map(|rail| (v - rail - PROTECTION_V).max(0.0) / pull.ohms.low.get().max(1.0));
                let (of, who) = (pull.of.clone(), who.clone());
                worst = Some(Pulled { over: v - stands, v, stands, of, who, at: Worst::at(o, v), through });
            }
        }
    }
    let Some(Pulled { over, v, stands, of, who, at, through }) = worst else { return };
    if over <= 1e-9 {
        sink.pass(&bus.name.text, || format!("its pull-ups reach {}", Volts::new(v)));
        return;
    }
    let little = through.is_some_and(|amps| at_most(amps, HARMLESS_A));
    let flows =
        through.map_or_else(String::new, |amps| format!("; {} flows through its protection diodes", Amps::new(amps)));
    sink.find(
        Draft::of(if little { Severity::Caution } else { Severity::Fault }, &bus.name)
            .at(&at)
            .says(format!(
                "`{of}` pulls `{}` up to {}; `{who}` withstands {}{flows}",
                bus.name.text,
                Volts::new(v),
                Volts::new(stands)
            ))
            .judged("pulled_to", Volts::new(v))
            .at_most("rating", Volts::new(stands), &Origin::Computed),
    );
}

/// All pull-ups in parallel, between what an output can sink and what the rise time allows.
fn ohms(context: &Context<'_>, sink: &mut Sink, index: usize, bus: &Bus, members: &[&Sensor]) {
    let plan = context.plan;
    let name = &bus.name.text;
    // Of both lines that with fewer pull-ups is the slower one, and the other sinks more; boards have them on both.
    let lines: Vec<Vec<PullUp<'_>>> = bus.lines.iter().map(|(_, p)| pulls(plan, index, Some(&p.at))).collect();
    let Some(weakest) = lines.iter().min_by_key(|l| l.len()) else { return };
    if weakest.is_empty() {
        sink.find(
            Draft::fault(&bus.name)
                .says(format!("`{name}` has no pull-up resistors, neither on the bus nor on a module")),
        );
        return;
    }
    let parallel =
        |end: fn(&PullUp<'_>) -> f64, line: &[PullUp<'_>]| 1.0 / line.iter().map(|p| 1.0 / end(p)).sum::<f64>();
    let strongest = lines.iter().map(|l| parallel(|p| p.ohms.low.get(), l)).fold(f64::INFINITY, f64::min);
    let weakest = lines.iter().map(|l| parallel(|p| p.ohms.high.get(), l)).fold(0.0, f64::max);
    let rail = context
        .outcomes
        .iter()
        .filter_map(|o| o.actual.as_ref().ok())
        .flat_map(|s| lines.iter().flatten().filter_map(move |p| volts_of(p, s)));
    let Some(vdd) = rail.reduce(f64::max) else { return };
    let capacitance = bus.capacitance.clone();
    let length = bus.length.as_ref();
    let range = bus_pull(&BusPull {
        rail: Volts::new(vdd),
        speed: bus.speed.high,
        devices: members.len() + 1,
        length: length.map_or(crate::quantity::units::Metres::new(0.0), |l| l.high),
        capacitance: capacitance.as_ref().map(|c| c.high),
    });
    if is_below(strongest, range.least.get()) {
        sink.find(too_strong(bus, vdd, strongest, &range));
        return;
    }
    let (text, unknown_length) = (Ohms::new(weakest), length.is_none() && capacitance.is_none());
    if exceeds(weakest, range.most.get()) {
        sink.find(too_weak(bus, weakest, &range));
    } else if unknown_length {
        sink.unknown(
            name,
            bus.name.span,
            format!("cannot check the rise time of `{name}` (pull-ups {text}): its length is not given"),
            "write the length of all its cables together: `length = \"0.4 m\"`, or `capacitance`",
        );
    } else {
        sink.pass(name, || format!("{text} of {} .. {}", range.least, range.most));
    }
}

fn too_strong(bus: &Bus, vdd: f64, strongest: f64, range: &BusPullRange) -> Draft {
    let name = &bus.name.text;
    let amps = Amps::new((vdd - 0.4) / strongest);
    Draft::fault(&bus.name)
        .says(format!(
            "pull-ups on `{name}` are too strong: {} in parallel needs {amps} to pull low; rated {}",
            Ohms::new(strongest),
            Amps::new(SINK_A)
        ))
        .judged("parallel", Ohms::new(strongest))
        .at_least("minimum", range.least, &Origin::Default("3 mA at 0.4 V (I²C-bus specification)"))
}

fn too_weak(bus: &Bus, weakest: f64, range: &BusPullRange) -> Draft {
    let (name, text) = (&bus.name.text, Ohms::new(weakest));
    let severity = if weakest > 2.0 * range.most.get() { Severity::Fault } else { Severity::Caution };
    Draft::of(severity, &bus.name)
        .says(format!(
            "pull-ups on `{name}` are too weak: {text} rises too slowly for {}; {} or less required",
            bus.speed.high, range.most
        ))
        .judged("parallel", text)
        .at_most("maximum", range.most, &bus.speed.origin)
        .with("capacitance", range.capacitance)
}
