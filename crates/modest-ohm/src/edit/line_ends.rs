//! Line ends that are kept: the crate that edits writes every line with a line feed.

use similar::{ChangeTag, TextDiff};

/// The edited text with the line ends that unchanged lines had before; new lines end as most do.
pub(super) fn restored(original: &str, edited: &str) -> String {
    let returns = original.matches("\r\n").count();
    if returns == 0 {
        return edited.to_owned();
    }
    let usual = if 2 * returns > original.matches('\n').count() { "\r\n" } else { "\n" };
    let plain = original.replace("\r\n", "\n");
    let ends: Vec<&str> =
        original.split_inclusive('\n').map(|line| if line.ends_with("\r\n") { "\r\n" } else { "\n" }).collect();
    let mut text = String::with_capacity(edited.len() + ends.len());
    for change in TextDiff::from_lines(plain.as_str(), edited).iter_all_changes() {
        let end = match change.tag() {
            ChangeTag::Delete => continue,
            ChangeTag::Equal => change.old_index().and_then(|i| ends.get(i)).copied().unwrap_or(usual),
            ChangeTag::Insert => usual,
        };
        match change.value().strip_suffix('\n') {
            Some(line) => text.extend([line, end]),
            None => text.push_str(change.value()),
        }
    }
    text
}
