//! Contacts: what a cable ends in or passes on its way, and what goes into it.

use crate::quantity::figure::{Corner, Figure, Origin, Role};
use crate::quantity::units::{Amps, Ohms};
use crate::source::Span;
use crate::tables::wire::WireSize;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::{Node, Value};
use modest_ohm_derive::Figures;

/// A contact of each conductor: a plug pair, a terminal, a splice.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Contact {
    /// The class it was named by, or its kind in words.
    pub name: String,
    /// True where a class names it.
    pub named: bool,
    pub span: Span,
    /// What one contact carries; unknown where nothing says.
    #[figures(key = "current")]
    pub rating: Option<Figure<Amps>>,
    /// Of each conductor's contact.
    pub resistance: Figure<Ohms>,
    /// Contacts side by side for each conductor.
    pub parallel: usize,
    /// Thinnest and thickest conductor it takes.
    pub conductors: Option<(WireSize, WireSize)>,
    /// The cable ends it takes; empty where that is not judged.
    pub takes: Vec<LeadEnd>,
    /// What it mates with: plugs and sockets of one family fit each other.
    pub family: Option<String>,
    pub bears: Bears,
}

/// What a contact bears beyond its rating.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Bears {
    /// A plug, a terminal: a quarter more is half as much warmth again.
    Contact,
    /// Along a rail every place has a spring of its own: twice as much, before plastic softens.
    Rail,
}

impl Bears {
    /// Up to this share of the rating it is only warm (our own figure).
    pub fn share(self) -> f64 {
        if self == Bears::Rail { 2.0 } else { 1.25 }
    }
}

/// How the end of a cable is made.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum LeadEnd {
    /// Stripped, stranded.
    Bare,
    /// Stripped, one wire.
    Solid,
    Ferrule,
    /// Two wires in one ferrule.
    TwinFerrule,
    Fork,
    Ring,
    Spade,
    /// In the contact's own crimp.
    Crimped,
    /// Tinned, or soldered in.
    Soldered,
}

/// Lead ends by their words in a plan.
pub(crate) const LEAD_ENDS: [(&str, LeadEnd); 9] = [
    ("bare", LeadEnd::Bare),
    ("solid", LeadEnd::Solid),
    ("ferrule", LeadEnd::Ferrule),
    ("twin-ferrule", LeadEnd::TwinFerrule),
    ("fork", LeadEnd::Fork),
    ("ring", LeadEnd::Ring),
    ("spade", LeadEnd::Spade),
    ("crimped", LeadEnd::Crimped),
    ("soldered", LeadEnd::Soldered),
];

impl LeadEnd {
    pub fn word(self) -> &'static str {
        LEAD_ENDS.iter().find(|(_, end)| *end == self).map_or("bare", |(word, _)| word)
    }
}

impl Contact {
    /// `a screw terminal`, or the class it was named by.
    pub fn words(&self) -> String {
        if self.named { format!("`{}`", self.name) } else { format!("a {}", self.name) }
    }

    /// Resistance of what each conductor passes, Ω.
    pub fn ohms(&self, corner: Corner) -> f64 {
        self.resistance.at(corner, Role::Resistance).get() / self.parallel as f64
    }

    /// What each conductor may carry through it continuously, A.
    pub fn rating_a(&self) -> Option<f64> {
        self.rating.as_ref().map(|r| r.low.get() * self.parallel as f64)
    }
}

/// What a contact is called where no class names it.
const KINDS: [(&str, &str); 9] = [
    ("splice", "splice"),
    ("screw-terminal", "screw terminal"),
    ("spring-terminal", "spring terminal"),
    ("plug", "plug pair"),
    ("header", "header"),
    ("jumper-lead", "jumper lead"),
    ("breadboard", "breadboard row"),
    ("fuse-holder", "fuse holder"),
    ("crimp", "crimp"),
];

/// Reads the figures of a contact from an item or a class.
pub(crate) fn read_contact(reader: &mut Reader<'_>, class: Option<&str>) -> Contact {
    let kind = reader.choice("kind", &KINDS);
    let rating = reader.figure::<Amps>("current", Need::Positive);
    let resistance = reader
        .figure::<Ohms>("resistance", Need::NotNegative)
        .unwrap_or_else(|| Figure::exact(Ohms::new(0.01), Origin::Default("a contact has 10 mΩ (typical)")));
    let parallel = reader.whole("contacts", 1..=100).unwrap_or(1);
    let conductors = read_conductors(reader);
    let takes =
        reader.texts("accepts-ends").iter().filter_map(|named| lead_end(reader, "accepts-ends", named)).collect();
    let family = reader.text("family").map(|f| f.text);
    let name = class.map_or_else(|| kind.unwrap_or("contact").to_owned(), str::to_owned);
    Contact {
        name,
        named: class.is_some(),
        span: reader.span,
        rating,
        resistance,
        parallel,
        conductors,
        takes,
        family,
        bears: Bears::Contact,
    }
}

/// `wire-range = ["26 AWG", "12 AWG"]`: the thinnest and the thickest.
fn read_conductors(reader: &mut Reader<'_>) -> Option<(WireSize, WireSize)> {
    let listed = reader.texts("wire-range");
    if listed.is_empty() && !reader.has("wire-range") {
        return None;
    }
    let mut sizes = Vec::new();
    for named in &listed {
        match named.text.parse::<WireSize>() {
            Ok(size) => sizes.push(size),
            Err(message) => reader.problem(Problem::new(
                named.span.unwrap_or(reader.span),
                format!("`wire-range` of {}: {message}", reader.what()),
                "write `wire-range = [\"26 AWG\", \"12 AWG\"]` or `[\"0.2 mm²\", \"2.5 mm²\"]`",
            )),
        }
    }
    if listed.len() != 2 {
        reader.problem(Problem::new(
            reader.own_span("wire-range").unwrap_or(reader.span),
            format!("`wire-range` of {} lists {} sizes", reader.what(), listed.len()),
            "list the thinnest and the thickest wire it accepts",
        ));
    }
    let &[a, b] = sizes.as_slice() else { return None };
    Some(if a.area_mm2() <= b.area_mm2() { (a, b) } else { (b, a) })
}

/// A cable end by its word.
pub(crate) fn lead_end(reader: &Reader<'_>, key: &str, named: &Named) -> Option<LeadEnd> {
    if let Some((_, end)) = LEAD_ENDS.iter().find(|(word, _)| *word == named.text) {
        return Some(*end);
    }
    let words = LEAD_ENDS.iter().map(|(word, _)| *word);
    let help = match crate::text::nearest(&named.text, words.clone()) {
        Some(near) => format!("did you mean `{near}`?"),
        None => format!("wire ends: {}", words.collect::<Vec<_>>().join(", ")),
    };
    reader.problem(Problem::new(
        named.span.unwrap_or(reader.span),
        format!("`{}` in `{key}` of {} is not a wire end", named.text, reader.what()),
        help,
    ));
    None
}

/// Reads a contact that a cable names: a class of connector, or a table with `part` or figures of its own.
pub(crate) fn contact_of<'a>(reader: &Reader<'a>, key: &str, node: &'a Node) -> Option<Contact> {
    let what = format!("`{key}` of {}", reader.what());
    match &node.value {
        Value::Text(class, _) => {
            let mut inner = reader.class("connector", what, class, node.span)?;
            let mut contact = read_contact(&mut inner, Some(class));
            contact.span = node.span;
            Some(contact)
        }
        Value::Table(table) => {
            let part = match table.get("part").map(|(_, n)| (&n.value, n.span)) {
                Some((Value::Text(part, _), span)) => Some((part.as_str(), span)),
                _ => None,
            };
            let mut inner = reader.nested_of_class("connector", table, what, node.span, part);
            let _ = inner.text("part");
            ignore_node_keys(&mut inner);
            let contact = read_contact(&mut inner, part.map(|(name, _)| name));
            inner.finish();
            Some(contact)
        }
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("{what} is {}, not a connector", other.kind()),
                "name a connector part, such as \"screw-terminal-5mm\", or write a table",
            ));
            None
        }
    }
}

/// Keys of a class that only a connector which is a node of its own has a use for.
fn ignore_node_keys(reader: &mut Reader<'_>) {
    for key in ["ways", "wires", "keyed"] {
        if reader.own_span(key).is_none() {
            let _ = reader.has(key);
        }
    }
}

/// One or several contacts under a key.
pub(crate) fn read_contacts(reader: &mut Reader<'_>, key: &'static str) -> Vec<Contact> {
    let Some(node) = reader.node(key) else { return Vec::new() };
    match &node.value {
        Value::List(items) => items.iter().filter_map(|item| contact_of(reader, key, item)).collect(),
        _ => contact_of(reader, key, node).into_iter().collect(),
    }
}
