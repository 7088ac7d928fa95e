//! Pins for everything that has none yet: an allocation that keeps what is fixed, or the proof that there is none.
//!
//! Jobs and pins are matched at least cost (Hungarian method, by shortest augmenting paths): a pin that can more than
//! its job needs, or does something at the start, costs. Where groups of pins have totals of their own, and the
//! cheapest matching exceeds one, all allocations are searched, the cheapest first.

pub(crate) mod groups;
pub(crate) mod matching;
pub(crate) mod why;

use std::collections::BTreeMap;

use crate::derived::pin_currents::pin_amps;
use crate::plan::model::Plan;
use crate::plan::pins::{Ability, AtBoot, Has, Level, Pin, PinKind};
use crate::plan::resolve::pin_refs::pins_mut;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::units::Amps;
use crate::solved::opto::opto_amps;
use crate::solved::outcome::{Lift, solve_all};
use crate::topology::pin_jobs::{Direction, Job, jobs};
use crate::topology::signals::hops;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;
use groups::within_groups;
use matching::cheapest;
use why::NoAssignment;

/// A pin for a job.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Assigned {
    /// The item: `beacon`, `span.2`.
    pub subject: String,
    /// What the pin does for it: `data`, `signal` …
    pub what: &'static str,
    /// The board.
    pub board: String,
    /// The chip's name.
    pub pin: String,
    /// Its position in the header.
    pub position: Option<String>,
    /// Where the plan names it: `led.beacon.from`.
    pub path: String,
    /// What is worth knowing of the pin.
    pub notes: Vec<String>,
}

/// Pins for everything that had none, tried on a copy of the plan.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct PinAssignment {
    /// In the order of the plan; empty where nothing was open.
    pub pins: Vec<Assigned>,
    /// What the review says of pins and levels with them that it does not say without: severity and message. Empty
    /// where the allocation is sound.
    pub findings: Vec<(Severity, String)>,
}

/// A job without a pin.
pub(crate) struct Open<'p> {
    job: Job<'p>,
    /// Its place among all jobs.
    at: usize,
    /// What it puts on its pin, A.
    amps: f64,
}

/// A pin that is free.
pub(crate) struct Free<'p> {
    board: usize,
    index: usize,
    pin: &'p Pin,
}

impl Plan {
    /// Names of the items that have pins, each once: strips, loads, LEDs, wires, inputs, buses, sensors.
    #[must_use]
    pub fn signals(&self) -> Vec<String> {
        let mut names: Vec<String> = Vec::new();
        for job in jobs(self).iter().filter(|j| !j.claim) {
            let name = item(&job.subject);
            if !names.contains(&name) {
                names.push(name);
            }
        }
        names
    }

    /// Pins for everything whose pin is written as `board.any`; `also` names items whose pins are to be chosen anew.
    ///
    /// # Errors
    /// Where no allocation satisfies abilities, currents, totals and levels at the start, which jobs compete for which
    /// pins.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "adapter"
    ///     voltage = "5 V"
    ///     current = "1 A"
    ///     [board.keeper]
    ///     part = "wifi-board-3v3"
    ///     from = "wall"
    ///     [input.dusk]
    ///     pin = "keeper.any"
    ///     kind = "voltage"
    ///     high = "2 V"
    ///     reads = "analogue"
    /// "#).unwrap();
    /// let pins = plan.assign_pins(&[]).unwrap();
    /// // An input-only pin with a converter of its own: nothing else could use it as well.
    /// assert_eq!(pins.pins[0].pin, "io36");
    /// ```
    pub fn assign_pins(&self, also: &[String]) -> Result<PinAssignment, NoAssignment> {
        let mut plan = self.clone();
        let anew: Vec<bool> =
            jobs(&plan).iter().map(|j| j.pin.is_open() || (also.contains(&item(&j.subject)) && !j.claim)).collect();
        for (pin, anew) in pins_mut(&mut plan).into_iter().zip(&anew) {
            if *anew {
                (pin.index, pin.pin) = (None, crate::plan::wiring::pin::OPEN_PIN.to_owned());
            }
        }
        let chosen = choose(&plan)?;
        for (at, pin) in pins_mut(&mut plan).into_iter().enumerate() {
            if let Some((_, chosen)) = chosen.iter().find(|(n, _)| *n == at) {
                *pin = chosen.clone();
            }
        }
        Ok(PinAssignment { pins: told(&plan, &chosen), findings: new_findings(self, plan) })
    }
}

/// `span.2` belongs to `span`.
fn item(subject: &str) -> String {
    subject.split('.').next().unwrap_or(subject).to_owned()
}

/// The pins chosen for open jobs, by their place among all jobs.
fn choose(plan: &Plan) -> Result<Vec<(usize, PinAt)>, NoAssignment> {
    let all = jobs(plan);
    let (_, outcomes) = solve_all(plan, Lift::None);
    let own = own_amps(plan, &outcomes, &all);
    let open: Vec<Open<'_>> = (all.iter().enumerate())
        .filter(|(_, j)| j.pin.is_open())
        .map(|(at, j)| Open { job: j.clone(), at, amps: own[at] })
        .collect();
    if let Some(bare) = open.iter().map(|o| &plan.boards[o.job.pin.board]).find(|c| c.pins.list.is_empty()) {
        return Err(NoAssignment::NotListed(bare.name.text.clone()));
    }
    board_totals(plan, &all, &own, &open)?;
    let free: Vec<Free<'_>> = (plan.boards.iter().enumerate())
        .flat_map(|(c, board)| board.pins.list.iter().enumerate().map(move |(i, pin)| (c, i, pin)))
        .filter(|(c, i, _)| !all.iter().any(|j| j.pin.board == *c && j.pin.index == Some(*i)))
        .map(|(board, index, pin)| Free { board, index, pin })
        .collect();
    let costs: Vec<Vec<Option<u32>>> = open.iter().map(|o| free.iter().map(|f| cost(plan, o, f)).collect()).collect();
    let matched = cheapest(&costs).map_err(|jobs| {
        let able = |f: usize| jobs.iter().any(|j| costs[*j][f].is_some());
        let name = |f: &Free<'_>| format!("`{}.{}`", plan.boards[f.board].name.text, f.pin.name);
        NoAssignment::TooFew {
            jobs: jobs.iter().map(|j| wish(plan, &open[*j])).collect(),
            pins: (0..free.len()).filter(|f| able(*f)).map(|f| name(&free[f])).collect(),
        }
    })?;
    let matched = within_groups(plan, &all, &own, &open, &free, &costs, matched)?;
    let pin = |f: usize| {
        let Free { board, index, pin } = &free[f];
        PinAt { board: *board, index: Some(*index), pin: pin.name.clone() }
    };
    Ok(open.iter().zip(matched).map(|(o, f)| (o.at, pin(f))).collect())
}

/// What a job is and what it needs, in words; of one that no pin of its board carries both numbers.
fn wish(plan: &Plan, open: &Open<'_>) -> String {
    let job = &open.job;
    let limit = plan.boards[job.pin.board].pins.limits(None, job.what == "sink");
    let limit = limit.0.or(limit.1).filter(|l| exceeds(open.amps, l.low.get()));
    let amps = limit.map_or_else(String::new, |l| format!(", {}; a pin is rated {}", Amps::new(open.amps), l.low));
    let needs: Vec<&str> = job.needs.iter().map(|n| n.word()).collect();
    let needs = if needs.is_empty() { String::new() } else { format!(", needs {}", needs.join(", ")) };
    let way = if job.way == Direction::In { "input" } else { "output" };
    format!("`{}` ({}, {way}{needs}{amps})", job.subject, job.what)
}

/// What each job puts on its pin at most, A.
fn own_amps(plan: &Plan, outcomes: &[crate::solved::outcome::Outcome], all: &[Job<'_>]) -> Vec<f64> {
    let states = || outcomes.iter().filter(|o| o.case.continuous).filter_map(|o| o.sustained.as_ref().ok());
    let mut pins: BTreeMap<(usize, String), f64> = BTreeMap::new();
    for s in states() {
        for (key, amps) in pin_amps(plan, s) {
            let most = pins.entry(key).or_default();
            *most = most.max(amps.most());
        }
    }
    let of_load = |subject: &str| {
        let load = plan.loads.iter().position(|l| l.name.text == subject)?;
        states().map(|s| s.current_into(load)).reduce(f64::max)
    };
    let hops = hops(plan);
    let opto_of = |subject: &str| {
        let own = hops.iter().filter(|h| h.names.1 == subject);
        let most = own.filter_map(|h| {
            let opto = h.opto(plan)?;
            let amps = |s| Some(opto_amps(plan, h, opto, opto.from.is_none(), s)?.1);
            states().filter_map(amps).reduce(f64::max)
        });
        most.fold(0.0, f64::max)
    };
    let draws = |job: &Job<'_>| {
        let load = plan.loads.iter().find(|l| l.name.text == item(&job.subject));
        let wire = plan.wires.iter().find(|w| w.name.text == job.subject && job.what == "wire");
        let signal = load.and_then(|l| l.signal.as_ref()).filter(|_| job.what == "signal").map(|s| &s.input);
        let input = signal.or(wire.map(|w| &w.input));
        let opto = input.and_then(|i| i.opto.as_ref()).map_or(0.0, |_| opto_of(&job.subject));
        input.and_then(|i| i.draws.as_ref()).map_or(opto, |d| d.high.get())
    };
    let amps = |job: &Job<'_>| match job.what {
        "feed" | "sink" => of_load(&job.subject).unwrap_or(0.0),
        _ if job.pin.is_open() => draws(job),
        _ => pins.get(&(job.pin.board, job.pin.pin.clone())).copied().unwrap_or(0.0),
    };
    all.iter().map(amps).collect()
}

/// The sum over a board's pins does not depend on which they are.
fn board_totals(plan: &Plan, all: &[Job<'_>], own: &[f64], open: &[Open<'_>]) -> Result<(), NoAssignment> {
    for (c, board) in plan.boards.iter().enumerate() {
        let Some(total) = board.pins.total.as_ref().filter(|_| open.iter().any(|o| o.job.pin.board == c)) else {
            continue;
        };
        let sum: f64 = all.iter().zip(own).filter(|(j, _)| j.pin.board == c).map(|(_, a)| a).sum();
        if exceeds(sum, total.low.get()) {
            return Err(NoAssignment::Total {
                board: board.name.text.clone(),
                amps: Amps::new(sum).to_string(),
                total: total.low.to_string(),
            });
        }
    }
    Ok(())
}

/// What a pin costs for a job; `None` where it cannot do it.
fn cost(plan: &Plan, open: &Open<'_>, free: &Free<'_>) -> Option<u32> {
    let (job, pin) = (&open.job, free.pin);
    if job.pin.board != free.board || pin.reserved.is_some() {
        return None;
    }
    let way = match pin.kind {
        PinKind::Io => true,
        PinKind::Input => job.way == Direction::In,
        _ => false,
    };
    let pins = &plan.boards[free.board].pins;
    let able = |need: &Ability| pins.can(free.index, *need) == Some(Has::Yes);
    let unknown = job.needs.is_empty() || pin.can.is_some();
    if !way || !unknown || !job.needs.iter().all(able) {
        return None;
    }
    if pin.samples.is_some_and(|wants| job.pulls.iter().any(|pulls| pulls.to != wants)) {
        return None;
    }
    if let Some(rests) = job.rests
        && !matches!(pin.boot, AtBoot::Floats)
        && pin.boot != AtBoot::At(rests)
    {
        return None;
    }
    let (recommended, absolute) = pins.limits(Some(free.index), job.what == "sink");
    let most = recommended.or(absolute).map_or(f64::INFINITY, |f| f.low.get());
    if exceeds(open.amps, most) {
        return None;
    }
    let spare = pin.can.iter().flatten().filter(|a| !job.needs.contains(a) && is_rare(**a)).count() as u32;
    let start = match (pin.samples, pin.boot) {
        (Some(_), _) => 20,
        (None, AtBoot::Pulses) if job.way == Direction::Out => 10,
        (None, AtBoot::At(Level::High)) if job.way == Direction::Out => 4,
        _ => 0,
    };
    // What an input needs an input-only pin can do as well as any.
    let io = u32::from(pin.kind == PinKind::Io && job.way == Direction::In);
    // A pull-up that the board has is in the way of all but buses.
    let pulled = if pin.pull_up.is_some() && job.together.is_none() { 6 } else { 0 };
    Some(2 * spare + start + io + pulled)
}

/// Abilities that only some pins of a board have, as a rule.
fn is_rare(ability: Ability) -> bool {
    matches!(ability, Ability::Analogue | Ability::Dac | Ability::I2cData | Ability::I2cClock | Ability::Serial)
}

fn told(plan: &Plan, chosen: &[(usize, PinAt)]) -> Vec<Assigned> {
    let all = jobs(plan);
    let one = |(at, pin): &(usize, PinAt)| {
        let job = all.get(*at)?;
        let board = plan.boards.get(pin.board)?;
        let listed = board.pins.list.get(pin.index?)?;
        let mut notes = Vec::new();
        if let Some(level) = listed.samples {
            notes.push(format!("must be {} when the board boots; its job leaves it so", level.word()));
        }
        match listed.boot {
            AtBoot::Pulses => notes.push("pulses while the board boots".into()),
            AtBoot::At(Level::High) if job.way == Direction::Out => {
                notes.push("high until the firmware sets it".into())
            }
            _ => {}
        }
        Some(Assigned {
            subject: job.subject.clone(),
            what: job.what,
            board: board.name.text.clone(),
            pin: pin.pin.clone(),
            position: listed.position.clone(),
            path: job.path.clone(),
            notes,
        })
    };
    chosen.iter().filter_map(one).collect()
}

/// What the review says of pins and levels with the pins chosen, and not without.
fn new_findings(before: &Plan, after: Plan) -> Vec<(Severity, String)> {
    const ABOUT: [&str; 4] = ["pins", "levels", "inputs", "leds"];
    let about = |plan: &Plan| -> Vec<(Severity, &'static str, String, String)> {
        let codes: Vec<&str> =
            crate::checks::registry().iter().filter(|c| ABOUT.contains(&c.family)).map(|c| c.code).collect();
        let review = plan.review();
        let own = review.findings().iter().filter(|f| codes.contains(&f.code) && f.accepted.is_none());
        own.map(|f| (f.severity, f.code, f.subject.clone(), f.message.clone())).collect()
    };
    let known = about(before);
    about(&after)
        .into_iter()
        .filter(|(s, code, subject, _)| !known.iter().any(|k| (k.0, k.1, &k.2) == (*s, *code, subject)))
        .map(|(severity, _, _, message)| (severity, message))
        .collect()
}
