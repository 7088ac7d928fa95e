//! Cables as a plan writes them: `"1.2 m 16 AWG"`, `{ feed = "42 mΩ", return = "55 mΩ" }`, and how they are laid and
//! finished.

use super::cable::{Cable, Conductor, Core, Made, from_length};
use super::contact::{Contact, LeadEnd, contact_of, lead_end, read_contacts};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::parse::parse_figure;
use crate::quantity::units::{Amps, Celsius, Metres, Ohms};
use crate::source::Span;
use crate::tables::wire::{Material, WireSize};
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::{Node, Value};

/// Reads `cable = …` in its short or its table form. `signal` cables need no size.
pub(crate) fn read_cable(reader: &mut Reader<'_>, key: &'static str, signal: bool) -> Option<Cable> {
    let what = format!("`{key}` of {}", reader.what());
    let node = reader.node(key)?;
    match &node.value {
        Value::Text(text, offset) => short_form(reader, node, text, *offset, &what, signal),
        Value::Table(table) => {
            let mut inner = reader.nested(table, what, node.span, None);
            let cable = table_form(&mut inner, node.span, signal);
            inner.finish();
            cable
        }
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("{what} is {}, not a cable", other.kind()),
                "write length and size: `cable = \"1.2 m 16 AWG\"`",
            ));
            None
        }
    }
}

fn short_form(
    reader: &Reader<'_>,
    node: &Node,
    text: &str,
    offset: Option<usize>,
    what: &str,
    signal: bool,
) -> Option<Cable> {
    let fail = |start: usize, end: usize, message: String| {
        let span = offset.map_or(node.span, |o| Span { start: o + start, end: o + end });
        let help = rewritten(text).map_or_else(
            || "write length and size, such as `1.2 m 16 AWG` or `0.5 m 0.75 mm²`".to_owned(),
            |right| format!("write {}`{right}`", if text.contains(',') { "a decimal point: " } else { "" }),
        );
        reader.problem(Problem::new(span, format!("{what}: {message}"), help));
    };
    if !text.contains(',') && rewritten(text).is_some() {
        fail(0, text.len(), format!("`{text}` does not end in a wire size"));
        return None;
    }
    let trimmed = text.trim_end();
    let (length_text, size) = match split_size(trimmed) {
        Ok(split) => split,
        Err((start, message)) => {
            fail(start, trimmed.len(), message);
            return None;
        }
    };
    let length = match parse_figure::<Metres>(length_text) {
        Ok(length) if length.low.get() < 0.0 => {
            fail(0, length_text.len(), format!("{} is not a length", length.low));
            return None;
        }
        Ok(length) => Figure { origin: Origin::Plan(node.span), ..length },
        Err(p) => {
            fail(p.start, p.end.max(p.start + 1).min(text.len().max(1)), p.message);
            return None;
        }
    };
    if size.is_none() && !signal {
        fail(0, text.len(), "the conductor size is missing".into());
        return None;
    }
    Some(from_length(node.span, length, None, Made { size, ..Made::default() }))
}

/// What was meant by a decimal comma, or by `AWG18`; `None` where that is not what is wrong.
fn rewritten(text: &str) -> Option<String> {
    let mut right = text.replace(',', ".");
    if let Some(at) = right.to_ascii_uppercase().find("AWG") {
        let number = right[at + 3..].trim_matches([' ', '-', '#']).to_owned();
        if !number.is_empty() {
            right = format!("{} {number} AWG", right[..at].trim_end());
        }
    }
    let (length, size) = split_size(&right).ok()?;
    (right != text && size.is_some() && parse_figure::<Metres>(length).is_ok()).then_some(right)
}

/// Splits `1.2 m 16 AWG` into the length's text and the size.
fn split_size(text: &str) -> Result<(&str, Option<WireSize>), (usize, String)> {
    let units = ["AWG", "awg", "mm²", "mm2", "mm^2"];
    let Some(unit) = units.iter().find(|u| text.ends_with(**u)) else { return Ok((text, None)) };
    let before = text[..text.len() - unit.len()].trim_end();
    let at = before.rfind(char::is_whitespace).map_or(0, |i| i + 1);
    let size = text[at..].parse::<WireSize>().map_err(|message| (at, message))?;
    Ok((before[..at].trim_end(), Some(size)))
}

fn table_form(inner: &mut Reader<'_>, span: Span, signal: bool) -> Option<Cable> {
    let length = inner.figure::<Metres>("length", Need::NotNegative);
    let return_length = inner.figure::<Metres>("return-length", Need::NotNegative);
    let size = inner.text("size");
    let solid = inner.choice("core", &[("stranded", false), ("solid", true)]).unwrap_or(false);
    let material = inner
        .choice("material", &[("copper", Material::Copper), ("copper-clad", Material::CopperClad)])
        .unwrap_or_default();
    let insulation = inner.figure::<Celsius>("insulation", Need::Any);
    let ampacity = inner.figure::<Amps>("ampacity", Need::Positive);
    let feed = inner.figure::<Ohms>("feed", Need::NotNegative);
    let back = inner.figure::<Ohms>("return", Need::NotNegative);
    let make = read_make(inner);
    let measured = feed.is_some() || back.is_some();
    let is_joint_alone = inner.has("connectors") && !measured && size.is_none() && !inner.has("length");
    let known_size = match &size {
        Some(size) => Some(named_size(inner, size)?),
        None => None,
    };
    let made = Made { size: known_size, solid, material };
    let none = || Figure::exact(Metres::new(0.0), Origin::Computed);
    let mut cable = if measured {
        let (feed, back) = both_stated(inner, span, feed, back)?;
        Cable { feed: Conductor::Stated(feed), back: Conductor::Stated(back), ..from_length(span, none(), None, made) }
    } else if is_joint_alone {
        from_length(span, none(), None, made)
    } else {
        let Some(length) = length else {
            inner.missing("length", "write `length = \"1.2 m\"`, or the measured `feed` and `return`");
            return None;
        };
        if known_size.is_none() && !signal {
            inner.missing("size", "write `size = \"16 AWG\"` or `size = \"0.75 mm²\"`");
            return None;
        }
        from_length(span, length, return_length, made)
    };
    for conductor in [&mut cable.feed, &mut cable.back] {
        if let Conductor::Wire { ohms_per_m, .. } = conductor {
            *ohms_per_m /= make.parallel as f64;
        }
    }
    let Make { parallel, pairs, loaded_cores, apart, connectors, into, ends, cores, factory } = make;
    Some(Cable {
        insulation,
        ampacity,
        parallel,
        pairs,
        loaded_cores,
        apart,
        connectors,
        into,
        ends,
        cores,
        factory,
        ..cable
    })
}

fn both_stated(
    inner: &mut Reader<'_>,
    span: Span,
    feed: Option<Figure<Ohms>>,
    back: Option<Figure<Ohms>>,
) -> Option<(Figure<Ohms>, Figure<Ohms>)> {
    let both = feed.zip(back);
    if both.is_none() {
        inner.problem(Problem::new(
            span,
            format!("{} has the resistance of one conductor only", inner.what()),
            "write both: `{ feed = \"42 mΩ\", return = \"55 mΩ\" }`",
        ));
    }
    both
}

/// How a cable is laid and finished.
struct Make {
    parallel: usize,
    pairs: usize,
    loaded_cores: Option<usize>,
    apart: bool,
    connectors: Vec<Contact>,
    into: [Option<Contact>; 2],
    ends: [Option<LeadEnd>; 2],
    cores: Vec<Core>,
    factory: Option<bool>,
}

/// More loaded pairs than this in one bundle are refused.
const MOST_TOGETHER: usize = 20;

fn read_make(inner: &mut Reader<'_>) -> Make {
    let parallel = inner.whole("parallel", 1..=MOST_TOGETHER).unwrap_or(1);
    let loaded_cores = inner.whole("cores", 2..=2 * MOST_TOGETHER);
    let cores = loaded_cores.unwrap_or(2 * parallel);
    let bundle = inner.whole("bundle", 1..=MOST_TOGETHER).unwrap_or(1);
    let apart = inner.choice("laid", &[("apart", true), ("together", false)]).unwrap_or(false);
    if apart && (bundle > 1 || loaded_cores.is_some()) {
        inner.problem(Problem::new(
            inner.own_span("laid").unwrap_or(inner.span),
            format!("{} has single conductors laid apart, and others in one bundle or sheath", inner.what()),
            "leave out `laid = \"apart\"`, or `bundle` and `cores`",
        ));
    }
    if cores < 2 * parallel {
        inner.problem(Problem::new(
            inner.own_span("cores").unwrap_or(inner.span),
            format!("{} has {cores} cores and uses {parallel} for each conductor", inner.what()),
            "`cores` counts all cores that carry current, feed and return",
        ));
    }
    let connectors = read_contacts(inner, "connectors");
    let into = pair_of(inner, "into").map(|node| node.and_then(|n| contact_of(inner, "into", n)));
    let ends = pair_of(inner, "ends").map(|node| match node {
        Some(Node { value: Value::Text(text, _), span }) => {
            lead_end(inner, "ends", &Named { text: text.clone(), span: Some(*span) })
        }
        Some(node) => {
            inner.problem(Problem::new(
                node.span,
                format!("`ends` of {} lists {}, not a wire end", inner.what(), node.value.kind()),
                "write words in quotes: `ends = [\"ferrule\", \"bare\"]`",
            ));
            None
        }
        None => None,
    });
    let factory = inner.has("factory").then(|| inner.flag("factory", false));
    let cores_named = read_cores(inner);
    // Cores in one sheath have a row of their own; wires side by side count as pairs that touch.
    let pairs = if loaded_cores.is_some() || apart { bundle } else { parallel * bundle };
    Make { parallel, pairs, loaded_cores, apart, connectors, into, ends, cores: cores_named, factory }
}

/// What stands for the two ends of a cable: `["ferrule", "bare"]`, or one word for both; `""` says nothing of an end.
fn pair_of<'a>(inner: &mut Reader<'a>, key: &'static str) -> [Option<&'a Node>; 2] {
    let Some(node) = inner.node(key) else { return [None, None] };
    let said = |node: &Node| !matches!(&node.value, Value::Text(t, _) if t.is_empty());
    match &node.value {
        Value::List(items) => {
            if let [a, b] = items.as_slice() {
                return [a, b].map(|n| said(n).then_some(n));
            }
            inner.problem(Problem::new(
                node.span,
                format!("`{key}` of {} lists {} ends", inner.what(), items.len()),
                format!("a cable has two, the source's first: `{key} = [\"…\", \"…\"]`"),
            ));
            [None, None]
        }
        _ => [Some(node), Some(node)],
    }
}

/// `colours = ["red", "black"]`, `core-marks = ["", "stripe"]`.
fn read_cores(inner: &mut Reader<'_>) -> Vec<Core> {
    let colours = inner.texts("colours");
    let marks = inner.texts("core-marks");
    if colours.len() == 1 || marks.len() > colours.len() {
        let key = if colours.len() == 1 { "colours" } else { "core-marks" };
        inner.problem(Problem::new(
            inner.own_span(key).unwrap_or(inner.span),
            format!("`{key}` of {} does not match its cores", inner.what()),
            "list the feed's colour, then the return's: `colours = [\"red\", \"black\"]`, `core-marks = [\"\", \"stripe\"]`",
        ));
    }
    let mark = |i: usize| marks.get(i).map_or_else(String::new, |m| m.text.trim().to_lowercase());
    let core = |(i, c): (usize, Named)| Core { colour: c.text.trim().to_lowercase(), mark: mark(i) };
    colours.into_iter().enumerate().map(core).collect()
}

fn named_size(inner: &Reader<'_>, named: &Named) -> Option<WireSize> {
    match split_size(named.text.trim()) {
        Ok(("", Some(size))) => Some(size),
        other => {
            let message = match other {
                Err((_, message)) => message,
                Ok(_) => format!("`{}` is not a wire size", named.text),
            };
            inner.problem(Problem::new(
                named.span,
                format!("{}: {message}", inner.what()),
                "write `16 AWG` or `0.75 mm²`",
            ));
            None
        }
    }
}
