//! The box of one thing: its name, its numbers, what is wrong with it, in as many lines as there is room for.

use modest_ohm::Severity;
use modest_ohm::views::TreeItem;

use super::svg::{Anchor, Pen, Svg, Type, fitted, width_of};

/// In lower rows a box has one line.
pub(crate) const FLAT_ROW: f64 = 24.5;

/// Smaller letters are not readable at 1280 × 800.
pub(crate) const SMALLEST: f64 = 8.5;
const TEXT: &str = "#1e2328";
const QUIET: &str = "#5b6167";
/// From the box's edge to its words.
const INSET: f64 = 7.0;

/// Ink, paper of a box, and the weight of its outline.
pub(crate) struct Look {
    pub ink: &'static str,
    pub paper: &'static str,
    pub weight: f64,
    pub dash: &'static str,
}

pub(crate) fn look(item: &TreeItem) -> Look {
    match item.trouble.map(|(severity, _)| severity) {
        Some(Severity::Danger) => Look { ink: "#a3122a", paper: "#fbd9dc", weight: 3.2, dash: "" },
        Some(Severity::Fault) => Look { ink: "#a3122a", paper: "#fdf0ee", weight: 2.2, dash: "" },
        Some(Severity::Caution) => Look { ink: "#8a5200", paper: "#fff1d6", weight: 1.8, dash: "" },
        _ if item.dead => Look { ink: "#77797c", paper: "#f1f1ef", weight: 1.2, dash: "4 3" },
        _ => Look { ink: "#17526b", paper: "#ecf3f5", weight: 1.2, dash: "" },
    }
}

/// The lines of a box.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Lines {
    /// Name and numbers side by side.
    One,
    /// Name; numbers, or what is wrong.
    Two,
    /// Name; numbers; what is wrong.
    Three,
    /// Name; voltage; current and what it may be; what is wrong.
    Four,
}

impl Lines {
    /// As many as rows of a height have room for.
    pub fn of_row(row: f64) -> Self {
        match row {
            r if r >= 92.0 => Self::Four,
            r if r >= 64.0 => Self::Three,
            r if r >= FLAT_ROW => Self::Two,
            _ => Self::One,
        }
    }

    /// The widest a box gets, and the highest.
    pub fn largest(self) -> (f64, f64) {
        match self {
            Self::One => (330.0, 22.0),
            Self::Two => (210.0, 46.0),
            Self::Three => (240.0, 66.0),
            Self::Four => (240.0, 86.0),
        }
    }

    /// Baselines as shares of the height: name, first and last line of numbers, what is wrong.
    fn bases(self) -> [f64; 4] {
        match self {
            Self::One => [0.65; 4],
            Self::Two => [0.40, 0.77, 0.77, 0.77],
            Self::Three => [0.29, 0.56, 0.56, 0.81],
            Self::Four => [0.22, 0.445, 0.65, 0.86],
        }
    }

    /// Sizes of names and of numbers: as large as those of a usual thing fit.
    fn sizes(self, [_, _, w, h]: [f64; 4]) -> (f64, f64) {
        let room = |usual: &str| (w - 2.0 * INSET) / width_of(usual, 1.0, false);
        let (name, value): (f64, f64) = match self {
            Self::One => (SMALLEST + 0.5, SMALLEST + 0.5),
            Self::Four => (14.0, f64::min(12.5, room("4.65 A of 6.00 A"))),
            Self::Two | Self::Three => {
                let name = (h * 0.36).clamp(9.5, 14.0);
                (name, f64::min(name - 0.8, room("11.4 V · 4.65 A of 6.00 A")))
            }
        };
        (name, value.max(SMALLEST))
    }
}

/// Draws a box: left, top, width, height.
pub(crate) fn slab(svg: &mut Svg, item: &TreeItem, place: [f64; 4], lines: Lines) {
    let [x, y, w, h] = place;
    let look = look(item);
    svg.rect([x, y, w, h, 3.0], look.paper, Some(Pen { colour: look.ink, width: look.weight, dash: look.dash }));
    if lines == Lines::One {
        one_line(svg, item, &look, place);
    } else {
        lines_below_each_other(svg, item, &look, place, lines);
    }
    gauge(svg, item, &look, place);
}

fn lines_below_each_other(svg: &mut Svg, item: &TreeItem, look: &Look, place: [f64; 4], lines: Lines) {
    let [x, y, w, h] = place;
    let (name_size, value_size) = lines.sizes(place);
    let room = w - 2.0 * INSET;
    let [name_at, first, last, code_at] = lines.bases().map(|share| y + h * share);
    let left = |size, bold, colour| Type { size, bold, colour, anchor: Anchor::Start };
    let name = fitted(&item.name, name_size, true, room);
    svg.text((x + INSET, name_at), &name, &left(name_size, true, TEXT));
    // Beside the name: what it is, or, where no line is left for it, what is wrong.
    let tag_size = (value_size - 1.0).clamp(SMALLEST, 10.5);
    let rest = room - width_of(&name, name_size, true) - 6.0;
    let beside = |words: &str, bold: bool| width_of(words, tag_size, bold) <= rest;
    let code = item.trouble.map(|(_, code)| code);
    let has_line = lines != Lines::Two;
    let code_beside = code.filter(|code| !has_line && beside(code, true));
    let tag = match (code_beside, code) {
        (Some(code), _) => Some((code, true, look.ink)),
        (None, Some(_)) if !has_line => None,
        _ => Some((if item.dead { "no power" } else { item.kind }, false, QUIET)),
    };
    if let Some((words, bold, colour)) = tag.filter(|(words, bold, _)| beside(words, *bold)) {
        svg.text((x + w - INSET, name_at), words, &Type { size: tag_size, bold, colour, anchor: Anchor::End });
    }
    let code_below = code.filter(|_| code_beside.is_none());
    if let Some(code) = code_below {
        let size = (value_size - 0.3).max(SMALLEST);
        svg.text((x + INSET, code_at), &fitted(code, size, true, room), &left(size, true, look.ink));
    }
    if item.dead || (code_below.is_some() && !has_line) {
        return;
    }
    let plain = left(value_size, false, TEXT);
    if lines == Lines::Four {
        svg.text((x + INSET, first), &item.voltage.map_or_else(String::new, |v| v.to_string()), &plain);
        svg.text((x + INSET, last), &amps(item, value_size, room), &plain);
    } else {
        svg.text((x + INSET, first), &numbers(item, value_size, room), &plain);
    }
}

/// One line: the name, and its numbers or what is wrong.
fn one_line(svg: &mut Svg, item: &TreeItem, look: &Look, [x, y, w, h]: [f64; 4]) {
    let (size, _) = Lines::One.sizes([x, y, w, h]);
    let room = w - 12.0;
    let (words, bold, colour) = match (item.trouble, item.dead) {
        (Some((_, code)), _) => (code.to_owned(), true, look.ink),
        (None, true) => ("no power".to_owned(), false, QUIET),
        (None, false) => (numbers(item, size, 0.62 * room), false, TEXT),
    };
    let words = fitted(&words, size, bold, 0.62 * room);
    let base = y + h * 0.5 + size * 0.32;
    svg.text((x + w - 6.0, base), &words, &Type { size, bold, colour, anchor: Anchor::End });
    let left = room - width_of(&words, size, bold) - 4.0;
    let strong = Type { size, bold: true, colour: TEXT, anchor: Anchor::Start };
    svg.text((x + 6.0, base), &fitted(&item.name, size, true, left), &strong);
}

/// Wanted current, and what it may be: as much of it as there is room for, no number cut. The bar below shows the share
/// all the same.
fn amps(item: &TreeItem, size: f64, room: f64) -> String {
    let of = item.current.zip(item.limit).map(|(a, limit)| format!("{a} of {limit}"));
    first_that_fits([of, item.current.map(|a| a.to_string())], size, room)
}

/// Volts before that.
fn numbers(item: &TreeItem, size: f64, room: f64) -> String {
    let volts = item.voltage.map(|v| v.to_string());
    let both = |amps: Option<String>| match (&volts, amps) {
        (Some(volts), Some(amps)) => Some(format!("{volts} · {amps}")),
        (Some(volts), None) => Some(volts.clone()),
        (None, amps) => amps,
    };
    let of = item.current.zip(item.limit).map(|(a, limit)| format!("{a} of {limit}"));
    let bare = item.current.map(|a| a.to_string());
    first_that_fits([of.and_then(|of| both(Some(of))), both(bare.clone()), bare], size, room)
}

fn first_that_fits<const N: usize>(ways: [Option<String>; N], size: f64, room: f64) -> String {
    ways.into_iter().flatten().find(|words| width_of(words, size, false) <= room).unwrap_or_default()
}

/// How much of what it may carry is wanted.
fn gauge(svg: &mut Svg, item: &TreeItem, look: &Look, [x, y, w, h]: [f64; 4]) {
    let (Some(amps), Some(limit), false) = (item.current, item.limit, item.dead) else { return };
    if limit.get() <= 0.0 {
        return;
    }
    let share = (amps.get() / limit.get()).clamp(0.0, 1.0);
    let tall = (h * 0.085).clamp(1.8, 4.0);
    let top = y + h - tall - (h * 0.03).clamp(0.7, 1.5);
    svg.rect([x + 2.0, top, w - 4.0, tall, 0.8], "#d7dde0", None);
    svg.rect([x + 2.0, top, (w - 4.0) * share, tall, 0.8], look.ink, None);
}
