//! Coils that channels switch, their largest current and the voltage behind them.

use super::context::{Context, Worst, worst_of};
use super::flyback_path::path_of;
use crate::plan::kinds::flyback::{FlyDiode, Flyback};
use crate::plan::kinds::load::Load;
use crate::plan::model::Plan;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;

/// What a Zener diode in the path adds, V.
pub(crate) fn zener_v(d: &FlyDiode) -> f64 {
    d.zener.as_ref().map_or(0.0, |z| z.high.get())
}

/// Loads that a channel switches, each with its index.
pub(crate) fn switched<'p>(plan: &'p Plan) -> Vec<(Channel<'p>, usize, &'p Load)> {
    let all = channels(plan).into_iter();
    all.flat_map(|c| plan.loads_behind(c.run).map(move |i| (c, i, &plan.loads[i])).collect::<Vec<_>>()).collect()
}

/// What a channel switches, a load or a strip, with the diode or clamp that the plan shows there.
pub(crate) struct Switched<'p> {
    pub channel: Channel<'p>,
    pub name: &'p str,
    /// Its index among the loads; `None` for a strip.
    pub load: Option<usize>,
    pub path: Option<&'p Flyback>,
}

/// Everything that channels switch: a diode the wrong way round, or a clamp below the rail, is a mistake whatever it is
/// at.
pub(crate) fn all_switched(plan: &Plan) -> Vec<Switched<'_>> {
    let mut all = Vec::new();
    for channel in channels(plan) {
        for i in plan.loads_behind(channel.run) {
            let load = &plan.loads[i];
            all.push(Switched { channel, name: &load.name.text, load: Some(i), path: path_of(&channel, load) });
        }
        let path = channel.driver.flyback.as_ref().filter(|_| !channel.driver.kind.is_contact());
        for strip in channel.strips() {
            all.push(Switched { channel, name: &plan.strips[strip].name.text, load: None, path });
        }
    }
    all
}

/// The largest current of what a channel switches, in the outcomes that are wanted; limits lifted.
pub(crate) fn most_through<'o>(
    context: &Context<'o>,
    what: &Switched<'_>,
    wanted: impl Fn(&Outcome) -> bool,
) -> Option<(Worst, f64)> {
    if let Some(load) = what.load {
        return most_a(context, load, wanted);
    }
    let flows = |o: &Outcome| what.channel.amps(o.wanted.as_ref().ok()?);
    let (o, amps) = worst_of(context.outcomes.iter().filter(|o| wanted(o)), flows)?;
    Some((Worst::at(o, amps), amps))
}

/// The largest current of a load, all its members together, in the outcomes that are wanted; limits lifted.
pub(crate) fn most_a<'o>(
    context: &Context<'o>,
    load: usize,
    wanted: impl Fn(&Outcome) -> bool,
) -> Option<(Worst, f64)> {
    let flows = |o: &Outcome| {
        let s = o.wanted.as_ref().ok()?;
        Some(s.current_into(load))
    };
    let (o, amps) = worst_of(context.outcomes.iter().filter(|o| wanted(o)), flows)?;
    Some((Worst::at(o, amps), amps))
}

/// The largest current of a load in any scenario, held or starting.
pub(crate) fn most_of(context: &Context<'_>, load: usize) -> Option<(Worst, f64)> {
    most_a(context, load, |_| true)
}

/// The highest voltage of the rail that a channel switches.
pub(crate) fn highest_v(context: &Context<'_>, channel: &Channel<'_>) -> Option<(Worst, f64)> {
    let volts = |o: &Outcome| channel.holds_v(o.actual.as_ref().ok()?);
    let (o, v) = worst_of(context.outcomes.iter(), volts)?;
    Some((Worst::at(o, v), v))
}
