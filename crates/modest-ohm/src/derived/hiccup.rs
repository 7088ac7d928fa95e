//! How long motors that start hold a limiting supply below the voltage at which it switches off and tries again.

use super::context::Context;
use super::motor_starts::starting;
use crate::network::state::{Draw, Member, draw};
use crate::plan::kinds::load::{Demand, Load, Nature};
use crate::plan::kinds::scenario::LoadState;
use crate::plan::kinds::supply::Supply;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::solved::outcome::Outcome;

/// Below this share of its voltage a supply counts its output as shorted (typical).
const LOW: f64 = 0.8;
/// For so long before it switches off, s (typical).
const DELAY_S: (f64, f64) = (0.020, 0.100);
/// A start time of a class may be half as long.
const SHORTEST: f64 = 0.5;

/// What becomes of a start at a supply's limit.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Start {
    /// It is over before the supply switches off.
    Succeeds,
    /// It depends on the supply's delay.
    MayHiccup,
    /// The supply switches off first, and again at each new try.
    Never,
}

/// What becomes of the motors that start in an outcome at a supply that hiccups; `None` where something else than
/// motors starts there, or the source does not hiccup.
pub(crate) fn start(context: &Context<'_>, id: NodeId, o: &Outcome) -> Option<(Start, f64)> {
    let NodeKind::Supply(i) = context.plan.nodes[id.0].kind else { return None };
    let supply = &context.plan.supplies[i];
    let (typical, shortest) = low_s(context, supply, id, o)?;
    let (early, late) = match &supply.hiccup {
        Some(cycle) => (cycle.on.low.get(), cycle.on.high.get()),
        None => DELAY_S,
    };
    let start = match () {
        () if typical <= early => Start::Succeeds,
        () if shortest > late => Start::Never,
        () => Start::MayHiccup,
    };
    Some((start, typical))
}

/// For how long the output stays low, s: typical, and the shortest where the start times are those of classes.
///
/// At its limit a supply gives the stalled motors I_lim·R; their back EMF then rises with (I_lim − I_r)·R_m/τ_m, τ_m =
/// t_s/3 (in electrical units; it predicts all of 27 starts simulated over time).
fn low_s(context: &Context<'_>, supply: &Supply, id: NodeId, o: &Outcome) -> Option<(f64, f64)> {
    let plan = context.plan;
    let limit = supply.limit.as_ref().filter(|_| supply.hiccups)?.low.get();
    let (wanted, actual) = (o.wanted.as_ref().ok()?, o.actual.as_ref().ok()?);
    let behind = |load: &usize| plan.is_behind(plan.loads[*load].feed.from.id, id);
    let (mut siemens, mut starts, mut runs, mut tau, mut known) = (0.0, 0.0, 0.0, 0.0f64, true);
    for i in starting(plan, o).into_iter().filter(behind) {
        let load = &plan.loads[i];
        let amps = wanted.current_into(i);
        if amps <= 0.0 {
            continue;
        }
        let ratio = runs_share(load)?;
        for member in o.case.demands.loads[i].iter().filter(|m| matches!(m, Member::State(LoadState::Surge))) {
            let Draw::Ohms(ohms) = draw(load, member, o.corner) else { return None };
            siemens += 1.0 / ohms;
        }
        (starts, runs) = (starts + amps, runs + amps * ratio);
        tau = tau.max(load.start_s() / 3.0);
        known &= load.limits.start_time.is_some();
    }
    if siemens <= 0.0 {
        return None;
    }
    let others = (wanted.current_of(plan.nodes[id.0].kind) - starts).max(0.0);
    let missing = LOW * supply.voltage.typical.get() - actual.volts_at(id)?;
    let left = limit - others - runs;
    let typical = match () {
        () if missing <= 0.0 => 0.0,
        () if left <= 0.0 => f64::INFINITY,
        () => tau * missing * siemens / left,
    };
    Some((typical, if known { typical } else { SHORTEST * typical }))
}

/// What a motor runs with, as a share of what it starts with; `None` for what is not a motor, or whose start is
/// assumed.
fn runs_share(load: &Load) -> Option<f64> {
    let Demand::Current(states) = &load.demand else { return None };
    let stated = load.nature == Some(Nature::Motor) && load.limits.assumed_start.is_none();
    let start = states.surge.as_ref().filter(|_| stated)?.typical.get();
    Some(states.peak.typical.get() / start.max(1e-9))
}
