//! supply-overloaded: wanted continuous current against the rating.

use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::enclosure::Held;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction};
use crate::solved::heat::air_c;
use crate::solved::outcome::Snapshot;
use crate::source::Span;
use crate::topology::ratings::node_limit;
use crate::verdict::compare::exceeds;

/// A source with what is wanted of it.
pub(crate) struct Rated {
    pub name: String,
    pub span: Span,
    pub what: &'static str,
    pub rating: Option<Amps>,
    pub origin: Origin,
    pub headroom: Figure<Fraction>,
    pub wanted: Option<Worst>,
    /// The share of its rating that it carries in the warmest air around it, °C; 1 where that is all of it.
    pub derated: (f64, f64),
}

/// Supplies, converters and board outputs.
pub(crate) fn rated(context: &Context<'_>) -> Vec<Rated> {
    let plan = context.plan;
    let mut out = Vec::new();
    for (id, node) in plan.nodes.iter().enumerate() {
        let (what, figure, headroom) = match node.kind {
            // What a battery gives is another check's matter.
            NodeKind::Supply(i) if plan.supplies[i].battery.is_some() => continue,
            NodeKind::Supply(i) => {
                (plan.supplies[i].kind.word(), plan.supplies[i].current.as_ref(), plan.supplies[i].headroom.clone())
            }
            NodeKind::Converter(i) if plan.converters[i].input_current.is_some() => {
                let c = &plan.converters[i];
                ("converter input", c.input_current.as_ref(), c.headroom.clone())
            }
            NodeKind::Converter(i) => {
                ("converter", plan.converters[i].current.as_ref(), plan.converters[i].headroom.clone())
            }
            NodeKind::BoardOutput(i) => {
                ("board output", plan.boards[i].regulator.as_ref().and_then(|r| r.limit.as_ref()), None)
            }
            _ => continue,
        };
        let kind = node.kind;
        let derated = derated(context, kind);
        let own = |s: &Snapshot| match kind {
            NodeKind::Converter(i) if what == "converter input" => s.current_into_converter(plan, i),
            kind => s.current_of(kind),
        };
        let alive = context.alive_at(context.layout.nodes[id].plus);
        let wanted = alive.then(|| context.worst_sustained(own)).flatten();
        out.push(Rated {
            derated,
            name: node.name.clone(),
            span: plan.declared_at(crate::plan::wiring::feed::NodeId(id)),
            what,
            rating: if what == "converter input" { figure.map(|f| f.low) } else { node_limit(plan, kind) },
            origin: figure.map_or(Origin::Computed, |f| f.origin.clone()),
            headroom: headroom.unwrap_or_else(|| plan.policy.headroom.clone()),
            wanted,
        });
    }
    out
}

/// Modules of stated current carry it to 40 °C and 1.5 % less a kelvin, where no thermal resistance says more
/// (typical).
const MODULE_FULL_C: f64 = 40.0;
const MODULE_PER_K: f64 = 0.015;

/// What is left of a source's rating in the warmest air around it, and how warm that is, °C.
fn derated(context: &Context<'_>, kind: NodeKind) -> (f64, f64) {
    let plan = context.plan;
    let air = |held: Held| {
        let of = |s: &Snapshot| air_c(plan, held, s);
        context.worst_sustained(of).map_or(plan.warmest_c(), |w| w.value)
    };
    match kind {
        NodeKind::Supply(i) => {
            let air = air(Held::Supply(i));
            (plan.supplies[i].derated(air), air)
        }
        NodeKind::Converter(i) if plan.converters[i].heat.theta.is_none() => {
            let air = air(Held::Converter(i));
            ((1.0 - MODULE_PER_K * (air - MODULE_FULL_C).max(0.0)).max(0.0), air)
        }
        _ => (1.0, plan.warmest_c()),
    }
}

/// A board that takes more than its own regulator gives, whatever else is connected to that.
fn own_regulators(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, board) in plan.boards.iter().enumerate() {
        let limit = board.logic_regulator().and_then(|r| r.limit.as_ref());
        let (Some(limit), Some(node)) = (limit, plan.node_id(NodeKind::BoardOutput(i))) else { continue };
        let takes = board.mean.typical;
        if !exceeds(takes.get(), limit.typical.get()) {
            continue;
        }
        sink.find(
            Draft::danger((&plan.nodes[node.0].name, board.name.span))
                .says(format!(
                    "board `{}` itself draws {takes} continuously; its regulator is rated {}",
                    board.name.text, limit.typical
                ))
                .judged_as_given("demand", takes, &board.mean.origin)
                .at_most("rating", limit.typical, &limit.origin)
                .task("check `mean` and the regulator's `limit` in its datasheet: one of them is not this board's"),
        );
    }
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    own_regulators(context, sink);
    for r in rated(context) {
        let Some(wanted) = r.wanted.clone() else { continue };
        let amps = Amps::new(wanted.value);
        let Some(rating) = r.rating else {
            // What carries nothing cannot be overloaded.
            if wanted.value > 1e-6 {
                sink.unknown(
                    &r.name,
                    r.span,
                    format!("cannot check {} `{}` ({amps}): its rating is not given", r.what, r.name),
                    "write its continuous rating: `current = \"5 A\"`",
                );
            }
            continue;
        };
        if exceeds(amps.get(), rating.get()) {
            sink.find(
                Draft::danger((&r.name, r.span))
                    .at(&wanted)
                    .says(if r.what == "converter input" {
                        format!("converter `{}` draws {amps}; its label allows {rating}", r.name)
                    } else {
                        format!("{} `{}` must supply {amps}; rated {rating} continuous", r.what, r.name)
                    })
                    .judged("demand", amps)
                    .at_most("rating", rating, &r.origin),
            );
        } else if context.all_sustained() {
            sink.pass(&r.name, || format!("{amps} of {rating}"));
        }
    }
}
