//! Kinds of change, one file each. Each makes candidates; none decides whether they help.

pub(crate) mod by_code;
mod cells;
mod connect;
mod divider;
mod fuse;
mod keys;
mod level;
mod limit;
mod load;
mod part;
mod pin;
mod rail;
mod rating;
mod settings;
mod settings_of_signals;
mod source;
mod stage;
mod strip;
mod voltage;
mod wire;

use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::Ladder;
use crate::fixes::bench::trial::Bench;

/// A kind of change that may end a finding.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Change {
    /// A part of a higher rating: the figure that the finding was held to.
    Rating,
    /// A larger supply or converter on the way up.
    Source,
    /// Another voltage of what feeds the part.
    Voltage,
    /// More cells.
    Cells,
    /// Another source for the part.
    Rail,
    /// A converter of its own for the part.
    OwnRail,
    /// A thicker wire.
    Wire,
    /// Another fuse.
    Fuse,
    /// A fuse where there is none.
    AddFuse,
    /// A thicker wire with another fuse.
    WireAndFuse,
    /// The current to which the firmware dims.
    FirmwareLimit,
    /// More feed points.
    FeedPoints,
    /// A buffer in a signal.
    Level,
    /// A divider in front of an input.
    Divider,
    /// A generic part of the same kind.
    Part,
    /// A diode across a coil.
    Flyback,
    /// A transistor between a pin and its load.
    Stage,
    /// A resistor for each LED.
    OwnResistors,
    /// Another pin.
    Pin,
    /// A switch that stops a part.
    Stop,
    /// Grounds joined.
    Ground,
    /// A capacitor across a node.
    Capacitor,
    /// An NTC resistor in a feed.
    Limiter,
    /// A resistor across a source, to draw enough.
    Bleeder,
    /// A figure of a setting, by the code.
    Keys,
    /// A key that says that it is meant as it is, or that less is enough.
    Concession,
    /// Something that the plan has is taken out.
    Remove,
}

/// The candidates of one kind of change for a finding.
pub(crate) fn ladders(change: Change, bench: &Bench, f: &Finding) -> Vec<Ladder> {
    match change {
        Change::Rating => rating::ladders(bench, f),
        Change::Source => source::ladders(bench, f),
        Change::Voltage => voltage::ladders(bench, f),
        Change::Cells => cells::ladders(bench, f),
        Change::Rail => rail::others(bench, f),
        Change::OwnRail => rail::own(bench, f),
        Change::Wire => wire::ladders(bench, f),
        Change::Fuse => fuse::others(bench, f),
        Change::AddFuse => fuse::new(bench, f),
        Change::WireAndFuse => fuse::with_wire(bench, f),
        Change::FirmwareLimit => limit::ladders(bench, f),
        Change::FeedPoints => strip::ladders(bench, f),
        Change::Level => level::ladders(bench, f),
        Change::Divider => divider::ladders(bench, f),
        Change::Part => part::ladders(bench, f),
        Change::Flyback => part::flyback(bench, f),
        Change::Stage => stage::ladders(bench, f),
        Change::OwnResistors => stage::own_resistors(bench, f),
        Change::Stop => pin::stops(bench, f),
        Change::Pin => pin::ladders(bench, f),
        Change::Ground => connect::grounds(bench, f),
        Change::Capacitor => connect::capacitors(bench, f),
        Change::Limiter => connect::limiters(bench, f),
        Change::Bleeder => load::ladders(bench, f),
        Change::Keys | Change::Concession => keys::ladders(bench, f),
        Change::Remove => connect::removals(bench, f),
    }
}

/// The nodes of a plan that a feed can name, as they are written.
fn nodes_of(bench: &Bench) -> Vec<String> {
    use crate::plan::model::node::NodeKind;
    let is_source = |kind: NodeKind| !matches!(kind, NodeKind::StripStart(_) | NodeKind::StripEnd(_));
    bench.plan.nodes.iter().filter(|node| is_source(node.kind)).map(|node| node.name.clone()).collect()
}
