//! firmware-differs: what the maker says is set in the firmware against the plan.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::panel::PanelLayout;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::plan::strip::firmware::Firmware;
use crate::plan::strip::panel::Panel;
use crate::quantity::figure::Figure;
use crate::quantity::units::Amps;
use crate::source::Span;
use crate::topology::data_lines::lines;
use crate::verdict::compare::at_most;

/// Firmware limits closer than this share are one.
const SAME_LIMIT: f64 = 0.01;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for panel in plan.panels.iter().filter(|p| !p.is_its_own_pixels()) {
        if let Some(set) = &panel.setting {
            tell(sink, &panel.name.text, set.span, &layout(panel).into_iter().collect::<Vec<_>>(), Vec::new());
        }
    }
    for (i, strip) in plan.strips.iter().enumerate() {
        let Some(set) = &strip.firmware else { continue };
        let name = &strip.name.text;
        let mut evidence = Vec::new();
        let firmware_limit =
            plan.shared_limit(i).map(|c| &plan.firmware_limits[c].current).or(strip.firmware_limit.as_ref());
        let panel = plan.panels.iter().find(|p| strip.is_panel && p.name.text == *name);
        let differs = [
            count(plan, i, set),
            pin(plan, strip, set),
            class(strip, set),
            order(strip, set),
            panel.and_then(layout),
            firmware_limits(set.firmware_limit.as_ref(), firmware_limit, &mut evidence),
        ];
        let differs: Vec<String> = differs.into_iter().flatten().collect();
        tell(sink, name, set.span, &differs, evidence);
    }
}

fn tell(sink: &mut Sink, name: &str, span: Span, differs: &[String], evidence: Vec<Evidence>) {
    if differs.is_empty() {
        sink.pass(name, || "the firmware is set as planned".into());
        return;
    }
    sink.find(
        Draft::fault((name, span))
            .says(format!("the firmware of `{name}` is set to {}", differs.join("; ")))
            .facts(evidence)
            .task("set the firmware to the plan's values, or correct the plan"),
    );
}

/// What the firmware takes a panel for: settings in other words that come to the same are no difference.
fn layout(panel: &Panel) -> Option<String> {
    let set = panel.setting.as_ref()?;
    let taken = set.on(&panel.layout);
    // Both said as they are seen from the side that the firmware's words are meant from.
    let planned = &panel.layout.seen_from(taken.seen);
    if taken.walk() == planned.walk() {
        return None;
    }
    let size = |l: &PanelLayout| format!("{} columns by {} rows", l.columns, l.rows);
    let turned = |l: &PanelLayout| match l.turned_tiles() {
        Some(each) => {
            let each: Vec<String> = each.iter().map(|r| format!("{}°", r.degrees())).collect();
            format!("tiles rotated by {}", each.join(", "))
        }
        None => format!("rotated by {}°", l.rotated.degrees()),
    };
    let seen = |l: &PanelLayout| format!("seen from the {}", l.seen.word());
    let mut said: Vec<(String, String)> =
        vec![(size(&taken), size(planned)), (turned(&taken), turned(planned)), (seen(&taken), seen(planned))];
    said.retain(|(taken, planned)| taken != planned);
    let (a, b) = (taken.order, planned.order);
    let pairs = [
        ("entry", a.entry.word(), b.entry.word()),
        ("along", a.along.word(), b.along.word()),
        ("turns", a.turns.word(), b.turns.word()),
    ];
    said.extend(
        pairs.into_iter().filter(|(_, a, b)| a != b).map(|(key, a, b)| (format!("`{key} = {a}`"), format!("`{b}`"))),
    );
    let said: Vec<String> = said.into_iter().map(|(a, b)| format!("{a}; plan says {b}")).collect();
    let seen = if panel.layout.seen == taken.seen {
        String::new()
    } else {
        format!(" (both seen from the {})", taken.seen.word())
    };
    Some(format!("{}{seen}", said.join("; ")))
}

/// Only where the plan or the class says an order.
fn order(strip: &Strip, set: &Firmware) -> Option<String> {
    let (said, planned) = (set.order.as_ref()?, strip.order.as_ref()?);
    let said = said.text.to_ascii_lowercase();
    (said != *planned).then(|| format!("colour order `{said}`; plan says `{planned}`"))
}

/// The pixels of the strip, or of all strips on its line: firmware may count either.
fn count(plan: &Plan, strip: usize, set: &Firmware) -> Option<String> {
    let count = set.count?;
    let own = plan.strips[strip].pixels;
    let line = lines(plan).into_iter().find(|l| l.strips.first() == Some(&strip)).map_or(own, |l| l.pixels(plan));
    let planned = if line == own { own.to_string() } else { format!("{own}, {line} on its line") };
    (count != own && count != line).then(|| format!("{count} pixels; plan says {planned}"))
}

/// `io27`, or with its board.
fn pin(plan: &Plan, strip: &Strip, set: &Firmware) -> Option<String> {
    let said = &set.pin.as_ref()?.text;
    let Some(pin) = strip.data.as_ref().and_then(|d| d.pin.as_ref()) else {
        return Some(format!("pin `{said}`; plan gives it no pin"));
    };
    let whole = &pin.name.text;
    let board = &plan.boards[pin.at.board];
    // In either numbering, with or without the board.
    let bare = said.strip_prefix(&format!("{}.", board.name.text)).unwrap_or(said);
    let same = bare == pin.at.pin || (pin.at.index.is_some() && board.pins.find(bare) == pin.at.index);
    (!same).then(|| format!("pin `{said}`; plan says `{whole}`"))
}

fn class(strip: &Strip, set: &Firmware) -> Option<String> {
    let said = &set.class.as_ref()?.text;
    match &strip.class {
        Some(class) => (class != said).then(|| format!("part `{said}`; plan says `{class}`")),
        None => Some(format!("part `{said}`; plan names none")),
    }
}

fn firmware_limits(
    said: Option<&Figure<Amps>>,
    planned: Option<&Figure<Amps>>,
    evidence: &mut Vec<Evidence>,
) -> Option<String> {
    let said = said?;
    let near = |a: Amps, b: Amps| at_most((a - b).get().abs(), SAME_LIMIT * b.get().abs());
    if planned.is_some_and(|p| near(said.typical, p.typical)) {
        return None;
    }
    evidence.push(Evidence::judged_as_given("set", said.typical, &said.origin));
    evidence.extend(planned.map(|p| Evidence::context("planned", p.typical, &p.origin)));
    let planned =
        planned.map_or_else(|| "plan has no firmware limit".to_owned(), |p| format!("plan says {}", p.typical));
    Some(format!("a firmware limit of {}; {planned}", said.typical))
}
