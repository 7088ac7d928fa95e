//! Figures that may be anywhere within their spread, and variants of a plan in which some of them are moved.

use std::collections::BTreeMap;

use super::Plan;
use super::figures::{Place, Seen};
use crate::quantity::figure::Origin;
use crate::quantity::figures::{AnyFigure, End};

/// Keys of the voltage that a source makes: of a supply, a converter, a board's regulator.
pub(crate) const SOURCE_VOLTAGES: [&str; 3] = ["voltage", "output", "regulator.voltage"];

/// A figure with a spread, or several that have one cause and move together.
#[derive(Clone, Debug)]
pub(crate) struct Movable {
    /// The item it belongs to; of several the first.
    pub item: String,
    /// All of them.
    pub items: Vec<String>,
    pub key: String,
    /// Its values in words.
    pub words: String,
    /// True for a range that a part goes through: no measurement narrows it.
    pub is_state: bool,
    /// Smallest and largest value in the base unit, and the unit.
    pub ends: (f64, f64, &'static str),
    pub origin: Origin,
    /// The figures. Two items may share a name, as a relay module and its coil do.
    places: Vec<Place>,
}

impl Movable {
    /// Its value at an end of its spread, in the base unit.
    pub fn at(&self, end: End) -> f64 {
        if end == End::Low { self.ends.0 } else { self.ends.1 }
    }

    /// Whether figures of two items have one cause. Strips of one generic part come off one reel, motors of one part
    /// out of one box; sources differ from one to the next.
    fn is_one_cause(&self, key: &str, ends: (f64, f64, &'static str), origin: &Origin) -> bool {
        let one_part = matches!((&self.origin, origin), (Origin::Catalogue { part: a, .. }, Origin::Catalogue { part: b, .. }) if a == b);
        one_part && self.key == key && self.ends == ends && !SOURCE_VOLTAGES.contains(&key)
    }
}

impl Plan {
    /// All figures with a spread; equal keys of one item are one figure, and those with one cause move together. A range
    /// in which something works is none.
    pub(crate) fn movables(&self) -> Vec<Movable> {
        let mut all: Vec<Movable> = Vec::new();
        self.clone().each_figure(&mut |Seen { item, at, place }, figure| {
            if at.is_range || !figure.is_spread() {
                return;
            }
            let (key, ends, origin) = (at.to_string(), figure.ends(), figure.origin());
            // An adapter's voltage differs from one to the next; a battery goes through its own.
            let is_state = at.is_state && self.supplies.iter().all(|s| s.name.text != item || s.kind.is_stiff());
            let known = |m: &&mut Movable| (m.item == item && m.key == key) || m.is_one_cause(&key, ends, origin);
            match all.iter_mut().find(known) {
                Some(known) => {
                    known.places.push(place);
                    if !known.items.iter().any(|i| i == item) {
                        known.items.push(item.to_owned());
                    }
                }
                None => all.push(Movable {
                    item: item.to_owned(),
                    items: vec![item.to_owned()],
                    key,
                    words: figure.words(),
                    is_state,
                    ends,
                    origin: figure.origin().clone(),
                    places: vec![place],
                }),
            }
        });
        all
    }

    /// Visits the figures of movable ones, each with what is given for its movable.
    fn each_of<T: Copy>(&mut self, these: &[(&Movable, T)], see: &mut dyn FnMut(&mut dyn AnyFigure, T)) {
        let of =
            |(movable, given): &(&Movable, T)| movable.places.iter().map(|place| (*place, *given)).collect::<Vec<_>>();
        let given: BTreeMap<Place, T> = these.iter().flat_map(of).collect();
        let mut items: Vec<usize> = given.keys().map(|place| place.item).collect();
        items.dedup();
        self.each_figure_of(&items, &mut |seen, figure| {
            if let Some(given) = given.get(&seen.place) {
                see(figure, *given);
            }
        });
    }

    /// Holds a figure at one end of its spread.
    pub(crate) fn hold(&mut self, movable: &Movable, end: End) {
        self.hold_all(&[(movable, end)]);
    }

    /// Holds several figures, each at one end of its spread.
    pub(crate) fn hold_all(&mut self, these: &[(&Movable, End)]) {
        self.each_of(these, &mut |figure, end| figure.hold(end));
    }

    /// Holds a figure at a share of its spread: 0 is the low end, 1 the high one.
    #[cfg(test)]
    pub(crate) fn put(&mut self, movable: &Movable, share: f64) {
        self.each_of(&[(movable, ())], &mut |figure, ()| {
            let [low, _, high] = figure.values();
            figure.set_values([low + share * (high - low); 3]);
        });
    }

    /// Moves several figures to their other ends; once more moves them back.
    pub(crate) fn flip_all(&mut self, these: &[&Movable]) {
        let these: Vec<(&Movable, ())> = these.iter().map(|movable| (*movable, ())).collect();
        self.each_of(&these, &mut |figure, ()| figure.flip());
    }
}

/// To which movable one each figure belongs.
pub(crate) fn belongs(movables: &[Movable]) -> BTreeMap<Place, usize> {
    movables.iter().enumerate().flat_map(|(m, movable)| movable.places.iter().map(move |place| (*place, m))).collect()
}
