//! From text to plan: the top-level tables, parts laid under the items that name them, names resolved.

use std::cell::RefCell;
use std::collections::{BTreeSet, HashMap};

use super::kinds::{KINDS, Kind, kind_of, suits};
use crate::catalogue::Catalogue;
use crate::plan::kinds::scenario::read_accept;
use crate::plan::model::Plan;
use crate::plan::resolve::limits::{too_many, too_much};
use crate::plan::resolve::references::resolve;
use crate::plan::wiring::limits::LARGEST_TEXT_BYTES;
use crate::plan::wiring::name::Name;
use crate::source::{Source, Span};
use crate::text::nearest;
use crate::text::problem::{PlanErrors, Problem};
use crate::text::reader::{Classes, Layer, Reader};
use crate::text::tree::{Node, Table, Value, parse_tree};

/// Kinds that later versions will read; named, so that the message can say so.
const LATER_KINDS: [&str; 3] = ["variant", "reading", "port"];

/// More items of one kind than this are refused.
const MOST_ITEMS: usize = 10_000;

/// Tables of a plan that hold no items: parts of its own, and what it accepts.
const OTHER_TABLES: [&str; 2] = ["part", "accept"];

/// All words that a plan's tables may have.
pub(crate) fn table_words() -> impl Iterator<Item = &'static str> {
    KINDS.into_iter().map(|k| k.word).chain(OTHER_TABLES)
}

impl Plan {
    /// Reads a plan's text.
    ///
    /// # Errors
    /// All problems of the text at once, each with its place: syntax first; if that is sound, unknown keys and
    /// names, wrong units, missing figures, circular feeds and returns that lead nowhere.
    pub fn from_toml(text: &str) -> Result<Self, PlanErrors> {
        read_plan(text)
    }

    /// Reads a plan from bytes, such as a file's content.
    ///
    /// # Errors
    /// As [`Plan::from_toml`]; also bytes that are not UTF-8, with the line of the first.
    pub fn from_bytes(bytes: &[u8]) -> Result<Self, PlanErrors> {
        read_bytes(bytes)
    }
}

pub(crate) fn read_bytes(bytes: &[u8]) -> Result<Plan, PlanErrors> {
    too_large(bytes.len())?;
    match std::str::from_utf8(bytes) {
        Ok(text) => read_plan(text),
        Err(e) => {
            let good = String::from_utf8_lossy(&bytes[..e.valid_up_to()]).into_owned();
            let span = Span { start: good.len(), end: good.len() };
            let problem = Problem::new(span, "the text is not UTF-8 from here on", "save the plan as UTF-8");
            Err(PlanErrors::new(vec![problem], Source::new(&good)))
        }
    }
}

fn too_large(bytes: usize) -> Result<(), PlanErrors> {
    if bytes <= LARGEST_TEXT_BYTES {
        return Ok(());
    }
    let message = format!("the plan is {bytes} bytes long; at most {LARGEST_TEXT_BYTES} are read");
    Err(PlanErrors::new(vec![Problem::new(None, message, "a plan is a text of some hundred lines")], Source::new("")))
}

pub(crate) fn read_plan(text: &str) -> Result<Plan, PlanErrors> {
    too_large(text.len())?;
    // A byte order mark is no part of the plan.
    let text = text.strip_prefix('\u{feff}').unwrap_or(text);
    let source = Source::new(text);
    let root = parse_tree(text).map_err(|problems| PlanErrors::new(problems, source.clone()))?;
    let problems = RefCell::new(Vec::new());
    let mut plan = Assembly::new(&root, &problems).assemble(source);
    too_many(&plan, &problems);
    resolve(&mut plan, &problems);
    too_much(&plan, &problems);
    let problems = problems.into_inner();
    if problems.is_empty() { Ok(plan) } else { Err(PlanErrors::new(problems, plan.source)) }
}

/// Everything the reading of items needs.
pub(crate) struct Assembly<'a> {
    pub(crate) root: &'a Table,
    pub(crate) problems: &'a RefCell<Vec<Problem>>,
    /// Names declared so far, with their places.
    declared: RefCell<HashMap<String, Span>>,
    pub(crate) used_parts: RefCell<BTreeSet<String>>,
}

impl<'s, 'a: 's> Classes<'s> for Assembly<'a> {
    fn class_layers(&self, kind: &str, what: &str, name: &str, span: Span) -> Vec<Layer<'s>> {
        self.classes_of(kind, what, name, span).0
    }
}

impl<'a> Assembly<'a> {
    fn new(root: &'a Table, problems: &'a RefCell<Vec<Problem>>) -> Self {
        Self { root, problems, declared: RefCell::default(), used_parts: RefCell::default() }
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
            None => self.note(Problem::new(
                None,
                "the plan does not say its format",
                "write `format = 1` on the first line",
            )),
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
        if key.is_empty() || !key.chars().all(|c| c.is_ascii_alphanumeric() || c == '-' || c == '_') {
            self.note(Problem::new(span, format!("`{key}` is no name"), "use letters, digits, `-` and `_`"));
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
            let mut reader = Reader::new(layers, what, span, self.problems).lenient(!sound).with_classes(Some(self));
            let _ = reader.text("part");
            (kind.add)(&mut reader, name, plan);
            reader.finish();
        }
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

    /// The tables of a part class of a kind, then of those that it is like; false where one of them is none.
    fn classes_of(&self, kind: &str, what: &str, part: &str, span: Span) -> (Vec<Layer<'a>>, bool) {
        let mut layers: Vec<Layer<'a>> = Vec::new();
        let mut next = Some((part.to_owned(), span));
        while let Some((part, span)) = next.take() {
            if let Some(table) = self.own_part(&part) {
                if layers.iter().any(|l| l.class.as_ref().is_some_and(|(p, _)| *p == part)) {
                    self.note(Problem::new(
                        span,
                        format!("part `{part}` is like itself"),
                        "let `like` lead to another part",
                    ));
                    break;
                }
                self.used_parts.borrow_mut().insert(part.clone());
                self.check_part_kind(kind, &part, table, span);
                layers.push(Layer { table, class: Some((part, String::new())) });
                if let Some((_, Node { span, value: Value::Text(like, _) })) = table.get("like") {
                    next = Some((like.clone(), *span));
                }
            } else if let Some(class) = Catalogue.get(&part) {
                if !suits(kind, &class.kind) {
                    let message = format!("`{part}` is a {}, not a {kind}", class.kind);
                    self.note(Problem::new(span, message, self.parts_of(kind)));
                    return (layers, false);
                }
                layers.push(Layer { table: &class.table, class: Some((part, class.source.clone())) });
                if let Some((_, Node { value: Value::Text(like, _), .. })) = class.table.get("like") {
                    next = Some((like.clone(), span));
                }
            } else {
                let known = Catalogue.names_that(|other| suits(kind, other)).into_iter().chain(self.own_parts());
                let help = match nearest(&part, known) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => self.parts_of(kind),
                };
                self.note(Problem::new(span, format!("{what} names no known part `{part}`"), help));
                return (layers, false);
            }
        }
        (layers, true)
    }

    fn parts_of(&self, kind: &str) -> String {
        let mut names = Catalogue.names_of(kind);
        if names.is_empty() {
            names = Catalogue.names_that(|other| suits(kind, other));
        }
        if names.is_empty() {
            format!("the catalogue has no {kind}")
        } else {
            format!("classes of this kind: {}", names.join(", "))
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
                format!("part `{part}` does not say what it is for"),
                format!("write `for = \"{kind}\"` in it"),
            )),
        }
    }

    /// Mistakes inside a part that nothing uses are told all the same; what it leaves to its user is not.
    pub(crate) fn check_unused_part(&self, part: &Name) {
        let Some(table) = self.own_part(&part.text) else { return };
        let scratch = RefCell::new(Vec::new());
        let kind = match table.get("for").map(|(_, n)| &n.value) {
            Some(Value::Text(kind, _)) if table_words().any(|word| word == kind) => kind.clone(),
            _ => {
                self.note(Problem::new(
                    part.span,
                    format!("part `{}` does not say what it is for", part.text),
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
                match nearest(key, table_words().chain(plain)) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("known: {}", table_words().chain(plain).collect::<Vec<_>>().join(", ")),
                }
            };
            self.note(Problem::new(*span, format!("a plan has no `{key}`"), help));
        }
    }
}
