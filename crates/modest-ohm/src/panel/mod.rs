//! Panels: pixels in rows and columns on one data line, and where each of them is to be seen.
//!
//! Everything here is geometry, without a plan: a [`PanelLayout`] says how a panel is built and mounted, its
//! [`walk`](PanelLayout::walk) says where the data goes, a [`Pattern`] is what is shown on it to try it, and
//! [`mistakes`](PanelLayout::mistakes) are the pictures that single wrong settings make of that pattern.

pub(crate) mod mistake;
pub(crate) mod order;
pub(crate) mod pattern;

pub use mistake::Mistake;
pub use order::{Along, EntryCorner, Order, Rotation, Side, Turns};
pub use pattern::{Pattern, Rgb};

/// How a panel is built and mounted.
///
/// Columns, rows and order are those of one tile as its datasheet shows it; a panel without tiles is one tile.
///
/// ```
/// use modest_ohm::panel::{Along, EntryCorner, Order, PanelLayout, Rotation, Side, Turns};
/// let order = Order { entry: EntryCorner::TopLeft, along: Along::Rows, turns: Turns::Alternating };
/// let layout = PanelLayout { columns: 3, rows: 2, order, rotated: Rotation::None, tiles: None, seen: Side::Front };
/// let walk = layout.walk().expect("one tile always fits");
/// assert_eq!(walk.places, [(0, 0), (1, 0), (2, 0), (2, 1), (1, 1), (0, 1)]);
/// let behind = PanelLayout { seen: Side::Back, ..layout }.walk().expect("one tile always fits");
/// assert_eq!(behind.places[0], (2, 0));
/// ```
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PanelLayout {
    /// Pixels in a row of a tile.
    pub columns: usize,
    /// Rows of a tile.
    pub rows: usize,
    /// How data goes through a tile.
    pub order: Order,
    /// How every tile is turned in its place.
    pub rotated: Rotation,
    /// Tiles of one make side by side; `None` of a single one.
    pub tiles: Option<Tiles>,
    /// The side from which all of this is said.
    pub seen: Side,
}

/// Equal tiles side by side.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Tiles {
    /// Tiles in a row of tiles.
    pub across: usize,
    /// Rows of tiles.
    pub down: usize,
    /// How data goes from tile to tile.
    pub order: Order,
    /// How single tiles are turned, in the order of the data, on top of what holds for all; empty where none is.
    pub rotated: Vec<Rotation>,
}

/// The way of the data, seen from the front.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Walk {
    /// Pixels from left to right.
    pub columns: usize,
    /// Pixels from top to bottom.
    pub rows: usize,
    /// Per pixel, in the order of the data: its column from the left and its row from the top, both from 0.
    pub places: Vec<(usize, usize)>,
}

/// Why the tiles of a panel do not make one face.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LayoutProblem {
    /// A tile (in the order of the data, from 0) stands upright where the first lies, and is not square.
    DoesNotFit(usize),
    /// No pixel, or more than [`MOST_PIXELS`].
    Size,
}

impl std::fmt::Display for LayoutProblem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::DoesNotFit(tile) => {
                write!(f, "tile {} is upright and the first one lies on its side; tiles are not square", tile + 1)
            }
            Self::Size => write!(f, "the panel has no pixel, or more than {MOST_PIXELS}"),
        }
    }
}

impl std::error::Error for LayoutProblem {}

/// Larger panels are not laid out.
pub const MOST_PIXELS: usize = 2_000_000;

impl PanelLayout {
    /// Tiles from left to right and from top to bottom.
    #[must_use]
    pub fn tile_grid(&self) -> (usize, usize) {
        self.tiles.as_ref().map_or((1, 1), |t| (t.across, t.down))
    }

    /// The number of tiles.
    #[must_use]
    pub fn tile_count(&self) -> usize {
        let (across, down) = self.tile_grid();
        across.saturating_mul(down)
    }

    /// Pixels of one tile.
    #[must_use]
    pub fn tile_pixels(&self) -> usize {
        self.columns.saturating_mul(self.rows)
    }

    /// Pixels of all tiles.
    #[must_use]
    pub fn pixels(&self) -> usize {
        self.tile_pixels().saturating_mul(self.tile_count())
    }

    /// Pixels of one straight line of the data inside a tile.
    #[must_use]
    pub fn line_pixels(&self) -> usize {
        match self.order.along {
            Along::Rows => self.columns,
            Along::Columns => self.rows,
        }
    }

    /// The same panel, said as it is seen from a side.
    ///
    /// ```
    /// use modest_ohm::panel::{Along, EntryCorner, Order, PanelLayout, Rotation, Side, Turns};
    /// let order = Order { entry: EntryCorner::TopRight, along: Along::Rows, turns: Turns::SameWay };
    /// let behind =
    ///     PanelLayout { columns: 4, rows: 2, order, rotated: Rotation::Quarter, tiles: None, seen: Side::Back };
    /// let front = behind.seen_from(Side::Front);
    /// assert_eq!((front.order.entry, front.rotated), (EntryCorner::TopLeft, Rotation::ThreeQuarters));
    /// assert_eq!(front.walk(), behind.walk());
    /// ```
    #[must_use]
    pub fn seen_from(&self, side: Side) -> PanelLayout {
        if side == self.seen {
            return self.clone();
        }
        let mirrored = |t: &Tiles| Tiles {
            order: t.order.mirrored(),
            rotated: t.rotated.iter().map(|r| r.mirrored()).collect(),
            ..t.clone()
        };
        PanelLayout {
            order: self.order.mirrored(),
            rotated: self.rotated.mirrored(),
            tiles: self.tiles.as_ref().map(mirrored),
            seen: side,
            ..self.clone()
        }
    }

    /// How each tile is turned in its place, where they are not all turned alike.
    pub(crate) fn turned_tiles(&self) -> Option<Vec<Rotation>> {
        let each: Vec<Rotation> = (0..self.tile_count()).map(|tile| self.rotation_of(tile)).collect();
        each.windows(2).any(|pair| pair[0] != pair[1]).then_some(each)
    }

    /// How a tile is turned in its place.
    fn rotation_of(&self, tile: usize) -> Rotation {
        let own = self.tiles.as_ref().and_then(|t| t.rotated.get(tile)).copied();
        self.rotated.and(own.unwrap_or(Rotation::None))
    }

    /// Columns and rows that the first tile takes in its place.
    fn footprint(&self) -> (usize, usize) {
        self.rotation_of(0).size(self.columns, self.rows)
    }

    /// Where the data goes.
    ///
    /// # Errors
    /// [`LayoutProblem`] where tiles that are not square do not all lie the same way, and where there is no pixel or
    /// are too many.
    pub fn walk(&self) -> Result<Walk, LayoutProblem> {
        if !(1..=MOST_PIXELS).contains(&self.pixels()) {
            return Err(LayoutProblem::Size);
        }
        let (across, down) = self.tile_grid();
        let (wide, high) = self.footprint();
        let (columns, rows) = (wide * across, high * down);
        let mut places = Vec::with_capacity(self.pixels());
        for tile in 0..self.tile_count() {
            let turned = self.rotation_of(tile);
            if turned.size(self.columns, self.rows) != (wide, high) {
                return Err(LayoutProblem::DoesNotFit(tile));
            }
            let (left, top) = self.tiles.as_ref().map_or((0, 0), |t| t.order.place(tile, across, down));
            for k in 0..self.tile_pixels() {
                let own = self.order.place(k, self.columns, self.rows);
                let (x, y) = turned.place(own, self.columns, self.rows);
                let (x, y) = (left * wide + x, top * high + y);
                places.push(match self.seen {
                    Side::Front => (x, y),
                    Side::Back => (columns - 1 - x, y),
                });
            }
        }
        Ok(Walk { columns, rows, places })
    }
}

impl Walk {
    /// The same seen from behind: left and right change places.
    #[must_use]
    pub fn from_behind(&self) -> Walk {
        let places = self.places.iter().map(|(x, y)| (self.columns - 1 - x, *y)).collect();
        Walk { columns: self.columns, rows: self.rows, places }
    }

    /// The pixel at a place, where there is one.
    #[must_use]
    pub fn pixel_at(&self, column: usize, row: usize) -> Option<usize> {
        self.places.iter().position(|p| *p == (column, row))
    }
}
