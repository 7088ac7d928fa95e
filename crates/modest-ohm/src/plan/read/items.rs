//! From text to plan: the top-level tables, parts laid under the items that name them, names resolved.

use std::cell::RefCell;
use std::collections::{BTreeSet, HashMap};

use super::kinds::{KINDS, Kind, kind_of, suits};
use super::members::{COUNTED, Members};
use crate::catalogue::{Catalogue, Class};
use crate::plan::kinds::scenario::read_accept;
use crate::plan::model::Plan;
use crate::plan::wiring::name::Name;
use crate::source::{Source, Span};
use crate::text::hint::hint;
use crate::text::problem::Problem;
use crate::text::reader::{Classes, Layer, Reader};
use crate::text::renamed::{What, old_keys};
use crate::text::tree::{Node, Table, Value};

/// Kinds that later versions will read; named, so that the message can say so.
const LATER_KINDS: [&str; 3] = ["variant", "reading", "port"];

/// More items of one kind than this are refused.
const MOST_ITEMS: usize = 10_000;

/// Tables of a plan that hold no items: parts of its own, and what it accepts.
const OTHER_TABLES: [&str; 2] = ["part", "accept"];

/// All words that a plan's tables may have.
pub(crate) fn table_words() -> impl Iterator<Item = &'static str> + Clone {
    KINDS.into_iter().map(|k| k.word).chain(OTHER_TABLES)
}

/// Everything the reading of items needs.
pub(crate) struct Assembly<'a> {
    pub(crate) root: &'a Table,
    /// Which items are members of a counted one.
    members: &'a Members,
    pub(crate) problems: &'a RefCell<Vec<Problem>>,
    /// Names declared so far, with their places.
    declared: RefCell<HashMap<String, Span>>,
    pub(crate) used_parts: RefCell<BTreeSet<String>>,
    /// Items whose part is not known: what nodes they would have is not known either.
    pub(super) unsound: RefCell<BTreeSet<String>>,
}

impl<'s, 'a: 's> Classes<'s> for Assembly<'a> {
    fn class_layers(&self, kind: &str, what: &str, name: &str, span: Span) -> Vec<Layer<'s>> {
        self.classes_of(kind, what, name, span).0
    }
}

impl<'a> Assembly<'a> {
    pub(super) fn new(members: &'a Members, problems: &'a RefCell<Vec<Problem>>) -> Self {
        Self {
            root: &members.root,
            members,
            problems,
            declared: RefCell::default(),
            used_parts: RefCell::default(),
            unsound: RefCell::default(),
        }
    }

    pub(crate) fn note(&self, problem: Problem) {
        self.problems.borrow_mut().push(problem);
    }

    pub(crate) fn check_format(&self, top: &mut Reader<'_>) {
        match top.node("format").map(|n| (n.span, &n.value)) {
            Some((_, Value::Number(n))) if n == "1" => {}
            Some((span, _)) => {
                self.note(Problem::new(span, "this version reads plans of format 1", "write `format = 1`"))
            }
            None => self.note(Problem::new(None, "`format` is missing", "write `format = 1` on the first line")),
        }
    }

    /// Names and tables under `[kind.*]`.
    pub(crate) fn names(&self, kind: &'static str) -> Vec<(Name, &'a Table, Span)> {
        let Some((_, node)) = self.root.get(kind) else { return Vec::new() };
        let Value::Table(table) = &node.value else {
            self.note(Problem::new(
                node.span,
                format!("`{kind}` is {}, not a table of {kind}s", node.value.kind()),
                format!("write `[{kind}.name]`"),
            ));
            return Vec::new();
        };
        if table.entries.len() > MOST_ITEMS {
            self.note(Problem::new(
                node.span,
                format!("the plan has {} {kind}s; at most {MOST_ITEMS} of a kind are read", table.entries.len()),
                "split the plan",
            ));
            return Vec::new();
        }
        table.entries.iter().filter_map(|(key, span, node)| self.named(kind, key, *span, node)).collect()
    }

    fn named(&self, kind: &str, key: &str, span: Span, node: &'a Node) -> Option<(Name, &'a Table, Span)> {
        let Value::Table(table) = &node.value else {
            self.note(Problem::new(
                node.span,
                format!("`{kind}.{key}` is {}, not a table", node.value.kind()),
                format!("name the {kind}: `[{kind}.{key}]` with its keys below"),
            ));
            return None;
        };
        let is_plain =
            |key: &str| !key.is_empty() && key.chars().all(|c| c.is_ascii_alphanumeric() || c == '-' || c == '_');
        if !is_plain(key) && !self.members.has(key) {
            self.note(Problem::new(span, format!("`{key}` is not a valid name"), "use letters, digits, `-` and `_`"));
            return None;
        }
        let mut declared = self.declared.borrow_mut();
        if let Some(first) = declared.get(key) {
            self.note(
                Problem::new(span, format!("the name `{key}` is used twice"), "names are unique over the whole plan")
                    .with_related(Some(*first), "first used here"),
            );
        } else {
            declared.insert(key.to_owned(), span);
        }
        Some((Name { text: key.to_owned(), span }, table, span))
    }

    /// Reads all items of a kind, and adds them to the plan.
    pub(crate) fn items(&self, kind: Kind, plan: &mut Plan) {
        for (name, table, span) in self.names(kind.word) {
            let (layers, sound) = self.layers(kind.word, &name.text, table);
            let what = format!("{} `{}`", kind.word, name.text);
            let named = self.is_described(kind, &what, table, span);
            if !sound {
                self.unsound.borrow_mut().insert(name.text.clone());
            }
            let mut reader =
                Reader::new(layers, what, span, self.problems).lenient(!sound || !named).with_classes(Some(self));
            let _ = reader.text("part");
            if COUNTED.contains(&kind.word) {
                let _ = reader.has("count");
            }
            (kind.add)(&mut reader, name, plan);
            reader.finish();
        }
    }

    /// Whether anything tells what an item is; notes what to write if not, in place of all that its part would have
    /// given.
    fn is_described(&self, kind: Kind, what: &str, table: &Table, span: Span) -> bool {
        let Some(key) = kind.described_by else { return true };
        if table.get("part").is_some() || table.get(key).is_some() || old_keys(key).any(|old| table.get(old).is_some())
        {
            return true;
        }
        let help = format!(
            "write what is printed on it or what it is like, `part = \"…\"` (`mohm catalogue {}` lists the parts), or describe it: `{key}` …",
            kind.word
        );
        self.note(Problem::new(span, format!("{what}: `part` is missing"), help));
        false
    }

    /// The item's own table, then the classes below it.
    fn layers(&self, kind: &str, name: &str, table: &'a Table) -> (Vec<Layer<'a>>, bool) {
        let mut layers = vec![Layer { table, class: None }];
        let sound = match table.get("part").map(|(_, node)| node) {
            Some(Node { span, value: Value::Text(part, _) }) => {
                let (below, sound) = self.classes_of(kind, &format!("{kind} `{name}`"), part, *span);
                layers.extend(below);
                sound
            }
            _ => true,
        };
        (layers, sound)
    }

    /// The tables of a generic part of a kind, then of those that it is like; false where one of them is none.
    fn classes_of(&self, kind: &str, what: &str, part: &str, span: Span) -> (Vec<Layer<'a>>, bool) {
        let mut layers: Vec<Layer<'a>> = Vec::new();
        let mut next = Some((part.to_owned(), span));
        while let Some((part, span)) = next.take() {
            if let Some(table) = self.own_part(&part) {
                if layers.iter().any(|l| l.class.as_ref().is_some_and(|(p, _)| *p == part)) {
                    self.note(Problem::new(
                        span,
                        format!("part `{part}` refers to itself"),
                        "`like` must name another part",
                    ));
                    break;
                }
                self.used_parts.borrow_mut().insert(part.clone());
                self.check_part_kind(kind, &part, table, span);
                layers.push(Layer { table, class: Some((part, String::new())) });
                if let Some((_, Node { span, value: Value::Text(like, _) })) = table.get("like") {
                    next = Some((like.clone(), *span));
                }
            } else if let Some(class) = named_or_marked(kind, &part) {
                if !suits(kind, &class.kind) {
                    let message = format!("`{part}` is a {}, not a {kind}", class.kind);
                    self.note(Problem::new(span, message, self.parts_of(kind)));
                    return (layers, false);
                }
                layers.push(Layer { table: &class.table, class: Some((class.name.clone(), class.source.clone())) });
                if let Some((_, Node { value: Value::Text(like, _), .. })) = class.table.get("like") {
                    next = Some((like.clone(), span));
                }
            } else {
                self.note(Problem::new(span, format!("{what}: unknown part `{part}`"), self.part_hint(kind, &part)));
                return (layers, false);
            }
        }
        (layers, true)
    }

    /// What to write for a part that is not known: what its marking stands for, or a name like it.
    fn part_hint(&self, kind: &str, part: &str) -> String {
        let marked = Catalogue.marked(part, |other| suits(kind, other));
        if !marked.is_empty() {
            let list: Vec<String> = marked.iter().map(|c| format!("`{}` ({})", c.name, c.title)).collect();
            return format!("this marking is on different parts; write the one that you have: {}", list.join("; "));
        }
        let names = Catalogue.names_that(|other| suits(kind, other));
        let known: Vec<&str> = names.into_iter().chain(self.own_parts()).collect();
        hint(What::Word, part, known.iter().copied()).unwrap_or_else(|| self.parts_of(kind))
    }

    fn parts_of(&self, kind: &str) -> String {
        let mut names = Catalogue.names_of(kind);
        if names.is_empty() {
            names = Catalogue.names_that(|other| suits(kind, other));
        }
        if names.is_empty() {
            format!("the catalogue has no {kind}")
        } else if names.len() <= 6 {
            format!("generic parts of this kind: {}", names.join(", "))
        } else {
            format!("`mohm catalogue {kind}` lists the generic parts of this kind")
        }
    }

    fn own_part(&self, name: &str) -> Option<&'a Table> {
        let (_, Node { value: Value::Table(parts), .. }) = self.root.get("part")? else { return None };
        match parts.get(name)?.1 {
            Node { value: Value::Table(table), .. } => Some(table),
            _ => None,
        }
    }

    fn own_parts(&self) -> Vec<&'a str> {
        match self.root.get("part") {
            Some((_, Node { value: Value::Table(parts), .. })) => {
                parts.entries.iter().map(|(k, _, _)| k.as_str()).collect()
            }
            _ => Vec::new(),
        }
    }

    fn check_part_kind(&self, kind: &str, part: &str, table: &Table, span: Span) {
        match table.get("for").map(|(_, n)| &n.value) {
            Some(Value::Text(found, _)) if suits(kind, found) => {}
            Some(Value::Text(found, _)) => {
                self.note(Problem::new(
                    span,
                    format!("part `{part}` is for a {found}, not for a {kind}"),
                    "name another part",
                ));
            }
            _ => self.note(Problem::new(
                span,
                format!("part `{part}`: `for` is missing"),
                format!("write `for = \"{kind}\"` in it"),
            )),
        }
    }

    /// Mistakes inside a part that nothing uses are reported all the same; what it leaves to its user is not.
    pub(crate) fn check_unused_part(&self, part: &Name) {
        let Some(table) = self.own_part(&part.text) else { return };
        let scratch = RefCell::new(Vec::new());
        let kind = match table.get("for").map(|(_, n)| &n.value) {
            Some(Value::Text(kind, _)) if table_words().any(|word| word == kind) => kind.clone(),
            _ => {
                self.note(Problem::new(
                    part.span,
                    format!("part `{}`: `for` is missing", part.text),
                    "write for instance `for = \"strip\"`",
                ));
                return;
            }
        };
        let empty = Table::default();
        let layers = vec![
            Layer { table: &empty, class: None },
            Layer { table, class: Some((part.text.clone(), String::new())) },
        ];
        let what = format!("part `{}`", part.text);
        let mut reader = Reader::new(layers, what, part.span, &scratch).with_classes(Some(self));
        // Read into a plan that nobody sees: only the mistakes count.
        if let Some(kind) = kind_of(&kind) {
            (kind.add)(&mut reader, part.clone(), &mut Plan::empty(Source::new("")));
        }
        reader.finish();
        self.problems
            .borrow_mut()
            .extend(scratch.into_inner().into_iter().filter(|p| p.span.is_some_and(|s| s != part.span)));
    }

    pub(crate) fn accepts(&self) -> Vec<crate::plan::kinds::scenario::Accept> {
        let Some((_, node)) = self.root.get("accept") else { return Vec::new() };
        let Value::List(items) = &node.value else {
            self.note(Problem::new(
                node.span,
                "`accept` is not a list",
                "write `[[accept]]` with `code`, `on` and `because`",
            ));
            return Vec::new();
        };
        items
            .iter()
            .filter_map(|item| {
                let Value::Table(table) = &item.value else { return None };
                let mut reader =
                    Reader::new(vec![Layer { table, class: None }], "an acceptance".into(), item.span, self.problems);
                let accept = read_accept(&mut reader);
                reader.finish();
                accept
            })
            .collect()
    }

    /// The names declared in tables that are not read: what speaks of them follows from those tables.
    pub(super) fn unread_names(&self) -> Vec<&'a str> {
        let unread = self.root.entries.iter().filter(|(key, _, _)| !table_words().any(|word| word == key));
        let tables = unread.filter_map(|(_, _, node)| if let Value::Table(t) = &node.value { Some(t) } else { None });
        tables.flat_map(|t| t.entries.iter().map(|(name, _, _)| name.as_str())).collect()
    }

    pub(crate) fn unknown_kinds(&self) {
        let plain = ["format", "title", "ambient", "policy"];
        for (key, span, _) in &self.root.entries {
            let key = key.as_str();
            if table_words().any(|word| word == key) || plain.contains(&key) {
                continue;
            }
            let help = if LATER_KINDS.contains(&key) {
                "this version does not read it yet".to_owned()
            } else {
                hint(What::Table, key, table_words().chain(plain))
                    .unwrap_or_else(|| "`mohm about tables` lists the tables that a plan may have".to_owned())
            };
            self.note(Problem::new(*span, format!("unknown table `{key}`"), help));
        }
    }
}

/// The class of a name; or the only one of a kind whose parts carry it as a marking, which is what a maker reads on
/// them.
fn named_or_marked(kind: &str, part: &str) -> Option<&'static Class> {
    Catalogue.get(part).or_else(|| match Catalogue.marked(part, |other| suits(kind, other)).as_slice() {
        [only] => Some(*only),
        _ => None,
    })
}
