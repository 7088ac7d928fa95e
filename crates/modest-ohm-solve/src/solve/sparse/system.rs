//! Build form: entries in the order in which they are stamped, repeated places added up.

/// A linear system in the making.
#[derive(Clone, Debug, Default)]
pub(crate) struct System {
    stamps: Vec<Stamp>,
    rhs: Vec<f64>,
}

/// What is added to a place of the matrix.
#[derive(Clone, Copy, Debug)]
struct Stamp {
    place: (u32, u32),
    value: f64,
}

impl System {
    /// Empties it for `n` unknowns and keeps the memory.
    pub fn reset(&mut self, n: usize) {
        self.stamps.clear();
        self.rhs.clear();
        self.rhs.resize(n, 0.0);
    }

    #[inline]
    pub fn add(&mut self, row: usize, column: usize, value: f64) {
        self.stamps.push(Stamp { place: (row as u32, column as u32), value });
    }

    pub fn add_rhs(&mut self, row: usize, value: f64) {
        self.rhs[row] += value;
    }

    pub fn rhs(&self) -> &[f64] {
        &self.rhs
    }
}

/// A coefficient of a row: the column, and the value.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Entry {
    pub at: u32,
    pub value: f64,
}

/// Rows side by side; where each stamp went.
#[derive(Clone, Debug, Default)]
pub(super) struct Rows {
    entries: Vec<Entry>,
    ranges: Vec<(u32, u32)>,
    /// The stamped places in their order, and the entry of each.
    places: Vec<((u32, u32), u32)>,
}

impl Rows {
    /// True if the system was stamped in the same places, in the same order.
    pub fn fits(&self, system: &System) -> bool {
        let same = |(known, stamp): (&((u32, u32), u32), &Stamp)| known.0 == stamp.place;
        self.ranges.len() == system.rhs.len()
            && self.places.len() == system.stamps.len()
            && self.places.iter().zip(&system.stamps).all(same)
    }

    /// The rows of a system, columns in order.
    pub fn of(system: &System) -> Self {
        let mut by_place: Vec<usize> = (0..system.stamps.len()).collect();
        by_place.sort_by_key(|i| system.stamps[*i].place);
        let mut rows = Self {
            ranges: vec![(0, 0); system.rhs.len()],
            places: system.stamps.iter().map(|s| (s.place, 0)).collect(),
            ..Self::default()
        };
        let mut last = None;
        for i in by_place {
            let place = system.stamps[i].place;
            let next = rows.entries.len() as u32;
            if last != Some(place) {
                let range = &mut rows.ranges[place.0 as usize];
                *range =
                    if last.is_some_and(|(row, _)| row == place.0) { (range.0, next + 1) } else { (next, next + 1) };
                rows.entries.push(Entry { at: place.1, value: 0.0 });
                last = Some(place);
            }
            rows.places[i].1 = rows.entries.len() as u32 - 1;
        }
        rows.fill(system);
        rows
    }

    /// The same rows in the order of the pivots, and columns by the numbers of their pivots.
    pub fn in_order(&self, pivots: &[(usize, usize)]) -> Self {
        let mut pivot_of_column = vec![0; pivots.len()];
        for (k, (_, column)) in pivots.iter().enumerate() {
            pivot_of_column[*column] = k as u32;
        }
        let mut ordered = Self { places: self.places.clone(), ..Self::default() };
        let mut moved = vec![0; self.entries.len()];
        for (row, _) in pivots {
            let first = ordered.entries.len() as u32;
            let (from, to) = self.ranges[*row];
            for old in from..to {
                let Entry { at, value } = self.entries[old as usize];
                moved[old as usize] = ordered.entries.len() as u32;
                ordered.entries.push(Entry { at: pivot_of_column[at as usize], value });
            }
            ordered.ranges.push((first, ordered.entries.len() as u32));
        }
        ordered.places.iter_mut().for_each(|(_, entry)| *entry = moved[*entry as usize]);
        ordered
    }

    /// Takes over the values of a system that fits.
    pub fn fill(&mut self, system: &System) {
        self.entries.iter_mut().for_each(|e| e.value = 0.0);
        for ((_, entry), stamp) in self.places.iter().zip(&system.stamps) {
            self.entries[*entry as usize].value += stamp.value;
        }
    }

    /// How many there are.
    pub fn count(&self) -> usize {
        self.ranges.len()
    }

    #[inline]
    pub fn row(&self, r: usize) -> &[Entry] {
        let (from, to) = self.ranges[r];
        &self.entries[from as usize..to as usize]
    }
}
