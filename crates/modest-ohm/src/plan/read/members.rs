//! `count` on an item: one table that stands for several equal ones, `line.1`, `line.2` …; a list where they differ.
//!
//! The tree is rewritten before anything is read, so that no reader, check or view knows of it.

use std::cell::RefCell;
use std::collections::{BTreeMap, BTreeSet};

use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::tree::{Node, Table, Value};

/// Kinds that are counted here; loads, motors and LEDs read their `count` themselves.
pub(crate) const COUNTED: [&str; 4] = ["strip", "panel", "driver", "input"];

/// More members than this are refused.
const MOST_MEMBERS: usize = 500;

/// More values than these in all members of an item are refused: a small text must not become a large plan.
const MOST_VALUES: usize = 200_000;

/// Keys whose values are lists anyway: a list of lists has one for each member.
const LISTS: [&str; 16] = [
    "inject",
    "cut",
    "pins",
    "colours",
    "core-marks",
    "needs",
    "through",
    "into",
    "ends",
    "connectors",
    "strips",
    "wire-range",
    "accepts-ends",
    "needs-voltage",
    "functions",
    "rotated",
];

/// Keys that list items: the name of a counted one stands for all its members.
const REFERENCES: [&str; 4] = ["strips", "members", "contains", "off"];

/// The tree with each counted item as its members.
pub(crate) struct Members {
    pub root: Table,
    /// The names of the members, by the name that is counted.
    of: BTreeMap<String, Vec<String>>,
}

impl Members {
    /// Rewrites a plan's tree; notes counts that are none, and lists with too few or too many values.
    pub fn expand(root: Table, problems: &RefCell<Vec<Problem>>) -> Self {
        let mut of = BTreeMap::new();
        let entries = root.entries.into_iter().map(|(kind, span, node)| match node.value {
            Value::Table(items) if COUNTED.contains(&kind.as_str()) => {
                let items = items.entries.into_iter().flat_map(|item| members(item, &mut of, problems)).collect();
                (kind, span, Node { value: Value::Table(Table { entries: items }), ..node })
            }
            value => (kind, span, Node { value, ..node }),
        });
        let mut root = Table { entries: entries.collect() };
        if !of.is_empty() {
            refer(&mut root, &of);
        }
        Self { root, of }
    }

    /// True for the name of a member.
    pub fn has(&self, name: &str) -> bool {
        name.rsplit_once('.')
            .is_some_and(|(counted, _)| self.of.get(counted).is_some_and(|m| m.iter().any(|n| n == name)))
    }

    /// Drops what is said of every member alike, but for the first.
    pub fn said_once(&self, problems: &mut Vec<Problem>) {
        if self.of.is_empty() {
            return;
        }
        let mut said: BTreeSet<(Option<(usize, usize)>, String)> = BTreeSet::new();
        problems.retain(|p| said.insert((p.span.map(|s| (s.start, s.end)), self.of_all(&p.message))));
    }

    /// A message with the names of members as the name that is counted.
    fn of_all(&self, message: &str) -> String {
        let word = |word: &str| match word.rsplit_once('.') {
            Some((counted, number)) if self.of.contains_key(counted) && number.parse::<usize>().is_ok() => {
                counted.to_owned()
            }
            _ => word.to_owned(),
        };
        message.split('`').map(word).collect::<Vec<_>>().join("`")
    }
}

type Entry = (String, Span, Node);

/// An item as it is, or as its members.
fn members(
    (name, span, node): Entry,
    of: &mut BTreeMap<String, Vec<String>>,
    problems: &RefCell<Vec<Problem>>,
) -> Vec<Entry> {
    let Value::Table(table) = &node.value else { return vec![(name, span, node)] };
    let Some((_, counted)) = table.get("count") else { return vec![(name, span, node)] };
    let count = match &counted.value {
        Value::Number(text) => text.parse::<usize>().ok().filter(|n| (1..=MOST_MEMBERS).contains(n)),
        _ => None,
    };
    let Some(count) = count else {
        let message = format!("`count` of `{name}` is not a whole number from 1 to {MOST_MEMBERS}");
        problems.borrow_mut().push(Problem::new(counted.span, message, "write `count = 12`"));
        return vec![(name, span, node)];
    };
    if count * weight(table) > MOST_VALUES {
        let message = format!("`{name}` with {count} members has more than {MOST_VALUES} values");
        problems.borrow_mut().push(Problem::new(counted.span, message, "split the plan"));
        return vec![(name, span, node)];
    }
    let names: Vec<String> = (1..=count).map(|i| format!("{name}.{i}")).collect();
    let member = |(i, own): (usize, &String)| {
        let value = Value::Table(table_of(table, (i, count), problems));
        (own.clone(), span, Node { span: node.span, value })
    };
    let entries = names.iter().enumerate().map(member).collect();
    of.insert(name, names);
    entries
}

/// How many values a table has, those of its lists and tables counted.
fn weight(table: &Table) -> usize {
    fn of(node: &Node) -> usize {
        match &node.value {
            Value::List(items) => 1 + items.iter().map(of).sum::<usize>(),
            Value::Table(inner) => 1 + weight(inner),
            _ => 1,
        }
    }
    table.entries.iter().map(|(_, _, node)| of(node)).sum()
}

/// The table of one member, its number counted from 0.
fn table_of(table: &Table, (i, count): (usize, usize), problems: &RefCell<Vec<Problem>>) -> Table {
    let own = |(key, span, node): &Entry| {
        let value = match &node.value {
            Value::Table(inner) => Value::Table(table_of(inner, (i, count), problems)),
            Value::List(items) => return (key.clone(), *span, value_of(key, node, items, (i, count), problems)),
            other => other.clone(),
        };
        (key.clone(), *span, Node { span: node.span, value })
    };
    Table { entries: table.entries.iter().filter(|(key, ..)| key != "count").map(own).collect() }
}

/// What a list says of one member.
fn value_of(
    key: &str,
    node: &Node,
    items: &[Node],
    (i, count): (usize, usize),
    problems: &RefCell<Vec<Problem>>,
) -> Node {
    let is_list = |n: &Node| matches!(n.value, Value::List(_));
    if LISTS.contains(&key) && !items.iter().all(is_list) {
        return node.clone();
    }
    if items.len() != count && i == 0 {
        let message = format!("`{key}` lists {} values for {count} members", items.len());
        let help = format!("write one value for all, or {count}");
        problems.borrow_mut().push(Problem::new(node.span, message, help));
    }
    items.get(i).or(items.first()).unwrap_or(node).clone()
}

/// Puts the members in place of a counted name, where items are listed and where a scenario sets them.
fn refer(table: &mut Table, of: &BTreeMap<String, Vec<String>>) {
    for (key, _, node) in &mut table.entries {
        match &mut node.value {
            Value::List(items) if REFERENCES.contains(&key.as_str()) => {
                let all = |item: &Node| match &item.value {
                    Value::Text(text, at) if of.contains_key(text) => of[text]
                        .iter()
                        .map(|name| Node { span: item.span, value: Value::Text(name.clone(), *at) })
                        .collect(),
                    _ => vec![item.clone()],
                };
                *items = items.iter().flat_map(all).collect();
            }
            Value::List(items) => items.iter_mut().for_each(|item| {
                if let Value::Table(inner) = &mut item.value {
                    refer(inner, of);
                }
            }),
            Value::Table(inner) => {
                if key == "set" || key == "split" {
                    let all = |(name, span, node): &Entry| match of.get(name) {
                        Some(members) => members.iter().map(|m| (m.clone(), *span, node.clone())).collect(),
                        None => vec![(name.clone(), *span, node.clone())],
                    };
                    inner.entries = inner.entries.iter().flat_map(all).collect();
                }
                refer(inner, of);
            }
            _ => {}
        }
    }
}
