//! What a start does to its neighbours: a motor that gets less takes longer to start, electronics on its rail fail.

use super::consumers::Where;
use super::context::Context;
use crate::plan::wiring::feed::NodeId;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::clearly_below;
use crate::verdict::severity::Severity;

/// How bad a state is for what shares a source and does not start itself: a fault below the minimum, a caution below the
/// recommended range, `None` where nothing lacks voltage.
///
/// Windings are left out, for they only run slower for a moment, and boards too, which have their own reset voltage.
pub(crate) fn starved(context: &Context<'_>, source: NodeId, o: &Outcome) -> Option<Severity> {
    let (plan, s) = (context.plan, o.actual.as_ref().ok()?);
    let is_slow = |at: Where| match at {
        Where::Load(i) => plan.loads[i].is_winding() || plan.loads[i].is_motor(),
        Where::Board(_) => true,
        _ => false,
    };
    let shares = context
        .consumers()
        .iter()
        .filter(|c| !is_slow(c.at) && plan.is_behind(c.hangs_on, source))
        .filter_map(|c| Some((c.lowest(o, s)?, c)));
    let severity = shares.filter_map(|(volts, c)| {
        if c.minimum.as_ref().is_some_and(|m| clearly_below(volts, m.typical.get())) {
            return Some(Severity::Fault);
        }
        let low = c.recommended.as_ref()?.low.get();
        clearly_below(volts * c.lasting.low, low).then_some(Severity::Caution)
    });
    severity.max()
}
