//! The pins of a plan's boards, and pins proposed, as JSON and CSV.

use modest_ohm::Severity;
use modest_ohm::advise::{NoAssignment, PinAssignment};
use modest_ohm::units::Amps;
use modest_ohm::views::{BoardPins, Level, PinFigures};
use serde::Serialize;

use crate::Input;
use crate::json::{self, maybe, number};
use crate::pins::Wanted;
use crate::sheet::csv;

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
    current_a: Option<f64>,
    total_a: Option<f64>,
    groups: Vec<GroupShape<'a>>,
    pins: Vec<PinShape<'a>>,
}

#[derive(Serialize)]
struct GroupShape<'a> {
    name: &'a str,
    current_a: Option<f64>,
    total_a: Option<f64>,
}

#[derive(Serialize)]
struct PinShape<'a> {
    name: &'a str,
    position: Option<&'a str>,
    kind: &'a str,
    rail: Option<&'a str>,
    free: bool,
    functions: Option<&'a [&'static str]>,
    lost_to_radio: &'a [&'static str],
    boot_level: Option<&'a str>,
    at_reset: &'a str,
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
    direction: &'a str,
    ends: &'a [String],
    trouble: Option<&'a str>,
}

fn board_shape(board: &BoardPins, keep: impl Fn(&PinFigures) -> bool) -> BoardShape<'_> {
    BoardShape {
        board: &board.board,
        header: board.header.word(),
        current_a: number(board.current),
        total_a: maybe(board.total),
        groups: (board.groups.iter())
            .map(|(name, amps, total)| GroupShape { name, current_a: number(*amps), total_a: number(*total) })
            .collect(),
        pins: board.pins.iter().filter(|p| keep(p)).map(pin_shape).collect(),
    }
}

fn pin_shape(p: &PinFigures) -> PinShape<'_> {
    PinShape {
        name: &p.name,
        position: p.position.as_deref(),
        kind: p.role.word(),
        rail: p.rail.as_deref(),
        free: p.is_free(),
        functions: p.functions.as_deref(),
        lost_to_radio: &p.lost,
        boot_level: p.boot_level.map(Level::word),
        at_reset: p.at_reset.word(),
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
                direction: j.direction.word(),
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
        "boot_level",
        "at_reset",
        "reserved",
        "functions",
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
                p.role.word().to_owned(),
                jobs.join("; "),
                amps(Some(p.out)),
                amps(Some(p.into)),
                amps(p.recommended),
                amps(p.absolute),
                p.boot_level.map_or("", Level::word).to_owned(),
                p.at_reset.word().to_owned(),
                p.reserved.clone().unwrap_or_default(),
                p.functions.as_ref().map_or_else(String::new, |c| c.join(" ")),
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
    reason: Option<String>,
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
        reason: found.as_ref().err().map(ToString::to_string),
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
