//! `keep = true` on an item: no fix may change it. It says nothing of the item itself, so no reader knows of it.

use super::problem::Problem;
use super::tree::{Node, Table, Value};

/// The key.
pub(crate) const KEEP: &str = "keep";

/// Whether an item's table says that it is to be kept.
pub(crate) fn is_kept(table: &Table) -> bool {
    matches!(table.get(KEEP), Some((_, Node { value: Value::Flag(true), .. })))
}

/// Takes the key out of every item of a plan; anything but true or false is a problem.
pub(crate) fn take(root: &mut Table, problems: &mut Vec<Problem>) {
    let kinds = root.entries.iter_mut().filter(|(kind, _, _)| kind != "part");
    for (_, _, kind) in kinds {
        let Value::Table(items) = &mut kind.value else { continue };
        for (name, _, item) in &mut items.entries {
            let Value::Table(table) = &mut item.value else { continue };
            table.entries.retain(|(key, span, node)| {
                if key == KEEP && !matches!(node.value, Value::Flag(_)) {
                    let message = format!("`keep` of `{name}` is {}", node.value.kind());
                    problems.push(Problem::new(*span, message, "write `keep = true`"));
                }
                key != KEEP
            });
        }
    }
}
