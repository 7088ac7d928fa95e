//! Figures that may be anywhere within their spread, and variants of a plan in which some of them are moved.

use super::Plan;
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
    /// The figures, by their numbers in the order in which the plan shows them. Two items may share a name, as a relay
    /// module and its coil do.
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
        let one_part = matches!((&self.origin, origin), (Origin::Catalogue { part: a, .. }, Origin::Catalogue { part: b, .. }) if a == b);
        one_part && self.key == key && self.ends == ends && !SOURCE_VOLTAGES.contains(&key)
    }
}

impl Plan {
    /// All figures with a spread; equal keys of one item are one figure, and those with one cause move together. A range
    /// in which something works is none.
    pub(crate) fn movables(&self) -> Vec<Movable> {
        let mut all: Vec<Movable> = Vec::new();
        let mut number = 0;
        self.clone().each_figure(&mut |item, at, figure| {
            let place = number;
            number += 1;
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

    /// Visits the figures of a movable one.
    fn each_of(&mut self, movable: &Movable, see: &mut dyn FnMut(&mut dyn AnyFigure)) {
        let mut number = 0;
        self.each_figure(&mut |_, _, figure| {
            if movable.places.contains(&number) {
                see(figure);
            }
            number += 1;
        });
    }

    /// Holds a figure at one end of its spread.
    pub(crate) fn hold(&mut self, movable: &Movable, end: End) {
        self.each_of(movable, &mut |figure| figure.hold(end));
    }

    /// Holds several figures, each at one end of its spread.
    pub(crate) fn hold_all(&mut self, these: &[(&Movable, End)]) {
        let places = these.iter().flat_map(|(movable, end)| movable.places.iter().map(|place| (*place, *end)));
        let mut places: Vec<(usize, End)> = places.collect();
        places.sort_unstable();
        let (mut places, mut number) = (places.into_iter().peekable(), 0);
        self.each_figure(&mut |_, _, figure| {
            while let Some((_, end)) = places.next_if(|(place, _)| *place == number) {
                figure.hold(end);
            }
            number += 1;
        });
    }

    /// Holds a figure at a share of its spread: 0 is the low end, 1 the high one.
    #[cfg(test)]
    pub(crate) fn put(&mut self, movable: &Movable, share: f64) {
        self.each_of(movable, &mut |figure| {
            let [low, _, high] = figure.values();
            figure.set_values([low + share * (high - low); 3]);
        });
    }

    /// Moves several figures to their other ends; once more moves them back. `belongs` is of [`belongs`].
    pub(crate) fn flip_all(&mut self, belongs: &[Option<usize>], these: &[usize]) {
        let mut belongs = belongs.iter();
        self.each_figure(&mut |_, _, figure| {
            if belongs.next().is_some_and(|m| m.is_some_and(|m| these.contains(&m))) {
                figure.flip();
            }
        });
    }
}

/// To which movable one each figure of a plan belongs, in the order in which the plan shows them.
pub(crate) fn belongs(movables: &[Movable]) -> Vec<Option<usize>> {
    let all = movables.iter().flat_map(|m| &m.places).max().map_or(0, |last| last + 1);
    let mut belongs = vec![None; all];
    for (m, movable) in movables.iter().enumerate() {
        movable.places.iter().for_each(|place| belongs[*place] = Some(m));
    }
    belongs
}
