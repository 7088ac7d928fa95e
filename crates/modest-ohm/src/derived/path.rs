//! What a strip's current flows through, and what of it may flow continuously.

use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::strip::Strip;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Figure;
use crate::quantity::units::Fraction;
use crate::solved::outcome::Snapshot;
use crate::topology::conductors::{cable_of, contact_limit_of, fuse_of, return_cable_of};
use crate::topology::run::Run;

/// Strip copper may turn this much into heat at a feed point, W/m (typical): an open strip, and one in a sleeve or
/// under resin. Twice as much is danger.
const COPPER_W_PER_M: [f64; 2] = [5.0, 2.0];

/// Something with a continuous limit.
#[derive(Clone, Debug)]
pub(crate) struct Element {
    pub name: String,
    pub on: On,
    pub amps: f64,
    pub usable: f64,
    /// What it may carry without headroom or load factor.
    pub rating: f64,
}

#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum On {
    Node(NodeId),
    Run(Run),
    Copper(usize),
}

pub(crate) fn elements(plan: &Plan, s: &Snapshot) -> Vec<Element> {
    let mut out = Vec::new();
    sources(plan, s, &mut out);
    leads(plan, s, &mut out);
    for (i, strip) in plan.strips.iter().enumerate() {
        let l = &s.solution.strips[i];
        let amps = l.copper_max_feed_a.max(l.copper_max_return_a);
        // Heat goes with the square of the current.
        let usable = amps * (copper_w_per_m(strip) / l.copper_max_w_per_m.max(f64::MIN_POSITIVE)).sqrt();
        let rating = std::f64::consts::SQRT_2 * usable;
        out.push(Element {
            name: format!("the copper of `{}`", strip.name.text),
            on: On::Copper(i),
            amps,
            usable,
            rating,
        });
    }
    out
}

fn sources(plan: &Plan, s: &Snapshot, out: &mut Vec<Element>) {
    let headroom = |own: &Option<Figure<Fraction>>| 1.0 - own.as_ref().unwrap_or(&plan.policy.headroom).typical.get();
    for (i, supply) in plan.supplies.iter().enumerate() {
        if let (Some(rating), Some(id)) = (&supply.current, plan.node_id(NodeKind::Supply(i))) {
            let usable = rating.low.get() * headroom(&supply.headroom);
            out.push(Element {
                name: format!("`{}`", supply.name.text),
                on: On::Node(id),
                amps: s.amps(s.layout.supplies[i]),
                usable,
                rating: rating.low.get(),
            });
        }
    }
    for (i, c) in plan.converters.iter().enumerate() {
        if let (Some(rating), Some(id)) = (&c.current, plan.node_id(NodeKind::Converter(i))) {
            let usable = rating.low.get() * headroom(&c.headroom);
            out.push(Element {
                name: format!("`{}`", c.name.text),
                on: On::Node(id),
                amps: s.amps(s.layout.converters[i].output),
                usable,
                rating: rating.low.get(),
            });
        }
    }
}

fn leads(plan: &Plan, s: &Snapshot, out: &mut Vec<Element>) {
    let ambient = plan.warmest_c();
    // What a port carries for the solve only is not its load.
    let is_own = |run: Run| !matches!(run, Run::Branch(i) if plan.is_short_port(i));
    for info in s.layout.conductors.iter().filter(|info| is_own(info.run)) {
        let feed = info.feed.map_or(0.0, |b| s.amps(b).abs());
        let back = s.amps(info.back).abs();
        let on = On::Run(info.run);
        if let Some(usable) = cable_of(plan, info.run).and_then(|c| c.ampacity(ambient)) {
            out.push(Element { name: format!("the cable to `{}`", info.name), on, amps: feed, usable, rating: usable });
        }
        if let Some(usable) = return_cable_of(plan, info.run).and_then(|c| c.ampacity(ambient)) {
            out.push(Element {
                name: format!("the return of `{}`", info.name),
                on,
                amps: back,
                usable,
                rating: usable,
            });
        }
        if let Some(fuse) = fuse_of(plan, info.run) {
            let (usable, rating) = (fuse.continuous_a(ambient), fuse.rating.low.get());
            out.push(Element { name: format!("the fuse of `{}`", info.name), on, amps: feed, usable, rating });
        }
        if let Some(usable) = contact_limit_of(plan, info.run) {
            let name = format!("the contacts of `{}`", info.name);
            out.push(Element { name, on, amps: feed.max(back), usable, rating: usable });
        }
    }
}

/// What a strip's copper may turn into heat at a feed point, W/m; twice as much is danger.
pub(crate) fn copper_w_per_m(strip: &Strip) -> f64 {
    COPPER_W_PER_M[usize::from(strip.sealed)]
}

/// Everything a strip's current flows through.
pub(crate) fn path_of(plan: &Plan, strip: usize) -> Vec<On> {
    let mut path = vec![On::Copper(strip)];
    for (q, injection) in plan.strips[strip].injections.iter().enumerate() {
        path.push(On::Run(Run::Injection(strip, q)));
        for id in plan.path_up(injection.feed.from.id) {
            path.push(On::Node(id));
            match plan.nodes[id.0].kind {
                NodeKind::Branch(i) => path.push(On::Run(Run::Branch(i))),
                NodeKind::Converter(i) => path.push(On::Run(Run::Converter(i))),
                NodeKind::BoardInput(i) => path.push(On::Run(Run::Board(i))),
                NodeKind::StripStart(i) | NodeKind::StripEnd(i) => {
                    path.push(On::Copper(i));
                    path.extend((0..plan.strips[i].injections.len()).map(|q| On::Run(Run::Injection(i, q))));
                }
                _ => {}
            }
        }
    }
    path
}
