//! Which vertices of the network conductors join.

use modest_ohm_solve::Groups;
use modest_ohm_solve::network::Law;

use crate::derived::context::Context;

/// Vertices that conductors join, whatever flows; `None` where nothing is solved.
pub(crate) fn joined(context: &Context<'_>) -> Option<Groups> {
    let s = context.outcomes.iter().find_map(|o| o.wanted.as_ref().or(o.actual.as_ref()).ok())?;
    let mut groups = Groups::new(s.net.vertices);
    for b in &s.net.branches {
        // A stage in a return, a diode in a feed: what flows one way shares its ground.
        if matches!(b.law, Law::Conductor { .. } | Law::Copper { .. } | Law::Diode { .. }) {
            groups.join(b.from, b.to);
        }
    }
    for ladder in &s.net.ladders {
        for pair in ladder.ports.windows(2) {
            groups.join(pair[0].minus, pair[1].minus);
        }
    }
    Some(groups)
}
