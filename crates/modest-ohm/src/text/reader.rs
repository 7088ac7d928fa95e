//! Asking a table for its keys, through layers: the plan's own table, then the generic part it names.
//!
//! What the plan says wins over the class, key by key. Every mistake is noted and reading goes on, so that
//! all problems of a text are reported at once. Keys that nobody asked for are unknown keys.

use std::cell::RefCell;
use std::collections::BTreeSet;

use super::problem::Problem;
use super::tree::{Node, Table, Value};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Quantity;
use crate::source::Span;
use crate::text::Named;
use crate::text::hint::hint;
use crate::text::renamed::{What, old_keys};

/// Which values a figure may have beyond the bounds of its quantity.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Need {
    Any,
    NotNegative,
    Positive,
}

/// Keys that no part gives: how an item is connected is its own matter.
const ITEM_KEYS: [&str; 3] = ["from", "pin", "length"];

/// More keys than this are looked up, not listed.
const SHORT_LIST: usize = 12;

/// A generic part: its name and the source of its figures; the source is empty for a part of the plan itself.
pub(crate) type Class = (String, String);

/// One table to look in.
#[derive(Clone)]
pub(crate) struct Layer<'a> {
    pub table: &'a Table,
    /// `None` for text of the plan; the class name and its source for the catalogue.
    pub class: Option<Class>,
}

/// Who knows the generic parts that an item's values may name.
pub(crate) trait Classes<'a> {
    /// The tables of a class of a kind, and of what it is like; notes a name that is none. Empty where there is none.
    fn class_layers(&self, kind: &str, what: &str, name: &str, span: Span) -> Vec<Layer<'a>>;
}

/// Reads keys from layers and collects problems.
pub(crate) struct Reader<'a> {
    layers: Vec<Layer<'a>>,
    /// What the table describes, for messages: "strip `shoreline`".
    pub(super) what: String,
    /// Where the item is declared.
    pub span: Span,
    pub(super) problems: &'a RefCell<Vec<Problem>>,
    asked: BTreeSet<&'static str>,
    open_ended: bool,
    /// True where the generic part is not known: what it would have said is not missed.
    lenient: bool,
    classes: Option<&'a dyn Classes<'a>>,
}

impl<'a> Reader<'a> {
    pub fn new(layers: Vec<Layer<'a>>, what: String, span: Span, problems: &'a RefCell<Vec<Problem>>) -> Self {
        Self { layers, what, span, problems, asked: BTreeSet::new(), open_ended: false, lenient: false, classes: None }
    }

    /// Lets values name generic parts.
    pub fn with_classes(mut self, classes: Option<&'a dyn Classes<'a>>) -> Self {
        self.classes = classes;
        self
    }

    /// A reader over a class that a value names; `None` where there is no such class.
    pub fn class(&self, kind: &str, what: String, name: &str, span: Span) -> Option<Reader<'a>> {
        let layers = self.classes?.class_layers(kind, &what, name, span);
        (!layers.is_empty()).then(|| Reader::new(layers, what, span, self.problems).with_classes(self.classes))
    }

    /// A reader over a nested table, and the class that it names below it.
    pub fn nested_of_class(
        &self,
        kind: &str,
        table: &'a Table,
        what: String,
        span: Span,
        class: Option<(&str, Span)>,
    ) -> Reader<'a> {
        let mut layers = vec![Layer { table, class: None }];
        if let (Some(classes), Some((name, at))) = (self.classes, class) {
            layers.extend(classes.class_layers(kind, &what, name, at));
        }
        Reader::new(layers, what, span, self.problems).with_classes(self.classes)
    }

    /// Does not miss what an unknown generic part would have said.
    pub fn lenient(mut self, lenient: bool) -> Self {
        self.lenient = lenient;
        self
    }

    /// True where an unknown part might have given what is missing.
    pub fn is_lenient(&self) -> bool {
        self.lenient
    }

    pub fn problem(&self, problem: Problem) {
        self.problems.borrow_mut().push(problem);
    }

    pub fn what(&self) -> &str {
        &self.what
    }

    pub(super) fn find(&mut self, key: &'static str) -> Option<(&'a Node, Span, Option<Class>)> {
        self.asked.insert(key);
        self.layers.iter().find_map(|layer| {
            let (key_span, node) = layer.table.get(key)?;
            Some((node, *key_span, layer.class.clone()))
        })
    }

    /// The raw node of a key in any layer.
    pub fn node(&mut self, key: &'static str) -> Option<&'a Node> {
        self.find(key).map(|(node, _, _)| node)
    }

    /// True if any layer has the key.
    pub fn has(&mut self, key: &'static str) -> bool {
        self.find(key).is_some()
    }

    /// The span of a key's value in the plan's own text.
    pub fn own_span(&self, key: &str) -> Option<Span> {
        let layer = self.layers.first().filter(|l| l.class.is_none())?;
        layer.table.get(key).map(|(_, node)| node.span)
    }

    pub fn figure<Q: Quantity>(&mut self, key: &'static str, need: Need) -> Option<Figure<Q>> {
        let (node, _, class) = self.find(key)?;
        super::figures::figure_of(node, class, key, need, &self.what, self.problems)
    }

    pub fn figure_or<Q: Quantity>(
        &mut self,
        key: &'static str,
        need: Need,
        default: Q,
        why: &'static str,
    ) -> Figure<Q> {
        self.figure(key, need).unwrap_or(Figure::exact(default, Origin::Default(why)))
    }

    /// A figure that has to be there. Where it is missing or cannot be read the problem is noted and a stand-in given,
    /// so that reading goes on and finds the other mistakes; a plan with problems is never handed out.
    pub fn required<Q: Quantity>(&mut self, key: &'static str, need: Need) -> Figure<Q> {
        if !self.has(key) {
            self.missing(key, &format!("write `{key} = \"{}\"`", Q::EXAMPLE));
        }
        self.figure(key, need).unwrap_or_else(Figure::stand_in)
    }

    pub fn missing(&self, key: &str, help: &str) {
        // What stands there under its old name is reported as renamed.
        let of_item = ITEM_KEYS.contains(&key);
        if (self.lenient && !of_item) || old_keys(key).any(|old| self.own_or_class(old)) {
            return;
        }
        self.problem(Problem::new(self.span, format!("{}: `{key}` is missing", self.what), help));
    }

    pub fn text(&mut self, key: &'static str) -> Option<Named> {
        let (node, _, class) = self.find(key)?;
        match &node.value {
            Value::Text(text, _) => {
                // What a part of the plan itself says stands in the plan's text.
                let own = class.is_none_or(|(_, source)| source.is_empty());
                Some(Named { text: text.clone(), span: own.then_some(node.span) })
            }
            other => {
                self.problem(Problem::new(
                    node.span,
                    format!("`{key}` of {} is {}, not text", self.what, other.kind()),
                    "write it in quotes",
                ));
                None
            }
        }
    }

    pub fn flag(&mut self, key: &'static str, default: bool) -> bool {
        let Some((node, _, _)) = self.find(key) else { return default };
        if let Value::Flag(flag) = node.value {
            return flag;
        }
        self.problem(Problem::new(
            node.span,
            format!("`{key}` of {} is {}, not true or false", self.what, node.value.kind()),
            format!("write `{key} = true` or `{key} = false`"),
        ));
        default
    }

    pub fn whole(&mut self, key: &'static str, range: std::ops::RangeInclusive<usize>) -> Option<usize> {
        let (node, _, _) = self.find(key)?;
        if let Value::Number(text) = &node.value
            && let Ok(n) = text.replace('_', "").parse::<usize>()
            && range.contains(&n)
        {
            return Some(n);
        }
        self.problem(Problem::new(
            node.span,
            format!("`{key}` of {} is not a whole number from {} to {}", self.what, range.start(), range.end()),
            format!("write for example `{key} = {}`", range.start()),
        ));
        None
    }

    /// One of a few words.
    pub fn choice<T: Copy>(&mut self, key: &'static str, choices: &[(&'static str, T)]) -> Option<T> {
        let named = self.text(key)?;
        if let Some((_, value)) = choices.iter().find(|(word, _)| *word == named.text) {
            return Some(*value);
        }
        let words: Vec<_> = choices.iter().map(|(w, _)| *w).collect();
        let help = hint(What::Word, &named.text, words.iter().copied())
            .unwrap_or_else(|| format!("write one of: {}", words.join(", ")));
        self.problem(Problem::new(
            named.span.unwrap_or(self.span),
            format!("{}: unknown `{key}`: `{}`", self.what, named.text),
            help,
        ));
        None
    }

    /// A list of texts, or one text.
    pub fn texts(&mut self, key: &'static str) -> Vec<Named> {
        let Some((node, _, _)) = self.find(key) else { return Vec::new() };
        let items = match &node.value {
            Value::List(items) => items.as_slice(),
            Value::Text(..) => std::slice::from_ref(node),
            other => {
                self.problem(Problem::new(
                    node.span,
                    format!("`{key}` of {} is {}, not a list of names", self.what, other.kind()),
                    format!("write `{key} = [\"a\", \"b\"]`"),
                ));
                return Vec::new();
            }
        };
        items
            .iter()
            .filter_map(|item| match &item.value {
                Value::Text(text, _) => Some(Named { text: text.clone(), span: Some(item.span) }),
                other => {
                    self.problem(Problem::new(
                        item.span,
                        format!("`{key}` of {} lists {}, not a name", self.what, other.kind()),
                        "write names in quotes",
                    ));
                    None
                }
            })
            .collect()
    }

    /// A reader over a nested table of one layer.
    pub fn nested(&self, table: &'a Table, what: String, span: Span, class: Option<Class>) -> Reader<'a> {
        Reader::new(vec![Layer { table, class }], what, span, self.problems).with_classes(self.classes)
    }

    /// A reader over the tables that all layers have under a key, first layer first.
    pub fn child(&mut self, key: &'static str) -> Option<Reader<'a>> {
        self.asked.insert(key);
        self.child_named(key)
    }

    /// A reader over the tables that all layers have under a key of the user's choice.
    pub fn child_named(&mut self, key: &str) -> Option<Reader<'a>> {
        let mut layers = Vec::new();
        let mut span = None;
        for layer in &self.layers {
            let Some((_, node)) = layer.table.get(key) else { continue };
            let Value::Table(table) = &node.value else {
                // A class may say in one word what the item says in a table; and its text is not the user's.
                if !layers.is_empty() || layer.class.as_ref().is_some_and(|(_, source)| !source.is_empty()) {
                    continue;
                }
                self.problem(Problem::new(
                    node.span,
                    format!("`{key}` in {} is {}, not a table", self.what, node.value.kind()),
                    format!("write `{key} = {{ … }}`"),
                ));
                continue;
            };
            span.get_or_insert(node.span);
            layers.push(Layer { table, class: layer.class.clone() });
        }
        let span = span.unwrap_or(self.span);
        let what = format!("`{key}` in {}", self.what);
        (!layers.is_empty()).then(|| Reader::new(layers, what, span, self.problems).with_classes(self.classes))
    }

    /// True if any layer has the key; does not make it known.
    pub fn own_or_class(&self, key: &str) -> bool {
        self.layers.iter().any(|l| l.table.get(key).is_some())
    }

    /// All keys of all layers, for tables whose keys are the user's names.
    pub fn keys(&mut self) -> Vec<(String, Span)> {
        self.open_ended = true;
        let mut seen: Vec<(String, Span)> = Vec::new();
        for layer in &self.layers {
            for (key, span, _) in &layer.table.entries {
                if !seen.iter().any(|(k, _)| k == key) {
                    seen.push((key.clone(), *span));
                }
            }
        }
        seen
    }

    /// The node under a user-chosen key.
    pub fn any(&self, key: &str) -> Option<(&'a Node, Option<Class>)> {
        self.layers.iter().find_map(|l| l.table.get(key).map(|(_, node)| (node, l.class.clone())))
    }

    /// Reports the keys nobody asked for.
    pub fn finish(self) {
        if self.open_ended {
            return;
        }
        for layer in self.layers.iter().filter(|l| l.class.as_ref().is_none_or(|(_, source)| source.is_empty())) {
            for (key, span, _) in &layer.table.entries {
                if self.asked.contains(key.as_str()) || (layer.class.is_some() && super::part_notes::is_part_note(key))
                {
                    continue;
                }
                let known: Vec<&'static str> = self.asked.iter().copied().collect();
                let help =
                    hint(What::Key, key, known.iter().copied()).unwrap_or_else(|| match self.what.split_once(' ') {
                        // A table of its own has a page that explains its keys.
                        Some((kind, _)) if known.len() > SHORT_LIST && !kind.starts_with('`') => {
                            format!("`mohm about {kind}` lists its keys")
                        }
                        _ => format!("known here: {}", known.join(", ")),
                    });
                let message = format!("{}: unknown key `{key}`", self.what);
                self.problem(Problem::new(*span, message, help).with_known(known));
            }
        }
    }
}
