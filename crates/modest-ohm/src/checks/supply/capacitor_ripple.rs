//! capacitor-ripple: what PWM draws in pulses from a rail against the ripple current that a capacitor there is rated
//! for.

use crate::derived::context::Worst;
use crate::derived::context::{Context, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::link::Capacitor;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Fraction};
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::topology::rail::way_up;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// √(D·(1 − D)) is largest at a duty of one half.
const WORST_DUTY: f64 = 0.5;
/// Beyond so many times its rating it dries out within weeks instead of years: the heat is four times as much.
const DRIES_OUT: f64 = 2.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let often: Vec<Channel<'_>> = channels(plan).into_iter().filter(|c| c.driver.pwm.is_some()).collect();
    for capacitor in &plan.capacitors {
        let Some(rated) = &capacitor.ripple else { continue };
        let name = &capacitor.name.text;
        let own: Vec<&Channel<'_>> = often.iter().filter(|c| nearest(plan, c) == Some(capacitor.across.id)).collect();
        let share = share_of(plan, capacitor);
        let pulses = |o: &Outcome| {
            let s = o.sustained.as_ref().ok()?;
            Some(own.iter().filter_map(|c| c.amps(s)).map(|a| a.max(0.0)).sum::<f64>())
        };
        let Some((o, pulse)) = worst_of(context.continuous(), pulses).filter(|(_, a)| *a > 1e-9) else {
            if context.all_sustained() {
                sink.pass(name, || "no PWM draws pulses from it".into());
            }
            continue;
        };
        let ripple = Amps::new(share * WORST_DUTY * pulse);
        let severity = match rated.low.get() {
            most if exceeds(ripple.get(), DRIES_OUT * most) => Severity::Fault,
            most if exceeds(ripple.get(), most) => Severity::Caution,
            _ => {
                if context.all_sustained() {
                    sink.pass(name, || format!("{ripple} of {} ripple current", rated.low));
                }
                continue;
            }
        };
        let does = if severity == Severity::Fault { "it dries out within weeks" } else { "it ages early" };
        let names: Vec<String> = own.iter().map(|c| format!("`{}`", c.name())).collect();
        sink.find(
            Draft::of(severity, &capacitor.name)
                .at(&Worst::at(o, ripple.get()))
                .says(format!(
                    "PWM of {} draws pulses of {} from `{name}`: ripple current {ripple} r.m.s.; rated {}: {does}",
                    names.join(", "),
                    Amps::new(pulse),
                    rated.low
                ))
                .judged("ripple", ripple)
                .at_most("rated", rated.low, &rated.origin)
                .fact(Evidence::context(
                    "duty",
                    Fraction::new(WORST_DUTY),
                    &Origin::Default("a duty of 50 % makes the most ripple"),
                ))
                .with("pulses", Amps::new(pulse)),
        );
    }
}

/// The node of the first capacitor on the way from a stage up to its source.
fn nearest(plan: &Plan, channel: &Channel<'_>) -> Option<NodeId> {
    let from = plan.branches[channel.run].feed.from.id;
    way_up(plan, from).into_iter().find(|id| plan.capacitors.iter().any(|c| c.across.id == *id))
}

/// The share of the ripple that one of several capacitors at a node takes: that of its capacitance.
fn share_of(plan: &Plan, capacitor: &Capacitor) -> f64 {
    let beside = plan.capacitors.iter().filter(|c| c.across.id == capacitor.across.id);
    let all: f64 = beside.map(|c| c.capacitance.typical.get()).sum();
    capacitor.capacitance.typical.get() / all.max(1e-15)
}
