//! wire-overloaded: wanted continuous current against the derated ampacity, feed and return each.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::network::layout::ConductorInfo;
use crate::network::switched_feed::feed_in;
use crate::plan::model::Plan;
use crate::plan::wiring::cable::Cable;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Celsius};
use crate::solved::heat::air_of_run_c;
use crate::solved::outcome::Outcome;
use crate::source::Span;
use crate::tables::wire::WireSize;
use crate::topology::conductors::{cable_of, cables_of, contact_limit_of, return_cable_of};
use crate::topology::run::Run;
use crate::verdict::codes;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// The law of what wires carry is good to ± 15 %, so what is beyond it by no more is a caution (our own figure).
const CAUTION_SHARE: f64 = 1.15;

/// Air that common insulation surely does not stand, whatever it is made of, °C: PVC for heat ends here (IEC 60227).
const NO_PVC_C: f64 = 90.0;

/// Below this a cable of which only the resistance is known passes without a word.
const WORTH_ASKING_A: f64 = 0.5;

/// A conductor's current beside what it carries, in the outcome in which it is most loaded.
pub(crate) struct Loaded {
    pub worst: Worst,
    pub amps: f64,
    pub ampacity: f64,
    pub air_c: f64,
}

impl Loaded {
    pub fn is_over(&self) -> bool {
        exceeds(self.amps, self.ampacity)
    }
}

/// Which conductor of a run.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Side {
    Feed,
    Return,
}

/// The cable of a conductor in an outcome: a change-over switch has one a throw.
fn cable_on<'p>(plan: &'p Plan, run: Run, side: Side, o: &Outcome) -> Option<&'p Cable> {
    match (feed_in(plan, run, &o.case.demands), side) {
        (Some(feed), Side::Feed) => cables_of(feed).0,
        (Some(feed), Side::Return) => cables_of(feed).1,
        (None, _) => cable_of(plan, run),
    }
}

/// The most loaded outcome of a conductor, with its cable there; `None` where its ampacity is not known or nothing has
/// a solution.
pub(crate) fn loaded<'c>(context: &Context<'c>, branch: usize, run: Run, side: Side) -> Option<(Loaded, &'c Cable)> {
    let plan = context.plan;
    let at = |o: &Outcome| {
        let s = o.sustained.as_ref().ok()?;
        let cable = cable_on(plan, run, side, o)?;
        let air_c = air_of_run_c(plan, run, s);
        Some((s.amps(branch).abs(), cable.ampacity(air_c)?, air_c, cable))
    };
    let share =
        |o: &Outcome| at(o).map(|(amps, ampacity, ..)| if amps > 0.0 { amps / ampacity.max(1e-12) } else { 0.0 });
    let (o, _) = worst_of(context.continuous(), share)?;
    let (amps, ampacity, air_c, cable) = at(o)?;
    let worst = context.worst_at(o, amps, |o| at(o).map(|(amps, ..)| amps));
    Some((Loaded { worst, amps, ampacity, air_c }, cable))
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut nameless: Vec<(String, Span)> = Vec::new();
    let mut over = Vec::new();
    for info in &context.layout.conductors {
        // The members of a count have equal leads: the first one speaks for all.
        if over.contains(&info.run) {
            continue;
        }
        let mut fired = false;
        for (branch, side) in [(info.feed, Side::Feed), (Some(info.back), Side::Return)] {
            let (Some(branch), false) = (branch, fired) else { continue };
            if !context.alive(branch) {
                continue;
            }
            let Some((wire, cable)) = loaded(context, branch, info.run, side) else {
                let cable = if side == Side::Feed { cable_of(plan, info.run) } else { return_cable_of(plan, info.run) };
                let Some(cable) = cable else { continue };
                let wanted = context.worst_sustained(|s| s.amps(branch).abs()).map_or(0.0, |w| w.value);
                // A jumper lead is judged as the contact that it is.
                let is_contact = contact_limit_of(plan, info.run).is_some() && cable.length_m() == Some(0.0);
                if wanted > WORTH_ASKING_A && !is_contact && !nameless.iter().any(|(n, _)| *n == info.name) {
                    nameless.push((info.name.clone(), cable.span));
                }
                continue;
            };
            if cable.is_out_of_air(wire.air_c) {
                if wire.amps > 0.0 {
                    fired = true;
                    over.push(info.run);
                    sink.find(too_hot(context, info, &wire, cable));
                }
                continue;
            }
            if wire.is_over() {
                fired = true;
                over.push(info.run);
                // A return that carries more than its feed does is short of copper of its own.
                let feed = info.feed.and_then(|feed| loaded(context, feed, info.run, Side::Feed));
                let feed_is_fine = feed.is_none_or(|(feed, _)| !feed.is_over());
                let starved = side == Side::Return && info.feed.is_some() && feed_is_fine;
                let draft = finding(context, info, side, &wire, cable);
                sink.find(if starved { draft.implies(codes::RETURN_UNDERSIZED, &info.name) } else { draft });
            } else if side == Side::Feed && context.all_sustained() {
                sink.pass(&info.name, || format!("{} of {}", Amps::new(wire.amps), Amps::new(wire.ampacity)));
            }
        }
    }
    if let Some((first, span)) = nameless.first() {
        let names: Vec<String> = nameless.iter().map(|(n, _)| format!("`{n}`")).collect();
        let what = "cannot check cables of stated resistance that carry more than 0.5 A: no size given";
        let task = "write `size` or `ampacity` beside the resistance or the length";
        sink.unknown(first, *span, format!("{what}: {}", names.join(", ")), task);
    }
}

/// The air is as hot as the insulation stands: no current can be allowed, however small.
fn too_hot(_context: &Context<'_>, info: &ConductorInfo, wire: &Loaded, cable: &Cable) -> Draft {
    let (air, stands) = (Celsius::new(wire.air_c), Celsius::new(cable.insulation_c()));
    let stated = cable.insulation.as_ref();
    let (severity, is) = match stated {
        Some(_) => (Severity::Danger, "is rated"),
        None if wire.air_c >= NO_PVC_C => (Severity::Danger, "is rarely rated above"),
        None => (Severity::Caution, "is assumed to be rated"),
    };
    let plain = Origin::Default("common insulation: 70 °C if none is given");
    let draft = Draft::of(severity, (&info.name, cable.span))
        .at(&wire.worst)
        .says(format!("the air around the cable to `{}` reaches {air}; its insulation {is} {stands}", info.name))
        .judged("air", air)
        .at_most("insulation", stands, stated.map_or(&plain, |t| &t.origin));
    let ask = "write its rating: `insulation = \"105 °C\"`";
    draft.tasks(stated.is_none().then(|| ask.to_owned()))
}

fn finding(context: &Context<'_>, info: &ConductorInfo, side: Side, wire: &Loaded, cable: &Cable) -> Draft {
    let ambient = &context.plan.ambient;
    let (amps, ampacity, air) = (Amps::new(wire.amps), Amps::new(wire.ampacity), Celsius::new(wire.air_c));
    let mut evidence =
        vec![Evidence::judged("demand", amps), Evidence::at_most("ampacity", ampacity, &Origin::Plan(cable.span))];
    if wire.air_c > ambient.high.get() + 1e-9 {
        evidence.push(Evidence::computed("air", air));
    } else {
        evidence.push(Evidence::context("ambient", ambient.high, &ambient.origin));
    }
    let what = if side == Side::Feed { "cable to" } else { "return of" };
    let little = at_most(wire.amps, CAUTION_SHARE * wire.ampacity);
    Draft::of(if little { Severity::Caution } else { Severity::Danger }, (&info.name, cable.span))
        .at(&wire.worst)
        .says(format!("the {what} `{}` carries {amps}; {} is rated {ampacity} at {air}", info.name, words(cable)))
        .facts(evidence)
}

/// The wire, and what lessens what it carries.
fn words(cable: &Cable) -> String {
    let size = cable.size.map_or_else(|| "this cable".to_owned(), WireSize::name);
    let many = if cable.parallel > 1 { format!("{} × {size}", cable.parallel) } else { size };
    if cable.pairs > cable.parallel.max(1) && cable.stated_ampacity().is_none() {
        format!("{many} among {} loaded pairs", cable.pairs)
    } else {
        many
    }
}
