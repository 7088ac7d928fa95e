//! A consumer on a rail that was never meant for it: a 12 V strip on a 5 V adapter.
//!
//! Of such a consumer only that is reported. What is solved with the wrong voltage, such as a current that is too large
//! or too small, says nothing about the build that was meant.

use super::consumers::{Consumer, Where};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;

/// Beyond this share of the ends of the recommended range it is another rail and no tolerance (our own figure: 5 V and
/// 6 V batteries share parts, 9 V and 12 V do not).
const APART: f64 = 0.2;

/// The rail that a consumer is made for, and the one that it has.
pub(crate) struct WrongRail {
    pub rated: Volts,
    pub supplied: Volts,
    /// True where it has more than it is made for.
    pub is_high: bool,
}

/// The wrong rail of a consumer, if it has one: by what is printed on it and on its source, before anything is solved.
pub(crate) fn wrong_rail(plan: &Plan, c: &Consumer<'_>) -> Option<WrongRail> {
    let range = c.recommended.as_ref()?;
    let supplied = nominal(plan, c.root)?;
    let is_high = supplied > range.high;
    is_apart(range, supplied).then(|| WrongRail { rated: rated(plan, c).unwrap_or(range.typical), supplied, is_high })
}

/// True where a voltage is too far from a recommended range to be one of its tolerances.
pub(crate) fn is_apart(range: &Figure<Volts>, volts: Volts) -> bool {
    volts.get() > (1.0 + APART) * range.high.get() || volts.get() < (1.0 - APART) * range.low.get()
}

/// What a source is set to, or made for.
fn nominal(plan: &Plan, root: NodeId) -> Option<Volts> {
    match plan.nodes[root.0].kind {
        NodeKind::Supply(i) => Some(plan.supplies[i].voltage.typical),
        NodeKind::Converter(i) => Some(plan.converters[i].output.typical),
        NodeKind::BoardOutput(i) => plan.boards[i].regulator.as_ref().map(|r| r.voltage.typical),
        _ => None,
    }
}

/// The rated voltage that is written on it.
fn rated(plan: &Plan, c: &Consumer<'_>) -> Option<Volts> {
    let voltage = match c.at {
        Where::Load(i) => plan.loads[i].voltage.as_ref(),
        Where::Strip(i) => plan.strips[i].voltage.as_ref(),
        Where::Board(_) | Where::Terminals(_) => None,
    };
    voltage.map(|v| v.typical)
}
