//! Applying edits to a text.

use std::fmt;

use toml_edit::{DocumentMut, InlineTable, Item, Key, Table, TableLike, Value};

use super::Edit;
use super::line_ends::restored;
use super::path::{Step, steps_of};

/// Why an edit cannot be applied.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum EditError {
    /// The text is not TOML.
    Text(String),
    /// The path is malformed, or leads through a value that has no such key or item.
    Path(String),
    /// The value is not TOML.
    Value(String),
}

impl fmt::Display for EditError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Text(why) => write!(f, "the text is not TOML: {why}"),
            Self::Path(path) => write!(f, "the text has no place `{path}`"),
            Self::Value(value) => write!(f, "`{value}` is not a TOML value"),
        }
    }
}

impl std::error::Error for EditError {}

/// Applies edits to a text, one after another. Comments, blank lines, order and line ends outside of what is edited stay
/// as they are, byte for byte.
///
/// # Errors
/// The text or a value is not TOML, or a path leads nowhere. Removing what is not there is an error too.
pub fn apply(text: &str, edits: &[Edit]) -> Result<String, EditError> {
    let (mark, body) = match text.strip_prefix('\u{feff}') {
        Some(body) => ("\u{feff}", body),
        None => ("", text),
    };
    let mut document: DocumentMut =
        body.parse().map_err(|e: toml_edit::TomlError| EditError::Text(e.message().to_owned()))?;
    for edit in edits {
        one(&mut document, edit)?;
    }
    Ok(format!("{mark}{}", restored(body, &document.to_string())))
}

fn one(document: &mut DocumentMut, edit: &Edit) -> Result<(), EditError> {
    let nowhere = || EditError::Path(edit.path.clone());
    let steps = steps_of(&edit.path).ok_or_else(nowhere)?;
    let (last, way) = steps.split_last().ok_or_else(nowhere)?;
    let value = match &edit.value {
        Some(text) => Some(text.parse::<Value>().map_err(|_| EditError::Value(text.clone()))?),
        None => None,
    };
    let creates = value.is_some();
    let mut at: &mut Item = document.as_item_mut();
    for (depth, step) in way.iter().enumerate() {
        at = below(at, step, creates, depth).ok_or_else(nowhere)?;
    }
    match (last, value) {
        (Step::Key(key), Some(value)) => set(at, key, value, way.len() == 1).ok_or_else(nowhere),
        (Step::Key(key), None) => at.as_table_like_mut().and_then(|t| t.remove(key)).map(drop).ok_or_else(nowhere),
        (Step::Index(i), Some(value)) => set_item(at, *i, value).ok_or_else(nowhere),
        (Step::Index(i), None) => remove_item(at, *i).ok_or_else(nowhere),
    }
}

/// What a step leads to; a table that is not there is made.
fn below<'a>(at: &'a mut Item, step: &Step, creates: bool, depth: usize) -> Option<&'a mut Item> {
    match step {
        Step::Key(key) => {
            let is_missing = at.as_table_like()?.get(key).is_none_or(Item::is_none);
            if is_missing && creates {
                let within_line = !at.is_table();
                let new = if within_line {
                    Item::Value(InlineTable::new().into())
                } else {
                    let mut table = Table::new();
                    // `[kind.name]` needs no `[kind]` above it.
                    table.set_implicit(depth == 0);
                    table.decor_mut().set_prefix("\n");
                    Item::Table(table)
                };
                at.as_table_like_mut()?.insert(key, new);
            }
            at.as_table_like_mut()?.get_mut(key)
        }
        Step::Index(i) => match at {
            Item::ArrayOfTables(_) | Item::Value(Value::Array(_)) => at.get_mut(*i),
            _ => None,
        },
    }
}

/// Writes a value under a key; what surrounds the old one stays.
fn set(at: &mut Item, key: &str, value: Value, is_heading: bool) -> Option<()> {
    if let (true, Value::InlineTable(rows), Some(kind)) = (is_heading, &value, at.as_table_mut())
        && kind.get(key).is_none_or(Item::is_none)
    {
        let mut table = Table::new();
        table.decor_mut().set_prefix("\n");
        for (name, row) in rows {
            table.insert(name, Item::Value(row.clone().decorated(" ", "")));
        }
        kind.insert(key, Item::Table(table));
        return Some(());
    }
    let indent = at.as_table().and_then(indent_of);
    let table = at.as_table_like_mut()?;
    match table.get_mut(key).filter(|old| !old.is_none()) {
        Some(Item::Value(old)) => {
            let decor = old.decor().clone();
            *old = value;
            *old.decor_mut() = decor;
        }
        Some(_) => {
            // A table with a heading of its own becomes a value in the table above.
            table.remove(key)?;
            table.insert(key, Item::Value(value.decorated(" ", "")));
        }
        None => match at.as_inline_table_mut() {
            Some(table) => insert_in_line(table, key, value),
            None => insert(at.as_table_like_mut()?, key, value, indent),
        },
    }
    Some(())
}

/// A new key of `{ … }`: the blank before the closing brace stays there.
fn insert_in_line(table: &mut InlineTable, key: &str, value: Value) {
    let last = table.iter_mut().last().map(|(_, last)| last);
    let end = last.and_then(|last| {
        let suffix = last.decor().suffix().cloned();
        last.decor_mut().set_suffix("");
        suffix
    });
    table.insert(key, value);
    if let Some((end, new)) = end.zip(table.get_mut(key)) {
        new.decor_mut().set_prefix(" ");
        new.decor_mut().set_suffix(end);
    }
}

/// A new key, indented as its neighbours are.
fn insert(table: &mut dyn TableLike, key: &str, value: Value, indent: Option<String>) {
    table.insert(key, Item::Value(value));
    let Some(indent) = indent.filter(|i| !i.is_empty()) else { return };
    if let Some(mut new) = table.key_mut(key) {
        new.leaf_decor_mut().set_prefix(indent);
    }
}

/// The blanks before the last key of a table.
fn indent_of(table: &Table) -> Option<String> {
    let (key, _) = table.get_values().pop()?;
    let first: &&Key = key.first()?;
    let prefix = first.leaf_decor().prefix()?.as_str()?;
    let line = prefix.rsplit('\n').next().unwrap_or(prefix);
    line.chars().all(char::is_whitespace).then(|| line.to_owned())
}

/// Replaces an item of a list, or adds it at the end.
fn set_item(at: &mut Item, index: usize, value: Value) -> Option<()> {
    let list = at.as_array_mut()?;
    if index == list.len() {
        list.push(value);
        return Some(());
    }
    let old = list.get_mut(index)?;
    let decor = old.decor().clone();
    *old = value;
    *old.decor_mut() = decor;
    Some(())
}

fn remove_item(at: &mut Item, index: usize) -> Option<()> {
    match at {
        Item::ArrayOfTables(list) if index < list.len() => {
            list.remove(index);
        }
        Item::Value(Value::Array(list)) if index < list.len() => {
            list.remove(index);
        }
        _ => return None,
    }
    Some(())
}
