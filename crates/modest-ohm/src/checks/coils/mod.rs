//! Windings that are let go: whether their current has a path, what that path takes, what it does to others.

pub(crate) mod arc;
pub(crate) mod clamp;
pub(crate) mod missing;
pub(crate) mod noise;
pub(crate) mod rating;
pub(crate) mod reversed;

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::check::{Check, Solves};
use crate::plan::kinds::flyback::FlyDiode;
use crate::plan::kinds::load::Load;
use crate::plan::model::Plan;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::verdict::severity::Severity::{Caution, Danger, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "flyback-missing",
        family: "coils",
        title: "a winding behind a semiconductor has no path for its current when it is let go",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/flyback-missing.md"),
        solves: Solves::Nothing,
        run: missing::run,
    },
    Check {
        code: "flyback-rating",
        family: "coils",
        title: "a flyback diode carries more than it stands, is too slow, or breaks down at the supply",
        severities: &[Danger, Caution, Unknown],
        about: include_str!("../../about/flyback-rating.md"),
        solves: Solves::Nothing,
        run: rating::run,
    },
    Check {
        code: "flyback-reversed",
        family: "coils",
        title: "a flyback diode is the wrong way round, or across what is driven both ways",
        severities: &[Danger],
        about: include_str!("../../about/flyback-reversed.md"),
        solves: Solves::Nothing,
        run: reversed::run,
    },
    Check {
        code: "clamp-voltage",
        family: "coils",
        title: "a clamp at a switch conducts at the supply, or lets through more than the switch holds off",
        severities: &[Danger, Caution],
        about: include_str!("../../about/clamp-voltage.md"),
        solves: Solves::Nothing,
        run: clamp::run,
    },
    Check {
        code: "contact-arc",
        family: "coils",
        title: "a contact switches a winding that nothing damps",
        severities: &[Caution],
        about: include_str!("../../about/contact-arc.md"),
        solves: Solves::Nothing,
        run: arc::run,
    },
    Check {
        code: "noise-shared",
        family: "coils",
        title: "a winding that starts pulls the volts of a board down with it",
        severities: &[Caution],
        about: include_str!("../../about/noise-shared.md"),
        solves: Solves::Nothing,
        run: noise::run,
    },
];

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
        Some(context.layout.loads[load].iter().map(|(_, b)| s.solution.current[*b].abs()).sum::<f64>())
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
    let volts = |o: &Outcome| channel.holds_v(context.layout, o.actual.as_ref().ok()?);
    let (o, v) = worst_of(context.outcomes.iter(), volts)?;
    Some((Worst::at(o, v), v))
}
