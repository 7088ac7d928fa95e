//! powered-through-signal: a sender that is on drives the input of a part that is off.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Input;
use crate::plan::kinds::load::{Demand, Nature};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::input_source::{Does, Front};
use crate::solved::levels::{levels, supplied};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::tables::input::{CAUTION_A, FAULT_A, PROTECTION_V};
use crate::topology::signals::{End, Hop, hops};
use crate::verdict::severity::Severity;

/// Of a sender whose class does not say: the electrical reference's classes have 33 Ω .. 100 Ω.
const SENDER_OHMS: f64 = 33.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    // What has no supply of its own cannot be fed through its input.
    let feeds = |to: End| !matches!(to, End::Driver(d, _) if context.plan.drivers[d].load.is_none());
    // An optocoupler's input is an LED of its own, and feeds nothing; whether what the plan does not show is on is not
    // known.
    let judged = |h: &Hop<'_>| h.opto(context.plan).is_none() && !matches!(h.to, End::Outside(_)) && feeds(h.to);
    let mut found: Vec<(String, Vec<NodeId>, Found)> = Vec::new();
    for hop in hops(context.plan).into_iter().filter(judged) {
        let Some(new) = judge(context, sink, &hop) else { continue };
        // Several lines from one sender to one dead rail are one mistake.
        let sender = hop.names.0.split('.').next().unwrap_or_default().to_owned();
        let rail = hop.to.hangs_on(context.plan);
        match found.iter_mut().find(|(from, to, _)| *from == sender && *to == rail) {
            Some((_, _, head)) => head.join(new),
            None => found.push((sender, rail, new)),
        }
    }
    for (_, _, Found { draft, others, .. }) in found {
        sink.find(draft.also_on(others.iter().map(|(name, severity)| (name.as_str(), *severity))));
    }
    for input in context.plan.inputs.iter().filter(|i| i.pin.at.board < context.plan.boards.len()) {
        arriving(context, sink, input);
    }
}

/// What drives an input, and goes on while the board that reads it is off.
fn arriving(context: &Context<'_>, sink: &mut Sink, input: &Input) {
    let front = Front { plan: context.plan, layout: context.layout, input };
    let drivers = front.drivers();
    let name = &input.name.text;
    let driven = |s: &Snapshot| {
        drivers.iter().any(|id| s.solution.alive[context.layout.nodes[id.0].plus])
            && [Does::On, Does::Off].iter().any(|does| front.dead_rail_a(*does, s).is_some())
    };
    let all = || context.outcomes.iter().chain(context.programming).filter_map(|o| Some((o, o.actual.as_ref().ok()?)));
    let declared = all().find_map(|(o, s)| {
        let off = front.vdd(s).is_none_or(|v| v < OFF_V);
        (driven(s) && off).then(|| (s, format!("in scenario `{}`", o.case.scenario)))
    });
    let state = declared.or_else(|| {
        let (_, s) = all().find(|(_, s)| driven(s))?;
        let board = End::Pin(front.board()).hangs_on(context.plan);
        Some((s, possible(context.plan, &drivers, &board)?))
    });
    let Some((s, when)) = state else {
        sink.pass(name, || "its driver is powered together with its board".into());
        return;
    };
    let amps = [Does::On, Does::Off].iter().filter_map(|does| front.dead_rail_a(*does, s)).fold(0.0, f64::max);
    let (pin, amps) = (context.plan.pin_words(&input.pin.at), Amps::new(amps));
    let Some(severity) = severity(amps, &when) else {
        sink.pass(name, || format!("{amps} into {pin} while its board is off"));
        return;
    };
    sink.find(
        Draft::of(severity, &input.name)
            .says(format!(
                "{when} the driver of `{name}` is on and the board of {pin} is off: {amps} flows into its input; \
                rated {}",
                Amps::new(CAUTION_A)
            ))
            .facts(evidence(amps)),
    );
}

/// Less is off.
const OFF_V: f64 = 0.5;

fn severity(amps: Amps, when: &str) -> Option<Severity> {
    // That one of two supplies is off is possible, not planned.
    let is_supply = when.starts_with("while");
    if amps.get() > FAULT_A && !is_supply {
        Some(Severity::Fault)
    } else if amps.get() > CAUTION_A {
        Some(Severity::Caution)
    } else {
        None
    }
}

fn evidence(amps: Amps) -> Vec<Evidence> {
    let limit = Origin::Default("1 mA through an input's protection diode is harmless");
    vec![Evidence::judged("through", amps), Evidence::at_most("limit", Amps::new(CAUTION_A), &limit)]
}

/// The worst of the lines from one sender to one dead rail.
struct Found {
    subject: String,
    amps: f64,
    severity: Severity,
    draft: Draft,
    others: Vec<(String, Severity)>,
}

impl Found {
    fn join(&mut self, mut other: Found) {
        if other.amps > self.amps {
            std::mem::swap(self, &mut other);
            self.others.append(&mut other.others);
        }
        if self.subject != other.subject && !self.others.iter().any(|(name, _)| *name == other.subject) {
            self.others.push((other.subject, other.severity));
        }
    }
}

/// What a dead part takes through an input at its rail, S: what it takes at rest over the least voltage that it works
/// at. Where nothing says, 10 mS; a pixel takes 1 mA from 1.5 V on (typical).
fn dead_siemens(plan: &Plan, to: End) -> f64 {
    const UNKNOWN_S: f64 = 0.01;
    let over = |amps: f64, volts: Option<f64>| volts.filter(|v| *v > 0.0).map_or(UNKNOWN_S, |v| amps / v);
    match to {
        End::Pin(c) => {
            let board = &plan.boards[c];
            let least = board.brown_out.as_ref().map(|v| v.typical.get());
            over(board.mean.typical.get(), least.or(board.recommended.as_ref().map(|r| r.low.get())))
        }
        End::Shifter(s, _) => {
            let shifter = &plan.shifters[s];
            over(shifter.current.typical.get(), shifter.recommended.as_ref().map(|r| r.low.get()))
        }
        End::Strip(s) => plan.strips[s].pixels as f64 * 1e-3 / 1.5,
        End::Load(l, _) => match &plan.loads[l].demand {
            Demand::Current(states) => {
                let least = plan.loads[l].minimum.as_ref().or(plan.loads[l].recommended.as_ref());
                states.idle.as_ref().map_or(UNKNOWN_S, |idle| over(idle.typical.get(), least.map(|f| f.low.get())))
            }
            _ => UNKNOWN_S,
        },
        End::Driver(..) | End::Outside(_) => UNKNOWN_S,
    }
}

/// A bridge's inputs stand 6 .. 7 V whatever its supplies are, behind a pull-down of 100 kΩ and more: they feed
/// nothing.
fn partial_power_down(plan: &Plan, to: End) -> bool {
    match to {
        End::Shifter(i, _) => plan.shifters[i].partial_power_down,
        End::Driver(d, _) => plan.drivers[d].bridge().is_some(),
        _ => false,
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>) -> Option<Found> {
    let plan = context.plan;
    let (name, span) = hop.item(plan);
    if partial_power_down(plan, hop.to) {
        sink.pass(name, || format!("`{}` draws nothing while it is off", hop.names.1));
        return None;
    }
    let vdd = |o: &Outcome, end: End, receiver: bool| {
        let s = o.actual.as_ref().ok()?;
        supplied(plan, end, receiver, s)
    };
    let all = || context.outcomes.iter().chain(context.programming);
    // A state that the plan itself speaks of: a scenario, or a computer plugged in while the rest is off.
    let declared = all().find_map(|o| {
        let sender = vdd(o, hop.from, false).filter(|s| s.vdd > 1.0)?;
        let off = o.actual.is_ok() && vdd(o, hop.to, true).is_none_or(|r| r.vdd < OFF_V);
        off.then(|| (sender.vdd, format!("in scenario `{}`", o.case.scenario)))
    });
    let state = declared.or_else(|| {
        let sender = all().find_map(|o| vdd(o, hop.from, false)).filter(|s| s.vdd > 1.0)?;
        possible(plan, &hop.from.hangs_on(plan), &hop.to.hangs_on(plan)).map(|why| (sender.vdd, why))
    });
    let Some((volts, when)) = state else {
        sink.pass(name, || format!("`{}` is powered together with `{}`", hop.names.1, hop.names.0));
        return None;
    };
    let voh = levels(plan, hop, volts).0.high.get();
    let own = match hop.from {
        End::Pin(c) => plan.boards[c].pins.ohms.low.get(),
        _ => SENDER_OHMS,
    };
    let ohms = own + hop.series.map_or(0.0, |r| r.low.get());
    // Through its protection into a rail that the part itself loads: U·G/(1 + R·G).
    let siemens = dead_siemens(plan, hop.to);
    let amps = Amps::new((voh - PROTECTION_V).max(0.0) * siemens / (1.0 + ohms * siemens));
    let Some(severity) = severity(amps, &when) else {
        sink.pass(name, || format!("{amps} into `{}` while it is off", hop.names.1));
        return None;
    };
    // A servo twitches, no more.
    let is_servo = matches!(hop.to, End::Load(l, _) if plan.loads[l].nature == Some(Nature::Servo));
    let severity = if is_servo { Severity::Caution } else { severity };
    let (from, to) = hop.words(plan);
    let draft = Draft::of(severity, (name, span))
        .says(format!(
            "{when} {from} is on and {to} is off: up to {amps} flows into its input; rated {}",
            Amps::new(CAUTION_A)
        ))
        .facts(evidence(amps));
    Some(Found { subject: name.to_owned(), amps: amps.get(), severity, draft, others: Vec::new() })
}

/// A state the plan allows and does not speak of: a hand switch open, or one of two supplies off.
fn possible(plan: &Plan, sender: &[NodeId], receiver: &[NodeId]) -> Option<String> {
    let paths = |ends: &[NodeId]| ends.iter().map(|at| plan.path_up(*at)).collect::<Vec<_>>();
    let (sender, receiver) = (paths(sender), paths(receiver));
    // What all feeds of the receiver need, and none of the sender's.
    let only_receiver =
        |id: &&NodeId| receiver.iter().all(|path| path.contains(id)) && !sender.iter().any(|path| path.contains(id));
    for id in receiver.first()?.iter().filter(only_receiver) {
        match plan.nodes[id.0].kind {
            NodeKind::Branch(i) if plan.branches[i].switch().is_some_and(|s| s.breaks.plus) => {
                return Some(format!("with switch `{}` open", plan.branches[i].name.text));
            }
            NodeKind::Supply(i) => return Some(format!("while `{}` is off", plan.supplies[i].name.text)),
            _ => {}
        }
    }
    None
}
