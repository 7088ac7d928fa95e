//! Build form: entries in the order in which they are stamped, repeated places added up.

use std::ops::Range;

/// A linear system in the making.
#[derive(Clone, Debug, Default)]
pub(crate) struct System {
    places: Vec<(u32, u32)>,
    values: Vec<f64>,
    rhs: Vec<f64>,
}

impl System {
    /// Empties it for `n` unknowns and keeps the memory.
    pub fn reset(&mut self, n: usize) {
        self.places.clear();
        self.values.clear();
        self.rhs.clear();
        self.rhs.resize(n, 0.0);
    }

    pub fn add(&mut self, row: usize, column: usize, value: f64) {
        self.places.push((row as u32, column as u32));
        self.values.push(value);
    }

    pub fn add_rhs(&mut self, row: usize, value: f64) {
        self.rhs[row] += value;
    }

    pub fn rhs(&self) -> &[f64] {
        &self.rhs
    }

    pub(super) fn values(&self) -> &[f64] {
        &self.values
    }

    pub(super) fn places(&self) -> &[(u32, u32)] {
        &self.places
    }
}

/// Rows side by side, columns in order; where each stamped entry went.
#[derive(Clone, Debug, Default)]
pub(super) struct Rows {
    pub start: Vec<usize>,
    pub column: Vec<usize>,
    pub value: Vec<f64>,
    /// The stamped places in their order, and the slot of each in `value`.
    places: Vec<(u32, u32)>,
    slot: Vec<usize>,
}

impl Rows {
    /// True if the system was stamped in the same places, in the same order.
    pub fn fits(&self, system: &System) -> bool {
        self.start.len() == system.rhs.len() + 1 && self.places == system.places()
    }

    pub fn of(system: &System) -> Self {
        let n = system.rhs.len();
        let mut by_place: Vec<usize> = (0..system.places().len()).collect();
        by_place.sort_by_key(|i| system.places()[*i]);
        let mut rows = Self {
            start: vec![0; n + 1],
            slot: vec![0; by_place.len()],
            places: system.places().to_vec(),
            ..Self::default()
        };
        let mut last = None;
        for i in by_place {
            let place = system.places()[i];
            if last != Some(place) {
                last = Some(place);
                rows.column.push(place.1 as usize);
                rows.start[place.0 as usize + 1] += 1;
            }
            rows.slot[i] = rows.column.len() - 1;
        }
        for r in 0..n {
            rows.start[r + 1] += rows.start[r];
        }
        rows.value = vec![0.0; rows.column.len()];
        rows
    }

    /// Takes over the values of a system that fits.
    pub fn fill(&mut self, system: &System) {
        self.value.fill(0.0);
        for (slot, value) in self.slot.iter().zip(system.values()) {
            self.value[*slot] += value;
        }
    }

    pub fn row(&self, r: usize) -> Range<usize> {
        self.start[r]..self.start[r + 1]
    }
}
