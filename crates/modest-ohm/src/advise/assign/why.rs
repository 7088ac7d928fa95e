//! Why there are no pins for everything.

/// Why there are no pins for everything.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NoAssignment {
    /// Some jobs compete for too few pins: no choice of the others helps.
    TooFew {
        /// The jobs, each with what it needs.
        jobs: Vec<String>,
        /// All pins that could do any of them.
        pins: Vec<String>,
    },
    /// Every allocation exceeds the total of a group of pins.
    GroupTotal(String),
    /// All pins together carry more than the board's total, wherever they are.
    Total {
        /// The board.
        board: String,
        /// What they would carry.
        amps: String,
        /// What they may.
        total: String,
    },
    /// The search among allocations that exceed no group's total was given up: neither found nor proven.
    GivenUp(usize),
    /// The board's class does not list its pins.
    NotListed(String),
}

impl std::fmt::Display for NoAssignment {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::TooFew { jobs, pins } => f.write_str(&too_few(jobs, pins)),
            Self::GroupTotal(group) => write!(f, "every allocation exceeds the rating of group `{group}`"),
            Self::Total { board, amps, total } => {
                write!(f, "all pins of `{board}` together would carry {amps}; rated {total}")
            }
            Self::GivenUp(tries) => write!(
                f,
                "no allocation within the ratings of its groups was found in {tries} tries; that none exists is not \
                proven"
            ),
            Self::NotListed(board) => {
                write!(f, "the functions of the pins of `{board}` are not given: set `part`, or list its `pins`")
            }
        }
    }
}

impl std::error::Error for NoAssignment {}

fn too_few(jobs: &[String], pins: &[String]) -> String {
    let pins = match pins {
        [] => "no free pin has what it needs".to_owned(),
        [one] => format!("only {one} has what any of them needs"),
        all => format!("only {} have what any of them needs", all.join(", ")),
    };
    format!("{}: {pins}", jobs.join(", "))
}
