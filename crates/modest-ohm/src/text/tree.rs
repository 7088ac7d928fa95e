//! The tree of a TOML text with the span of every key and value.

use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::problem::Problem;
use crate::source::Span;

/// A value with its place.
#[derive(Clone, Debug)]
pub(crate) struct Node {
    pub span: Span,
    pub value: Value,
}

#[derive(Clone, Debug)]
pub(crate) enum Value {
    /// The text, and the offset of its first byte if it is in the source without escapes.
    Text(String, Option<usize>),
    /// An integer or a float as written.
    Number(String),
    Flag(bool),
    Date,
    List(Vec<Node>),
    Table(Table),
}

impl Value {
    /// What it is, for messages.
    pub fn kind(&self) -> &'static str {
        match self {
            Value::Text(..) => "text",
            Value::Number(_) => "a plain number",
            Value::Flag(_) => "true or false",
            Value::Date => "a date",
            Value::List(_) => "a list",
            Value::Table(_) => "a table",
        }
    }
}

#[derive(Clone, Debug, Default)]
pub(crate) struct Table {
    pub entries: Vec<(String, Span, Node)>,
}

impl Table {
    pub fn get(&self, key: &str) -> Option<(&Span, &Node)> {
        self.entries.iter().find(|(k, _, _)| k == key).map(|(_, span, node)| (span, node))
    }
}

/// Parses the text; all syntax errors at once.
pub(crate) fn parse_tree(text: &str) -> Result<Table, Vec<Problem>> {
    let (table, errors) = DeTable::parse_recoverable(text);
    if !errors.is_empty() {
        // The recovered tree holds invented values: nothing but the syntax errors is worth saying.
        return Err(errors
            .iter()
            .map(|e| {
                let span = e.span().map(|r| Span { start: r.start, end: r.end.max(r.start) });
                Problem::new(span, format!("this is not TOML: {}", e.message().trim()), "")
            })
            .collect());
    }
    let table = table_of(text, table.get_ref());
    let mut problems = Vec::new();
    unprintable(&table, &mut problems);
    if problems.is_empty() { Ok(table) } else { Err(problems) }
}

/// Keys whose texts are sentences, and may have several lines.
const SENTENCES: [&str; 2] = ["title", "because"];

/// True for characters that steer a terminal or turn the order of what is read: they have no place in a plan, whose
/// words are shown in messages, tables and pictures.
fn steers(c: char) -> bool {
    c.is_control() || matches!(c, '\u{2028}' | '\u{2029}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
}

/// The one gate: what passes it can be printed anywhere.
fn unprintable(table: &Table, problems: &mut Vec<Problem>) {
    fn judge(what: &str, text: &str, span: Span, lines: bool, problems: &mut Vec<Problem>) {
        let bad = text.chars().find(|c| steers(*c) && !(lines && matches!(c, '\n' | '\r' | '\t')));
        if let Some(bad) = bad {
            let message = format!("{what} contains the character U+{:04X}, which cannot be shown", u32::from(bad));
            problems.push(Problem::new(span, message, "remove it"));
        }
    }
    fn value(key: &str, node: &Node, problems: &mut Vec<Problem>) {
        match &node.value {
            Value::Text(text, _) => judge("the text", text, node.span, SENTENCES.contains(&key), problems),
            Value::List(items) => items.iter().for_each(|item| value(key, item, problems)),
            Value::Table(table) => unprintable(table, problems),
            Value::Number(_) | Value::Flag(_) | Value::Date => {}
        }
    }
    for (key, span, node) in &table.entries {
        judge("the key", key, *span, false, problems);
        value(key, node, problems);
    }
}

fn table_of(text: &str, table: &DeTable<'_>) -> Table {
    let mut entries: Vec<_> =
        table.iter().map(|(key, value)| (key.get_ref().to_string(), span_of(key), node_of(text, value))).collect();
    entries.sort_by_key(|(_, span, _)| span.start);
    Table { entries }
}

fn span_of<T>(spanned: &Spanned<T>) -> Span {
    let range = spanned.span();
    Span { start: range.start, end: range.end }
}

fn node_of(text: &str, value: &Spanned<DeValue<'_>>) -> Node {
    let span = span_of(value);
    let value = match value.get_ref() {
        DeValue::String(s) => Value::Text(s.to_string(), inner_offset(text, span, s)),
        // The text comes without its prefix: `0x76` must not be read as 76.
        DeValue::Integer(i) => Value::Number(match i.radix() {
            16 => format!("0x{}", i.as_str()),
            8 => format!("0o{}", i.as_str()),
            2 => format!("0b{}", i.as_str()),
            _ => i.as_str().to_owned(),
        }),
        DeValue::Float(f) => Value::Number(f.as_str().to_owned()),
        DeValue::Boolean(b) => Value::Flag(*b),
        DeValue::Datetime(_) => Value::Date,
        DeValue::Array(list) => Value::List(list.iter().map(|v| node_of(text, v)).collect()),
        DeValue::Table(table) => Value::Table(table_of(text, table)),
    };
    Node { span, value }
}

/// Where a string's content starts, if it is in the source letter by letter (no escapes).
fn inner_offset(text: &str, span: Span, content: &str) -> Option<usize> {
    let raw = text.get(span.start..span.end)?;
    let quotes = if raw.starts_with("\"\"\"") || raw.starts_with("'''") { 3 } else { 1 };
    let at = quotes + raw.get(quotes..)?.find(content)?;
    (!raw.contains('\\') || raw.starts_with('\'')).then_some(span.start + at)
}
