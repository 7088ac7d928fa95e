//! What nodes and converters carry in a solved state.

use super::outcome::Snapshot;
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Amps;

/// What diodes and inputs leak; less is no current that does anything (our own figure: 1 mA lights an indicator).
pub(crate) const LEAK_A: f64 = 1e-3;

/// The branch of a node that is a source.
pub(crate) fn source_of(layout: &Layout, kind: NodeKind) -> Option<usize> {
    match kind {
        NodeKind::Supply(i) => Some(layout.supplies[i]),
        NodeKind::Converter(i) => Some(layout.converters[i].output),
        _ => None,
    }
}

/// What a boost may deliver that takes in no more than `label_a`: its output current times what its input current
/// leaves of that.
pub(crate) fn boost_limit(plan: &Plan, kind: NodeKind, s: &Snapshot, label_a: f64) -> Option<Amps> {
    let NodeKind::Converter(i) = kind else { return None };
    let (taken, given) = (s.current_into_converter(plan, i), s.current_of(kind));
    // Where it gives nothing the label says nothing of its output yet.
    (taken > 1e-6 && given > 1e-6).then(|| Amps::new(given * label_a / taken))
}
