//! The pins of a plan's boards, by position in the header; which are free; and pins proposed for what has none.

use std::fmt::Write as _;

use modest_ohm::{Amps, BoardPins, NoAssignment, PinAssignment, PinFigures, Severity};
use serde::Serialize;

use crate::json::{self, maybe, number};
use crate::sheet::csv;
use crate::style::{QUIET, SOUND, STRONG, of, paint};
use crate::table::{numbers, wrap};
use crate::{Input, Layout};

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
    let width = layout.width;
    if boards.is_empty() {
        return "the plan has no board\n".into();
    }
    let mut out = String::new();
    for (n, board) in boards.iter().enumerate() {
        if n > 0 {
            out.push('\n');
        }
        out.push_str(&one_board(board, width));
    }
    let note = "carries: direct current at the most, for long, out of the pin (+) or into it (−). may: recommended, and the \
                absolute maximum. start: what the pin does until the firmware sets it; needs: the level that it has to have \
                then.";
    let _ = writeln!(out, "{}", paint(QUIET, &wrap(note, width, 0)));
    out
}

fn one_board(board: &BoardPins, width: usize) -> String {
    let mut out = format!("{}\n", paint(STRONG, &format!("Pins of {}", board.board)));
    if board.pins.is_empty() {
        let note = "nothing is said of its pins, and nothing uses one; name its class with `part`, or list its `pins`";
        let _ = writeln!(out, "{}", paint(QUIET, &wrap(note, width, 0)));
        return out;
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
    out.push_str(&numbers(&["place", "pin", "job", "carries", "may", "start", "can besides"], rows.collect(), width));
    if !all.is_empty() {
        let _ = writeln!(out, "{}", wrap(&format!("every output can: {}", all.join(", ")), width, 0));
    }
    let mut sums = vec![match board.total {
        Some(total) => format!("all pins together carry {} of {total}", board.carries),
        None => format!("all pins together carry {}", board.carries),
    }];
    sums.extend(board.groups.iter().map(|(name, amps, total)| format!("group {name}: {amps} of {total}")));
    let _ = writeln!(out, "{}", wrap(&sums.join("; "), width, 0));
    out
}

fn job_words(pin: &PinFigures) -> String {
    match pin.kind {
        "supply" => return pin.of.clone().unwrap_or_else(|| "supply".into()),
        "ground" | "reset" => return pin.kind.to_owned(),
        "open" => return "not connected".into(),
        _ => {}
    }
    if pin.jobs.is_empty() {
        return pin.reserved.as_ref().map_or_else(|| "free".to_owned(), |r| format!("({r})"));
    }
    let job = |j: &modest_ohm::PinJob| {
        let mark = match j.trouble {
            Some(severity) if severity > Severity::Unknown => format!(" [{}]", severity.word()),
            Some(_) => " [unknown]".into(),
            None => String::new(),
        };
        format!("{}{mark}", job_name(j))
    };
    pin.jobs.iter().map(job).collect::<Vec<_>>().join(", ")
}

/// `open (wire) → lift → gate.d7`.
pub(crate) fn job_name(job: &modest_ohm::PinJob) -> String {
    let arrow = if job.way == "in" { "←" } else { "→" };
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
    match (pin.kind, pin.samples) {
        ("io" | "input", Some(level)) if pin.boot == level => format!("needs {level}"),
        ("io" | "input", Some(level)) => format!("{}, needs {level}", pin.boot),
        ("io", None) if pin.boot != "floats" => pin.boot.to_owned(),
        ("io" | "input", None) => String::new(),
        _ => String::new(),
    }
}

/// What every pin of a board can that may be an output.
pub(crate) fn common(board: &BoardPins) -> Vec<&'static str> {
    let mut outputs = board.pins.iter().filter(|p| p.kind == "io").filter_map(|p| p.can.as_ref());
    let Some(first) = outputs.next() else { return Vec::new() };
    outputs.fold(first.clone(), |all, can| all.into_iter().filter(|a| can.contains(a)).collect())
}

/// What a pin can besides what all of its board can.
fn abilities(pin: &PinFigures, all: &[&'static str]) -> String {
    if pin.kind == "input" {
        let own = pin.can.clone().unwrap_or_default();
        return format!("input only: {}", if own.is_empty() { "levels".into() } else { own.join(" ") });
    }
    let word = |a: &&'static str| if pin.lost.contains(a) { format!("{a} (not with radio)") } else { (*a).to_owned() };
    let mut words: Vec<String> = pin.can.iter().flatten().filter(|a| !all.contains(a)).map(word).collect();
    if let Some(ohms) = pin.pull_up {
        words.push(format!("pulled up, {ohms}"));
    }
    words.join(" ")
}

/// Free pins that could take a job, board by board, the best first.
#[must_use]
pub fn free_pins_text(boards: &[BoardPins], wanted: &Wanted, layout: Layout) -> String {
    let width = layout.width;
    let mut out = String::new();
    let needs: Vec<&str> = wanted.abilities.iter().map(String::as_str).collect();
    for board in boards {
        let free = free_pins(board, &needs, wanted.as_input);
        let what = if needs.is_empty() { String::new() } else { format!(" that can {}", needs.join(", ")) };
        let way = if wanted.as_input { "inputs" } else { "outputs" };
        let _ = writeln!(out, "{}", paint(STRONG, &format!("Free pins of {} as {way}{what}", board.board)));
        if free.is_empty() {
            let _ = writeln!(out, "none");
            continue;
        }
        let rows = free.iter().map(|p| {
            let place = p.position.clone().unwrap_or_else(|| "–".into());
            vec![p.name.clone(), place, may(p), caveat(p)]
        });
        out.push_str(&numbers(&["pin", "place", "may", "mind"], rows.collect(), width));
    }
    out
}

fn free_pins<'b>(board: &'b BoardPins, needs: &[&str], as_input: bool) -> Vec<&'b PinFigures> {
    let mut free: Vec<&PinFigures> = board.pins.iter().filter(|p| p.is_free() && p.could(needs, as_input)).collect();
    free.sort_by_key(|p| (p.samples.is_some(), p.boot != "floats"));
    free
}

fn caveat(pin: &PinFigures) -> String {
    let start = match (pin.samples, pin.boot) {
        (Some(level), _) => format!("has to be {level} when the board starts"),
        (None, "pulses") => "pulses while the board starts".into(),
        (None, "high") => "high until the firmware sets it".into(),
        _ => String::new(),
    };
    let pulled = pin.pull_up.map(|r| format!("pulled up on the board, {r}"));
    [Some(start).filter(|s| !s.is_empty()), pulled].into_iter().flatten().collect::<Vec<_>>().join("; ")
}

/// Pins for what has none, or why there are none.
#[must_use]
pub fn assignment_text(found: &Result<PinAssignment, NoAssignment>, layout: Layout) -> String {
    let width = layout.width;
    let found = match found {
        Ok(found) => found,
        Err(why) => return format!("{}\n{}\n", paint(STRONG, "No allocation"), wrap(&why.to_string(), width, 0)),
    };
    if found.pins.is_empty() {
        return "every signal of the plan has its pin; write `pin = \"board.any\"` where one is to be chosen\n".into();
    }
    let mut out = format!("{}\n", paint(STRONG, "Pins for what has none"));
    let rows = found.pins.iter().map(|p| {
        vec![
            p.subject.clone(),
            p.what.to_owned(),
            format!("{}.{}", p.board, p.pin),
            p.position.clone().unwrap_or_else(|| "–".into()),
            p.notes.join("; "),
        ]
    });
    out.push_str(&numbers(&["for", "job", "pin", "place", "mind"], rows.collect(), width));
    let _ = writeln!(out, "{}", paint(QUIET, "in the plan:"));
    for p in &found.pins {
        let _ = writeln!(out, "  {} = \"{}.{}\"", p.path, p.board, p.pin);
    }
    if found.findings.is_empty() {
        let _ = writeln!(out, "{}", paint(SOUND, "tried on a copy of the plan: nothing new is found"));
    } else {
        let _ = writeln!(out, "tried on a copy of the plan, it finds:");
        for (severity, message) in &found.findings {
            let word = paint(of(*severity), severity.word());
            let _ = writeln!(out, "  {word} {}", wrap(message, width.saturating_sub(10), 10));
        }
    }
    out
}

#[derive(Serialize)]
struct PinsShape<'a> {
    format: u32,
    plan: &'a str,
    boards: Vec<BoardShape<'a>>,
}

#[derive(Serialize)]
struct BoardShape<'a> {
    board: &'a str,
    header: &'a str,
    carries_a: Option<f64>,
    total_a: Option<f64>,
    groups: Vec<GroupShape<'a>>,
    pins: Vec<PinShape<'a>>,
}

#[derive(Serialize)]
struct GroupShape<'a> {
    name: &'a str,
    carries_a: Option<f64>,
    total_a: Option<f64>,
}

#[derive(Serialize)]
struct PinShape<'a> {
    name: &'a str,
    position: Option<&'a str>,
    kind: &'a str,
    of: Option<&'a str>,
    free: bool,
    can: Option<&'a [&'static str]>,
    lost_to_radio: &'a [&'static str],
    samples: Option<&'a str>,
    boot: &'a str,
    reserved: Option<&'a str>,
    group: Option<&'a str>,
    pull_up_ohm: Option<f64>,
    out_a: Option<f64>,
    into_a: Option<f64>,
    recommended_a: Option<f64>,
    absolute_a: Option<f64>,
    jobs: Vec<JobShape<'a>>,
}

#[derive(Serialize)]
struct JobShape<'a> {
    subject: &'a str,
    job: &'a str,
    way: &'a str,
    ends: &'a [String],
    trouble: Option<&'a str>,
}

fn board_shape(board: &BoardPins, keep: impl Fn(&PinFigures) -> bool) -> BoardShape<'_> {
    BoardShape {
        board: &board.board,
        header: board.header,
        carries_a: number(board.carries),
        total_a: maybe(board.total),
        groups: (board.groups.iter())
            .map(|(name, amps, total)| GroupShape { name, carries_a: number(*amps), total_a: number(*total) })
            .collect(),
        pins: board.pins.iter().filter(|p| keep(p)).map(pin_shape).collect(),
    }
}

fn pin_shape(p: &PinFigures) -> PinShape<'_> {
    PinShape {
        name: &p.name,
        position: p.position.as_deref(),
        kind: p.kind,
        of: p.of.as_deref(),
        free: p.is_free(),
        can: p.can.as_deref(),
        lost_to_radio: &p.lost,
        samples: p.samples,
        boot: p.boot,
        reserved: p.reserved.as_deref(),
        group: p.group.as_deref(),
        pull_up_ohm: maybe(p.pull_up),
        out_a: number(p.out),
        into_a: number(p.into),
        recommended_a: maybe(p.recommended),
        absolute_a: maybe(p.absolute),
        jobs: (p.jobs.iter())
            .map(|j| JobShape {
                subject: &j.subject,
                job: j.what,
                way: j.way,
                ends: &j.ends,
                trouble: j.trouble.map(Severity::word),
            })
            .collect(),
    }
}

/// The pins of every board as JSON; with `wanted` the free ones only that could do it.
#[must_use]
pub fn pins_json(input: &Input<'_>, boards: &[BoardPins], wanted: Option<&Wanted>) -> String {
    let keep = |p: &PinFigures| {
        wanted.is_none_or(|w| {
            let needs: Vec<&str> = w.abilities.iter().map(String::as_str).collect();
            p.is_free() && p.could(&needs, w.as_input)
        })
    };
    let boards = boards.iter().map(|b| board_shape(b, keep)).collect();
    json::pretty(&PinsShape { format: json::FORMAT, plan: input.path, boards })
}

/// A row a pin, as CSV.
#[must_use]
pub fn pins_csv(boards: &[BoardPins], wanted: Option<&Wanted>) -> String {
    let heading = [
        "board",
        "position",
        "pin",
        "kind",
        "jobs",
        "out_a",
        "into_a",
        "recommended_a",
        "absolute_a",
        "samples",
        "boot",
        "reserved",
        "can",
    ];
    let amps = |a: Option<Amps>| a.map_or_else(String::new, |a| a.get().to_string());
    let needs: Vec<&str> = wanted.iter().flat_map(|w| w.abilities.iter().map(String::as_str)).collect();
    let keep = |p: &&PinFigures| wanted.is_none_or(|w| p.is_free() && p.could(&needs, w.as_input));
    let rows = boards.iter().flat_map(|b| {
        b.pins.iter().filter(keep).map(|p| {
            let jobs: Vec<String> = p.jobs.iter().map(|j| format!("{} {}", j.subject, j.what)).collect();
            vec![
                b.board.clone(),
                p.position.clone().unwrap_or_default(),
                p.name.clone(),
                p.kind.to_owned(),
                jobs.join("; "),
                amps(Some(p.out)),
                amps(Some(p.into)),
                amps(p.recommended),
                amps(p.absolute),
                p.samples.unwrap_or_default().to_owned(),
                p.boot.to_owned(),
                p.reserved.clone().unwrap_or_default(),
                p.can.as_ref().map_or_else(String::new, |c| c.join(" ")),
            ]
        })
    });
    csv(&heading, rows)
}

#[derive(Serialize)]
struct AssignmentShape<'a> {
    format: u32,
    plan: &'a str,
    possible: bool,
    why_not: Option<String>,
    pins: Vec<AssignedShape<'a>>,
    findings: Vec<FindingShape<'a>>,
}

#[derive(Serialize)]
struct AssignedShape<'a> {
    subject: &'a str,
    job: &'a str,
    board: &'a str,
    pin: &'a str,
    position: Option<&'a str>,
    path: &'a str,
    value: String,
    notes: &'a [String],
}

#[derive(Serialize)]
struct FindingShape<'a> {
    severity: &'a str,
    message: &'a str,
}

/// The same as JSON; `path` and `value` are an edit of the plan.
#[must_use]
pub fn assignment_json(input: &Input<'_>, found: &Result<PinAssignment, NoAssignment>) -> String {
    let pins = found.as_ref().map_or(&[][..], |f| f.pins.as_slice());
    let findings = found.as_ref().map_or(&[][..], |f| f.findings.as_slice());
    json::pretty(&AssignmentShape {
        format: json::FORMAT,
        plan: input.path,
        possible: found.is_ok(),
        why_not: found.as_ref().err().map(ToString::to_string),
        pins: (pins.iter())
            .map(|p| AssignedShape {
                subject: &p.subject,
                job: p.what,
                board: &p.board,
                pin: &p.pin,
                position: p.position.as_deref(),
                path: &p.path,
                value: format!("\"{}.{}\"", p.board, p.pin),
                notes: &p.notes,
            })
            .collect(),
        findings: findings.iter().map(|(s, message)| FindingShape { severity: s.word(), message }).collect(),
    })
}
