//! A plan's text as a tree of tables: where a fix finds what it may change.

use crate::edit::path::{item as indexed, join};
use crate::plan::model::Plan;
use crate::source::Span;
use crate::text::tree::{Node, Table, Value, parse_tree};

/// The tables of a plan.
pub(crate) struct Sheet {
    root: Table,
}

/// One table `[kind.name]`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Item<'s> {
    pub kind: &'s str,
    pub name: &'s str,
    pub table: &'s Table,
}

/// A value with the path to it.
#[derive(Clone, Debug)]
pub(crate) struct Found<'s> {
    pub path: String,
    pub node: &'s Node,
}

/// Tables that are no items.
const NOT_ITEMS: [&str; 3] = ["policy", "scenario", "part"];

impl Sheet {
    /// The tables of the plan's text. A text that was read before is sound; else there is nothing to change.
    pub fn of(plan: &Plan) -> Self {
        Self { root: parse_tree(plan.source.text()).unwrap_or_default() }
    }

    /// All items in the order of the text.
    pub fn items(&self) -> impl Iterator<Item = Item<'_>> {
        let kinds = self.root.entries.iter().filter(|(kind, _, _)| !NOT_ITEMS.contains(&kind.as_str()));
        kinds.filter_map(|(kind, _, node)| Some((kind, table_of(node)?))).flat_map(|(kind, table)| {
            table.entries.iter().filter_map(move |(name, _, node)| Some(Item { kind, name, table: table_of(node)? }))
        })
    }

    /// The item of a name.
    pub fn item(&self, name: &str) -> Option<Item<'_>> {
        self.items().find(|item| item.name == name)
    }

    /// The item that a finding's subject belongs to: `quay` of `quay.inject[0]`, `keeper` of `keeper.3v3`.
    pub fn item_of(&self, subject: &str) -> Option<Item<'_>> {
        let mut name = subject;
        loop {
            if let Some(item) = self.item(name) {
                return Some(item);
            }
            name = &name[..name.rfind(['.', '['])?];
        }
    }

    /// The item in whose table a place of the text is.
    pub fn item_at(&self, span: Span) -> Option<Item<'_>> {
        let kinds = self.root.entries.iter().filter_map(|(kind, _, node)| Some((kind, table_of(node)?)));
        let mut here = kinds.flat_map(|(kind, table)| table.entries.iter().map(move |entry| (kind, entry)));
        let (kind, (name, _, node)) = here.find(|(_, (_, key, node))| contains(*key, node, span))?;
        Some(Item { kind, name, table: table_of(node)? })
    }

    /// The innermost value that a place of the text belongs to: the place is within the value, or its key.
    pub fn value_at(&self, span: Span) -> Option<Found<'_>> {
        within(&self.root, "", span)
    }

    /// What feeds an item, and what feeds that, nearest first. Each once.
    pub fn above(&self, item: Item<'_>) -> Vec<Item<'_>> {
        let mut found: Vec<Item<'_>> = Vec::new();
        let mut next: Vec<String> = item.sources();
        while !next.is_empty() {
            let mut further = Vec::new();
            for name in next {
                let Some(above) = self.item_of(&name) else { continue };
                if above.name != item.name && found.iter().all(|f| f.name != above.name) {
                    further.extend(above.sources());
                    found.push(above);
                }
            }
            next = further;
        }
        found
    }

    /// The items that an item feeds directly.
    pub fn below<'s>(&'s self, name: &'s str) -> impl Iterator<Item = Item<'s>> {
        let is_of = move |source: &String| {
            source.strip_prefix(name).is_some_and(|rest| rest.is_empty() || rest.starts_with('.'))
        };
        self.items().filter(move |item| item.name != name && item.sources().iter().any(is_of))
    }

    /// A name that no item has yet, such as `lift`, `lift-2`.
    pub fn new_name(&self, wanted: &str) -> String {
        let is_free = |name: &String| self.items().all(|item| item.name != name);
        let mut names = std::iter::once(wanted.to_owned()).chain((2..).map(|n| format!("{wanted}-{n}")));
        names.find(is_free).unwrap_or_default()
    }
}

impl<'s> Item<'s> {
    /// `kind.name`.
    pub fn path(&self) -> String {
        join(&join("", self.kind), self.name)
    }

    /// The path of one of its keys, which may itself be a path.
    pub fn key(&self, key: &str) -> String {
        format!("{}.{key}", self.path())
    }

    pub fn node(&self, key: &str) -> Option<&'s Node> {
        let mut keys = key.split('.');
        let mut node = self.table.get(keys.next()?)?.1;
        for key in keys {
            node = table_of(node)?.get(key)?.1;
        }
        Some(node)
    }

    pub fn has(&self, key: &str) -> bool {
        self.node(key).is_some()
    }

    /// A value that is a text.
    pub fn text(&self, key: &str) -> Option<&'s str> {
        text_of(self.node(key)?)
    }

    /// Every value under one of these keys, at any depth.
    pub fn all(&self, keys: &[&str]) -> Vec<Found<'s>> {
        let mut found = Vec::new();
        collect(self.table, &self.path(), keys, &mut found);
        found
    }

    /// The nodes that it is fed from, as they are written.
    pub fn sources(&self) -> Vec<String> {
        let mut names = Vec::new();
        for Found { node, .. } in self.all(&["from"]) {
            names_in(node, &mut names);
        }
        for key in ["across", "driver", "near", "far", "common"] {
            names.extend(self.node(key).into_iter().flat_map(|node| {
                let mut own = Vec::new();
                names_in(node, &mut own);
                own
            }));
        }
        names
    }
}

pub(crate) fn table_of(node: &Node) -> Option<&Table> {
    match &node.value {
        Value::Table(table) => Some(table),
        _ => None,
    }
}

pub(crate) fn text_of(node: &Node) -> Option<&str> {
    match &node.value {
        Value::Text(text, _) => Some(text),
        _ => None,
    }
}

/// Names of nodes under a `from`: a text, or a `node` or a text of each terminal.
fn names_in(node: &Node, names: &mut Vec<String>) {
    match &node.value {
        Value::Text(text, _) => names.push(text.clone()),
        Value::Table(table) => {
            for (key, _, inner) in &table.entries {
                if !["cable", "return", "fuse"].contains(&key.as_str()) {
                    names_in(inner, names);
                }
            }
        }
        Value::List(items) => items.iter().for_each(|item| names_in(item, names)),
        _ => {}
    }
}

fn collect<'s>(table: &'s Table, path: &str, keys: &[&str], found: &mut Vec<Found<'s>>) {
    for (key, _, node) in &table.entries {
        let path = join(path, key);
        if keys.contains(&key.as_str()) {
            found.push(Found { path: path.clone(), node });
        }
        collect_in(node, &path, keys, found);
    }
}

fn collect_in<'s>(node: &'s Node, path: &str, keys: &[&str], found: &mut Vec<Found<'s>>) {
    match &node.value {
        Value::Table(inner) => collect(inner, path, keys, found),
        Value::List(items) => {
            for (i, item) in items.iter().enumerate() {
                collect_in(item, &indexed(path, i), keys, found);
            }
        }
        _ => {}
    }
}

fn holds(outer: Span, inner: Span) -> bool {
    outer.start <= inner.start && inner.end <= outer.end
}

/// A table's own span may be that of its heading alone.
fn contains(key: Span, node: &Node, span: Span) -> bool {
    holds(key, span)
        || holds(node.span, span)
        || match &node.value {
            Value::Table(table) => table.entries.iter().any(|(_, key, node)| contains(*key, node, span)),
            Value::List(items) => items.iter().any(|item| contains(item.span, item, span)),
            _ => false,
        }
}

fn within<'s>(table: &'s Table, path: &str, span: Span) -> Option<Found<'s>> {
    let (key, _, node) = table.entries.iter().find(|(_, key, node)| contains(*key, node, span))?;
    let path = join(path, key);
    Some(innermost(node, path, span))
}

fn innermost<'s>(node: &'s Node, path: String, span: Span) -> Found<'s> {
    let deeper = match &node.value {
        Value::Table(table) => within(table, &path, span),
        Value::List(items) => {
            let at = items.iter().position(|item| contains(item.span, item, span));
            at.map(|i| innermost(&items[i], indexed(&path, i), span))
        }
        _ => None,
    };
    deeper.unwrap_or(Found { path, node })
}
