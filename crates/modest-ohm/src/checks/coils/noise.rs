//! start-up-dip: what a coil that starts takes from the voltage of a board on the same supply.

use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Fraction, Volts};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::{at_most, exceeds};

/// A dip that a board may show as noise, a glitch of its converter, or a reset of what is fed from it (our own figure).
const LARGE: f64 = 0.05;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, board) in plan.boards.iter().enumerate() {
        let t = context.layout.boards[i].main;
        let volts = |o: &Outcome| {
            let s = o.actual.as_ref().ok()?;
            s.volts(t)
        };
        let before = |o: &Outcome| {
            let same = |w: &&Outcome| w.case.scenario == Scenario::Worst && w.corner == o.corner;
            context.outcomes.iter().find(same).and_then(volts)
        };
        let mut worst: Option<(&Outcome, f64, f64, &str)> = None;
        for o in context.outcomes.iter().filter(|o| o.case.scenario == Scenario::Surge) {
            let Some(name) = o.case.surging.as_deref() else { continue };
            if !is_winding(context, name) {
                continue;
            }
            let (Some(now), Some(calm)) = (volts(o), before(o)) else { continue };
            if worst.as_ref().is_none_or(|w| exceeds(calm - now, w.1)) {
                worst = Some((o, calm - now, calm, name));
            }
        }
        let (Some((o, dip, calm, by)), name) = (worst, &board.name.text) else { continue };
        let share = dip / calm.max(1e-9);
        // Below its brown-out another check speaks.
        let resets = board.brown_out.as_ref().is_some_and(|b| calm - dip < b.typical.get());
        if resets || at_most(share, LARGE) {
            sink.pass(name, || format!("dips by {} when `{by}` starts", Volts::new(dip.max(0.0))));
            continue;
        }
        let rail = plan.node_id(NodeKind::BoardInput(i)).map_or("", |id| plan.nodes[plan.root(id).0].name.as_str());
        sink.find(
            Draft::caution((name, board.name.span))
                .at(&Worst::at(o, dip))
                .says(format!(
                    "when `{by}` starts, the supply of board `{name}` dips by {}, {} of {}: both are fed from \
                    `{rail}`",
                    Volts::new(dip),
                    Fraction::new(share),
                    Volts::new(calm)
                ))
                .judged("dip", Volts::new(dip))
                .with("share", Fraction::new(share))
                .at_most("limit", Fraction::new(LARGE), &Origin::Default("5 % of a board's supply voltage")),
        );
    }
}

/// True for a load, or a group of loads, with a coil.
fn is_winding(context: &Context<'_>, name: &str) -> bool {
    let plan = context.plan;
    let group = plan.groups.iter().find(|g| g.name.text == name);
    let members = group.into_iter().flat_map(|g| g.members.iter().map(|(_, i)| *i));
    let own = plan.loads.iter().position(|l| l.name.text == name);
    members.chain(own).any(|i| plan.loads[i].is_winding())
}
