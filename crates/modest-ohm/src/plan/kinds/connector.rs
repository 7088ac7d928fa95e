//! `[connector.x]`: a splice, terminal, plug pair, header or breadboard row that several leads meet in; a node.

use super::run::{Branch, Open, RunKind};
use crate::plan::wiring::contact::{Contact, read_contact};
use crate::plan::wiring::feed::read_feed;
use crate::plan::wiring::name::Name;
use crate::source::Span;
use crate::text::reader::Reader;
use modest_ohm_derive::Figures;

/// What a connector is in addition to its contact.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Connector {
    #[figures(flat)]
    pub contact: Contact,
    /// Places for wires of each conductor; not judged where unknown.
    pub ways: Option<usize>,
    /// Wires that one place takes.
    pub wires: usize,
    /// The half on the side of the source, and the one on the side of the loads.
    pub halves: [Option<Half>; 2],
    /// Whether it fits in one direction only.
    pub keyed: Option<bool>,
}

/// One half of a plug pair.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Half {
    pub span: Span,
    pub family: Option<String>,
    pub gender: Option<Gender>,
    /// What its contacts carry, in order.
    pub pins: Vec<String>,
    pub counted: Counted,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Gender {
    Plug,
    Socket,
}

impl Gender {
    pub fn word(self) -> &'static str {
        match self {
            Gender::Plug => "plug",
            Gender::Socket => "socket",
        }
    }
}

/// Where the counting of contacts begins.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default, Figures)]
pub(crate) enum Counted {
    /// At the marked contact: equal numbers meet.
    #[default]
    Mark,
    /// Looking into its mating face, from the left. The faces of two halves look at each other, so that the left of one
    /// meets the right of the other.
    Left,
    /// Looking into its mating face, from the right.
    Right,
}

pub(crate) fn read_connector(reader: &mut Reader<'_>, name: Name) -> Branch {
    let feed = read_feed(reader);
    let class = reader.text("part").map(|p| p.text);
    let contact = read_contact(reader, class.as_deref());
    let ways = reader.whole("ways", 1..=1000);
    let wires = reader.whole("wires", 1..=100).unwrap_or(1);
    let keyed = reader.has("keyed").then(|| reader.flag("keyed", false));
    let halves = ["near", "far"].map(|side| read_half(reader, side));
    let closed = reader.flag("closed", true);
    let connector = Connector { contact, ways, wires, halves, keyed };
    let open = Open { plus: !closed, minus: !closed };
    Branch { name, feed, open, kind: RunKind::Connector(Box::new(connector)) }
}

const GENDERS: [(&str, Gender); 2] = [("plug", Gender::Plug), ("socket", Gender::Socket)];

fn read_half(reader: &mut Reader<'_>, side: &'static str) -> Option<Half> {
    let mut inner = reader.child(side)?;
    let family = inner.text("family").map(|f| f.text);
    let gender = inner.choice("gender", &GENDERS);
    let pins: Vec<String> = inner.texts("pins").into_iter().map(|p| p.text).collect();
    let counted = inner
        .choice("counted-from", &[("mark", Counted::Mark), ("left", Counted::Left), ("right", Counted::Right)])
        .unwrap_or_default();
    let half = Half { span: inner.span, family, gender, pins, counted };
    inner.finish();
    Some(half)
}
