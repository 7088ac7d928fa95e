//! `[busbar.x]`: the rails along a breadboard, a strip of copper, in two halves.

use super::run::{Branch, Open, RunKind};
use crate::plan::wiring::contact::{Bears, Contact};
use crate::plan::wiring::feed::{Feed, NodeRef, read_feed, read_terminal_feeds};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Ohms};
use crate::source::Span;
use crate::text::Named;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;

/// `[busbar.x]`: two halves, `x.left` and `x.right`, each with its own feed or fed from the other.
#[derive(Clone, Debug)]
pub(crate) struct Busbar {
    pub halves: Vec<Branch>,
    /// True where both halves have a feed and their + are joined.
    pub joined: bool,
    /// True where both halves have a feed and their − are joined.
    pub minus_joined: bool,
    pub name: Name,
}

/// What the halves are made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Made {
    /// Springs along the edge of a solderless breadboard.
    Breadboard,
    /// Tracks of a board to solder on.
    Perfboard,
    /// A bar of copper or brass with screws.
    Bar,
}

const MADE: [(&str, Made); 3] = [("breadboard", Made::Breadboard), ("perfboard", Made::Perfboard), ("bar", Made::Bar)];

/// The springs of a breadboard (typical): 1 A continuously, 30 mΩ a contact and 15 mΩ per 10 cm of rail, half a board
/// long.
const BREADBOARD_A: f64 = 1.0;
const BREADBOARD_OHMS: [f64; 3] = [0.030, 0.036, 0.042];

pub(crate) fn read_busbar(reader: &mut Reader<'_>, name: Name) -> Busbar {
    const BRIDGED: [(&str, Open); 4] = [
        ("both", Open::NOT),
        ("plus", Open { plus: false, minus: true }),
        ("minus", Open { plus: true, minus: false }),
        ("none", Open { plus: true, minus: true }),
    ];
    let bridged = reader.choice("bridged", &BRIDGED);
    if !reader.has("bridged") {
        reader.missing(
            "bridged",
            "write whether the halves are joined: `bridged = \"both\"`, `\"plus\"`, `\"minus\"` or `\"none\"`",
        );
    }
    let open = bridged.unwrap_or(Open::NOT);
    let rail = read_rail(reader);
    let half = |side: &str, span: Span| Name { text: format!("{}.{side}", name.text), span };
    let is_table = matches!(reader.node("from").map(|n| &n.value), Some(Value::Table(_)));
    let mut feeds: Vec<(String, Feed)> = if is_table {
        read_terminal_feeds(reader, Some(&["left", "right"]))
    } else {
        vec![("left".to_owned(), read_feed(reader))]
    };
    feeds.sort_by(|a, b| a.0.cmp(&b.0));
    let joined = feeds.len() > 1 && !open.plus;
    let minus_joined = feeds.len() > 1 && !open.minus;
    let mut halves: Vec<Branch> = Vec::new();
    for (side, feed) in feeds {
        let kind = RunKind::Rail(Box::new(rail.clone()));
        halves.push(Branch { name: half(&side, name.span), feed, open: Open::NOT, kind });
    }
    if let [only] = halves.as_slice() {
        let other = if only.name.text.ends_with(".left") { "right" } else { "left" };
        let from = NodeRef::new(Named { text: only.name.text.clone(), span: Some(name.span) });
        let feed = Feed { from, cable: None, back: None, fuse: None };
        halves.push(Branch { name: half(other, name.span), feed, open, kind: RunKind::Bridge(Box::new(rail)) });
    }
    Busbar { halves, joined, minus_joined, name }
}

/// `kind`, `current` and `resistance` of the halves.
fn read_rail(reader: &mut Reader<'_>) -> Contact {
    let made = reader.choice("kind", &MADE).unwrap_or(Made::Breadboard);
    let usual_a = (made == Made::Breadboard).then(|| {
        Figure::exact(Amps::new(BREADBOARD_A), Origin::Default("a solderless breadboard's rail is rated 1 A (typical)"))
    });
    let [low, typical, high] = if made == Made::Breadboard { BREADBOARD_OHMS } else { [0.0; 3] }.map(Ohms::new);
    let why = match made {
        Made::Breadboard => "30 mΩ per contact and 15 mΩ per 10 cm of a breadboard's rail (typical)",
        Made::Perfboard | Made::Bar => "a track or a bar is taken as ideal",
    };
    let usual_ohms = Figure { low, typical, high, origin: Origin::Default(why), bare: false };
    let name = match made {
        Made::Breadboard => "rail of a solderless breadboard",
        Made::Perfboard => "track of a perfboard",
        Made::Bar => "bus bar",
    };
    Contact {
        name: name.to_owned(),
        named: false,
        span: reader.span,
        rating: reader.figure::<Amps>("current", Need::Positive).or(usual_a),
        resistance: reader.figure::<Ohms>("resistance", Need::NotNegative).unwrap_or(usual_ohms),
        parallel: 1,
        conductors: None,
        takes: Vec::new(),
        family: None,
        bears: Bears::Rail,
    }
}
