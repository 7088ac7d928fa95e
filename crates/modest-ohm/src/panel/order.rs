//! Which way the data goes: corner, direction, turns, rotation, and the side it is seen from.

/// The corner where data enters.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum EntryCorner {
    /// Top left.
    TopLeft,
    /// Top right.
    TopRight,
    /// Bottom left.
    BottomLeft,
    /// Bottom right.
    BottomRight,
}

impl EntryCorner {
    /// All four.
    pub const ALL: [Self; 4] = [Self::TopLeft, Self::TopRight, Self::BottomLeft, Self::BottomRight];

    /// As plans write it.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::TopLeft => "top-left",
            Self::TopRight => "top-right",
            Self::BottomLeft => "bottom-left",
            Self::BottomRight => "bottom-right",
        }
    }

    /// The one on the other side, left for right.
    #[must_use]
    pub const fn mirrored(self) -> Self {
        match self {
            Self::TopLeft => Self::TopRight,
            Self::TopRight => Self::TopLeft,
            Self::BottomLeft => Self::BottomRight,
            Self::BottomRight => Self::BottomLeft,
        }
    }

    const fn is_right(self) -> bool {
        matches!(self, Self::TopRight | Self::BottomRight)
    }

    const fn is_bottom(self) -> bool {
        matches!(self, Self::BottomLeft | Self::BottomRight)
    }
}

/// Along what the data goes first.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Along {
    /// Row after row.
    Rows,
    /// Column after column.
    Columns,
}

impl Along {
    /// As plans write it.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Rows => "rows",
            Self::Columns => "columns",
        }
    }

    /// The other one.
    #[must_use]
    pub const fn other(self) -> Self {
        match self {
            Self::Rows => Self::Columns,
            Self::Columns => Self::Rows,
        }
    }
}

/// What happens at the end of a row (or column).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Turns {
    /// The next goes back.
    Alternating,
    /// All go the same way; a cable brings the data back.
    SameWay,
}

impl Turns {
    /// As plans write it.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Alternating => "alternating",
            Self::SameWay => "same-way",
        }
    }

    /// The other one.
    #[must_use]
    pub const fn other(self) -> Self {
        match self {
            Self::Alternating => Self::SameWay,
            Self::SameWay => Self::Alternating,
        }
    }
}

/// How something is turned, clockwise as it is seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Rotation {
    /// As its datasheet shows it.
    None,
    /// 90°.
    Quarter,
    /// 180°: upside down.
    Half,
    /// 270°.
    ThreeQuarters,
}

impl Rotation {
    /// All four.
    pub const ALL: [Self; 4] = [Self::None, Self::Quarter, Self::Half, Self::ThreeQuarters];

    /// In degrees.
    #[must_use]
    pub const fn degrees(self) -> usize {
        match self {
            Self::None => 0,
            Self::Quarter => 90,
            Self::Half => 180,
            Self::ThreeQuarters => 270,
        }
    }

    /// Of 0, 90, 180 or 270 degrees.
    #[must_use]
    pub fn of_degrees(degrees: usize) -> Option<Self> {
        Self::ALL.into_iter().find(|r| r.degrees() == degrees)
    }

    /// One after the other.
    #[must_use]
    pub const fn and(self, other: Self) -> Self {
        Self::ALL[((self.degrees() + other.degrees()) / 90) % 4]
    }

    /// The same turn seen from behind: clockwise is anticlockwise there.
    #[must_use]
    pub const fn mirrored(self) -> Self {
        match self {
            Self::Quarter => Self::ThreeQuarters,
            Self::ThreeQuarters => Self::Quarter,
            same => same,
        }
    }

    /// Columns and rows of something turned.
    pub(crate) const fn size(self, columns: usize, rows: usize) -> (usize, usize) {
        match self {
            Self::None | Self::Half => (columns, rows),
            Self::Quarter | Self::ThreeQuarters => (rows, columns),
        }
    }

    /// Where a place of something of `columns` by `rows` comes to lie.
    pub(crate) const fn place(self, (x, y): (usize, usize), columns: usize, rows: usize) -> (usize, usize) {
        match self {
            Self::None => (x, y),
            Self::Quarter => (rows - 1 - y, x),
            Self::Half => (columns - 1 - x, rows - 1 - y),
            Self::ThreeQuarters => (y, columns - 1 - x),
        }
    }
}

/// From where something is seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Side {
    /// From where the light is seen.
    Front,
    /// From where the wires are seen.
    Back,
}

impl Side {
    /// As plans write it.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Front => "front",
            Self::Back => "back",
        }
    }

    /// The other one.
    #[must_use]
    pub const fn other(self) -> Self {
        match self {
            Self::Front => Self::Back,
            Self::Back => Self::Front,
        }
    }
}

/// How data goes through a grid, of pixels or of tiles.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Order {
    /// Where it enters.
    pub entry: EntryCorner,
    /// Along what it goes first.
    pub along: Along,
    /// What happens at the end of a row or column.
    pub turns: Turns,
}

impl Order {
    /// The same way seen from behind.
    #[must_use]
    pub const fn mirrored(self) -> Self {
        Self { entry: self.entry.mirrored(), ..self }
    }

    /// Column and row of the k-th cell of a grid, both from 0 at the top left. `columns` and `rows` are at least 1.
    #[must_use]
    pub const fn place(self, k: usize, columns: usize, rows: usize) -> (usize, usize) {
        let length = match self.along {
            Along::Rows => columns,
            Along::Columns => rows,
        };
        let (line, on) = (k / length, k % length);
        let back = matches!(self.turns, Turns::Alternating) && line % 2 == 1;
        let on = if back { length - 1 - on } else { on };
        let (x, y) = match self.along {
            Along::Rows => (on, line),
            Along::Columns => (line, on),
        };
        (if self.entry.is_right() { columns - 1 - x } else { x }, if self.entry.is_bottom() { rows - 1 - y } else { y })
    }
}
