//! touch-voltage: rails that have more voltage than may be touched, dry or wet.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load_kind::LoadKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::Volts;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::at_most;

/// Direct voltage that may be touched, dry and wet (electrical reference, "Mains").
const DRY_V: f64 = 60.0;
const WET_V: f64 = 30.0;

/// The wet thing on a rail: a pump.
fn wet(plan: &Plan, root: crate::plan::wiring::feed::NodeId) -> Option<&str> {
    let pump = |l: &&crate::plan::kinds::load::Load| l.kind == LoadKind::Pump && plan.root(l.feed.from.id) == root;
    plan.loads.iter().find(pump).map(|l| l.name.text.as_str())
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (id, node) in plan.nodes.iter().enumerate() {
        let span = match node.kind {
            NodeKind::Supply(i) => plan.supplies[i].name.span,
            NodeKind::Converter(i) => plan.converters[i].name.span,
            _ => continue,
        };
        let volts = |o: &Outcome| o.actual.as_ref().ok()?.volts_at(NodeId(id));
        let Some((o, most)) = worst_of(context.outcomes.iter(), volts) else { continue };
        let pump = wet(plan, NodeId(id));
        let is_wet = plan.policy.wet || pump.is_some();
        let may = Volts::new(if is_wet { WET_V } else { DRY_V });
        let got = Volts::new(most);
        if at_most(most, may.get()) {
            sink.pass(&node.name, || format!("{got} of {may}"));
            continue;
        }
        let why = match (pump, is_wet) {
            (Some(pump), _) => format!("where pump `{pump}` is wet"),
            (None, true) => "in wet surroundings".to_owned(),
            (None, false) => "dry".to_owned(),
        };
        sink.find(
            Draft::caution((&node.name, span))
                .at(&Worst::at(o, most))
                .says(format!("`{}` is at {got}; touchable {why}: up to {may} DC", node.name))
                .judged("voltage", got)
                .at_most("rating", may, &Origin::Default("60 V DC dry, 30 V DC wet"))
                .task("use a supply of lower voltage, or insulate and cover everything on it as if it were mains"),
        );
    }
}
