//! Figures that may be anywhere within their spread, and variants of a plan in which some of them are moved.

use super::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::figures::End;

/// A figure with a spread, or several that have one cause and move together.
#[derive(Clone, Debug)]
pub(crate) struct Movable {
    /// The item it belongs to; of several the first.
    pub item: String,
    pub key: String,
    /// Smallest and largest value in the base unit, and the unit.
    pub ends: (f64, f64, &'static str),
    pub origin: Origin,
    /// Numbers of the figures in the order in which they are visited.
    places: Vec<usize>,
}

impl Movable {
    /// Its value at an end of its spread, in the base unit.
    pub fn at(&self, end: End) -> f64 {
        if end == End::Low { self.ends.0 } else { self.ends.1 }
    }

    /// Whether figures of two items have one cause. Strips of one generic part come off one reel, motors of one part
    /// out of one box; sources differ from one to the next.
    fn is_one_cause(&self, key: &str, ends: (f64, f64, &'static str), origin: &Origin) -> bool {
        const OF_SOURCES: [&str; 3] = ["voltage", "output", "regulator.voltage"];
        let one_part = matches!((&self.origin, origin), (Origin::Catalogue { part: a, .. }, Origin::Catalogue { part: b, .. }) if a == b);
        one_part && self.key == key && self.ends == ends && !OF_SOURCES.contains(&key)
    }
}

impl Plan {
    /// All figures with a spread; equal keys of one item are one figure, and those with one cause move together. A range
    /// in which something works is none.
    pub(crate) fn movables(&self) -> Vec<Movable> {
        let mut all: Vec<Movable> = Vec::new();
        let mut place = 0;
        self.clone().each_figure(&mut |item, at, figure| {
            place += 1;
            if at.is_range || !figure.is_spread() {
                return;
            }
            let (key, ends, origin) = (at.to_string(), figure.ends(), figure.origin());
            let known = |m: &&mut Movable| (m.item == item && m.key == key) || m.is_one_cause(&key, ends, origin);
            match all.iter_mut().find(known) {
                Some(known) => known.places.push(place - 1),
                None => all.push(Movable {
                    item: item.to_owned(),
                    key,
                    ends,
                    origin: origin.clone(),
                    places: vec![place - 1],
                }),
            }
        });
        all
    }

    /// Moves a figure to its other end in every corner; once more moves it back.
    pub(crate) fn flip(&mut self, movable: &Movable) {
        let mut place = 0;
        self.each_figure(&mut |_, _, figure| {
            if movable.places.contains(&place) {
                figure.flip();
            }
            place += 1;
        });
    }

    /// Holds a figure at one end of its spread.
    pub(crate) fn hold(&mut self, movable: &Movable, end: End) {
        let mut place = 0;
        self.each_figure(&mut |_, _, figure| {
            if movable.places.contains(&place) {
                figure.hold(end);
            }
            place += 1;
        });
    }
}
