//! A coil that is turned off: its current against time, from the formula, with the marks that matter.

use super::FigureError;
use modest_ohm::Review;
use modest_ohm::checks::nearest_name;
use modest_ohm::size::{ReleaseNeed, current_after, release};
use modest_ohm::units::{Amps, Seconds, Volts};
use modest_ohm::views::ReleaseRow;

use super::axis::Axis;
use super::svg::{Anchor, Pen, Svg, Type, fitted};

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const TEXT: &str = "#1e2328";
const QUIET: &str = "#5b6167";
const PALE: &str = "#d9dde0";
const CURRENT: &str = "#17526b";
const OTHER: &str = "#4f7d2c";
const MARK: &str = "#b4532a";
/// The chart: left, top, right, bottom.
const CHART: [f64; 4] = [110.0, 150.0, 880.0, 700.0];
/// Where the words beside the chart begin.
const ASIDE: f64 = 920.0;
const POINTS: usize = 240;
/// The Zener diode that is shown beside it: the usual way to let go sooner.
const ZENER_V: f64 = 24.0;

/// Draws how the current of a coil goes on when it is turned off: of the load named, or of the only one.
///
/// # Errors
/// [`FigureError::Nothing`]: no such load, no coil behind a switch, no inductance, no path.
pub fn release_svg(review: &Review, of: &[String]) -> Result<String, FigureError> {
    let rows = review.releases();
    let row = one(&rows, of).map_err(FigureError::Nothing)?;
    let Some(need) = row.need else {
        return Err(FigureError::Nothing(format!(
            "the inductance of `{}` is not given, or it never runs: measure it and write `inductance = \"60 mH\"`",
            row.name
        )));
    };
    let title = format!("{}: {} turns off", review.plan().title(), row.name);
    let path = row.path.replace('`', "");
    let what = format!("The current of {} after {} opens, {path}.", row.name, row.channel);
    let mut svg = Svg::new(WIDTH, HEIGHT, &title, &what);
    let strong = Type { size: 19.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    svg.text((24.0, 34.0), &fitted(review.plan().title(), 19.0, true, 800.0), &strong);
    svg.text((24.0, 62.0), &what, &Type { size: 14.0, bold: false, colour: QUIET, anchor: Anchor::Start });
    if row.release.is_none() {
        without(&mut svg, row, &need);
        return Ok(svg.finish());
    }
    let quick = ReleaseNeed { path: need.path + Volts::new(ZENER_V), ..need };
    chart(&mut svg, &need, &quick);
    aside(&mut svg, row, &need, &quick);
    Ok(svg.finish())
}

fn one<'r>(rows: &'r [ReleaseRow], of: &[String]) -> Result<&'r ReleaseRow, String> {
    let names: Vec<&str> = rows.iter().map(|r| r.name.as_str()).collect();
    match of {
        [name] => {
            rows.iter().find(|r| r.name == *name).ok_or_else(|| match nearest_name(name, names.iter().copied()) {
                Some(near) => format!("no switched coil or motor `{name}`; did you mean `{near}`?"),
                None if names.is_empty() => "this plan switches no coil or motor".into(),
                None => format!("no switched coil or motor `{name}`; this plan has: {}", names.join(", ")),
            })
        }
        [] => match rows {
            [] => Err("this plan switches no coil or motor".into()),
            [only] => Ok(only),
            _ => Err(format!("name one with --item; this plan has: {}", names.join(", "))),
        },
        _ => Err("one coil or motor per picture: name one with --item".into()),
    }
}

/// What there is to say where nothing takes the current.
fn without(svg: &mut Svg, row: &ReleaseRow, need: &ReleaseNeed) {
    let plain = Type { size: 16.0, bold: false, colour: TEXT, anchor: Anchor::Start };
    let bad = Type { bold: true, colour: MARK, ..plain };
    svg.text((24.0, 130.0), "No path is known for this current.", &bad);
    let energy = release(need).energy;
    svg.text((24.0, 165.0), &format!("{} flows at turn-off: {energy} in the coil.", need.current), &plain);
    let end = match row.breaks_down {
        Some((energy, volts)) => format!("The switch breaks down at {volts} and absorbs {energy}, each time."),
        None => "The voltage rises until something breaks down or an arc absorbs the energy.".to_owned(),
    };
    svg.text((24.0, 200.0), &end, &plain);
    svg.text(
        (24.0, 235.0),
        "A diode across it, cathode to positive, keeps the switch just above the supply voltage.",
        &plain,
    );
}

fn chart(svg: &mut Svg, need: &ReleaseNeed, quick: &ReleaseNeed) {
    let [left, top, right, bottom] = CHART;
    let (own, other) = (release(need), release(quick));
    let span = (own.time.get() * 1.6).min(own.until_still.get()).max(other.until_still.get() * 1.1).max(1e-9);
    let (scale, unit) = unit_of(span);
    let x = Axis::new((0.0, span * scale), (left, right));
    let y = Axis::new((0.0, need.current.get() * 1.08), (bottom, top));
    let quiet = |anchor| Type { size: 13.0, bold: false, colour: QUIET, anchor };
    let grid = Pen { colour: PALE, width: 1.0, dash: "" };
    let (marks, decimals) = x.marks();
    for mark in marks {
        let at = x.place(mark);
        svg.line(&[(at, top), (at, bottom)], &grid);
        svg.text((at, bottom + 22.0), &format!("{mark:.decimals$}"), &quiet(Anchor::Middle));
    }
    for mark in y.marks().0 {
        let at = y.place(mark);
        svg.line(&[(left, at), (right, at)], &grid);
        svg.text((left - 10.0, at + 4.0), &Amps::new(mark).to_string(), &quiet(Anchor::End));
    }
    svg.text(
        ((left + right) / 2.0, bottom + 48.0),
        &format!("time after the switch opens, {unit}"),
        &quiet(Anchor::Middle),
    );
    svg.text((left, top - 14.0), "current in the coil", &quiet(Anchor::Start));
    // Where it turns off.
    let holds = need.partial_power_down.get() * need.current.get();
    let level = y.place(holds);
    svg.line(&[(left, level), (right, level)], &Pen { colour: MARK, width: 1.4, dash: "6 4" });
    svg.text(
        (right - 6.0, level - 7.0),
        &format!("releases at {}, {} of it", Amps::new(holds), need.partial_power_down),
        &Type { colour: MARK, ..quiet(Anchor::End) },
    );
    let curve = |n: &ReleaseNeed| -> Vec<(f64, f64)> {
        let point = |k: usize| {
            let t = span * k as f64 / POINTS as f64;
            (x.place(t * scale), y.place(current_after(n, Seconds::new(t)).get()))
        };
        (0..=POINTS).map(point).collect()
    };
    svg.line(&curve(quick), &Pen { colour: OTHER, width: 2.0, dash: "7 4" });
    svg.line(&curve(need), &Pen { colour: CURRENT, width: 3.0, dash: "" });
    for (r, colour) in [(other, OTHER), (own, CURRENT)] {
        let at = (x.place(r.time.get() * scale), level);
        svg.line(&[at, (at.0, bottom)], &Pen { colour, width: 1.2, dash: "3 3" });
        svg.dot(at, 5.0, colour);
        // Left of the mark nothing lies below the level, unless the axis is too near.
        let room = at.0 - left > 80.0;
        let (x, anchor) = if room { (at.0 - 7.0, Anchor::End) } else { (at.0 + 7.0, Anchor::Start) };
        svg.text((x, bottom - 9.0), &r.time.to_string(), &Type { bold: true, colour, ..quiet(anchor) });
    }
}

fn aside(svg: &mut Svg, row: &ReleaseRow, need: &ReleaseNeed, quick: &ReleaseNeed) {
    let plain = Type { size: 14.0, bold: false, colour: TEXT, anchor: Anchor::Start };
    let head = |colour| Type { size: 15.0, bold: true, colour, anchor: Anchor::Start };
    let room = WIDTH - ASIDE - 16.0;
    let mut y = CHART[1] + 10.0;
    let mut say = |svg: &mut Svg, text: &str, look: &Type<'_>, gap: f64| {
        y += gap;
        svg.text((ASIDE, y), &fitted(text, look.size, look.bold, room), look);
    };
    say(svg, "At turn-off", &head(TEXT), 0.0);
    say(svg, &format!("{}, {} supply", need.current, need.supply), &plain, 24.0);
    say(svg, &format!("{} and {} of the coil", need.ohms, need.inductance), &plain, 21.0);
    let own = release(need);
    say(svg, &format!("{} stored", own.energy), &plain, 21.0);
    for (n, title, colour) in [(need, "As planned", CURRENT), (quick, "With an additional 24 V Zener diode", OTHER)] {
        let r = release(n);
        say(svg, title, &head(colour), 42.0);
        say(svg, &format!("releases after {}", r.time), &plain, 24.0);
        say(svg, &format!("zero after {}", r.until_still), &plain, 21.0);
        let stands = row.max.map_or_else(String::new, |s| format!(" of {s} rated"));
        let over = row.max.is_some_and(|s| r.peak > s);
        let look = if over { Type { colour: MARK, bold: true, ..plain } } else { plain };
        say(svg, &format!("voltage at the switch {}", r.peak), &look, 21.0);
        if !stands.is_empty() {
            say(svg, stands.trim_start_matches(", "), &look, 19.0);
        }
    }
    let quiet = Type { size: 12.5, bold: false, colour: QUIET, anchor: Anchor::Start };
    say(svg, "i(t) = (I + V/R)·e^(−t·R/L) − V/R", &quiet, 46.0);
    say(svg, "V: voltage drop of the path", &quiet, 19.0);
}

/// Factor and unit in which a time is read easily.
fn unit_of(seconds: f64) -> (f64, &'static str) {
    match seconds {
        s if s < 1e-3 => (1e6, "µs"),
        s if s < 1.0 => (1e3, "ms"),
        _ => (1.0, "s"),
    }
}
