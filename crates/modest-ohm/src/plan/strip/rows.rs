//! A strip laid in rows: cut, and joined again by wires. What switches a plain strip's colours.

use super::pixel::Pixel;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::cable_text::read_cable;
use crate::plan::wiring::feed::{Feed, NodeRef};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::named::named;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Ohms;
use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use crate::text::{Named, nearest};
use modest_ohm_derive::Figures;

/// A strip in pieces of one length, each joined to the next by wires.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Rows {
    pub count: usize,
    pub span: Span,
    /// The cables from the end of each row to the beginning of the next; their `from` is the strip itself.
    #[figures(key = "join")]
    pub joins: Vec<Feed>,
}

/// What switches a colour's return.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Switched {
    /// Index of the colour.
    pub colour: usize,
    pub by: Named,
    pub resistance: Figure<Ohms>,
    /// True where its resistance is given: then what it is need not be shown.
    pub stated: bool,
    /// The − of the channel that it is, of a strip with a return a colour.
    pub node: Option<NodeRef>,
}

/// `rows = 4`, `join = "0.1 m 20 AWG"`.
pub(crate) fn read_rows(reader: &mut Reader<'_>, name: &Name, pixels: usize) -> Option<Rows> {
    let count = reader.whole("rows", 1..=1000);
    let cable = read_cable(reader, "join", false);
    let span = reader.own_span("rows").or(reader.own_span("join")).unwrap_or(reader.span);
    let Some(count) = count.filter(|c| *c > 1) else {
        if cable.is_some() {
            let message = format!("`join` of {} without `rows`", reader.what());
            reader.problem(Problem::new(span, message, "write into how many rows it is cut: `rows = 4`"));
        }
        return None;
    };
    if !pixels.is_multiple_of(count) {
        reader.problem(Problem::new(
            span,
            format!("{} has {pixels} pixels, which do not make {count} equal rows", reader.what()),
            "give every row the same number; different rows are separate strips, chained by `data.after`",
        ));
        return None;
    }
    Some(Rows { count, span, joins: joins(name, count, cable.as_ref(), span) })
}

/// The cables between the pieces of a strip.
pub(crate) fn joins(name: &Name, count: usize, cable: Option<&Cable>, span: Span) -> Vec<Feed> {
    let from = || NodeRef::new(named(&format!("{}.start", name.text), span));
    (1..count).map(|_| Feed { from: from(), cable: cable.cloned(), back: None, fuse: None }).collect()
}

/// `switched = { red = "stage-red" }`, or with `{ by, resistance }`.
pub(crate) fn read_switched(reader: &mut Reader<'_>, pixel: &Pixel) -> Vec<Switched> {
    let Some(mut table) = reader.child("switched") else { return Vec::new() };
    let colours: Vec<&str> = pixel.colours.iter().map(|c| c.name.as_str()).collect();
    let mut switched = Vec::new();
    for (key, span) in table.keys() {
        let Some(colour) = colours.iter().position(|c| *c == key) else {
            // Of a class that is not known the colours are not either.
            if colours.is_empty() {
                continue;
            }
            let help = match nearest(&key, colours.iter().copied()) {
                Some(near) => format!("did you mean `{near}`?"),
                None => format!("its colours: {}", colours.join(", ")),
            };
            table.problem(Problem::new(span, format!("{} has no colour `{key}`", table.what()), help));
            continue;
        };
        let Some((node, _)) = table.any(&key) else { continue };
        let none =
            || Figure::exact(Ohms::new(0.0), Origin::Default("a switch without resistance until its values are given"));
        match &node.value {
            Value::Text(text, _) => {
                let by = named(text, node.span);
                switched.push(Switched { colour, by, resistance: none(), stated: false, node: None });
            }
            Value::Table(inner) => {
                let mut inner = table.nested(inner, format!("`switched.{key}` of {}", reader.what()), node.span, None);
                let by = inner.text("by");
                let given = inner.figure::<Ohms>("resistance", Need::NotNegative);
                let (stated, resistance) = (given.is_some(), given.unwrap_or_else(none));
                if by.is_none() && !inner.has("by") {
                    inner.missing("by", "name what switches it: `by = \"stage-red\"`");
                }
                inner.finish();
                switched.extend(by.map(|by| Switched { colour, by, resistance, stated, node: None }));
            }
            other => table.problem(Problem::new(
                node.span,
                format!("`switched.{key}` of {} is {}", reader.what(), other.kind()),
                "name what switches it: `red = \"stage-red\"`",
            )),
        }
    }
    if !pixel.plain && !colours.is_empty() {
        let message = format!("`switched` of {}: pixels switch their own colours", reader.what());
        reader.problem(Problem::new(table.span, message, "remove it"));
    }
    switched
}
