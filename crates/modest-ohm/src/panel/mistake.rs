//! The picture each single mistake gives: what the firmware takes the panel for, shown on the panel that is there.

use super::order::{EntryCorner, Rotation};
use super::pattern::{Pattern, Rgb};
use crate::panel::{LayoutProblem, PanelLayout, Walk};

/// Single tiles that are tried upside down, and pairs that are tried exchanged; further ones look alike.
const MOST_TILES: usize = 6;

/// What one or several wrong settings, each alone, make of the test pattern.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Mistake {
    /// Each of them in words; they cannot be told apart by the picture.
    pub causes: Vec<String>,
    /// Per row from the top, per column from the left.
    pub shown: Vec<Vec<Rgb>>,
}

impl PanelLayout {
    /// The test pattern as it should be seen.
    ///
    /// # Errors
    /// As [`walk`](Self::walk).
    pub fn pattern(&self) -> Result<Vec<Vec<Rgb>>, LayoutProblem> {
        let walk = self.walk()?;
        let pattern = Pattern::of(walk.columns, walk.rows);
        Ok(shown(&walk, &pattern.along(&walk)))
    }

    /// The pictures that single mistakes give, those that look alike together; what changes nothing is left out.
    ///
    /// # Errors
    /// As [`walk`](Self::walk).
    pub fn mistakes(&self) -> Result<Vec<Mistake>, LayoutProblem> {
        let walk = self.walk()?;
        let right = self.pattern()?;
        let mut mistakes: Vec<Mistake> = Vec::new();
        let mut note = |cause: String, colours: Vec<Rgb>| {
            let picture = shown(&walk, &colours);
            match mistakes.iter_mut().find(|m| m.shown == picture) {
                _ if picture == right => {}
                Some(same) => same.causes.push(cause),
                None => mistakes.push(Mistake { causes: vec![cause], shown: picture }),
            }
        };
        for (cause, taken) in self.taken_for() {
            // What does not make a face cannot be set.
            let Ok(taken) = taken.walk() else { continue };
            note(cause, Pattern::of(taken.columns, taken.rows).along(&taken));
        }
        let colours = Pattern::of(walk.columns, walk.rows).along(&walk);
        if let Some(tiles) = self.tiles.as_ref().map(|t| t.across * t.down) {
            let pixels = self.tile_pixels();
            for tile in (1..tiles).take(MOST_TILES) {
                let mut swapped = colours.clone();
                let (left, right) = swapped.split_at_mut(tile * pixels);
                left[(tile - 1) * pixels..].swap_with_slice(&mut right[..pixels]);
                note(format!("tiles {tile} and {} swapped", tile + 1), swapped);
            }
        }
        let mut late = colours.clone();
        late.rotate_right(1);
        if let Some(first) = late.first_mut() {
            *first = Rgb::default();
        }
        note("one pixel too many counted at the start".into(), late);
        let mut early = colours.clone();
        early.rotate_left(1);
        if let Some(last) = early.last_mut() {
            *last = Rgb::default();
        }
        note("one pixel too few counted at the start".into(), early);
        let exchanged = |c: &Rgb| {
            [
                ("red and green", Rgb { red: c.green, green: c.red, ..*c }),
                ("green and blue", Rgb { green: c.blue, blue: c.green, ..*c }),
                ("red and blue", Rgb { red: c.blue, blue: c.red, ..*c }),
            ]
        };
        for (n, (pair, _)) in exchanged(&Rgb::default()).into_iter().enumerate() {
            let taken = colours.iter().map(|c| exchanged(c)[n].1).collect();
            note(format!("colour order: {pair} swapped"), taken);
        }
        Ok(mistakes)
    }

    /// Layouts that differ from this in one setting.
    fn taken_for(&self) -> Vec<(String, PanelLayout)> {
        let mut all = Vec::new();
        let mut with = |cause: String, change: &dyn Fn(&mut PanelLayout)| {
            let mut taken = self.clone();
            change(&mut taken);
            all.push((cause, taken));
        };
        for entry in EntryCorner::ALL.into_iter().filter(|e| *e != self.order.entry) {
            with(format!("entry set to {}", entry.word()), &|l| l.order.entry = entry);
        }
        let along = self.order.along.other();
        with(format!("data direction set to {}", along.word()), &|l| l.order.along = along);
        let turns = self.order.turns.other();
        with(format!("{} set instead of {}", self.lines(), turns.word()), &|l| l.order.turns = turns);
        for by in Rotation::ALL.into_iter().skip(1) {
            let turned = self.rotated.and(by);
            with(format!("rotation set to {}°", turned.degrees()), &|l| l.rotated = turned);
        }
        let seen = self.seen.other();
        with(format!("set as seen from the {}", seen.word()), &|l| l.seen = seen);
        if self.columns != self.rows {
            let (columns, rows) = (self.rows, self.columns);
            with("columns and rows swapped".into(), &|l| (l.columns, l.rows) = (columns, rows));
        }
        let Some(tiles) = &self.tiles else { return all };
        let mut with = |cause: String, change: &dyn Fn(&mut super::Tiles)| {
            let mut taken = self.clone();
            if let Some(tiles) = &mut taken.tiles {
                change(tiles);
            }
            all.push((cause, taken));
        };
        for entry in EntryCorner::ALL.into_iter().filter(|e| *e != tiles.order.entry) {
            with(format!("first tile set to {}", entry.word()), &|t| t.order.entry = entry);
        }
        let along = tiles.order.along.other();
        with(format!("tile direction set to {}", along.word()), &|t| t.order.along = along);
        let turns = tiles.order.turns.other();
        with(format!("tiles set to {}", turns.word()), &|t| t.order.turns = turns);
        let count = tiles.across * tiles.down;
        for tile in (0..count).take(MOST_TILES) {
            let cause = format!("tile {} set upside down", tile + 1);
            with(cause, &|t| {
                t.rotated.resize(count, Rotation::None);
                t.rotated[tile] = t.rotated[tile].and(Rotation::Half);
            });
        }
        all
    }

    fn lines(&self) -> &'static str {
        self.order.along.word()
    }
}

/// Colours in the order of the data, where they are seen.
fn shown(walk: &Walk, colours: &[Rgb]) -> Vec<Vec<Rgb>> {
    let mut picture = vec![vec![Rgb::default(); walk.columns]; walk.rows];
    for ((x, y), colour) in walk.places.iter().zip(colours) {
        picture[*y][*x] = *colour;
    }
    picture
}
