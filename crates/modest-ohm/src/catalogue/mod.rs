//! The catalogue: generic parts as data, compiled in, with the source of their figures.

use std::sync::{LazyLock, OnceLock};

use crate::quantity::figure::{Figure, Origin};
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Quantity;
use crate::text::part_notes::PART_NOTES;
use crate::text::tree::{Node, Table, Value, parse_tree};

const FILES: [&str; 26] = [
    include_str!("builtin/boards-radio.toml"),
    include_str!("builtin/boards.toml"),
    include_str!("builtin/signals.toml"),
    include_str!("builtin/diodes.toml"),
    include_str!("builtin/strips.toml"),
    include_str!("builtin/panels.toml"),
    include_str!("builtin/loads.toml"),
    include_str!("builtin/drivers.toml"),
    include_str!("builtin/leds.toml"),
    include_str!("builtin/connectors.toml"),
    include_str!("builtin/boards-pixels.toml"),
    include_str!("builtin/bridges-relays.toml"),
    include_str!("builtin/converters.toml"),
    include_str!("builtin/fans.toml"),
    include_str!("builtin/heaters.toml"),
    include_str!("builtin/leds-power.toml"),
    include_str!("builtin/limiters.toml"),
    include_str!("builtin/motors.toml"),
    include_str!("builtin/packs.toml"),
    include_str!("builtin/plugs.toml"),
    include_str!("builtin/servos.toml"),
    include_str!("builtin/signals-more.toml"),
    include_str!("builtin/strips-more.toml"),
    include_str!("builtin/suppressors.toml"),
    include_str!("builtin/transistors-more.toml"),
    include_str!("builtin/valves.toml"),
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

/// A class as its file has it; read when it is first asked for: a plan uses a few of a hundred.
struct Entry {
    name: &'static str,
    kind: &'static str,
    text: &'static str,
    class: OnceLock<Option<Class>>,
}

/// All classes, in the order of the files.
static ENTRIES: LazyLock<Vec<Entry>> = LazyLock::new(|| FILES.iter().flat_map(|file| entries(file)).collect());

/// Splits a file at the headings of its classes: `[part.x]`; the tables of a class, `[part.x.pins]`, follow it.
fn entries(file: &'static str) -> Vec<Entry> {
    const HEAD: &str = "[part.";
    let mut starts: Vec<(usize, &'static str)> = Vec::new();
    let mut at = 0;
    for line in file.split_inclusive('\n') {
        if let Some(name) = line.strip_prefix(HEAD).and_then(|rest| rest.split([']', '.']).next())
            && starts.last().is_none_or(|(_, last)| *last != name)
        {
            starts.push((at, name));
        }
        at += line.len();
    }
    let ends = starts.iter().skip(1).map(|(at, _)| *at).chain([file.len()]);
    let entry = |((from, name), to): (&(usize, &'static str), usize)| {
        let text = &file[*from..to];
        let kind = text.lines().find_map(|l| l.strip_prefix("for = \"")?.strip_suffix('"')).unwrap_or_default();
        Entry { name, kind, text, class: OnceLock::new() }
    };
    starts.iter().zip(ends).map(entry).collect()
}

impl Entry {
    fn class(&self) -> Option<&Class> {
        self.class.get_or_init(|| read(self.name, self.text)).as_ref()
    }
}

fn read(name: &str, text: &str) -> Option<Class> {
    let root = parse_tree(text).ok()?;
    let (_, node) = root.get("part")?;
    let Value::Table(parts) = &node.value else { return None };
    let (_, node) = parts.get(name)?;
    let Value::Table(table) = &node.value else { return None };
    let text = |key: &str| match table.get(key).map(|(_, n)| &n.value) {
        Some(Value::Text(text, _)) => text.clone(),
        _ => String::new(),
    };
    let markings = match table.get("markings").map(|(_, n)| &n.value) {
        Some(Value::List(list)) => {
            list.iter().filter_map(|n| if let Value::Text(t, _) = &n.value { Some(t.clone()) } else { None }).collect()
        }
        _ => Vec::new(),
    };
    Some(Class {
        name: name.to_owned(),
        kind: text("for"),
        title: text("title"),
        source: text("source"),
        markings,
        table: table.clone(),
    })
}

/// The built-in classes. They are part of the program, and a test holds them to be sound.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Catalogue;

impl Catalogue {
    pub fn get(self, name: &str) -> Option<&'static Class> {
        ENTRIES.iter().find(|e| e.name == name)?.class()
    }

    pub fn names_of(self, kind: &str) -> Vec<&'static str> {
        self.names_that(|own| own == kind)
    }

    /// The classes of all kinds that suit.
    pub fn names_that(self, suits: impl Fn(&str) -> bool) -> Vec<&'static str> {
        ENTRIES.iter().filter(|e| suits(e.kind)).map(|e| e.name).collect()
    }

    /// The classes of all kinds that suit whose parts carry a marking; upper and lower case are one.
    pub fn marked(self, marking: &str, suits: impl Fn(&str) -> bool) -> Vec<&'static Class> {
        let plain = |text: &str| text.to_lowercase().replace([' ', '-', '_'], "");
        let wanted = plain(marking);
        let classes = ENTRIES.iter().filter(|e| suits(e.kind)).filter_map(Entry::class);
        classes.filter(|c| c.markings.iter().any(|m| plain(m) == wanted)).collect()
    }
}

impl Class {
    /// The value of a key: its own, or that of the class it is like.
    fn value(&self, key: &str) -> Option<&'static Value> {
        let own = Catalogue.get(&self.name)?;
        if let Some((_, node)) = own.table.get(key) {
            return Some(&node.value);
        }
        let Some((_, Node { value: Value::Text(like, _), .. })) = own.table.get("like") else { return None };
        Catalogue.get(like).filter(|other| other.name != self.name)?.value(key)
    }

    /// A word: `kind = "nmos"`.
    pub fn word(&self, key: &str) -> Option<&'static str> {
        match self.value(key)? {
            Value::Text(text, _) => Some(text),
            _ => None,
        }
    }

    /// A figure, with its spread; it comes from the catalogue.
    pub fn figure<Q: Quantity>(&self, key: &str) -> Option<Figure<Q>> {
        let figure = parse_figure::<Q>(self.word(key)?).ok()?;
        let origin = Origin::Catalogue { part: self.name.clone(), source: self.source.clone() };
        Some(Figure { origin, ..figure })
    }
}

impl Catalogue {
    /// The classes of drivers of a kind, that to take first standing first.
    pub fn drivers(self, kind: &str) -> impl Iterator<Item = &'static Class> {
        let classes = ENTRIES.iter().filter(|e| e.kind == "driver").filter_map(Entry::class);
        classes.filter(move |c| c.word("kind") == Some(kind))
    }

    /// The classes for a kind of item.
    pub fn of_kind(self, kind: &str) -> impl Iterator<Item = &'static Class> {
        ENTRIES.iter().filter(move |e| e.kind == kind).filter_map(Entry::class)
    }
}

impl PartClass {
    /// A figure of the class by its key, or of the class that it is like; `None` where it has none, or not of this
    /// quantity.
    ///
    /// ```
    /// use modest_ohm::catalogue::classes;
    /// use modest_ohm::units::Volts;
    /// let class = classes().into_iter().find(|c| c.name == "nmos-10v-60v").unwrap();
    /// assert_eq!(class.figure::<Volts>("threshold").unwrap().high, Volts::new(4.0));
    /// assert_eq!(class.word("kind"), Some("nmos"));
    /// ```
    #[must_use]
    pub fn figure<Q: Quantity>(&self, key: &str) -> Option<Figure<Q>> {
        Catalogue.get(&self.name)?.figure(key)
    }

    /// A word of the class by its key.
    #[must_use]
    pub fn word(&self, key: &str) -> Option<&'static str> {
        Catalogue.get(&self.name)?.word(key)
    }
}

/// One class of the catalogue, for listings.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct PartClass {
    /// The name a plan uses: `part = "…"`.
    pub name: String,
    /// The kind of item it is for: `strip`, `board` ….
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
/// let classes = modest_ohm::catalogue::classes();
/// assert!(classes.iter().any(|c| c.name == "pixel-5v-rgb" && c.kind == "strip"));
/// ```
#[must_use]
pub fn classes() -> Vec<PartClass> {
    let listed = |c: &Class| PartClass {
        name: c.name.clone(),
        kind: c.kind.clone(),
        title: c.title.clone(),
        source: c.source.clone(),
        markings: c.markings.clone(),
        figures: (c.table.entries.iter())
            .filter(|(k, _, _)| !PART_NOTES.contains(&k.as_str()))
            .map(|(k, _, node)| (k.clone(), written(&node.value)))
            .collect(),
    };
    ENTRIES.iter().filter_map(Entry::class).map(listed).collect()
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
