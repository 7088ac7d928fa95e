//! What several kinds share, and `ground`.

use super::cable::Cable;
use super::cable_text::read_cable;
use super::feed::NodeRef;
use crate::quantity::{Figure, Fraction, Ohms};
use crate::text::{Named, Need, Problem, Reader, Span};

/// A declared name.
#[derive(Clone, Debug)]
pub(crate) struct Name {
    pub text: String,
    pub span: Span,
}

/// A share below the whole: headroom, drop.
pub(crate) fn read_share(reader: &mut Reader<'_>, key: &'static str) -> Option<Figure<Fraction>> {
    let figure = reader.figure::<Fraction>(key, Need::NotNegative)?;
    if figure.high.get() >= 1.0 {
        let span = reader.own_span(key);
        reader.problem(Problem::new(
            span,
            format!("`{key}` of {} is {}", reader.what(), figure.high),
            "it has to be below 100 %",
        ));
    }
    Some(figure)
}

/// `[ground.x]`: a conductor between the − of two nodes.
#[derive(Clone, Debug)]
pub(crate) struct Ground {
    pub name: Name,
    pub between: [NodeRef; 2],
    pub cable: Option<Cable>,
    pub resistance: Option<Figure<Ohms>>,
    /// The load at whose own − its second end is, of a signal's − that goes along.
    pub load: Option<usize>,
    /// True for the − of a signal's lead.
    pub with_signal: bool,
}

pub(crate) fn read_ground(reader: &mut Reader<'_>, name: Name) -> Ground {
    let between = read_between(reader, "a tie joins the − of two nodes: `between = [\"wall\", \"bench\"]`");
    let cable = read_cable(reader, "cable", false);
    let resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    Ground { name, between, cable, resistance, load: None, with_signal: false }
}

/// Reads the two nodes of `between`.
pub(super) fn read_between(reader: &mut Reader<'_>, help: &str) -> [NodeRef; 2] {
    let names = reader.texts("between");
    let count = names.len();
    if count != 2 {
        let span = reader.own_span("between").unwrap_or(reader.span);
        reader.problem(Problem::new(span, format!("{} joins {count} nodes", reader.what()), help));
    }
    let mut ends = names.into_iter();
    let mut end = || ends.next().map_or_else(NodeRef::stand_in, NodeRef::new);
    [end(), end()]
}

/// Reads `across`: the node between whose + and − a part sits.
pub(super) fn read_across(reader: &mut Reader<'_>) -> NodeRef {
    if !reader.has("across") {
        reader.missing("across", "name the node between whose + and − it sits: `across = \"five\"`");
    }
    reader.text("across").map_or_else(NodeRef::stand_in, |named: Named| NodeRef::new(named))
}
