//! Reads figures: a value with its unit, and what a label gives for the whole length.

use std::cell::RefCell;

use super::problem::Problem;
use super::reader::{Class, Need, Reader};
use super::tree::{Node, Value};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::parse::{parse_figure, parse_spread};
use crate::quantity::units::{PerMetre, Quantity};
use crate::source::Span;

impl Reader<'_> {
    /// A value per metre; what is written as a total, in the quantity of totals, is shared out over a length.
    pub fn per_metre<Q: Quantity, T: Quantity>(&mut self, key: &'static str, metres: Option<f64>) -> Option<Figure<Q>> {
        if let Some((node, _, _)) = self.find(key)
            && let Value::Text(text, _) = &node.value
            && let Ok(total) = parse_figure::<T>(text)
            && total.low.si() > 0.0
        {
            // Of a total on an unknown length only the length is reported.
            let Some(metres) = metres else { return Some(Figure::stand_in()) };
            let each = |q: T| Q::from_si(q.si() / metres);
            let (low, typical, high) = (each(total.low), each(total.typical), each(total.high));
            return Some(Figure { low, typical, high, origin: Origin::Plan(node.span), bare: total.bare });
        }
        self.figure(key, Need::Positive)
    }

    /// A density; a plain number is a count on the whole length.
    pub fn density(&mut self, key: &'static str, metres: Option<f64>) -> Option<Figure<PerMetre>> {
        if let Some((node, _, _)) = self.find(key)
            && let Value::Text(text, _) | Value::Number(text) = &node.value
            && let Ok(count) = text.trim().replace('_', "").parse::<f64>()
            && count.is_finite()
            && count > 0.0
        {
            let Some(metres) = metres else { return Some(Figure::stand_in()) };
            return Some(Figure::exact(PerMetre::new(count / metres), Origin::Plan(node.span)));
        }
        self.figure(key, Need::Positive)
    }
}

/// As [`figure_of`], for a node under a key of the user's choice.
pub(crate) fn figure_of_node<Q: Quantity>(
    reader: &Reader<'_>,
    node: &Node,
    key: &str,
    need: Need,
) -> Option<Figure<Q>> {
    figure_of(node, None, key, need, &reader.what, reader.problems)
}

/// Reads a figure from a node; notes what is wrong with it.
pub(super) fn figure_of<Q: Quantity>(
    node: &Node,
    class: Option<Class>,
    key: &str,
    need: Need,
    what: &str,
    problems: &RefCell<Vec<Problem>>,
) -> Option<Figure<Q>> {
    let note = |p: Problem| problems.borrow_mut().push(p);
    let (text, offset) = match &node.value {
        Value::Text(text, offset) => (text.as_str(), *offset),
        Value::Number(number) => {
            note(Problem::new(
                node.span,
                format!("`{key}` of {what} is a plain number"),
                format!("write it with its unit, in quotes: `{key} = \"{number} {}\"`", Q::SYMBOL.trim_start()),
            ));
            return None;
        }
        other => {
            note(Problem::new(
                node.span,
                format!("`{key}` of {what} is {}, not {}", other.kind(), Q::NAME),
                format!("write `{key} = \"{}\"`", Q::EXAMPLE),
            ));
            return None;
        }
    };
    let spread = match parse_spread::<Q>(text) {
        Ok(spread) => spread,
        Err(p) => {
            // Point inside the quotes where the text stands there letter by letter.
            let span = offset.map_or(node.span, |o| Span { start: o + p.start, end: o + p.end });
            note(Problem::new(span, format!("`{key}` of {what}: {}", p.message), p.help));
            return None;
        }
    };
    let low = spread.low.si();
    if (need == Need::Positive && low <= 0.0) || (need == Need::NotNegative && low < 0.0) {
        let wanted = if need == Need::Positive { "above zero" } else { "zero or more" };
        note(Problem::new(node.span, format!("`{key}` of {what} is {}", spread.low), format!("it must be {wanted}")));
        return None;
    }
    let origin = match class {
        None => Origin::Plan(node.span),
        Some((_, source)) if source.is_empty() => Origin::Plan(node.span),
        Some((part, source)) => Origin::Catalogue { part, source },
    };
    Some(Figure { low: spread.low, typical: spread.typical, high: spread.high, origin, bare: spread.bare })
}
