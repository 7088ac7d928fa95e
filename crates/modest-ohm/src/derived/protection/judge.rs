//! The verdict on each cable: who protects it, what can flow continuously, and what that does to it.

use super::paths::{Direction, Limit, ways_of};
use super::wire::{Wire, wire_of};
use crate::network::layout::ConductorInfo;
use crate::plan::kinds::load::Nature;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::range::Range;
use crate::quantity::units::Amps;
use crate::size::fuse::{ProtectedWire, WireProtection, wire_protection};
use crate::topology::conductors::{cable_of, fuse_of};
use crate::topology::run::Run;
use crate::verdict::codes;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// A device's own cable up to this length, behind no more than this current, is the maker's choice of the device, and
/// advice only.
const FACTORY_M: f64 = 1.0;
const FACTORY_A: f64 = 10.0;

/// A cable up to this length inside a device burns little and touches little else: one step milder (our own figure).
const INSIDE_M: f64 = 0.3;

/// What a short in copper with common insulation may bring up before the insulation suffers: I²t ≤ (115·S)² A²s, S in
/// mm² (IEC 60364-4-43, PVC).
const ADIABATIC: f64 = 115.0;

/// What stands between a cable and its sources.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Guard {
    /// The fuse at the beginning of this run.
    Fuse(Run),
    /// No fuse; this source.
    Source(NodeId),
}

/// Why a cable is judged as it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Reason {
    /// A fuse of allowed size that surely opens, or a source that gives no more than the wire carries.
    Protected,
    /// A fuse of allowed size that what the source gives may not open.
    CannotAct,
    TooLarge,
    Missing,
    /// What the source gives is not known.
    Unknown,
}

impl Reason {
    /// The check that tells it.
    pub fn code(self) -> Option<&'static str> {
        match self {
            Reason::Protected => None,
            Reason::CannotAct => Some(codes::FUSE_MAY_NOT_BLOW.name),
            Reason::TooLarge => Some(codes::FUSE_TOO_LARGE.name),
            Reason::Missing | Reason::Unknown => Some(codes::FUSE_MISSING.name),
        }
    }
}

/// What protects a cable.
#[derive(Clone, Debug)]
pub(crate) struct Protection {
    pub run: Run,
    pub wire: Wire,
    /// The weaker of its feed's and its return's cable.
    pub cable: Cable,
    pub guard: Guard,
    /// The fuse that protects it.
    pub fuse: Option<Fuse>,
    /// What each source gives: where it limits itself, and what it may give right behind the cable's beginning, A.
    pub sources: Vec<(NodeId, Limit, f64)>,
    pub reason: Reason,
    /// `None` where it is protected.
    pub severity: Option<Severity>,
    /// What can flow continuously, A.
    pub long_a: f64,
    /// What surely flows into a short circuit at its far end, A.
    pub least_a: f64,
    /// True where it is a device's own cable, judged as that.
    pub factory: bool,
    /// True where it is too thin for the fuse, which clears a short before it burns.
    pub outlasts_short: bool,
}

/// The verdict on every cable of a plan of which size and length are known, change-over switches where they are worst;
/// `air_c` is the air around each.
pub(crate) fn protections(plan: &Plan, conductors: &[ConductorInfo], air_c: &dyn Fn(Run) -> f64) -> Vec<Protection> {
    let mut all = as_it_stands(plan, conductors, air_c);
    for turned in turned(plan) {
        for other in as_it_stands(&turned, conductors, air_c) {
            match all.iter_mut().find(|p| p.run == other.run) {
                Some(own) if other.is_worse_than(own) => *own = other,
                Some(_) => {}
                None => all.push(other),
            }
        }
    }
    all
}

/// The plan with one change-over switch on another throw, for each switch and throw.
pub(crate) fn turned(plan: &Plan) -> Vec<Plan> {
    let mut out = Vec::new();
    for (i, branch) in plan.branches.iter().enumerate() {
        let Some(switch) = branch.switch() else { continue };
        for (throw, (_, feed)) in switch.throws.iter().enumerate().filter(|(t, _)| *t != switch.position) {
            let mut turned = plan.clone();
            turned.branches[i].feed = feed.clone();
            if let RunKind::Switch(s) = &mut turned.branches[i].kind {
                s.position = throw;
            }
            out.push(turned);
        }
    }
    out
}

fn as_it_stands(plan: &Plan, conductors: &[ConductorInfo], air_c: &dyn Fn(Run) -> f64) -> Vec<Protection> {
    let mut out: Vec<Protection> = Vec::new();
    for info in conductors {
        // Where the + of a strip is cut only its − is led on, and no source drives a short in that.
        let only_minus = matches!(info.run, Run::Join(..)) && info.feed.is_none();
        // The members of a count have equal leads.
        // A pin gives no more than its own resistance lets through, and no cable is thin for that.
        let out_of_pin = matches!(info.run, Run::Load(l) if plan.loads[l].feed.from.pin.is_some());
        if only_minus || out_of_pin || out.iter().any(|p| p.run == info.run) {
            continue;
        }
        let Some((wire, cable)) = wire_of(plan, info.run, air_c(info.run)) else { continue };
        let ways = ways_of(plan, info.run);
        out.extend(judge(plan, info.run, (wire, cable), &ways));
    }
    out
}

/// What all ways of a cable bring together.
struct Flow {
    guard: Guard,
    /// Σ of the ratings where every way has a fuse; the factors of its family.
    fuse: Option<(f64, f64, f64)>,
    /// What the sources surely give and may give without fuses, A.
    limits: Option<(f64, f64)>,
    /// What may flow right behind its beginning.
    most_a: f64,
    least_a: f64,
    unknown: bool,
}

fn flow(plan: &Plan, run: Run, ways: &[Direction]) -> Option<Flow> {
    let first = ways.first()?;
    let mut fuses: Vec<Run> = Vec::new();
    let mut sources: Vec<NodeId> = Vec::new();
    let (mut rating, mut blows_from, mut factor) = (0.0, 0.0_f64, f64::INFINITY);
    let (mut most_a, mut least_a, mut all_fused) = (0.0, 0.0_f64, true);
    for way in ways {
        match way.guard(plan) {
            Some((at, fuse)) => {
                if !fuses.contains(&at) {
                    fuses.push(at);
                    rating += fuse.rating.high.get();
                    blows_from = blows_from.max(fuse.blows_from());
                    factor = factor.min(fuse.family.ampacity_factor());
                }
            }
            None => all_fused = false,
        }
        if !sources.contains(&way.source) {
            sources.push(way.source);
            most_a += way.most_a(plan, run);
        }
        least_a = least_a.max(way.least_a(plan));
    }
    let guard = match (all_fused, fuses.first()) {
        (true, Some(at)) => Guard::Fuse(*at),
        _ => Guard::Source(ways.iter().find(|w| w.guard(plan).is_none()).unwrap_or(first).source),
    };
    let (limits, unknown) = limits(plan, ways, all_fused);
    Some(Flow { guard, fuse: all_fused.then_some((rating, blows_from, factor)), limits, most_a, least_a, unknown })
}

/// What the sources surely give and may give, where all of them limit it, A; and whether that is not known of one.
fn limits(plan: &Plan, ways: &[Direction], all_fused: bool) -> (Option<(f64, f64)>, bool) {
    let (mut lo, mut hi, mut all_limited, mut unknown) = (0.0, 0.0, true, false);
    for (n, way) in ways.iter().enumerate() {
        if ways[..n].iter().any(|w| w.source == way.source) {
            continue;
        }
        // Where another way has no fuse, this source adds at most what its own fuse carries indefinitely: a battery
        // behind 5 A, beside an adapter that limits itself.
        let fused = if all_fused { None } else { carried(plan, ways, way.source) };
        match (way.gives.limit, fused) {
            (Limit::Between(l, h), fused) => {
                lo += fused.map_or(l, |fused| l.min(fused));
                hi += fused.map_or(h, |fused| h.min(fused));
            }
            (_, Some(fused)) => hi += fused,
            (Limit::None, None) => all_limited = false,
            (Limit::Unknown, None) => (all_limited, unknown) = (false, true),
        }
    }
    (all_limited.then_some((lo, hi)), unknown)
}

/// What the fuses on a source's ways carry without blowing, A; `None` where a way has no fuse.
fn carried(plan: &Plan, ways: &[Direction], source: NodeId) -> Option<f64> {
    let mut fuses: Vec<(Run, f64)> = Vec::new();
    for way in ways.iter().filter(|w| w.source == source) {
        let (at, fuse) = way.guard(plan)?;
        if !fuses.iter().any(|(known, _)| *known == at) {
            fuses.push((at, fuse.opens_a()));
        }
    }
    Some(fuses.iter().map(|(_, amps)| amps).sum())
}

fn judge(plan: &Plan, run: Run, (wire, cable): (Wire, &Cable), ways: &[Direction]) -> Option<Protection> {
    let flow = flow(plan, run, ways)?;
    let guarded = wire_protection(&WireProtection {
        prospective: Amps::new(flow.most_a),
        far: Amps::new(flow.least_a),
        limit: flow.limits.map(|(lo, hi)| Range::new(Amps::new(lo), Amps::new(hi))),
        fuse: flow.fuse.map(|(rating, blows_from, _)| (Amps::new(rating), blows_from)),
        ampacity_factor: flow.fuse.map_or(1.0, |(_, _, factor)| factor),
        ampacity: Amps::new(wire.ampacity_a),
    });
    let mut verdict = Protection {
        run,
        wire,
        cable: cable.clone(),
        fuse: match flow.guard {
            Guard::Fuse(at) => fuse_of(plan, at).cloned(),
            Guard::Source(_) => None,
        },
        guard: flow.guard.clone(),
        sources: sources(plan, run, ways),
        reason: Reason::Protected,
        severity: guarded.severity,
        long_a: guarded.sustained_fault.get(),
        least_a: flow.least_a,
        factory: false,
        outlasts_short: false,
    };
    verdict.reason = match (&guarded, flow.fuse.is_some()) {
        (ProtectedWire { allowed: true, severity: Some(_), .. }, _) => Reason::CannotAct,
        (ProtectedWire { allowed: true, .. }, _) => Reason::Protected,
        // Even where the source's limit is enough the fuse is no fuse for this wire.
        (_, true) => Reason::TooLarge,
        (ProtectedWire { severity: None, .. }, _) => Reason::Protected,
        _ => Reason::Missing,
    };
    if flow.unknown && !guarded.allowed {
        verdict.reason = Reason::Unknown;
        verdict.severity = Some(Severity::Unknown);
        return Some(verdict);
    }
    if verdict.reason == Reason::TooLarge {
        verdict.severity = Some(verdict.severity.unwrap_or(Severity::Advisory));
    }
    if guarded.allowed || verdict.severity.is_none_or(|s| s == Severity::Advisory) {
        return Some(verdict);
    }
    if is_factory_lead(plan, run) && at_most(verdict.long_a, FACTORY_A) {
        verdict.factory = true;
        verdict.severity = Some(Severity::Advisory);
    } else if outlasts_short(plan, run, &wire, ways) {
        verdict.outlasts_short = true;
        verdict.severity = Some(Severity::Advisory);
    } else if verdict.severity == Some(Severity::Danger) && is_inside(plan, run) {
        verdict.severity = Some(Severity::Caution);
    }
    Some(verdict)
}

/// The sources of a cable, each once.
fn sources(plan: &Plan, run: Run, ways: &[Direction]) -> Vec<(NodeId, Limit, f64)> {
    let mut out: Vec<(NodeId, Limit, f64)> = Vec::new();
    for way in ways {
        if !out.iter().any(|(source, ..)| *source == way.source) {
            out.push((way.source, way.gives.limit, way.most_a(plan, run)));
        }
    }
    out
}

/// Whether a cable came with the device at its end: what the plan says, else every cable of a device up to 1 m.
fn is_factory_lead(plan: &Plan, run: Run) -> bool {
    let Some(cable) = cable_of(plan, run) else { return false };
    let short = cable.longest_m().is_some_and(|m| at_most(m, FACTORY_M));
    short && cable.factory.unwrap_or(is_device(run))
}

/// Centimetres of wire to electronics: to a board, a buffer, a sensor.
fn is_inside(plan: &Plan, run: Run) -> bool {
    let electronics = match run {
        Run::Load(i) => plan.loads[i].nature == Some(Nature::Electronics),
        _ => matches!(run, Run::Board(_) | Run::Shifter(_)),
    };
    electronics && cable_of(plan, run).and_then(Cable::longest_m).is_some_and(|m| at_most(m, INSIDE_M))
}

/// What ends at a device takes no more than that, unless there is a short.
fn is_device(run: Run) -> bool {
    matches!(run, Run::Load(_) | Run::Board(_) | Run::Shifter(_))
}

/// Whether a device's lead stands a short until the fuse before it has cleared, wherever on its length the short is.
fn outlasts_short(plan: &Plan, run: Run, wire: &Wire, ways: &[Direction]) -> bool {
    let ([way], Some(area_mm2), true) = (ways, wire.area_mm2, is_device(run)) else { return false };
    let Some((_, fuse)) = way.guard(plan) else { return false };
    let (least, most) = (way.least_a(plan), way.most_a(plan, run));
    let let_through = fuse.family.let_through(fuse.speed, fuse.rating.high.get(), least, most);
    let_through.is_some_and(|i2t| at_most(i2t, (ADIABATIC * area_mm2).powi(2)))
}

impl Protection {
    /// By how much what can flow continuously is beyond what the wire stands.
    pub fn excess(&self) -> f64 {
        if self.wire.ampacity_a > 0.0 { self.long_a / self.wire.ampacity_a } else { f64::INFINITY }
    }

    /// The order of what is reported first: more severe, then further beyond.
    fn is_worse_than(&self, other: &Self) -> bool {
        (self.severity, self.excess()) > (other.severity, other.excess())
    }
}
