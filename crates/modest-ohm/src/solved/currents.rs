//! What nodes and converters carry in a solved state.

use super::outcome::Snapshot;
use crate::network::layout::ConverterAt;
use crate::network::layout::Layout;
use crate::plan::kinds::converter::ConverterKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Amps;
use crate::topology::run::Run;

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

/// The current a node delivers (supplies, converters, board outputs) or takes in (branches, board inputs), A.
pub(crate) fn node_current(layout: &Layout, kind: NodeKind, s: &Snapshot) -> f64 {
    let feed_of = |run: Run| {
        layout.conductors.iter().find(|c| c.run == run).and_then(|c| c.feed).map_or(0.0, |b| s.solution.current[b])
    };
    let amps = match kind {
        NodeKind::Supply(i) => s.solution.current[layout.supplies[i]],
        NodeKind::Branch(i) => layout.through.get(i).map_or(0.0, |b| s.solution.current[*b]),
        NodeKind::Converter(i) => s.solution.current[layout.converters[i].output],
        NodeKind::BoardInput(i) if layout.conductors.iter().any(|c| c.run == Run::Controller(i)) => {
            feed_of(Run::Controller(i))
        }
        // Without a feed of its own: what comes in by its other terminals.
        NodeKind::BoardInput(i) => layout.inlets[i].joins().map(|b| s.solution.current[b]).sum(),
        NodeKind::BoardOutput(i) => layout.controllers[i].regulator.map_or(0.0, |b| s.solution.current[b]),
        NodeKind::StripStart(_) | NodeKind::StripEnd(_) => 0.0,
    };
    // Less than this is the trace of a source that is kept from giving.
    if amps.abs() < 1e-9 { 0.0 } else { amps }
}

/// What a converter takes in, A.
pub(crate) fn input_current(plan: &Plan, layout: &Layout, converter: usize, s: &Snapshot) -> f64 {
    let ConverterAt { intake, output, .. } = layout.converters[converter];
    // What a linear regulator gives comes straight from its input.
    let through =
        if plan.converters[converter].kind == ConverterKind::Linear { s.solution.current[output] } else { 0.0 };
    s.solution.current[intake] + through
}

/// What a boost with a label may deliver: its output current times what its input current leaves of the label.
pub(crate) fn boost_limit(plan: &Plan, layout: &Layout, kind: NodeKind, s: &Snapshot) -> Option<Amps> {
    let NodeKind::Converter(i) = kind else { return None };
    let label = plan.converters[i].input_current.as_ref()?.low.get();
    let (taken, given) = (input_current(plan, layout, i, s), node_current(layout, kind, s));
    // Where it gives nothing the label says nothing of its output yet.
    (taken > 1e-6 && given > 1e-6).then(|| Amps::new(given * label / taken))
}
