//! panel-order: do strips, rows and tiles of a panel make one data path over its face.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::plan::strip::panel::Panel;
use crate::plan::strip::panel_pixels::usual_pitch;
use crate::plan::wiring::cable::Cable;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Metres;
use crate::topology::panel_map::{PanelMap, counts_differ, problem_in_words};
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// What is wrong with a panel, and what to do.
struct Trouble {
    message: String,
    task: String,
    /// Wanted and there.
    lengths: Option<(Metres, Metres)>,
    /// The pitch that this is connected to, where it is assumed.
    assumed: Option<Figure<Metres>>,
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for panel in &plan.panels {
        let name = &panel.name.text;
        let map = plan.panel_map(name).ok();
        let mut troubles: Vec<Trouble> = size(plan, panel).into_iter().collect();
        troubles.extend(rows(plan, panel));
        troubles.extend(order(plan, panel));
        troubles.extend(map.as_ref().and_then(|map| short_lead(plan, panel, map)));
        let unsaid = panel.strips.len() > 1 && panel.strips.iter().all(|(_, i)| plan.strips[*i].data.is_none());
        if troubles.is_empty() && unsaid {
            let message = format!("cannot check the data order of panel `{name}`: its strips are not chained");
            sink.unknown(name, panel.name.span, message, "chain them with `data.after`, or give each its pin");
            continue;
        }
        if troubles.is_empty() {
            sink.pass(name, || format!("{} pixels in one path", panel.layout.pixels()));
            continue;
        }
        let messages: Vec<&str> = troubles.iter().map(|t| t.message.as_str()).collect();
        let lengths = troubles.iter().find_map(|t| t.lengths);
        let evidence = lengths.map_or_else(Vec::new, |(wanted, there)| {
            vec![Evidence::judged("distance", wanted), Evidence::at_most("cable_length", there, &Origin::Computed)]
        });
        // What is connected to an assumed pitch alone may be right.
        let assumed = troubles.iter().all(|t| t.assumed.is_some());
        let mut draft = Draft::of(if assumed { Severity::Caution } else { Severity::Fault }, &panel.name)
            .says(format!("panel `{name}` is not a single data path: {}", messages.join("; ")))
            .facts(evidence)
            .tasks(troubles.iter().map(|t| t.task.clone()));
        if let Some(pitch) = troubles.iter().find_map(|t| t.assumed.as_ref()) {
            draft = draft.given("pitch", pitch.typical, &pitch.origin);
        }
        sink.find(draft);
    }
}

/// Pixels that do not fill the face.
fn size(plan: &Plan, panel: &Panel) -> Option<Trouble> {
    if let Some(message) = counts_differ(plan, panel) {
        let task = "count again: columns and rows are those of one tile, as its datasheet shows it".into();
        return Some(Trouble { message, task, lengths: None, assumed: None });
    }
    let problem = panel.layout.walk().err()?;
    let message = problem_in_words(panel, problem);
    let task = "turn tiles that are not square by 180° only, or all of them alike".into();
    Some(Trouble { message, task, lengths: None, assumed: None })
}

/// A strip that is cut into other rows than the panel has.
fn rows(plan: &Plan, panel: &Panel) -> Option<Trouble> {
    let layout = &panel.layout;
    let (line, tile) = (layout.line_pixels(), layout.tile_pixels());
    let mut first = 0;
    for (named, i) in &panel.strips {
        let strip = &plan.strips[*i];
        let begins = first;
        first += strip.pixels;
        let Some(rows) = strip.rows.as_ref().filter(|_| !strip.is_panel) else { continue };
        let each = strip.pixels / rows.count;
        let fits = |piece: usize| each == piece && begins % piece == 0;
        // A strip may also be the tiles of a panel, one a piece.
        if fits(line) || (layout.tiles.is_some() && fits(tile)) {
            continue;
        }
        let lines = layout.order.along.word();
        let message = if each == line {
            format!("strip `{}` begins at pixel {begins} of the panel, inside one of its {lines}", named.text)
        } else {
            format!("strip `{}` is split into pieces of {each} pixels; its {lines} have {line}", named.text)
        };
        let task = format!("split `{}` where the {lines} of the panel end", named.text);
        return Some(Trouble { message, task, lengths: None, assumed: None });
    }
    None
}

/// A strip that gets its data from elsewhere than from the strip before it.
fn order(plan: &Plan, panel: &Panel) -> Option<Trouble> {
    let data_of = |i: usize| plan.strips[i].data.as_ref();
    if panel.strips.iter().all(|(_, i)| data_of(*i).is_none()) {
        return None;
    }
    let own: Vec<usize> = panel.strips.iter().map(|(_, i)| *i).collect();
    for (k, (named, i)) in panel.strips.iter().enumerate() {
        let before = k.checked_sub(1).map(|b| &panel.strips[b]);
        let name = &named.text;
        let Some(data) = data_of(*i) else {
            let task = match before {
                Some((b, _)) => format!("chain it: `data = {{ after = \"{}\" }}` on `{name}`", b.text),
                None => format!("name the pin that drives `{name}`: `data = {{ pin = … }}`"),
            };
            return Some(Trouble { message: format!("no data reaches `{name}`"), task, lengths: None, assumed: None });
        };
        let pin_of = |s: &Strip| s.data.as_ref().and_then(|d| d.pin.as_ref()).map(|p| p.name.text.clone());
        let own_pin = data.pin.as_ref().map(|p| &p.name.text);
        let beside =
            plan.strips.iter().enumerate().find(|(o, s)| o != i && own_pin.is_some() && pin_of(s).as_ref() == own_pin);
        if let (Some(pin), Some((_, twin))) = (own_pin, beside) {
            let other = &twin.name.text;
            let message = format!("`{name}` and `{other}` both take their data from `{pin}`");
            let task = format!("they would show the same: chain one behind the other, or give `{other}` its own pin");
            return Some(Trouble { message, task, lengths: None, assumed: None });
        }
        let Some((after, sender)) = &data.after else { continue };
        // The first may hang on a strip that is no part of the panel.
        let wrong = before.map_or(own.contains(sender), |(_, b)| b != sender);
        if wrong {
            let planned =
                before.map_or("it is the first here".to_owned(), |(b, _)| format!("here it follows `{}`", b.text));
            let message = format!("`{name}` takes its data from the end of `{}`, but {planned}", after.text);
            let task = "list the strips in the order of the data, or chain them in the order of the list".into();
            return Some(Trouble { message, task, lengths: None, assumed: None });
        }
        let twin =
            plan.strips.iter().enumerate().find(|(o, s)| {
                o != i && s.data.as_ref().and_then(|d| d.after.as_ref()).is_some_and(|(_, b)| b == sender)
            });
        if let Some((_, twin)) = twin {
            let other = &twin.name.text;
            let message = format!("`{name}` and `{other}` both take their data from the end of `{}`", after.text);
            let task = format!("they would show the same: chain `{other}` behind another end, or give it a pin");
            return Some(Trouble { message, task, lengths: None, assumed: None });
        }
    }
    None
}

/// The cable that is furthest from reaching from where data leaves a piece to where it enters the next.
fn short_lead(plan: &Plan, panel: &Panel, map: &PanelMap) -> Option<Trouble> {
    let assumed = (map.pitch.is_none() && panel.is_its_own_pixels()).then(usual_pitch);
    let (right, down) = map.pitch.or_else(|| assumed.as_ref().map(|p| (p.typical, p.typical)))?;
    // From the last pixel of a piece to its end, and from the beginning of the next to its first: half a pitch each.
    let stubs = right.get().min(down.get());
    let mut worst: Option<(f64, f64, String)> = None;
    let mut judge = |last: usize, lead: Option<f64>, what: String| {
        let (Some(lead), Some(a), Some(b)) = (lead, map.walk.places.get(last), map.walk.places.get(last + 1)) else {
            return;
        };
        let apart = |a: usize, b: usize, pitch: Metres| a.abs_diff(b) as f64 * pitch.get();
        let needs = apart(a.0, b.0, right).hypot(apart(a.1, b.1, down)) - stubs;
        // A cable without a length is ideal.
        if lead > 0.0 && exceeds(needs, lead) && worst.as_ref().is_none_or(|w| needs - lead > w.0 - w.1) {
            worst = Some((needs, lead, what));
        }
    };
    for (k, part) in map.parts.iter().enumerate() {
        let strip: &Strip = &plan.strips[panel.strips[k].1];
        let beyond = part.first + part.pixels;
        if let Some(next) = panel.strips.get(k + 1) {
            let data = plan.strips[next.1].data.as_ref().filter(|d| d.after.is_some());
            let lead = data.and_then(|d| d.cable.as_ref()).and_then(Cable::shortest_m);
            judge(beyond - 1, lead, format!("the data cable from `{}` to `{}`", part.strip, next.0.text));
        }
        let Some(rows) = &strip.rows else { continue };
        let lead = rows.joins.first().and_then(|j| j.cable.as_ref()).and_then(Cable::shortest_m);
        let piece = part.pixels / rows.count;
        for row in 1..rows.count {
            let (from, to) = (row, row + 1);
            let what = if strip.is_panel { "tile" } else { "row" };
            judge(
                part.first + row * piece - 1,
                lead,
                format!("the cable from {what} {from} to {to} of `{}`", part.strip),
            );
        }
    }
    let (needs, lead, what) = worst?;
    let (needs, lead) = (Metres::new(needs), Metres::new(lead));
    Some(Trouble {
        message: format!("{what} is {lead} long; {needs} needed from where data leaves to where it enters"),
        task: format!("use {needs} or more, or bring the corners together: other `turns`, or tiles turned"),
        lengths: Some((needs, lead)),
        assumed,
    })
}
