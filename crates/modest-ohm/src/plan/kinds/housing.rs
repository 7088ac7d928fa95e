//! `[box.x]`: a closed housing and what is in it.

use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::{Celsius, Metres, SquareMetres};
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Housing {
    pub name: Name,
    pub holds: Vec<(Named, Held)>,
    pub area: Figure<SquareMetres>,
    /// The air that what is in it stands.
    pub stands: Figure<Celsius>,
}

/// What is in a box, by its index in the plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Held {
    Nothing,
    Supply(usize),
    Converter(usize),
    Controller(usize),
    Strip(usize),
    Load(usize),
    /// A branch, switch, diode or joint with its cable.
    Branch(usize),
}

pub(crate) fn read_housing(reader: &mut Reader<'_>, name: Name) -> Housing {
    let holds = reader.texts("holds");
    if !reader.has("holds") {
        reader.missing("holds", "list what is in it: `holds = [\"five\", \"keeper\"]`");
    }
    let sides = reader.has("size");
    let area = if sides { read_sides(reader) } else { Some(reader.required::<SquareMetres>("area", Need::Positive)) };
    if let (true, Some(span)) = (sides, reader.own_span("area")) {
        let message = format!("{} gives `area` and `size`", reader.what());
        let _ = reader.has("area");
        reader.problem(Problem::new(span, message, "give one of them"));
    }
    let stands = reader.figure_or::<Celsius>(
        "stands",
        Need::Any,
        Celsius::new(60.0),
        "modules, boards and pixels stand 60 °C of air (typical)",
    );
    let holds = holds.into_iter().map(|n| (n, Held::Nothing)).collect();
    Housing { name, holds, area: area.unwrap_or_else(Figure::stand_in), stands }
}

/// `size = ["120 mm", "80 mm", "50 mm"]`: the area of its six sides.
fn read_sides(reader: &mut Reader<'_>) -> Option<Figure<SquareMetres>> {
    let node = reader.node("size")?;
    let sides: Vec<f64> = match &node.value {
        Value::List(items) => items
            .iter()
            .filter_map(|item| match &item.value {
                Value::Text(text, _) => parse_quantity::<Metres>(text).ok().map(|m| m.get()).filter(|m| *m > 0.0),
                _ => None,
            })
            .collect(),
        _ => Vec::new(),
    };
    let whole = matches!(&node.value, Value::List(items) if items.len() == 3);
    let ([a, b, c], true) = (sides.as_slice(), whole) else {
        reader.problem(Problem::new(
            node.span,
            format!("`size` of {} is not three lengths", reader.what()),
            "write `size = [\"120 mm\", \"80 mm\", \"50 mm\"]`, or give its `area`",
        ));
        return None;
    };
    Some(Figure::exact(SquareMetres::new(2.0 * (a * b + b * c + c * a)), Origin::Plan(node.span)))
}
