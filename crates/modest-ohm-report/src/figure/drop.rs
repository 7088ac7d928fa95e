//! Volts along strips: a chart a strip, scenarios laid over each other, feed currents, sheet and working limits.

use modest_ohm::checks::nearest_name;
use modest_ohm::units::{Range, Volts};
use modest_ohm::views::{ProfilePoint, Row, StripProfile, StripRow};
use modest_ohm::{Review, Scenario, Select};

use super::FigureError;
use super::axis::Axis;
use super::svg::{Anchor, Pen, Svg, Type, fitted, width_of};

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const MARGIN: f64 = 24.0;
const HEAD: f64 = 84.0;
const FOOT: f64 = 22.0;
/// Charts on one picture; lines in one chart.
const MOST_CHARTS: usize = 12;
const MOST_LINES: usize = 6;
/// Points of one line: more cannot be seen.
const MOST_POINTS: usize = 400;
/// Lines, told apart by colour and by dashes.
const LINES: [(&str, &str); MOST_LINES] = [
    ("#17526b", ""),
    ("#b4532a", "7 3"),
    ("#4f7d2c", "2 3"),
    ("#7b4f9d", "9 3 2 3"),
    ("#8a6d1f", "4 4"),
    ("#5b6167", "1 4"),
];
/// Height of the band that shows what white looks like.
const BAND: f64 = 9.0;
const TEXT: &str = "#1e2328";
const QUIET: &str = "#5b6167";
const PALE: &str = "#d9dde0";
/// Below the datasheet's range, and below working voltage.
const BELOW_SHEET: &str = "#fff1d6";
const BELOW_WORKING: &str = "#fbd9dc";

fn quiet(size: f64, anchor: Anchor) -> Type<'static> {
    Type { size, bold: false, colour: QUIET, anchor }
}

/// What one line of a chart shows.
struct Line {
    row: Row<StripRow>,
    profile: StripProfile,
    /// Which of [`LINES`].
    look: usize,
}

/// Draws the voltage along strips: of those named, else of all; in the scenarios named, else in those that last.
///
/// # Errors
/// [`FigureError::Nothing`]: names that are no strip or scenario; plans without strips.
pub fn drop_svg(review: &Review, strips: &[String], scenarios: &[String]) -> Result<String, FigureError> {
    let known = review.plan().strips();
    known_names(&known, strips)?;
    let of_plan = review.scenarios();
    for name in scenarios {
        if !of_plan.iter().any(|s| s.name() == name) {
            return Err(FigureError::Nothing(format!(
                "there is no scenario `{name}`; this plan has: {}",
                listed(&of_plan)
            )));
        }
    }
    let mut shown = shown_scenarios(&of_plan, scenarios);
    if shown.len() > MOST_LINES && !scenarios.is_empty() {
        return Err(FigureError::Nothing(format!(
            "{} scenarios are too many for one chart: name {MOST_LINES} or fewer",
            shown.len()
        )));
    }
    let unshown = shown.len().saturating_sub(MOST_LINES);
    shown.truncate(MOST_LINES);
    let mut charts: Vec<Vec<Line>> = Vec::new();
    let rows: Vec<(usize, Row<StripRow>)> = shown
        .iter()
        .enumerate()
        .flat_map(|(n, s)| {
            let select = Select { scenario: Some((*s).clone()), ..Select::default() };
            review.strips(&select).into_iter().map(move |r| (n, r))
        })
        .filter(|(_, r)| strips.is_empty() || strips.contains(&r.row.name))
        .collect();
    let only: Vec<Row<StripRow>> = rows.iter().map(|(_, r)| r.clone()).collect();
    for ((look, row), profile) in rows.into_iter().zip(review.solve_profiles(&only)) {
        let Some(profile) = profile else { continue };
        let line = Line { row, profile, look };
        match charts.iter_mut().find(|c| c.iter().any(|l| l.row.row.name == line.row.row.name)) {
            Some(chart) => chart.push(line),
            None => charts.push(vec![line]),
        }
    }
    if charts.is_empty() {
        let why = if known.is_empty() { "the plan has no strips" } else { "no strip has a voltage there" };
        return Err(FigureError::Nothing(why.into()));
    }
    let left_out = charts.len().saturating_sub(MOST_CHARTS);
    charts.truncate(MOST_CHARTS);
    let title = format!("{}: voltage along strips", review.plan().title());
    let what = format!("Voltage along each strip, in the corner with its lowest pixel, in {}.", listed(&shown));
    let mut svg = Svg::new(WIDTH, HEIGHT, &title, &what);
    heading(&mut svg, review, &shown, (left_out, unshown));
    let (columns, lines) = grid(charts.len());
    let (wide, high) = ((WIDTH - 2.0 * MARGIN) / columns as f64, (HEIGHT - HEAD - FOOT) / lines as f64);
    for (n, chart) in charts.iter().enumerate() {
        let (x, y) = (MARGIN + (n % columns) as f64 * wide, HEAD + (n / columns) as f64 * high);
        draw(&mut svg, chart, [x, y, wide - if columns > 1 { 14.0 } else { 0.0 }, high - 8.0]);
    }
    Ok(svg.finish())
}

/// Refuses a name that is no strip of the plan.
fn known_names(known: &[&str], strips: &[String]) -> Result<(), FigureError> {
    for name in strips {
        if !known.contains(&name.as_str()) {
            return Err(FigureError::Nothing(match nearest_name(name, known.iter().copied()) {
                Some(near) => format!("there is no strip `{name}`; did you mean `{near}`?"),
                None if known.is_empty() => "the plan has no strips".into(),
                None => format!("there is no strip `{name}`; this plan has: {}", known.join(", ")),
            }));
        }
    }
    Ok(())
}

/// Those asked for; else what lasts: *worst* first, then the plan's own, *typical* and *idle*.
fn shown_scenarios<'r>(of_plan: &[&'r Scenario], asked: &[String]) -> Vec<&'r Scenario> {
    if !asked.is_empty() {
        return of_plan.iter().copied().filter(|s| asked.iter().any(|a| a == s.name())).collect();
    }
    let place = |s: &Scenario| match s {
        Scenario::Worst => Some(0),
        Scenario::Own(_) => Some(1),
        Scenario::Typical => Some(2),
        Scenario::Idle => Some(3),
        _ => None,
    };
    let mut shown: Vec<&Scenario> = of_plan.iter().copied().filter(|s| place(s).is_some()).collect();
    shown.sort_by_key(|s| place(s));
    shown
}

fn listed(scenarios: &[&Scenario]) -> String {
    scenarios.iter().map(|s| s.name()).collect::<Vec<_>>().join(", ")
}

/// Columns and rows of charts.
fn grid(charts: usize) -> (usize, usize) {
    let columns = match charts {
        0..=2 => 1,
        3..=6 => 2,
        _ => 3,
    };
    (columns, charts.div_ceil(columns))
}

fn heading(svg: &mut Svg, review: &Review, shown: &[&Scenario], (left_out, unshown): (usize, usize)) {
    let strong = Type { size: 19.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    svg.text((MARGIN, 33.0), &fitted(review.plan().title(), 19.0, true, 800.0), &strong);
    let mut more = if left_out > 0 { format!(" · {left_out} more strips: name them") } else { String::new() };
    if unshown > 0 {
        more += &format!(" · {unshown} more scenarios: name them");
    }
    let words = format!("voltage along strips, each in the corner with its lowest pixel · ▼ feed points{more}");
    svg.text((MARGIN, 55.0), &words, &quiet(12.5, Anchor::Start));
    let mut x = MARGIN;
    for (n, scenario) in shown.iter().map(|s| s.name()).enumerate() {
        let (colour, dash) = LINES[n];
        svg.line(&[(x, 70.0), (x + 34.0, 70.0)], &Pen { colour, width: 2.2, dash });
        svg.text((x + 40.0, 74.0), scenario, &Type { size: 12.0, bold: false, colour: TEXT, anchor: Anchor::Start });
        x += 62.0 + width_of(scenario, 12.0, false);
    }
    for (fill, words) in [(BELOW_SHEET, "outside the recommended range"), (BELOW_WORKING, "below its minimum")] {
        svg.rect([x, 63.0, 18.0, 12.0, 2.0], fill, Some(Pen { colour: PALE, width: 1.0, dash: "" }));
        svg.text((x + 24.0, 74.0), words, &quiet(12.0, Anchor::Start));
        x += 44.0 + width_of(words, 12.0, false);
    }
}

/// The range of voltages that a chart shows: all lines and the lower sheet voltage; working voltage where lines come
/// near them.
fn range(chart: &[Line]) -> (f64, f64) {
    let lowest = chart.iter().map(|l| l.row.row.lowest.get()).fold(f64::INFINITY, f64::min);
    let highest = chart.iter().map(|l| l.row.row.highest.get()).fold(f64::NEG_INFINITY, f64::max);
    let strip = &chart[0].row.row;
    let (mut low, mut high) = (lowest, highest);
    if let Some(Range { low: sheet_low, high: sheet_high }) = strip.recommended {
        low = low.min(sheet_low.get());
        if highest > sheet_high.get() - 0.25 * (highest - low) {
            high = high.max(sheet_high.get());
        }
        if let Some(works) = strip.minimum.filter(|_| lowest < sheet_low.get()) {
            low = low.min(works.get());
        }
    }
    let air = 0.07 * (high - low).max(0.02);
    ((low - air).max(0.0), high + air)
}

fn draw(svg: &mut Svg, chart: &[Line], [x, y, w, h]: [f64; 4]) {
    let strip = &chart[0].row.row;
    let size = if h < 180.0 { 9.5 } else { 11.0 };
    let (top, bottom) = (y + 42.0, y + h - 26.0 - BAND);
    let label = |l: &Line| width_of(&format!("{} {}", name_of(l), l.row.row.lowest), size, false);
    let band = width_of(&format!("white, {}", name_of(&chart[0])), size - 0.5, false);
    let label_room = chart.iter().map(label).fold(band, f64::max) + 10.0;
    let (left, right) = (x + 44.0, x + w - label_room);
    let length = chart.iter().flat_map(|l| l.profile.last()).map(|p| p.position.get()).fold(0.0, f64::max);
    let ends = strip.feeds.iter().map(|f| f.at.get()).fold(length, f64::max);
    let along = Axis::new((0.0, ends.max(1e-6)), (left, right));
    let volts = Axis::new(range(chart), (bottom, top));
    limits(svg, strip, &volts, (left, right), size);
    let pale = Pen { colour: PALE, width: 0.8, dash: "" };
    let (marks, decimals) = volts.marks();
    let last = marks.len();
    for (n, v) in marks.into_iter().enumerate() {
        let at = volts.place(v);
        let unit = if n + 1 == last { " V" } else { "" };
        svg.line(&[(left, at), (right, at)], &pale);
        svg.text((left - 6.0, at + size * 0.35), &format!("{v:.decimals$}{unit}"), &quiet(size, Anchor::End));
    }
    let (marks, decimals) = along.marks();
    let last = marks.len();
    for (n, m) in marks.into_iter().enumerate() {
        let at = along.place(m);
        let unit = if n + 1 == last { " m" } else { "" };
        svg.line(&[(at, bottom), (at, bottom + BAND + 4.0)], &Pen { colour: QUIET, width: 0.8, dash: "" });
        svg.text((at, bottom + BAND + 4.0 + size), &format!("{m:.decimals$}{unit}"), &quiet(size, Anchor::Middle));
    }
    svg.line(&[(left, top), (left, bottom), (right, bottom)], &Pen { colour: QUIET, width: 1.0, dash: "" });
    let strong = Type { size: size + 2.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    let name = fitted(&strip.name, size + 2.0, true, 0.4 * w);
    svg.text((left, y + 13.0), &name, &strong);
    let beside = left + width_of(&name, size + 2.0, true) + 10.0;
    let words = strip_words(chart);
    svg.text((beside, y + 13.0), &fitted(&words, size, false, x + w - beside), &quiet(size, Anchor::Start));
    white(svg, &chart[0], &along, (bottom, right), size);
    feeds(svg, chart, &along, top, size);
    for line in chart {
        trace(svg, line, &along, &volts);
    }
    labels(svg, chart, &volts, (right + 7.0, top, bottom), size);
}

/// `120 pixels · 2.60 A of 2.60 A firmware limit in worst`.
fn strip_words(chart: &[Line]) -> String {
    let row = &chart[0].row;
    let firmware_limit =
        row.row.firmware_limit.map_or_else(String::new, |firmware_limit| format!(", firmware limit {firmware_limit}"));
    format!("{} {}s · {} in {}{firmware_limit}", row.row.pixels, row.row.unit, row.row.current, row.scenario)
}

fn limits(svg: &mut Svg, strip: &StripRow, volts: &Axis, (left, right): (f64, f64), size: f64) {
    let mut band = |low: f64, high: f64, fill: &str| {
        let (low, high) = (volts.inside(low), volts.inside(high));
        let (top, bottom) = (volts.place(high), volts.place(low));
        if bottom - top > 0.3 {
            svg.rect([left, top, right - left, bottom - top, 0.0], fill, None);
        }
    };
    let works = strip.minimum.map_or(0.0, Volts::get);
    if let Some(Range { low, high }) = strip.recommended {
        band(works, low.get(), BELOW_SHEET);
        band(high.get(), f64::MAX, BELOW_SHEET);
    }
    band(0.0, works, BELOW_WORKING);
    let named = [
        strip.recommended.map(|s| (s.low, "recommended from")),
        strip.recommended.map(|s| (s.high, "recommended to")),
        strip.minimum.map(|v| (v, "minimum")),
    ];
    for (v, words) in named.into_iter().flatten() {
        if volts.holds(v.get()) {
            let at = volts.place(v.get());
            svg.line(&[(left, at), (right, at)], &Pen { colour: "#8a5200", width: 1.0, dash: "5 3" });
            svg.text((right - 4.0, at - 3.0), &format!("{words} {v}"), &quiet(size - 0.5, Anchor::End));
        } else if words == "minimum" {
            let at = volts.place(volts.inside(0.0));
            svg.text((right - 4.0, at - 4.0), &format!("↓ {words} {v}"), &quiet(size - 0.5, Anchor::End));
        }
    }
}

/// What white looks like along the strip: each colour by what is left of its light, as the eye takes it.
fn white(svg: &mut Svg, line: &Line, along: &Axis, (bottom, right): (f64, f64), size: f64) {
    let profile = &line.profile;
    let names: Vec<&str> = profile.colours().iter().map(|c| c.name.as_str()).collect();
    let of = |pixel: usize, name: &str| {
        let own = names.iter().position(|n| *n == name);
        // A strip without that colour shows its own, as white.
        let share = own.or(Some(0)).and_then(|c| profile.light(pixel, c)).map_or(0.0, |s| s.get().clamp(0.0, 1.0));
        (255.0 * share.powf(1.0 / 2.2)).round() as u8
    };
    let look = |pixel: usize| ["red", "green", "blue"].map(|name| of(pixel, name));
    let every = profile.len().div_ceil(MOST_POINTS).max(1);
    let mut from: Option<(usize, [u8; 3])> = None;
    let place = |k: usize| profile.get(k).map_or(right, |p| along.place(p.position.get()));
    let mut band = |a: usize, b: usize, c: [u8; 3]| {
        let (x0, x1) = (place(a), place(b).min(right));
        let colour = format!("#{:02x}{:02x}{:02x}", c[0], c[1], c[2]);
        svg.rect([x0, bottom + 1.5, (x1 - x0 + 0.4).max(0.4), BAND - 2.0, 0.0], &colour, None);
    };
    for k in (0..profile.len()).step_by(every) {
        let now = look(k);
        match from {
            Some((_, colour)) if colour == now => {}
            Some((a, colour)) => {
                band(a, k, colour);
                from = Some((k, now));
            }
            None => from = Some((k, now)),
        }
    }
    if let Some((a, colour)) = from {
        band(a, profile.len(), colour);
    }
    let frame = [place(0), bottom + 1.5, right - place(0), BAND - 2.0, 0.0];
    svg.rect(frame, "none", Some(Pen { colour: "#a9afb4", width: 0.6, dash: "" }));
    let words = fitted(&format!("white, {}", name_of(line)), size - 0.5, false, WIDTH - MARGIN - right);
    svg.text((right + 7.0, bottom + BAND - 1.0), &words, &quiet(size - 0.5, Anchor::Start));
}

/// Where it is fed, with the current of the first scenario.
fn feeds(svg: &mut Svg, chart: &[Line], along: &Axis, top: f64, size: f64) {
    let mut taken = f64::NEG_INFINITY;
    let mut feeds: Vec<_> = chart[0].row.row.feeds.iter().collect();
    feeds.sort_by(|a, b| a.at.get().total_cmp(&b.at.get()));
    for feed in feeds {
        let at = along.place(feed.at.get());
        svg.shape(&[(at - 5.0, top - 9.0), (at + 5.0, top - 9.0), (at, top)], "#17526b");
        let words = feed.feed.to_string();
        let half = width_of(&words, size - 0.5, false) / 2.0;
        if at - half > taken {
            svg.text(
                (at, top - 11.5),
                &words,
                &Type { size: size - 0.5, bold: false, colour: TEXT, anchor: Anchor::Middle },
            );
            taken = at + half + 2.0;
        }
    }
}

fn trace(svg: &mut Svg, line: &Line, along: &Axis, volts: &Axis) {
    let every = line.profile.len().div_ceil(MOST_POINTS).max(1);
    let wanted = |(k, _): &(usize, &ProfilePoint)| {
        k % every == 0 || k + 1 == line.profile.len() || *k == line.row.row.lowest_index
    };
    let points: Vec<(f64, f64)> = line
        .profile
        .iter()
        .enumerate()
        .filter(wanted)
        .map(|(_, p)| (along.place(p.position.get()), volts.place(p.voltage.get())))
        .collect();
    let (colour, dash) = LINES[line.look];
    if points.len() > 1 {
        svg.line(&points, &Pen { colour, width: 2.0, dash });
    }
    let low = (along.place(line.row.row.lowest_at.get()), volts.place(line.row.row.lowest.get()));
    svg.dot(low, 3.0, colour);
}

/// The scenario, shortened where it is very long.
fn name_of(line: &Line) -> String {
    let size = 10.0;
    fitted(line.row.scenario.name(), size, false, 14.0 * width_of("m", size, false))
}

/// Scenario and lowest voltage beside the end of each line, moved apart where they would lie on each other.
fn labels(svg: &mut Svg, chart: &[Line], volts: &Axis, (x, top, bottom): (f64, f64, f64), size: f64) {
    let mut at: Vec<(f64, &Line)> =
        chart.iter().filter_map(|l| Some((volts.place(l.profile.last()?.voltage.get()), l))).collect();
    at.sort_by(|a, b| a.0.total_cmp(&b.0));
    let step = size + 2.5;
    let mut next = top + size * 0.5;
    for (y, _) in &mut at {
        *y = y.max(next);
        next = *y + step;
    }
    // Pushed beyond the bottom they go up again.
    let mut below = bottom + step;
    for (y, _) in at.iter_mut().rev() {
        *y = y.min(below - step);
        below = *y;
    }
    for (y, line) in at {
        let (colour, _) = LINES[line.look];
        let volts = line.row.row.lowest.to_string();
        let words = format!("{} {volts}", name_of(line));
        svg.text((x, y + size * 0.35), &words, &Type { size, bold: false, colour, anchor: Anchor::Start });
    }
}
