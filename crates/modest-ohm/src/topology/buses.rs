//! Pull-ups of two-line buses: which there are, and to which voltage they go.

use super::rail::nominal_volts;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::figure::Figure;
use crate::quantity::units::Ohms;

/// A pull-up of a line.
#[derive(Clone, Debug)]
pub(crate) struct PullUp<'p> {
    /// Whose it is: `mast`, `depth`, `keeper.io2`.
    pub of: String,
    pub ohms: &'p Figure<Ohms>,
    /// The node to whose + it goes.
    pub to: Option<NodeId>,
}

/// No pin of a board runs on more than this, V: logic is made for 5.5 V at most.
const MOST_LOGIC_V: f64 = 6.0;

/// Whether the voltage of a board's pins are not known: it is fed with more than logic withstands, and says nothing of
/// a regulator.
pub(crate) fn logic_is_unknown(plan: &Plan, index: usize) -> bool {
    let Some(board) = plan.boards.get(index) else { return false };
    let made_for = board.recommended.as_ref().map_or(0.0, |r| r.low.get());
    let fed_with = || nominal_volts(plan, plan.root_of_board(index)).map_or(0.0, |v| v.typical.get());
    board.logic_regulator().is_none() && made_for.max(fed_with()) > MOST_LOGIC_V
}

/// The rail that a board's pins run on.
pub(crate) fn logic_node(plan: &Plan, index: usize) -> Option<NodeId> {
    let board = plan.boards.get(index).filter(|_| !logic_is_unknown(plan, index))?;
    let output = board.logic_regulator().and_then(|_| plan.node_id(NodeKind::BoardOutput(index)));
    output.or_else(|| plan.node_id(NodeKind::BoardInput(index)))
}

/// The board that a bus starts at.
pub(crate) fn board_of(plan: &Plan, bus: usize) -> Option<usize> {
    plan.buses[bus].lines.first().map(|(_, pin)| pin.at.board).filter(|c| *c < plan.boards.len())
}

/// All pull-ups of a line: the bus's own, those of its modules, and the one that the board has on its pin.
pub(crate) fn pulls<'p>(plan: &'p Plan, bus: usize, pin: Option<&PinAt>) -> Vec<PullUp<'p>> {
    let own = &plan.buses[bus];
    let logic = board_of(plan, bus).and_then(|c| logic_node(plan, c));
    let mut pulls = Vec::new();
    if let Some(ohms) = &own.pull {
        let to = own.pull_to.as_ref().map(|n| n.id).or(logic);
        pulls.push(PullUp { of: own.name.text.clone(), ohms, to });
    }
    for sensor in plan.sensors.iter().filter(|s| s.bus.1 == bus) {
        if let Some(ohms) = &sensor.pull {
            let to = Some(plan.loads[sensor.load].feed.from.id);
            pulls.push(PullUp { of: sensor.name.text.clone(), ohms, to });
        }
    }
    let listed = pin.and_then(|p| plan.boards.get(p.board)?.pins.list.get(p.index?));
    if let Some(pin) = listed
        && let Some(ohms) = &pin.pull_up
    {
        pulls.push(PullUp { of: pin.name.clone(), ohms, to: logic });
    }
    pulls
}
