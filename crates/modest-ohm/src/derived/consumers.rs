//! What consumes, and the volts it wants.

use crate::plan::kinds::load::Load;
use modest_ohm_solve::solve::Solution;

use crate::network::layout::{Layout, Terminals};
use crate::network::state::{Case, Member};
use crate::plan::kinds::controller::Controller;
use crate::plan::kinds::load::Nature;
use crate::plan::kinds::scenario::LoadState;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::verdict::severity::Severity;

/// A consumer and the volts it wants.
pub(crate) struct Consumer<'a> {
    pub name: String,
    pub declared: &'a Name,
    pub what: &'static str,
    pub at: Where,
    /// What feeds it over conductors only.
    pub root: NodeId,
    /// The node it hangs on.
    pub hangs_on: NodeId,
    pub absolute: Option<Figure<Volts>>,
    /// Below it the consumer does not work.
    pub minimum: Option<Figure<Volts>>,
    pub recommended: Option<Figure<Volts>>,
    /// Severity of volts above the recommended range.
    pub above: Severity,
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

impl Consumer<'_> {
    /// The pin that a load hangs on.
    pub fn pin<'p>(&self, plan: &'p Plan) -> Option<&'p PinAt> {
        let Where::Load(load) = self.at else { return None };
        let (out, into) = plan.loads[load].feed.pins();
        out.or(into)
    }
}

/// "shifter", or "pair" for an end of one.
pub(crate) fn shifter_word(plan: &Plan, shifter: usize) -> &'static str {
    if plan.pairs.iter().any(|p| p.near == shifter || p.far == shifter) { "pair" } else { "shifter" }
}

/// Everything that consumes, in the order of the plan.
pub(crate) fn consumers<'a>(plan: &'a Plan, layout: &Layout) -> Vec<Consumer<'a>> {
    let mut out = Vec::new();
    // An LED is made for a current, no volts.
    // What a coil gets is judged against what it pulls in at.
    let has_volts = |l: &&Load| l.nature != Some(Nature::Led) && !l.judged_apart;
    out.extend(plan.loads.iter().enumerate().filter(|(_, l)| has_volts(l)).map(|(i, load)| of_load(plan, i, load)));
    out.extend(plan.controllers.iter().enumerate().map(|(i, board)| of_board(plan, i, board)));
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
            minimum,
            recommended: s.recommended.clone(),
            above: Severity::Caution,
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
            above: Severity::Advice,
        });
    }
    out
}

fn of_load<'a>(plan: &'a Plan, i: usize, load: &'a Load) -> Consumer<'a> {
    let recommended = load.recommended_range();
    // Without a stated minimum: below the knee a load no longer draws its rated current.
    let minimum = load.minimum.clone().or_else(|| {
        recommended.as_ref().map(|_| {
            Figure::exact(
                Volts::new(load.knee_v()),
                Origin::Default("0.8 × the lower recommended volts where no minimum is given"),
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
        absolute: load.absolute_maximum(),
        minimum,
        recommended,
        above: Severity::Caution,
    }
}

fn of_board<'a>(plan: &'a Plan, i: usize, c: &'a Controller) -> Consumer<'a> {
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
    }
}

/// A board that USB alone feeds has less at its main terminal by design: its own diode lies between, and what matters is
/// its brown-out.
fn recommended_of_board(board: &Controller) -> Option<Figure<Volts>> {
    let recommended = board.recommended.clone()?;
    match &board.brown_out {
        Some(brown_out) if board.feed.is_none() && brown_out.typical < recommended.low => {
            Some(Figure { low: brown_out.typical, ..recommended })
        }
        _ => Some(recommended),
    }
}

impl Consumer<'_> {
    /// The highest volts at it, if it is alive.
    pub fn highest(&self, s: &Snapshot) -> Option<f64> {
        let volts = |t: &Terminals| across(&s.solution, *t);
        match self.at {
            Where::Terminals(t) => volts(&t),
            Where::Board(i) => volts(&s.layout.controllers[i].main),
            Where::Load(i) => s.layout.loads[i].iter().filter_map(|d| volts(&d.at)).reduce(f64::max),
            Where::Strip(i) => s.solution.strips[i].alive.then_some(s.solution.strips[i].highest_v),
        }
    }

    /// The lowest volts at it in a scenario, limits in force; `None` where low volts are not judged.
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
            Where::Board(i) => across(s, layout.controllers[i].main),
            Where::Terminals(t) => across(s, t),
        }
    }
}

/// Volts between terminals that are alive.
fn across(s: &Solution, t: Terminals) -> Option<f64> {
    (s.alive[t.plus] && s.alive[t.minus]).then(|| s.across(t.plus, t.minus))
}
