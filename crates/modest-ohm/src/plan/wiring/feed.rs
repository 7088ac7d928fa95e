//! How a thing is fed: from which node, over which cable, and where its return goes.

use super::cable::Cable;
use super::cable_text::read_cable;
use super::fuse::{Fuse, read_fuse};
use super::pin::PinAt;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// Index of a node of the plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Figures)]
pub(crate) struct NodeId(pub usize);

/// A node named in the plan; `id` is filled in when names are resolved.
#[derive(Clone, Debug, Figures)]
pub(crate) struct NodeRef {
    pub name: Named,
    pub id: NodeId,
    /// True where a pin may stand: then `id` is the rail that the pin runs on.
    pub takes_pin: bool,
    pub pin: Option<PinAt>,
    /// What the position of a header is that it names: its one contact, not both of a node.
    pub position: Option<Position>,
}

/// A contact of a header that carries supply.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Position {
    Plus,
    Minus,
}

impl NodeRef {
    pub fn new(name: Named) -> Self {
        Self { name, id: NodeId(usize::MAX), takes_pin: false, pin: None, position: None }
    }

    /// In place of one that could not be read.
    pub fn stand_in() -> Self {
        Self::new(Named { text: String::new(), span: None })
    }

    pub fn is_stand_in(&self) -> bool {
        self.name.text.is_empty() && self.name.span.is_none()
    }
}

/// Where the current comes from and goes back to.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Feed {
    pub from: NodeRef,
    pub cable: Option<Cable>,
    /// A return that goes elsewhere than the feed came from.
    #[figures(key = "return")]
    pub back: Option<Return>,
    /// At the beginning of its feed conductor.
    pub fuse: Option<Fuse>,
}

/// `return = { to, cable }`.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Return {
    pub to: NodeRef,
    pub cable: Option<Cable>,
}

impl Feed {
    /// Lets pins stand for its feed and its return.
    pub fn taking_pins(mut self) -> Self {
        self.from.takes_pin = true;
        if let Some(back) = &mut self.back {
            back.to.takes_pin = true;
        }
        self
    }

    /// The pins that its current flows out of and into.
    pub fn pins(&self) -> (Option<&PinAt>, Option<&PinAt>) {
        (self.from.pin.as_ref(), self.back.as_ref().and_then(|b| b.to.pin.as_ref()))
    }

    pub fn stand_in() -> Self {
        Self { from: NodeRef::stand_in(), cable: None, back: None, fuse: None }
    }
}

/// Reads `from`, `cable` and `return`; a missing `from` is a problem of the plan.
pub(crate) fn read_feed(reader: &mut Reader<'_>) -> Feed {
    let feed = read_optional_feed(reader);
    if !reader.has("from") {
        reader.missing("from", "write which node feeds it: `from = \"wall\"`");
    }
    feed.unwrap_or_else(Feed::stand_in)
}

/// As [`read_feed`], for things that may be fed in another way.
pub(crate) fn read_optional_feed(reader: &mut Reader<'_>) -> Option<Feed> {
    let cable = read_cable(reader, "cable", false);
    let back = read_return(reader);
    let fuse = read_fuse(reader);
    if !reader.has("from") {
        return None;
    }
    let from = reader.text("from").map_or_else(NodeRef::stand_in, NodeRef::new);
    Some(Feed { from, cable, back, fuse })
}

/// Reads a `from` with named terminals, `{ 5v = { node = "five", cable = "0.3 m 20 AWG" } }`; `known` bounds the names.
pub(crate) fn read_terminal_feeds(reader: &mut Reader<'_>, known: Option<&[&str]>) -> Vec<(String, Feed)> {
    let mut feeds = Vec::new();
    let Some(mut terminals) = reader.child("from") else { return feeds };
    let example = known.and_then(|k| k.first().copied()).unwrap_or("a").to_owned();
    for key in ["cable", "return"] {
        if let (true, Some(span)) = (reader.has(key), reader.own_span(key)) {
            reader.problem(Problem::new(
                span,
                format!("`{key}` of {} is given beside a `from` with terminals", reader.what()),
                format!("write it inside the terminal: `from = {{ {example} = {{ node = \"five\", {key} = … }} }}`"),
            ));
        }
    }
    if terminals.keys().is_empty() {
        let message = format!("{} is empty", terminals.what());
        terminals.problem(Problem::new(terminals.span, message, "write which node feeds it: `from = \"five\"`"));
    }
    for (key, span) in terminals.keys() {
        if let Some(known) = known.filter(|known| !known.contains(&key.as_str())) {
            terminals.problem(Problem::new(
                span,
                format!("{} names an unknown feed terminal `{key}`", terminals.what()),
                if ["node", "cable", "return", "fuse"].contains(&key.as_str()) {
                    format!(
                        "that belongs inside a terminal: `from = {{ {} = {{ node = \"five\", cable = … }} }}`",
                        known[0]
                    )
                } else if known.len() == 1 {
                    format!("its feed terminal is `{}`", known[0])
                } else {
                    format!("its feed terminals: {}", known.join(", "))
                },
            ));
            continue;
        }
        if let Some(feed) = terminal_feed(reader, &terminals, &key) {
            feeds.push((key, feed));
        }
    }
    feeds
}

fn terminal_feed(reader: &Reader<'_>, terminals: &Reader<'_>, key: &str) -> Option<Feed> {
    let (node, class) = terminals.any(key)?;
    match &node.value {
        Value::Text(text, _) => {
            let name = Named { text: text.clone(), span: Some(node.span) };
            Some(Feed { from: NodeRef::new(name), cable: None, back: None, fuse: None })
        }
        Value::Table(table) => {
            let mut inner = terminals.nested(table, format!("terminal `{key}` of {}", reader.what()), node.span, class);
            let cable = read_cable(&mut inner, "cable", false);
            let back = read_return(&mut inner);
            let fuse = read_fuse(&mut inner);
            let from = inner.text("node");
            if from.is_none() && !inner.has("node") {
                inner.missing("node", "write `node = \"five\"`");
            }
            inner.finish();
            Some(Feed { from: NodeRef::new(from?), cable, back, fuse })
        }
        other => {
            terminals.problem(Problem::new(
                node.span,
                format!("terminal `{key}` of {} is {}, not a node", reader.what(), other.kind()),
                "write the name of the node that feeds it",
            ));
            None
        }
    }
}

fn read_return(reader: &mut Reader<'_>) -> Option<Return> {
    let mut inner = reader.child("return")?;
    let to = inner.text("to");
    if !inner.has("to") {
        inner.missing("to", "write `return = { to = \"wall\", cable = \"1 m 18 AWG\" }`");
    }
    let cable = read_cable(&mut inner, "cable", false);
    inner.finish();
    Some(Return { to: NodeRef::new(to?), cable })
}
