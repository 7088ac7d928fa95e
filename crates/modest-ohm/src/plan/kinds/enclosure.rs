//! `[enclosure.x]`: a closed enclosure and what is in it.

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
pub(crate) struct Enclosure {
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
    Board(usize),
    Strip(usize),
    Load(usize),
    /// A branch, switch, diode or connector with its cable.
    Branch(usize),
}

pub(crate) fn read_enclosure(reader: &mut Reader<'_>, name: Name) -> Enclosure {
    let holds = reader.texts("contains");
    if !reader.has("contains") {
        reader.missing("contains", "list what it contains: `contains = [\"five\", \"keeper\"]`");
    }
    let sides = reader.has("size");
    let area = if sides { read_sides(reader) } else { Some(reader.required::<SquareMetres>("area", Need::Positive)) };
    if let (true, Some(span)) = (sides, reader.own_span("area")) {
        let message = format!("{} has both `area` and `size`", reader.what());
        let _ = reader.has("area");
        reader.problem(Problem::new(span, message, "write one of them"));
    }
    let stands = reader.figure_or::<Celsius>(
        "max-air-temperature",
        Need::Any,
        Celsius::new(60.0),
        "modules, boards and pixels are rated for 60 °C air (typical)",
    );
    let holds = holds.into_iter().map(|n| (n, Held::Nothing)).collect();
    Enclosure { name, holds, area: area.unwrap_or_else(Figure::stand_in), stands }
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
            "write `size = [\"120 mm\", \"80 mm\", \"50 mm\"]`, or its `area`",
        ));
        return None;
    };
    Some(Figure::exact(SquareMetres::new(2.0 * (a * b + b * c + c * a)), Origin::Plan(node.span)))
}
