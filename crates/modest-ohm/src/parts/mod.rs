//! The catalogue: part classes as data, compiled in, with the source of their figures.

use crate::text::{Table, Value, parse_tree};

/// Keys of a part that describe it and are no figures.
pub(crate) const PART_NOTES: [&str; 5] = ["for", "like", "title", "markings", "source"];

const FILES: [&str; 9] = [
    include_str!("builtin/boards-radio.toml"),
    include_str!("builtin/boards.toml"),
    include_str!("builtin/signals.toml"),
    include_str!("builtin/diodes.toml"),
    include_str!("builtin/strips.toml"),
    include_str!("builtin/panels.toml"),
    include_str!("builtin/loads.toml"),
    include_str!("builtin/leds.toml"),
    include_str!("builtin/joints.toml"),
];

/// One class.
#[derive(Clone, Debug)]
pub(crate) struct Class {
    pub name: String,
    pub kind: String,
    pub title: String,
    pub source: String,
    pub markings: Vec<String>,
    pub table: Table,
}

/// All classes.
#[derive(Clone, Debug)]
pub(crate) struct Catalogue {
    classes: Vec<Class>,
}

impl Catalogue {
    /// Reads the built-in files. They are part of the program, and a test holds them to be sound.
    pub fn load() -> Self {
        let mut classes = Vec::new();
        for file in FILES {
            let Ok(root) = parse_tree(file) else { continue };
            let Some((_, node)) = root.get("part") else { continue };
            let Value::Table(parts) = &node.value else { continue };
            for (name, _, node) in &parts.entries {
                let Value::Table(table) = &node.value else { continue };
                let text = |key: &str| match table.get(key).map(|(_, n)| &n.value) {
                    Some(Value::Text(text, _)) => text.clone(),
                    _ => String::new(),
                };
                let markings = match table.get("markings").map(|(_, n)| &n.value) {
                    Some(Value::List(list)) => list
                        .iter()
                        .filter_map(|n| if let Value::Text(t, _) = &n.value { Some(t.clone()) } else { None })
                        .collect(),
                    _ => Vec::new(),
                };
                classes.push(Class {
                    name: name.clone(),
                    kind: text("for"),
                    title: text("title"),
                    source: text("source"),
                    markings,
                    table: table.clone(),
                });
            }
        }
        Self { classes }
    }

    pub fn get(&self, name: &str) -> Option<&Class> {
        self.classes.iter().find(|c| c.name == name)
    }

    pub fn names_of(&self, kind: &str) -> Vec<&str> {
        self.classes.iter().filter(|c| c.kind == kind).map(|c| c.name.as_str()).collect()
    }
}

/// One class of the catalogue, for listings.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PartClass {
    /// The name a plan uses: `part = "…"`.
    pub name: String,
    /// The kind of item it is for: `strip`, `controller` ….
    pub kind: String,
    /// What it is, in words.
    pub title: String,
    /// Where its figures come from.
    pub source: String,
    /// Type markings found on such parts, for searching.
    pub markings: Vec<String>,
    /// Its figures: key and text as a plan would write them.
    pub figures: Vec<(String, String)>,
}

/// Lists the catalogue.
///
/// ```
/// let classes = modest_ohm::catalogue();
/// assert!(classes.iter().any(|c| c.name == "pixel-5v-rgb" && c.kind == "strip"));
/// ```
#[must_use]
pub fn catalogue() -> Vec<PartClass> {
    Catalogue::load()
        .classes
        .into_iter()
        .map(|c| PartClass {
            figures: c
                .table
                .entries
                .iter()
                .filter(|(k, _, _)| !PART_NOTES.contains(&k.as_str()))
                .map(|(k, _, node)| (k.clone(), written(&node.value)))
                .collect(),
            name: c.name,
            kind: c.kind,
            title: c.title,
            source: c.source,
            markings: c.markings,
        })
        .collect()
}

fn written(value: &Value) -> String {
    match value {
        Value::Text(text, _) => text.clone(),
        Value::Number(number) => number.clone(),
        Value::Flag(flag) => flag.to_string(),
        Value::Date => String::new(),
        Value::List(items) => items.iter().map(|n| written(&n.value)).collect::<Vec<_>>().join(" "),
        Value::Table(table) => {
            table.entries.iter().map(|(k, _, n)| format!("{k} {}", written(&n.value))).collect::<Vec<_>>().join("; ")
        }
    }
}
