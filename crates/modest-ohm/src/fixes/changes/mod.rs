//! Kinds of change, one file each. Each makes candidates; none decides whether they help.

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
mod source;
mod stage;
mod strip;
mod voltage;
mod wire;

use crate::findings::change::Change;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::Ladder;
use crate::fixes::bench::trial::Bench;

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
        Change::CutMark => strip::cut_marks(bench, f),
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
        Change::Keys(settings) | Change::Concession(settings) => keys::ladders(bench, f, settings),
        Change::Remove => connect::removals(bench, f),
    }
}

/// The nodes of a plan that a feed can name, as they are written.
fn nodes_of(bench: &Bench) -> Vec<String> {
    use crate::plan::model::node::NodeKind;
    let is_source = |kind: NodeKind| !matches!(kind, NodeKind::StripStart(_) | NodeKind::StripEnd(_));
    bench.plan.nodes.iter().filter(|node| is_source(node.kind)).map(|node| node.name.clone()).collect()
}
