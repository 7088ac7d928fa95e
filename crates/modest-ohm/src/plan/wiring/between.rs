//! The nodes that a part is between or across.

use super::feed::NodeRef;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;

/// Reads the two nodes of `between`.
pub(crate) fn read_between(reader: &mut Reader<'_>, help: &str) -> [NodeRef; 2] {
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
pub(crate) fn read_across(reader: &mut Reader<'_>) -> NodeRef {
    if !reader.has("across") {
        reader.missing("across", "name the node across which it is connected: `across = \"five\"`");
    }
    reader.text("across").map_or_else(NodeRef::stand_in, |named: Named| NodeRef::new(named))
}
