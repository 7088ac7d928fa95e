//! The pins of a plan's boards, by position in the header; which are free; and pins proposed for what has none.

use modest_ohm::Severity;
use modest_ohm::advise::{NoAssignment, PinAssignment};
use modest_ohm::units::Amps;
use modest_ohm::views::{AtBoot, BoardPins, Direction, Level, PinFigures, PinRole};

use crate::Layout;
use crate::document::{Block, Document, Table, list, named, prose, values, words};

/// What a question for free pins asks.
#[derive(Clone, Debug, Default)]
pub struct Wanted {
    /// Abilities, as plans write them.
    pub abilities: Vec<String>,
    /// True where an input is enough.
    pub as_input: bool,
}

/// The pins of every board, by position.
#[must_use]
pub fn pins_text(boards: &[BoardPins], layout: Layout) -> String {
    pins(boards).text(layout.width)
}

/// The pins of every board, before anybody decides how wide.
pub(crate) fn pins(boards: &[BoardPins]) -> Document {
    let mut page = Document::default();
    if boards.is_empty() {
        page.paragraph("the plan has no board");
        return page;
    }
    for (n, board) in boards.iter().enumerate() {
        if n > 0 {
            page.gap();
        }
        one_board(&mut page, board);
    }
    page.note(
        "carries: largest continuous DC; + sourced, − sunk. rating: recommended, and the absolute maximum. at reset: \
        what the pin does until the firmware sets it; needs: the level that it must have then.",
    );
    page
}

fn one_board(page: &mut Document, board: &BoardPins) {
    page.heading(format!("Pins of {}", board.board));
    if board.pins.is_empty() {
        page.note("its pins are not given, and none is used; set `part`, or list its `pins`");
        return;
    }
    let all = common(board);
    let rows = board.pins.iter().map(|p| {
        vec![
            p.position.clone().unwrap_or_else(|| "–".into()),
            if p.position.as_deref() == Some(p.name.as_str()) { String::new() } else { p.name.clone() },
            job_words(p),
            carries(p),
            if p.jobs.is_empty() { String::new() } else { may(p) },
            start(p),
            abilities(p, &all),
        ]
    });
    let heading = [
        named("position"),
        words("pin"),
        list("job"),
        values("carries"),
        values("rating"),
        words("at reset"),
        prose("other functions"),
    ];
    page.table(Table::new(heading, rows));
    if !all.is_empty() {
        page.paragraph(format!("every output has: {}", all.join(", ")));
    }
    let mut sums = vec![match board.total {
        Some(total) => format!("all pins together carry {}; rated {total}", board.current),
        None => format!("all pins together carry {}", board.current),
    }];
    sums.extend(board.groups.iter().map(|(name, amps, total)| format!("group {name}: {amps}; rated {total}")));
    page.paragraph(sums.join("; "));
}

fn job_words(pin: &PinFigures) -> String {
    let fixed = match pin.role {
        PinRole::Supply => Some(pin.rail.clone().unwrap_or_else(|| "supply".into())),
        PinRole::Ground | PinRole::Reset => Some(pin.role.word().to_owned()),
        PinRole::Open => Some("not connected".into()),
        _ => None,
    };
    // A job on such a position is a mistake, and what the reader looks for.
    if let Some(fixed) = fixed.as_ref().filter(|_| pin.jobs.is_empty()) {
        return fixed.clone();
    }
    if pin.jobs.is_empty() {
        let free = if pin.role == PinRole::Input { "free, input only" } else { "free" };
        return pin.reserved.as_ref().map_or_else(|| free.to_owned(), |r| format!("({r})"));
    }
    let job = |j: &modest_ohm::views::PinJob| {
        let mark = match j.trouble {
            Some(severity) if severity > Severity::Unknown => format!(" [{}]", severity.word()),
            Some(_) => " [unknown]".into(),
            None => String::new(),
        };
        format!("{}{mark}", job_name(j))
    };
    let jobs = pin.jobs.iter().map(job).collect::<Vec<_>>().join(", ");
    fixed.map_or(jobs.clone(), |fixed| format!("{fixed}: {jobs}"))
}

/// `open (wire) → lift → gate.d7`.
pub(crate) fn job_name(job: &modest_ohm::views::PinJob) -> String {
    let arrow = if job.direction == Direction::In { "←" } else { "→" };
    let ends: String = job.ends.iter().map(|e| format!(" {arrow} {e}")).collect();
    format!("{} ({}){ends}", job.subject, job.what)
}

fn carries(pin: &PinFigures) -> String {
    let zero = |a: Amps| a.get() <= 0.0;
    match (zero(pin.out), zero(pin.into)) {
        (true, true) if pin.jobs.is_empty() => "–".into(),
        (true, true) => "0 A".into(),
        (false, true) => format!("+{}", pin.out),
        (true, false) => format!("−{}", pin.into),
        (false, false) => format!("+{} −{}", pin.out, pin.into),
    }
}

fn may(pin: &PinFigures) -> String {
    match (pin.recommended, pin.absolute) {
        (Some(r), Some(a)) => format!("{r}, {a}"),
        (Some(a), None) | (None, Some(a)) => a.to_string(),
        (None, None) => "–".into(),
    }
}

fn start(pin: &PinFigures) -> String {
    match pin.boot_level {
        _ if !pin.role.is_signal() => String::new(),
        Some(level) if pin.at_reset == AtBoot::At(level) => format!("needs {}", level.word()),
        Some(level) => format!("{}, needs {}", pin.at_reset.word(), level.word()),
        None if pin.role == PinRole::Io && pin.at_reset != AtBoot::Floats => pin.at_reset.word().to_owned(),
        None => String::new(),
    }
}

/// What every pin of a board can that may be an output.
pub(crate) fn common(board: &BoardPins) -> Vec<&'static str> {
    let mut outputs = board.pins.iter().filter(|p| p.role == PinRole::Io).filter_map(|p| p.functions.as_ref());
    let Some(first) = outputs.next() else { return Vec::new() };
    outputs.fold(first.clone(), |all, can| all.into_iter().filter(|a| can.contains(a)).collect())
}

/// What a pin can in addition to what all of its board can.
fn abilities(pin: &PinFigures, all: &[&'static str]) -> String {
    if pin.role == PinRole::Input {
        let own = pin.functions.clone().unwrap_or_default();
        return own.join(" ");
    }
    let word = |a: &&'static str| if pin.lost.contains(a) { format!("{a} (not with radio)") } else { (*a).to_owned() };
    let mut words: Vec<String> = pin.functions.iter().flatten().filter(|a| !all.contains(a)).map(word).collect();
    if let Some(ohms) = pin.pull_up {
        words.push(format!("pulled up, {ohms}"));
    }
    words.join(" ")
}

/// Free pins that could take a job, board by board, the best first.
#[must_use]
pub fn free_pins_text(boards: &[BoardPins], wanted: &Wanted, layout: Layout) -> String {
    free_pins_page(boards, wanted).text(layout.width)
}

fn free_pins_page(boards: &[BoardPins], wanted: &Wanted) -> Document {
    let mut page = Document::default();
    let needs: Vec<&str> = wanted.abilities.iter().map(String::as_str).collect();
    for board in boards {
        let free = free_pins(board, &needs, wanted.as_input);
        let what = if needs.is_empty() { String::new() } else { format!(" with {}", needs.join(", ")) };
        let way = if wanted.as_input { "inputs" } else { "outputs" };
        page.heading(format!("Free pins of {} as {way}{what}", board.board));
        if free.is_empty() {
            page.paragraph("none");
            continue;
        }
        let rows = free.iter().map(|p| {
            let place = p.position.clone().unwrap_or_else(|| "–".into());
            vec![p.name.clone(), place, may(p), caveat(p)]
        });
        page.table(Table::new([named("pin"), words("position"), values("rating"), prose("mind")], rows));
    }
    page
}

fn free_pins<'b>(board: &'b BoardPins, needs: &[&str], as_input: bool) -> Vec<&'b PinFigures> {
    let mut free: Vec<&PinFigures> = board.pins.iter().filter(|p| p.is_free() && p.could(needs, as_input)).collect();
    free.sort_by_key(|p| (p.boot_level.is_some(), p.at_reset != AtBoot::Floats));
    free
}

fn caveat(pin: &PinFigures) -> String {
    let start = match (pin.boot_level, pin.at_reset) {
        (Some(level), _) => format!("must be {} at boot", level.word()),
        (None, AtBoot::Pulses) => "pulses at boot".into(),
        (None, AtBoot::At(Level::High)) => "high until the firmware sets it".into(),
        _ => String::new(),
    };
    let pulled = pin.pull_up.map(|r| format!("pulled up on the board, {r}"));
    [Some(start).filter(|s| !s.is_empty()), pulled].into_iter().flatten().collect::<Vec<_>>().join("; ")
}

/// Pins for what has none, or why there are none.
#[must_use]
pub fn assignment_text(found: &Result<PinAssignment, NoAssignment>, layout: Layout) -> String {
    assignment(found).text(layout.width)
}

fn assignment(found: &Result<PinAssignment, NoAssignment>) -> Document {
    let mut page = Document::default();
    let found = match found {
        Ok(found) => found,
        Err(why) => {
            page.heading("No allocation");
            page.paragraph(why.to_string());
            return page;
        }
    };
    if found.pins.is_empty() {
        page.paragraph("every signal of the plan has its pin; write `pin = \"board.any\"` where one is to be chosen");
        return page;
    }
    page.heading("Proposed pins");
    let rows = found.pins.iter().map(|p| {
        vec![
            p.subject.clone(),
            p.what.to_owned(),
            format!("{}.{}", p.board, p.pin),
            p.position.clone().unwrap_or_else(|| "–".into()),
            p.notes.join("; "),
        ]
    });
    page.table(Table::new([named("for"), list("job"), words("pin"), words("position"), prose("mind")], rows));
    page.note("in the plan:");
    page.push(Block::Lines(found.pins.iter().map(|p| format!("{} = \"{}.{}\"", p.path, p.board, p.pin)).collect()));
    if found.findings.is_empty() {
        page.push(Block::Sound("tried on a copy of the plan: no new findings".into()));
    } else {
        page.paragraph("tried on a copy of the plan; new findings:");
        page.0.extend(found.findings.iter().map(|(severity, message)| Block::Judged(*severity, message.clone())));
    }
    page
}
