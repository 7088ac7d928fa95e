//! powered-through-signal: a sender that is on drives the input of a part that is off.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::plan::{NodeId, NodeKind, Plan};
use crate::quantity::{Amps, Ohms, Origin};
use crate::review::Outcome;
use crate::signal::{End, Hop, hops, levels, supplied};
use crate::tables::{CAUTION_A, PASS_A, PROTECTION_V};

/// Of a sender whose class does not say: the electrical reference's classes have 33 Ω .. 100 Ω.
const SENDER_OHMS: f64 = 33.0;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    // An optocoupler's input is an LED of its own, and feeds nothing.
    for hop in hops(context.plan).into_iter().filter(|h| h.opto(context.plan).is_none()) {
        judge(context, sink, &hop);
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>) {
    let plan = context.plan;
    let (name, span) = hop.item(plan);
    if let End::Shifter(i) = hop.to
        && plan.shifters[i].lets_go
    {
        sink.pass(name, format!("`{}` takes nothing while it is off", hop.names.1));
        return;
    }
    let vdd = |o: &Outcome, end: End, receiver: bool| {
        let s = o.actual.as_ref().ok()?;
        supplied(plan, context.layout, end, receiver, s)
    };
    let all = || context.outcomes.iter().chain(context.programming);
    // A state that the plan itself speaks of: a scenario, or a computer plugged in while the rest is off.
    let declared = all().find_map(|o| {
        let sender = vdd(o, hop.from, false).filter(|s| s.vdd > 1.0)?;
        let off = o.actual.is_ok() && vdd(o, hop.to, true).is_none_or(|r| r.vdd < 0.5);
        off.then(|| (sender.vdd, format!("in the scenario *{}*", o.case.name)))
    });
    let state = declared.or_else(|| {
        let sender = all().find_map(|o| vdd(o, hop.from, false)).filter(|s| s.vdd > 1.0)?;
        possible(plan, hop).map(|why| (sender.vdd, why))
    });
    let Some((volts, when)) = state else {
        sink.pass(name, format!("`{}` is on and off with `{}`", hop.names.1, hop.names.0));
        return;
    };
    let voh = levels(plan, hop, volts).0.high.get();
    let own = match hop.from {
        End::Pin(c) => plan.controllers[c].pins.ohms.low.get(),
        _ => SENDER_OHMS,
    };
    let ohms = own + hop.series.map_or(0.0, |r| r.low.get());
    let amps = Amps::new(((voh - PROTECTION_V) / ohms).max(0.0));
    let is_supply = when.starts_with("while");
    let severity = if amps.get() > CAUTION_A && !is_supply {
        Severity::Fault
    } else if amps.get() > PASS_A {
        Severity::Caution
    } else {
        sink.pass(name, format!("{amps} into `{}` while it is off", hop.names.1));
        return;
    };
    let enough = Ohms::new(((voh - PROTECTION_V) / PASS_A - own).max(0.0));
    sink.find(Draft {
        severity,
        subject: name,
        span,
        at: None,
        message: format!(
            "{when} `{}` is on and `{}` is off: {amps} flows into its input, which stands {}",
            hop.names.0,
            hop.names.1,
            Amps::new(PASS_A)
        ),
        cures: vec![
            "switch both together, the sender off first; or put a buffer that lets go when it is off between them"
                .into(),
            format!("a series resistor of {enough} would do for slow signals only"),
        ],
        evidence: vec![
            Evidence::computed("through", amps),
            Evidence::new(
                "limit",
                Amps::new(PASS_A),
                &Origin::Default("1 mA through an input's protection is harmless"),
            ),
        ],
    });
}

/// A state the plan allows and does not speak of: a hand switch open, or one of two supplies off.
fn possible(plan: &Plan, hop: &Hop<'_>) -> Option<String> {
    let paths = |end: End| end.hangs_on(plan).into_iter().map(|at| plan.path_up(at)).collect::<Vec<_>>();
    let (sender, receiver) = (paths(hop.from), paths(hop.to));
    // What all feeds of the receiver need, and none of the sender's.
    let only_receiver =
        |id: &&NodeId| receiver.iter().all(|path| path.contains(id)) && !sender.iter().any(|path| path.contains(id));
    for id in receiver.first()?.iter().filter(only_receiver) {
        match plan.nodes[id.0].kind {
            NodeKind::Branch(i) if plan.branches[i].switch().is_some_and(|s| s.breaks.plus) => {
                return Some(format!("with the switch `{}` open", plan.branches[i].name.text));
            }
            NodeKind::Supply(i) => return Some(format!("while `{}` is off", plan.supplies[i].name.text)),
            _ => {}
        }
    }
    None
}
