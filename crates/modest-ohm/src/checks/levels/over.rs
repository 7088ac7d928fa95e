//! pin-overvoltage: what an input's protection has to carry, and absolute maxima of inputs.

use super::hung;
use crate::checks::shared::protection;
use crate::derived::context::{Context, Worst};
use crate::derived::input_margin::{front, pairs};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::network::layout::Terminals;
use crate::plan::kinds::input::Input;
use crate::plan::kinds::signal_lines::Opto;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Ohms, Volts};
use crate::solved::input_source::{Arrives, Does, Side, clamp_a};
use crate::solved::levels::{levels, receiver_of, supplied, top_of};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::source::Span;
use crate::tables::input::{ABOVE_V, PROTECTION_V};
use crate::topology::signals::{End, Hop, hops};
use crate::verdict::severity::Severity;

/// What a sender has whose class does not say, Ω.
const SENDER_OHMS: f64 = 33.0;

/// More than any output gives is a source of which no resistance is known, A.
const BOUNDLESS_A: f64 = 1.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let asked = |h: &&Hop<'_>| !h.is_dead(context.plan) && context.asks(h.item(context.plan).0);
    for hop in hops(context.plan).iter().filter(asked) {
        signal(context, sink, hop);
    }
    for input in context.plan.inputs.iter().filter(|i| i.divider.is_none() && context.asks(&i.name.text)) {
        arriving(context, sink, input);
    }
    hung::run(context, sink);
}

/// The worst that an input gets, in the order in which it matters.
#[derive(Default)]
pub(super) struct Most {
    /// Above an absolute maximum, by so much.
    absolute: Option<(f64, f64, Worst)>,
    /// Through the protection: current, what arrives, supply.
    clamp: Option<(f64, Arrives, f64, Worst)>,
    /// The same against ground.
    below: Option<(f64, Arrives, Worst)>,
}

impl Most {
    pub(super) fn sees(&mut self, o: &Outcome, arrives: Arrives, amps: f64, vdd: f64, top: Option<&Figure<Volts>>) {
        if let Some(top) = top {
            let over = arrives.volts - top.low.get();
            if self.absolute.as_ref().is_none_or(|(most, ..)| over > *most) {
                self.absolute = Some((over, arrives.volts, Worst::at(o, arrives.volts)));
            }
        }
        let amps = if arrives.volts > vdd + ABOVE_V { amps } else { 0.0 };
        if self.clamp.as_ref().is_none_or(|(most, ..)| amps > *most) {
            self.clamp = Some((amps, arrives, vdd, Worst::at(o, amps)));
        }
    }

    fn sees_low(&mut self, o: &Outcome, arrives: Arrives, amps: f64) {
        if self.below.as_ref().is_none_or(|(most, ..)| amps > *most) {
            self.below = Some((amps, arrives, Worst::at(o, amps)));
        }
    }
}

fn signal(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>) {
    let plan = context.plan;
    if let Some(opto) = hop.opto(plan) {
        through_opto(context, sink, hop, opto);
        return;
    }
    let (subject, span) = hop.item(plan);
    let own = match hop.from {
        End::Pin(c) => plan.boards[c].pins.ohms.low.get(),
        _ => SENDER_OHMS,
    };
    // What the board has before its chip bounds the current as well.
    let inside = hop.pins.1.and_then(|p| plan.boards[p.board].pins.list.get(p.index?)?.series.as_ref());
    let ohms = own + [hop.series, inside].into_iter().flatten().map(|r| r.low.get()).sum::<f64>();
    let top = top_of(plan, hop);
    // The input of a part that the plan does not show is judged against its datasheet alone.
    let has_no_supply = match hop.to {
        End::Outside(_) => true,
        End::Driver(d, _) => plan.drivers[d].load.is_none(),
        _ => false,
    };
    if has_no_supply && top.is_none() {
        return;
    }
    let one_rail = hop.is_on_one_rail(plan);
    let feeds = hop.feeds(plan);
    let mut most = Most::default();
    let mut highest = 0.0f64;
    for (to, there, here) in context.together(one_rail, &feeds) {
        let Some(receiver) = receiver_of(plan, hop, there) else { continue };
        let Some(sender) = supplied(plan, hop.from, false, here) else { continue };
        highest = highest.max(receiver.vdd);
        let shift = |s: &Snapshot| {
            let (a, b) = (receiver_of(plan, hop, s)?, supplied(plan, hop.from, false, s)?);
            Some(a.ground - b.ground)
        };
        let shifts: Vec<f64> = [there, here].into_iter().filter_map(shift).collect();
        let (voh, vol) = levels(plan, hop, sender.vdd);
        let least = shifts.iter().copied().fold(f64::INFINITY, f64::min);
        let largest = shifts.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        // Where a datasheet gives a maximum of its own the input does not clamp to its supply.
        let vdd = top.map_or(receiver.vdd, |t| t.low.get());
        // What only pulls low gives no voltage: its pull-up lifts it.
        if !hop.is_open_drain(plan) {
            let high = Arrives { volts: voh.high.get() - least, ohms };
            most.sees(to, high, clamp_a(high, vdd), vdd, top);
        }
        let low = Arrives { volts: vol.low.get() - largest, ohms };
        most.sees_low(to, low, ((-low.volts - PROTECTION_V) / ohms.max(1e-3)).max(0.0));
    }
    let what = || {
        let (from, to) = hop.words(plan);
        format!("{from} drives {to}")
    };
    judge(context, sink, subject, span, &what, top, &most);
}

fn arriving(context: &Context<'_>, sink: &mut Sink, input: &Input) {
    let front = front(context, input);
    let top = context.plan.boards[input.pin.at.board].pins.stands(input.pin.at.index);
    let mut most = Most::default();
    for (to, states) in pairs(context, &front) {
        let Some(vdd) = front.vdd(states.here) else { continue };
        for does in [Does::On, Does::Off] {
            if let (Some(arrives), Some(amps)) = (
                front.arrives(does, Side::Most, states),
                front.protection_a(does, Side::Most, states, vdd + PROTECTION_V, None),
            ) {
                most.sees(to, arrives, amps, vdd, top);
            }
            if let (Some(arrives), Some(amps)) = (
                front.arrives(does, Side::Least, states),
                front.protection_a(does, Side::Least, states, -PROTECTION_V, None),
            ) {
                most.sees_low(to, arrives, amps);
            }
        }
    }
    let what = || format!("`{}` outputs {}", input.name.text, context.plan.pin_words(&input.pin.at));
    judge(context, sink, &input.name.text, input.name.span, &what, top, &most);
}

/// An optocoupler that is fed from a higher rail: while the pin is high, or is an input, the rail comes through its
/// LED.
fn through_opto(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>, opto: &Opto) {
    let plan = context.plan;
    let (Some(from), Some(pin)) = (&opto.from, hop.pins.0) else { return };
    let (subject, span) = hop.item(plan);
    let top = plan.boards[pin.board].pins.stands(pin.index);
    let ohms = opto.resistor.low.get() + hop.series.map_or(0.0, |r| r.low.get());
    let mut most = Most::default();
    for o in context.outcomes {
        let Ok(s) = o.actual.as_ref() else { continue };
        let Terminals { plus, .. } = context.layout.nodes[from.id.0];
        let Some(own) = supplied(plan, hop.from, false, s) else { continue };
        if s.solution.alive[plus] {
            let volts = s.solution.potential[plus] - own.ground - opto.drop_v().0;
            let arrives = Arrives { volts, ohms };
            most.sees(o, arrives, clamp_a(arrives, own.vdd), own.vdd, top);
        }
    }
    let what = || format!("while off, the optocoupler of `{subject}` outputs {}", hop.words(plan).0);
    judge(context, sink, subject, span, &what, top, &most);
}

#[allow(clippy::too_many_arguments, reason = "one place that says what is too much, for three kinds of sender")]
pub(super) fn judge(
    context: &Context<'_>,
    sink: &mut Sink,
    subject: &str,
    span: Span,
    what: &dyn Fn() -> String,
    top: Option<&Figure<Volts>>,
    most: &Most,
) {
    if let (Some((over, volts, at)), Some(top)) = (&most.absolute, top)
        && *over > 1e-9
    {
        sink.find(
            Draft::danger((subject, span))
                .at(at)
                .says(format!("{} {}; absolute maximum {}", what(), Volts::new(*volts), top.low))
                .judged("voltage", Volts::new(*volts))
                .at_most("absolute_maximum", top.low, &top.origin),
        );
        return;
    }
    let of = |amps: f64, a: Arrives, vdd, at| Some((protection::severity(amps)?, amps, a, vdd, at));
    let above = most.clamp.as_ref().and_then(|(amps, a, vdd, at)| of(*amps, *a, Some(*vdd), at));
    let below = most.below.as_ref().and_then(|(amps, a, at)| of(*amps, *a, None, at));
    let Some((severity, amps, arrives, vdd, at)) = above.or(below) else {
        if context.all_actual() {
            sink.pass(subject, || format!("{} within its rating", what()));
        }
        return;
    };
    let supply = vdd.map_or_else(|| "below its ground".to_owned(), |v| format!("and its supply is {}", Volts::new(v)));
    let limit = protection::limit(severity);
    let mut evidence = vec![
        Evidence::judged("through", Amps::new(amps)),
        Evidence::computed("voltage", Volts::new(arrives.volts)),
        Evidence::at_most("limit", limit, &protection::origin()),
        Evidence::computed("behind", Ohms::new(arrives.ohms)),
    ];
    if let Some(vdd) = vdd {
        evidence.push(Evidence::computed("vdd", Volts::new(vdd)));
    }
    let through = if amps < BOUNDLESS_A {
        format!("{} flows through its protection diodes{}", Amps::new(amps), beyond(severity, limit))
    } else {
        "nothing limits the current through its protection diodes".to_owned()
    };
    sink.find(
        Draft::of(severity, (subject, span))
            .at(at)
            .says(format!("{} {} {supply}: {through}", what(), Volts::new(arrives.volts)))
            .facts(evidence),
    );
}

fn beyond(severity: Severity, limit: Amps) -> String {
    if severity == Severity::Advisory { String::new() } else { format!("; rated {limit}") }
}
