//! strip-sources-paralleled: one piece of a strip's + fed from two sources.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::strip::Strip;
use crate::plan::strip::inject::Injection;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Metres, Volts};

/// A source that feeds a strip, and whether a diode keeps current from going back to it.
#[derive(Clone, Copy, PartialEq)]
struct Fed {
    source: NodeId,
    by_diode: bool,
}

/// The sources that feed a node over conductors, strips passed through.
fn sources(plan: &Plan, from: NodeId) -> Vec<Fed> {
    let (mut found, mut seen, mut open) = (Vec::new(), Vec::new(), vec![(from, false)]);
    while let Some((at, by_diode)) = open.pop() {
        if seen.contains(&at) {
            continue;
        }
        seen.push(at);
        let up: Vec<NodeId> = match plan.nodes[at.0].kind {
            NodeKind::Supply(_) | NodeKind::Converter(_) | NodeKind::BoardOutput(_) => {
                found.push(Fed { source: at, by_diode });
                continue;
            }
            // Only what feeds the piece at that end.
            NodeKind::StripStart(i) => pieces(&plan.strips[i]).first().map_or_else(Vec::new, |p| froms(p)),
            NodeKind::StripEnd(i) => pieces(&plan.strips[i]).last().map_or_else(Vec::new, |p| froms(p)),
            _ => plan.feeders(at).collect(),
        };
        let diode = matches!(plan.nodes[at.0].kind, NodeKind::Branch(i)
            if matches!(&plan.branches[i].kind, RunKind::Diode(d) if !d.reversed));
        // The first feeder is looked at first.
        open.extend(up.into_iter().rev().map(|id| (id, by_diode || diode)));
    }
    found
}

fn froms(piece: &[&Injection]) -> Vec<NodeId> {
    piece.iter().map(|q| q.feed.from.id).collect()
}

/// Feed points by the piece of + that they feed.
fn pieces(strip: &Strip) -> Vec<Vec<&Injection>> {
    let mut pieces: Vec<Vec<&Injection>> = vec![Vec::new(); strip.cuts.len() + 1];
    for injection in &strip.injections {
        let piece = strip.cuts.iter().filter(|(x, _)| *x <= injection.at_m).count();
        pieces[piece].push(injection);
    }
    pieces
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, strip) in plan.strips.iter().enumerate() {
        let name = &strip.name.text;
        let pair = pieces(strip).into_iter().find_map(|piece| two_sources(plan, &piece));
        let Some([(a, from_m), (b, to_m)]) = pair else {
            if context.strip_is_fed(i) {
                sink.pass(name, || "each piece of its positive has one source".into());
            }
            continue;
        };
        let volts = |id: NodeId| plan.sources().into_iter().find(|s| s.node == id).map(|s| s.volts);
        let (Some(va), Some(vb)) = (volts(a), volts(b)) else { continue };
        let (na, nb) = (&plan.nodes[a.0].name, &plan.nodes[b.0].name);
        // The furthest that two of their voltage can lie apart.
        let apart = (va.high - vb.low).get().max((vb.high - va.low).get());
        let word = strip.word();
        let task = if strip.is_panel && strip.rows.is_some() {
            "give every tile its own feed, and pass on data only: `passes = \"data\"`".to_owned()
        } else if (to_m - from_m).abs() > 1e-9 {
            let middle = Metres::new(cut_between(strip, from_m, to_m));
            format!(
                "cut the positive copper between the two feeds, for instance at {middle} (`cut = \"{:.3} m\"`), and \
                leave the return whole",
                middle.get()
            )
        } else {
            format!("feed it from one of them, `{na}` or `{nb}`")
        };
        sink.find(
            Draft::danger(&strip.name)
                .says(format!(
                    "`{na}` ({}) and `{nb}` ({}) both feed the positive of {word} `{name}` and may differ by {}: the \
                    higher one carries the whole load, or feeds into the lower",
                    va.typical,
                    vb.typical,
                    Volts::new(apart)
                ))
                .given("first", va.typical, &va.origin)
                .given("second", vb.typical, &vb.origin)
                .with("apart", Volts::new(apart))
                .task(task),
        );
    }
}

/// Two feed points of one piece that are connected to different sources, with their places. Sources that a diode each
/// keeps from taking current back may meet.
fn two_sources(plan: &Plan, piece: &[&Injection]) -> Option<[(NodeId, f64); 2]> {
    let mut places: Vec<(Fed, f64)> =
        piece.iter().flat_map(|q| sources(plan, q.feed.from.id).into_iter().map(|s| (s, q.at_m))).collect();
    places.sort_by(|a, b| a.1.total_cmp(&b.1));
    let meet = |a: &Fed, b: &Fed| a.source == b.source || (a.by_diode && b.by_diode);
    // Neighbours first: between them the + can be cut.
    for (n, (b, to_m)) in places.iter().enumerate() {
        if let Some((a, from_m)) = places[..n].iter().rev().find(|(a, _)| !meet(a, b)) {
            return Some([(a.source, *from_m), (b.source, *to_m)]);
        }
    }
    None
}

/// The cut mark nearest to the middle between two feeds.
fn cut_between(strip: &Strip, from_m: f64, to_m: f64) -> f64 {
    let middle = 0.5 * (from_m + to_m);
    let every = strip.marks.as_ref().map_or(0.0, |m| m.every.typical.get());
    let mark = if every > 0.0 { (middle / every).round() * every } else { middle };
    if mark > from_m && mark < to_m { mark } else { middle }
}
