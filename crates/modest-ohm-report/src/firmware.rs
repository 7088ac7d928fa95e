//! What is to be set in the firmware: outputs, firmware limits and layouts, as tables, CSV and JSON.

use modest_ohm::Review;
use modest_ohm::units::Seconds;
use modest_ohm::views::{FirmwareFigures, FirmwareLimitFigures, LayoutFigures, OutputFigures, OutputPart};
use serde::Serialize;

use crate::document::{Block, Document, Table, list, named, values, words};
use crate::findings::finding_block;
use crate::json::{self, maybe, number};
use crate::sheet::csv;
use crate::table::or_dash;
use crate::{Input, Layout};

/// Tables of outputs, firmware limits and panels, and what differs from what is said to be set.
#[must_use]
pub fn firmware_text(input: &Input<'_>, review: &Review, figures: &FirmwareFigures, layout: Layout) -> String {
    firmware(input, review, figures).text(layout.width)
}

/// What is to be set in the firmware, before anybody decides how wide.
pub(crate) fn firmware(input: &Input<'_>, review: &Review, figures: &FirmwareFigures) -> Document {
    let mut page = Document::default();
    if figures.outputs.is_empty() && figures.firmware_limits.is_empty() {
        page.paragraph("the plan has no pixels: nothing to set in firmware");
        return page;
    }
    outputs(&mut page, figures);
    firmware_limits(&mut page, figures);
    layouts(&mut page, figures);
    page.caption("Differences between firmware and plan");
    if !figures.differs.is_empty() {
        page.0.extend(figures.differs.iter().map(|finding| finding_block(input, review, finding)));
    } else if figures.as_planned {
        page.push(Block::Sound("as planned, as far as given".into()));
    } else {
        page.note("no firmware settings given; write them as `firmware = { count = 120, pin = \"io27\" }` on a strip");
    }
    page
}

fn frames(frame: Seconds) -> String {
    format!("{:.1}", 1.0 / frame.get())
}

/// `0 .. 119`, counted on the line.
fn range(part: &OutputPart) -> String {
    format!("{} .. {}", part.first, part.first + part.pixels - 1)
}

fn outputs(page: &mut Document, figures: &FirmwareFigures) {
    page.heading("Outputs: pixels on each pin, counted from 0 in the order of the data");
    let rows = figures.outputs.iter().flat_map(|o| {
        o.parts.iter().enumerate().map(|(n, p)| {
            let first = n == 0;
            let once = |text: String| if first { text } else { String::new() };
            vec![
                once(o.pin.clone()),
                range(p),
                p.strip.clone(),
                or_dash(p.panel.clone()),
                or_dash(p.part.clone()),
                or_dash(p.order.clone()),
                if p.clocked { format!("{} + clock", p.bits) } else { p.bits.to_string() },
                once(o.pixels.to_string()),
                once(or_dash(o.frame)),
                once(or_dash(o.frame.map(frames))),
            ]
        })
    });
    let heading = [
        named("pin"),
        values("pixels"),
        words("strip"),
        words("panel"),
        words("part"),
        words("order"),
        values("bits"),
        values("total"),
        values("frame"),
        values("fps"),
    ];
    let rows: Vec<Vec<String>> = rows.collect();
    if rows.is_empty() {
        page.note("no pin drives any pixel");
    } else {
        page.table(Table::new(heading, rows));
        page.note("order: how the data takes the colours, by their initials. fps: largest frame rate.");
    }
    if !figures.undriven.is_empty() {
        let names: Vec<String> = figures.undriven.iter().map(|n| format!("`{n}`")).collect();
        page.note(format!("no pin is given for {}: write `data = {{ pin = … }}`", names.join(", ")));
    }
}

fn firmware_limits(page: &mut Document, figures: &FirmwareFigures) {
    page.caption("Firmware limits: what the firmware may count together");
    let rows = figures.firmware_limits.iter().map(|c| {
        vec![
            c.name.clone(),
            c.pixels.to_string(),
            c.full.to_string(),
            c.set.map_or_else(|| "none".into(), |a| a.to_string()),
            c.brightness.to_string(),
            c.per_pixel.to_string(),
            or_dash(c.available),
            or_dash(c.possible),
            c.binding.as_ref().map_or_else(|| "–".into(), |(name, amps)| format!("{name}, {amps}")),
        ]
    });
    let heading = [
        named("limit of"),
        values("pixels"),
        values("full white"),
        values("set"),
        values("brightness"),
        values("per pixel"),
        values("available"),
        values("resulting brightness"),
        words("limited by"),
    ];
    page.table(Table::new(heading, rows));
    for c in figures.firmware_limits.iter().filter(|c| c.strips.len() > 1) {
        page.note(format!("{}: {}", c.name, c.strips.join(", ")));
    }
    page.note(
        "brightness: of full white, at the limit set. available: the largest firmware limit that keeps every supply, \
        cable, fuse and contact on the path within its continuous rating.",
    );
}

fn layouts(page: &mut Document, figures: &FirmwareFigures) {
    if figures.layouts.is_empty() {
        return;
    }
    page.caption("Panels: layout settings");
    let rows = figures.layouts.iter().map(|l| {
        vec![
            l.panel.clone(),
            l.pins.join(" "),
            l.face.as_ref().map_or_else(|_| "–".into(), |(x, y)| format!("{x} × {y}")),
            order_words(l),
            l.corners.map_or_else(|| "–".into(), |[a, b, c, d]| format!("{a} {b} / {c} {d}")),
        ]
    });
    page.table(Table::new([named("panel"), words("pin"), words("face"), list("data enters"), values("corners")], rows));
    for l in &figures.layouts {
        if let Some(t) = &l.layout.tiles {
            let order = t.order;
            page.note(format!(
                "{}: {} by {} tiles, the first at {}, along {}, {}{}",
                l.panel,
                t.across,
                t.down,
                order.entry.word(),
                order.along.word(),
                order.turns.word(),
                rotations(l)
            ));
        }
        if let Err(why) = &l.face {
            page.paragraph(format!("{}: {why}", l.panel));
        }
    }
    page.note(
        "all seen from the front. corners: the pixels at top left, top right / bottom left, bottom right. Every pixel: \
                --coordinates PANEL.",
    );
}

/// `top-left, along rows, alternating`.
fn order_words(l: &LayoutFigures) -> String {
    let order = l.layout.order;
    let turned = match l.layout.rotated.degrees() {
        0 => String::new(),
        degrees => format!(", rotated by {degrees}°"),
    };
    format!("{}, along {}, {}{turned}", order.entry.word(), order.along.word(), order.turns.word())
}

fn rotations(l: &LayoutFigures) -> String {
    let own = l.layout.tiles.as_ref().map_or(&[][..], |t| t.rotated.as_slice());
    if own.iter().all(|r| r.degrees() == 0) {
        return String::new();
    }
    let all: Vec<String> = own.iter().map(|r| format!("{}°", r.degrees())).collect();
    format!(", turned by {}", all.join(" "))
}

#[derive(Serialize)]
struct FirmwareShape<'a> {
    format: u32,
    plan: &'a str,
    outputs: Vec<OutputShape<'a>>,
    firmware_limits: Vec<LimitShape<'a>>,
    layouts: Vec<LayoutShape<'a>>,
    undriven: &'a [String],
    differs: Vec<DiffersShape<'a>>,
}

#[derive(Serialize)]
struct OutputShape<'a> {
    pin: &'a str,
    pixels: usize,
    frame_s: Option<f64>,
    parts: Vec<PartShape<'a>>,
}

#[derive(Serialize)]
struct PartShape<'a> {
    strip: &'a str,
    first: usize,
    pixels: usize,
    part: Option<&'a str>,
    order: Option<&'a str>,
    colours: &'a [String],
    bits: usize,
    clocked: bool,
    panel: Option<&'a str>,
}

#[derive(Serialize)]
struct LimitShape<'a> {
    name: &'a str,
    strips: &'a [String],
    pixels: usize,
    full_a: Option<f64>,
    limit_a: Option<f64>,
    brightness: Option<f64>,
    per_pixel_a: Option<f64>,
    available_a: Option<f64>,
    possible: Option<f64>,
    binding: Option<&'a str>,
    usable_a: Option<f64>,
}

#[derive(Serialize)]
struct LayoutShape<'a> {
    panel: &'a str,
    pins: &'a [String],
    columns: Option<usize>,
    rows: Option<usize>,
    entry: &'a str,
    along: &'a str,
    turns: &'a str,
    rotated: usize,
    seen: &'a str,
    tiles: Option<TilesShape<'a>>,
    corners: Option<[usize; 4]>,
    broken: Option<String>,
}

#[derive(Serialize)]
struct TilesShape<'a> {
    across: usize,
    down: usize,
    columns: usize,
    rows: usize,
    entry: &'a str,
    along: &'a str,
    turns: &'a str,
    rotated: Vec<usize>,
}

#[derive(Serialize)]
struct DiffersShape<'a> {
    subject: &'a str,
    message: &'a str,
    line: Option<usize>,
}

/// The same as JSON.
#[must_use]
pub fn firmware_json(input: &Input<'_>, review: &Review, figures: &FirmwareFigures) -> String {
    let source = review.plan().source();
    json::pretty(&FirmwareShape {
        format: json::FORMAT,
        plan: input.path,
        outputs: figures.outputs.iter().map(output_shape).collect(),
        firmware_limits: figures.firmware_limits.iter().map(limit_shape).collect(),
        layouts: figures.layouts.iter().map(layout_shape).collect(),
        undriven: &figures.undriven,
        differs: figures
            .differs
            .iter()
            .map(|f| DiffersShape {
                subject: &f.subject,
                message: &f.message,
                line: f.span.map(|s| source.place(s.start).line),
            })
            .collect(),
    })
}

fn output_shape<'o>(o: &'o OutputFigures) -> OutputShape<'o> {
    let part = |p: &'o OutputPart| {
        let OutputPart { strip, first, pixels, part: own, order, colours, bits, clocked, panel, .. } = p;
        PartShape {
            strip,
            first: *first,
            pixels: *pixels,
            part: own.as_deref(),
            order: order.as_deref(),
            colours,
            bits: *bits,
            clocked: *clocked,
            panel: panel.as_deref(),
        }
    };
    OutputShape { pin: &o.pin, pixels: o.pixels, frame_s: maybe(o.frame), parts: o.parts.iter().map(part).collect() }
}

fn limit_shape(c: &FirmwareLimitFigures) -> LimitShape<'_> {
    LimitShape {
        name: &c.name,
        strips: &c.strips,
        pixels: c.pixels,
        full_a: number(c.full),
        limit_a: maybe(c.set),
        brightness: number(c.brightness),
        per_pixel_a: number(c.per_pixel),
        available_a: maybe(c.available),
        possible: maybe(c.possible),
        binding: c.binding.as_ref().map(|(name, _)| name.as_str()),
        usable_a: c.binding.as_ref().and_then(|(_, amps)| number(*amps)),
    }
}

fn layout_shape(l: &LayoutFigures) -> LayoutShape<'_> {
    let tiles = l.layout.tiles.as_ref().map(|t| TilesShape {
        across: t.across,
        down: t.down,
        columns: l.layout.columns,
        rows: l.layout.rows,
        entry: t.order.entry.word(),
        along: t.order.along.word(),
        turns: t.order.turns.word(),
        rotated: t.rotated.iter().map(|r| r.degrees()).collect(),
    });
    LayoutShape {
        panel: &l.panel,
        pins: &l.pins,
        columns: l.face.as_ref().ok().map(|(x, _)| *x),
        rows: l.face.as_ref().ok().map(|(_, y)| *y),
        entry: l.layout.order.entry.word(),
        along: l.layout.order.along.word(),
        turns: l.layout.order.turns.word(),
        rotated: l.layout.rotated.degrees(),
        seen: l.layout.seen.word(),
        tiles,
        corners: l.corners,
        broken: l.face.as_ref().err().map(ToString::to_string),
    }
}

/// Outputs as CSV: a row a strip on a pin.
#[must_use]
pub fn firmware_csv(figures: &FirmwareFigures) -> String {
    let heading =
        ["pin", "first", "pixels", "strip", "panel", "part", "order", "bits", "clocked", "limit_a", "frame_s"];
    let limit_of = |strip: &String| {
        figures
            .firmware_limits
            .iter()
            .find(|c| c.strips.contains(strip))
            .and_then(|c| c.set)
            .map(|a| a.get().to_string())
    };
    let rows = figures.outputs.iter().flat_map(|o| {
        o.parts.iter().map(move |p| {
            vec![
                o.pin.clone(),
                p.first.to_string(),
                p.pixels.to_string(),
                p.strip.clone(),
                p.panel.clone().unwrap_or_default(),
                p.part.clone().unwrap_or_default(),
                p.order.clone().unwrap_or_default(),
                p.bits.to_string(),
                p.clocked.to_string(),
                limit_of(&p.strip).unwrap_or_default(),
                o.frame.map_or_else(String::new, |t| t.get().to_string()),
            ]
        })
    });
    csv(&heading, rows)
}
