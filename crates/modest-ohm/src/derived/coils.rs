//! Coils that channels switch, their largest current and the voltage behind them.

use super::context::{Context, Worst, worst_of};
use crate::plan::kinds::flyback::FlyDiode;
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

/// The highest volts of the rail that a channel switches.
pub(crate) fn highest_v(context: &Context<'_>, channel: &Channel<'_>) -> Option<(Worst, f64)> {
    let volts = |o: &Outcome| channel.holds_v(o.actual.as_ref().ok()?);
    let (o, v) = worst_of(context.outcomes.iter(), volts)?;
    Some((Worst::at(o, v), v))
}
