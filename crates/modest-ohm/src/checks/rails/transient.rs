//! transient-unprotected: electronics on a vehicle's supply need a series diode or P-channel MOSFET and a clamp.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::source::Span;
use crate::topology::rail::way_up;
use crate::verdict::compare::exceeds;

/// Something that a source feeds over conductors, switches and diodes.
pub(crate) struct Hanging {
    pub name: String,
    pub span: Span,
    /// True for what volts beyond its range destroy in an instant: converters, boards, pixels, regulated loads.
    pub electronic: bool,
    /// True where its sheet says that it stands a vehicle's transients.
    pub rated: bool,
    pub diode: bool,
    pub clamp: Clamping,
}

/// What the clamps on the way to a part are worth; the better the larger.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub(crate) enum Clamping {
    None,
    /// Conducts only from volts that the part no longer stands: both, V.
    TooHigh(f64, f64),
    Good,
}

/// A part with what it may hang on a vehicle for.
struct Part<'p> {
    name: &'p Name,
    from: NodeId,
    electronic: bool,
    rated: bool,
    /// The most it stands, V, where that is known.
    stands: Option<f64>,
}

fn parts(plan: &Plan) -> Vec<Part<'_>> {
    let mut parts: Vec<Part<'_>> = Vec::new();
    let mut add = |name, from, electronic, rated, stands: Option<Figure<Volts>>| {
        parts.push(Part { name, from, electronic, rated, stands: stands.map(|v| v.typical.get()) });
    };
    for c in &plan.converters {
        add(&c.name, c.feed.from.id, true, c.vehicle_rated, Some(c.input_maximum()));
    }
    for c in &plan.controllers {
        c.feed.iter().for_each(|f| add(&c.name, f.from.id, true, false, c.absolute.clone()));
    }
    for b in plan.branches.iter().filter(|b| matches!(b.kind, RunKind::Terminal { .. }) && !b.open.any()) {
        let board = if let RunKind::Terminal { controller } = b.kind { plan.controllers.get(controller) } else { None };
        let own = board.filter(|c| c.is_unregulated(&b.name.text)).and_then(|c| c.unregulated.as_ref());
        add(&b.name, b.feed.from.id, true, false, own.map(|u| u.absolute.clone()));
    }
    for s in &plan.strips {
        s.injections.iter().for_each(|q| add(&s.name, q.feed.from.id, true, false, s.pixel.absolute_maximum()));
    }
    for s in &plan.shifters {
        add(&s.name, s.feed.from.id, true, false, s.absolute.clone());
    }
    for l in &plan.loads {
        add(&l.name, l.feed.from.id, l.regulated, false, l.absolute_maximum());
    }
    parts
}

/// What hangs on a supply, and what stands between.
pub(crate) fn hanging_on(plan: &Plan, supply: usize) -> Vec<Hanging> {
    let source = plan.node_id(NodeKind::Supply(supply));
    let mut out: Vec<Hanging> = Vec::new();
    for part in parts(plan) {
        let path = way_up(plan, part.from);
        if path.last().copied() != source {
            continue;
        }
        let diode = path.iter().any(|id| match plan.nodes[id.0].kind {
            NodeKind::Branch(i) => plan.branches[i].diode().is_some_and(|d| !d.reversed),
            _ => false,
        });
        let own = plan.clamps.iter().filter(|c| !c.diode.reversed && path.contains(&c.across.id));
        let worth = own.map(|c| {
            let from = c.diode.reverse.as_ref().map_or(0.0, |v| v.low.get());
            part.stands.filter(|stands| exceeds(from, *stands)).map_or(Clamping::Good, |s| Clamping::TooHigh(from, s))
        });
        let clamp = worth.fold(Clamping::None, |best, own| if own > best { own } else { best });
        // Of several feeds the least guarded counts.
        if let Some(known) = out.iter_mut().find(|h| h.name == part.name.text) {
            known.diode &= diode;
            if clamp < known.clamp {
                known.clamp = clamp;
            }
            continue;
        }
        let (name, span) = (part.name.text.clone(), part.name.span);
        out.push(Hanging { name, span, electronic: part.electronic, rated: part.rated, diode, clamp });
    }
    out
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, supply) in plan.supplies.iter().enumerate() {
        let SupplyKind::Vehicle { volts } = supply.kind else { continue };
        // Load dump without central suppression (ISO 16750-2, 4.6.4): 79 V .. 101 V, 151 V .. 202 V. Switching off what
        // is inductive (ISO 7637-2, pulse 1): to −150 V, to −600 V.
        let (dump, pulse) = if volts == 24 { (202.0, -600.0) } else { (101.0, -150.0) };
        let (dump, pulse) = (Volts::new(dump), Volts::new(pulse));
        for part in hanging_on(plan, i).into_iter().filter(|h| h.electronic) {
            if part.rated || (part.diode && part.clamp == Clamping::Good) {
                sink.pass(&part.name, if part.rated { "made for vehicles".into() } else { "diode and clamp".into() });
                continue;
            }
            let diode = if part.diode { "" } else { "a series diode or P-channel MOSFET" };
            let both = if part.diode { "" } else { " and " };
            let missing = match part.clamp {
                Clamping::Good => diode.to_owned(),
                Clamping::None => format!("{diode}{both}a clamp"),
                Clamping::TooHigh(from, stands) => format!(
                    "{diode}{both}a clamp below the {} it stands, its clamp conducts from {}",
                    Volts::new(stands),
                    Volts::new(from)
                ),
            };
            sink.find(
                Draft::caution((&part.name, part.span))
                    .says(format!(
                        "`{}` hangs on the vehicle supply `{}` without {missing}; a load dump reaches \
                         {dump}, other pulses {pulse}",
                        part.name, supply.name.text
                    ))
                    .given("load_dump", dump, &Origin::Default("ISO 16750-2, unsuppressed load dump"))
                    .given("pulse", pulse, &Origin::Default("ISO 7637-2, pulse 1"))
                    .cure(
                        "put a diode in its feed and a clamp behind it (`[diode.guard]`, `[diode.clamp]` \
                         with `across`), or take a converter whose sheet says vehicle-rated",
                    ),
            );
        }
    }
}
