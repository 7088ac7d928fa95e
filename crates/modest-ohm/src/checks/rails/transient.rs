//! transient-unprotected: electronics on a vehicle's supply need a series diode or P-channel MOSFET and a clamp.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::plan::{NodeId, NodeKind, Plan, SupplyKind};
use crate::quantity::{Origin, Volts};
use crate::rail::way_up;
use crate::text::Span;

/// Something that a source feeds over conductors, switches and diodes.
pub(super) struct Hanging {
    pub name: String,
    pub span: Span,
    /// True for what volts beyond its range destroy in an instant: converters, boards, pixels, regulated loads.
    pub electronic: bool,
    /// True where its sheet says that it stands a vehicle's transients.
    pub rated: bool,
    pub diode: bool,
    pub clamp: bool,
}

/// What hangs on a supply, and what stands between.
pub(super) fn hanging_on(plan: &Plan, supply: usize) -> Vec<Hanging> {
    let Some(source) = plan.node_id(NodeKind::Supply(supply)) else { return Vec::new() };
    let mut out = Vec::new();
    let mut see = |name: &str, span: Span, from: NodeId, electronic: bool, rated: bool| {
        let path = way_up(plan, from);
        if path.last() != Some(&source) {
            return;
        }
        let guards = |id: &NodeId| match plan.nodes[id.0].kind {
            NodeKind::Branch(i) => plan.branches[i].diode().is_some_and(|d| !d.reversed),
            _ => false,
        };
        let clamped = |id: &NodeId| plan.clamps.iter().any(|c| c.across.id == *id && !c.diode.reversed);
        out.push(Hanging {
            name: name.to_owned(),
            span,
            electronic,
            rated,
            diode: path.iter().any(guards),
            clamp: path.iter().any(clamped),
        });
    };
    for c in &plan.converters {
        see(&c.name.text, c.name.span, c.feed.from.id, true, c.vehicle_rated);
    }
    for c in &plan.controllers {
        c.feed.iter().for_each(|f| see(&c.name.text, c.name.span, f.from.id, true, false));
    }
    for b in plan.branches.iter().filter(|b| matches!(b.kind, crate::plan::RunKind::Terminal { .. }) && !b.open.any()) {
        see(&b.name.text, b.name.span, b.feed.from.id, true, false);
    }
    for s in &plan.strips {
        s.injections.first().iter().for_each(|q| see(&s.name.text, s.name.span, q.feed.from.id, true, false));
    }
    for s in &plan.shifters {
        see(&s.name.text, s.name.span, s.feed.from.id, true, false);
    }
    for l in &plan.loads {
        see(&l.name.text, l.name.span, l.feed.from.id, l.regulated, false);
    }
    out
}

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, supply) in plan.supplies.iter().enumerate() {
        let SupplyKind::Vehicle { volts } = supply.kind else { continue };
        // Load dump without central suppression (ISO 16750-2, 4.6.4): 79 V .. 101 V, 151 V .. 202 V.
        let dump = Volts::new(if volts == 24 { 202.0 } else { 101.0 });
        for part in hanging_on(plan, i).into_iter().filter(|h| h.electronic) {
            if part.rated || (part.diode && part.clamp) {
                sink.pass(&part.name, if part.rated { "made for vehicles".into() } else { "diode and clamp".into() });
                continue;
            }
            let missing = match (part.diode, part.clamp) {
                (true, false) => "a clamp",
                (false, true) => "a series diode or P-channel MOSFET",
                _ => "a series diode or P-channel MOSFET and a clamp",
            };
            sink.find(Draft {
                severity: Severity::Caution,
                subject: &part.name,
                span: part.span,
                at: None,
                message: format!(
                    "`{}` hangs on the vehicle supply `{}` without {missing}; a load dump reaches {dump}, other pulses \
                     −150 V",
                    part.name, supply.name.text
                ),
                cures: vec![
                    "put a diode in its feed and a clamp behind it (`[diode.guard]`, `[diode.clamp]` with `across`), or \
                     take a converter whose sheet says vehicle-rated"
                        .into(),
                ],
                evidence: vec![Evidence::new("load_dump", dump, &Origin::Default("ISO 16750-2, unsuppressed load dump"))],
            });
        }
    }
}
