//! What consumes, and the voltage it needs.

use crate::plan::kinds::load::Load;
use modest_ohm_solve::solve::Solution;

use crate::network::layout::{DemandAt, Layout, Terminals};
use crate::network::state::{Case, Member};
use crate::plan::kinds::board::Board;
use crate::plan::kinds::load::Nature;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::verdict::severity::Severity;

/// A consumer and the voltage it needs.
pub(crate) struct Consumer<'a> {
    pub name: String,
    pub declared: &'a Name,
    pub what: &'static str,
    pub at: Where,
    /// What feeds it over conductors only.
    pub root: NodeId,
    /// The node it is connected to.
    pub hangs_on: NodeId,
    pub absolute: Option<Figure<Volts>>,
    /// Below it the consumer does not work.
    pub minimum: Option<Figure<Volts>>,
    pub recommended: Option<Figure<Volts>>,
    /// Severity of voltage above the recommended range.
    pub above: Severity,
    /// What becomes of its voltage where a vehicle's extremes, which last minutes, do not count against a range.
    pub lasting: Lasting,
}

/// The share of the lowest and of the highest voltage that counts against a recommended range: on a vehicle 9 V and 16
/// V last minutes, 10.5 V and 14.8 V for hours.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Lasting {
    pub low: f64,
    pub high: f64,
}

impl Lasting {
    const AS_SOLVED: Lasting = Lasting { low: 1.0, high: 1.0 };
}

#[derive(Clone, Copy)]
pub(crate) enum Where {
    Terminals(Terminals),
    /// A board: how low it gets in a start or a surge is another check's matter.
    Board(usize),
    /// All members of a load: undervoltage is not judged in their own surge, nor while they are off.
    Load(usize),
    /// Only the upper side: how low a strip's pixels get is another check's matter.
    Strip(usize),
}

impl Consumer<'_> {}

/// "shifter", or "differential-pair" for an end of one.
pub(crate) fn shifter_word(plan: &Plan, shifter: usize) -> &'static str {
    if plan.pairs.iter().any(|p| p.near == shifter || p.far == shifter) { "differential-pair" } else { "shifter" }
}

/// Everything that consumes, in the order of the plan.
pub(crate) fn consumers<'a>(plan: &'a Plan, layout: &Layout) -> Vec<Consumer<'a>> {
    let mut out = Vec::new();
    // An LED is made for a current, no voltage.
    // What a coil gets is judged against what it pulls in at.
    // An LED with a constant-current driver has the range of that.
    let has_volts = |l: &&Load| (l.nature != Some(Nature::Led) || l.recommended.is_some()) && !l.judged_apart;
    out.extend(plan.loads.iter().enumerate().filter(|(_, l)| has_volts(l)).map(|(i, load)| of_load(plan, i, load)));
    out.extend(plan.boards.iter().enumerate().map(|(i, board)| of_board(plan, i, board)));
    for (i, (s, t)) in plan.shifters.iter().zip(layout.shifters.iter().map(|d| d.at)).enumerate() {
        let minimum = s.recommended.as_ref().map(|r| Figure::exact(r.low, r.origin.clone()));
        out.push(Consumer {
            name: s.name.text.clone(),
            declared: &s.name,
            what: shifter_word(plan, i),
            at: Where::Terminals(t),
            root: plan.root(s.feed.from.id),
            hangs_on: s.feed.from.id,
            absolute: s.absolute.clone(),
            minimum: s.minimum.clone().or(minimum),
            recommended: s.recommended.clone(),
            above: Severity::Caution,
            lasting: Lasting::AS_SOLVED,
        });
    }
    for (i, s) in plan.strips.iter().enumerate() {
        let pixel = &s.pixel;
        let Some(first) = s.injections.first() else { continue };
        out.push(Consumer {
            name: s.name.text.clone(),
            declared: &s.name,
            what: s.word(),
            at: Where::Strip(i),
            root: plan.root(first.feed.from.id),
            hangs_on: first.feed.from.id,
            absolute: pixel.absolute_maximum(),
            minimum: None,
            recommended: pixel.sheet.clone(),
            above: Severity::Advisory,
            lasting: Lasting::AS_SOLVED,
        });
    }
    out
}

fn of_load<'a>(plan: &'a Plan, i: usize, load: &'a Load) -> Consumer<'a> {
    let vehicle = vehicle_volts(plan, load);
    let of_vehicle = vehicle.filter(|_| load.recommended.is_none()).and_then(|system_v| vehicle_range(load, system_v));
    let recommended = of_vehicle.or_else(|| load.recommended_range());
    // Without a stated minimum: below the knee a load no longer draws its rated current.
    let minimum = load.minimum.clone().or_else(|| {
        recommended.as_ref().map(|_| {
            Figure::exact(
                Volts::new(load.knee_v()),
                Origin::Default("0.8 × the lower recommended voltage if no minimum is given"),
            )
        })
    });
    Consumer {
        name: load.name.text.clone(),
        declared: &load.name,
        what: load.kind.word(),
        at: Where::Load(i),
        root: plan.root(load.feed.from.id),
        hangs_on: load.feed.from.id,
        absolute: load
            .absolute_maximum()
            .map(|a| vehicle.map_or(a.clone(), |system_v| vehicle_maximum(load, a, system_v))),
        minimum,
        recommended,
        above: Severity::Caution,
        lasting: vehicle.map_or(Lasting::AS_SOLVED, |system_v| lasting(plan, load, system_v)),
    }
}

/// The system voltage, 12 or 24, where a plain part is connected to a vehicle's net without a converter between.
fn vehicle_volts(plan: &Plan, load: &Load) -> Option<f64> {
    let NodeKind::Supply(i) = plan.nodes[plan.root(load.feed.from.id).0].kind else { return None };
    let SupplyKind::Vehicle { volts } = plan.supplies[i].kind else { return None };
    load.is_plain().then_some(f64::from(volts))
}

/// What lasts of a vehicle's voltage at a load, whatever it is; as solved elsewhere.
pub(crate) fn vehicle_lasting(plan: &Plan, load: usize) -> Lasting {
    let own = &plan.loads[load];
    let NodeKind::Supply(i) = plan.nodes[plan.root(own.feed.from.id).0].kind else { return Lasting::AS_SOLVED };
    let SupplyKind::Vehicle { volts } = plan.supplies[i].kind else { return Lasting::AS_SOLVED };
    lasting(plan, own, f64::from(volts))
}

/// Parts of a system's voltage is made for what it has while the engine runs and does not (typical): 9.6 .. 14.8 V.
fn vehicle_range(load: &Load, system_v: f64) -> Option<Figure<Volts>> {
    let rated = load.voltage.as_ref()?.typical;
    let scale = system_v / 12.0;
    is_for_system(rated.get(), system_v).then(|| Figure {
        low: Volts::new(9.6 * scale),
        typical: rated,
        high: Volts::new(14.8 * scale),
        origin: Origin::Default("parts for vehicle supplies: 9.6 .. 14.8 V (19.2 .. 29.6 V) if no range is given"),
        bare: false,
    })
}

/// 12 .. 13.8 V on a 12 V system, twice that on one of 24 V.
fn is_for_system(rated_v: f64, system_v: f64) -> bool {
    (system_v..=1.15 * system_v).contains(&rated_v)
}

/// A part for the system stands the 16 V (32 V) that its net may reach (ISO 16750-2).
fn vehicle_maximum(load: &Load, assumed: Figure<Volts>, system_v: f64) -> Figure<Volts> {
    let net = Volts::new(16.0 * system_v / 12.0);
    let is_for = load.voltage.as_ref().is_some_and(|v| is_for_system(v.typical.get(), system_v));
    if load.absolute.is_some() || !is_for || assumed.typical >= net {
        return assumed;
    }
    Figure::exact(net, Origin::Default("parts for vehicle supplies withstand 16 V (32 V) if no maximum is given"))
}

fn lasting(plan: &Plan, load: &Load, system_v: f64) -> Lasting {
    let NodeKind::Supply(i) = plan.nodes[plan.root(load.feed.from.id).0].kind else { return Lasting::AS_SOLVED };
    let (net, scale) = (&plan.supplies[i].voltage, system_v / 12.0);
    Lasting { low: (10.5 * scale / net.low.get()).max(1.0), high: (14.8 * scale / net.high.get()).min(1.0) }
}

fn of_board<'a>(plan: &'a Plan, i: usize, c: &'a Board) -> Consumer<'a> {
    Consumer {
        name: c.name.text.clone(),
        declared: &c.name,
        what: "board",
        at: Where::Board(i),
        root: plan.root_of_board(i),
        hangs_on: plan.node_id(NodeKind::BoardInput(i)).unwrap_or(NodeId(0)),
        absolute: c.absolute.clone(),
        minimum: c.brown_out.clone(),
        recommended: recommended_of_board(c),
        above: Severity::Caution,
        lasting: Lasting::AS_SOLVED,
    }
}

/// A board that USB alone feeds has less at its main terminal by design: its own diode lies between, and what matters
/// is its brown-out.
fn recommended_of_board(board: &Board) -> Option<Figure<Volts>> {
    let recommended = board.recommended.clone()?;
    match &board.brown_out {
        Some(brown_out) if board.feed.is_none() && brown_out.typical < recommended.low => {
            Some(Figure { low: brown_out.typical, ..recommended })
        }
        _ => Some(recommended),
    }
}

impl Consumer<'_> {
    /// The highest voltage that count at it: where it is connected to a stage, a contact or a bridge, those while that
    /// conducts, so that more than 1 % of its rated current flows.
    pub fn highest_conducting(&self, plan: &Plan, s: &Snapshot) -> Option<f64> {
        match self.at {
            Where::Load(i) if is_switched(plan, i) => {
                let conducts = |d: &&DemandAt| s.amps(d.branch).abs() > 0.01 * plan.loads[i].rated_a() + 1e-9;
                s.layout.loads[i].iter().filter(conducts).filter_map(|d| across(&s.solution, d.at)).reduce(f64::max)
            }
            _ => self.highest(s),
        }
    }

    /// The highest voltage at it, if it is alive.
    pub fn highest(&self, s: &Snapshot) -> Option<f64> {
        let volts = |t: &Terminals| across(&s.solution, *t);
        match self.at {
            Where::Terminals(t) => volts(&t),
            Where::Board(i) => volts(&s.layout.boards[i].main),
            Where::Load(i) => s.layout.loads[i].iter().filter_map(|d| volts(&d.at)).reduce(f64::max),
            Where::Strip(i) => s.solution.strips[i].alive.then_some(s.solution.strips[i].highest_v),
        }
    }

    /// The lowest voltage at it in a scenario, limits in force; `None` where low voltage is not judged.
    pub fn lowest(&self, o: &Outcome, s: &Snapshot) -> Option<f64> {
        self.lowest_in(&s.layout, &o.case, &s.solution)
    }

    /// As [`lowest`](Self::lowest), for a solution.
    pub fn lowest_in(&self, layout: &Layout, case: &Case, s: &Solution) -> Option<f64> {
        match self.at {
            Where::Strip(_) => None,
            Where::Board(_) if !case.continuous => None,
            Where::Load(i) => layout.loads[i]
                .iter()
                .zip(&case.demands.loads[i])
                .filter(|(_, member)| !matches!(member, Member::State(LoadState::Surge | LoadState::Off)))
                .filter_map(|(d, _)| across(s, d.at))
                .reduce(f64::min),
            Where::Board(i) => across(s, layout.boards[i].main),
            Where::Terminals(t) => across(s, t),
        }
    }
}

/// True where a driver's stage lies between a load and its source.
fn is_switched(plan: &Plan, load: usize) -> bool {
    let is_stage = |id: &NodeId| matches!(plan.nodes[id.0].kind, NodeKind::Branch(i) if plan.stage_of_run(i).is_some());
    plan.any_up(plan.loads[load].feed.from.id, is_stage)
}

/// Volts between terminals that are alive.
fn across(s: &Solution, t: Terminals) -> Option<f64> {
    (s.alive[t.plus] && s.alive[t.minus]).then(|| s.across(t.plus, t.minus))
}
