//! The pins of a plan's boards: what each does, what it carries against what it may, and which are free.

use std::collections::BTreeMap;

use crate::derived::pin_currents::pin_amps;
use crate::plan::kinds::board::Board;
use crate::plan::pins::{Ability, AtBoot, Has, Header, Level, Pin, PinKind};
use crate::quantity::units::{Amps, Ohms};
use crate::review::Review;
use crate::topology::pin_jobs::{Direction, Job, jobs};
use crate::verdict::severity::Severity;

/// The pins of a board.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct BoardPins {
    /// The board.
    pub board: String,
    /// How its header's positions lie.
    pub header: Header,
    /// In the order of the header; pins that a plan names and the board does not list come last.
    pub pins: Vec<PinFigures>,
    /// What all pins carry together at most, continuously.
    pub current: Amps,
    /// What they may carry together.
    pub total: Option<Amps>,
    /// Groups with a total of their own: name, what they carry, what they may.
    pub groups: Vec<(String, Amps, Amps)>,
}

/// What a pin is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum PinRole {
    /// A signal, in or out.
    Io,
    /// A signal, in only.
    Input,
    /// A supply.
    Supply,
    /// Ground.
    Ground,
    /// Resets or enables the board.
    Reset,
    /// Joined to nothing.
    Open,
}

impl PinRole {
    /// In one word, as in JSON: `io`, `input`, `supply`, `ground`, `reset`, `open`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Io => "io",
            Self::Input => "input",
            Self::Supply => "supply",
            Self::Ground => "ground",
            Self::Reset => "reset",
            Self::Open => "open",
        }
    }

    /// True where a signal may use it.
    #[must_use]
    pub const fn is_signal(self) -> bool {
        matches!(self, Self::Io | Self::Input)
    }
}

/// One pin.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct PinFigures {
    /// The chip's name, `io27`; of a pin without one its position.
    pub name: String,
    /// Its position in the header.
    pub position: Option<String>,
    /// What it is for.
    pub role: PinRole,
    /// The board's terminal or output, of a supply pin.
    pub rail: Option<String>,
    /// What it can; `None` where that is not known.
    pub functions: Option<Vec<&'static str>>,
    /// What it loses to the radio.
    pub lost: Vec<&'static str>,
    /// The level that it has to have when the board starts.
    pub boot_level: Option<Level>,
    /// What it does from power-on until the firmware sets it.
    pub at_reset: AtBoot,
    /// What the board takes it for.
    pub reserved: Option<String>,
    /// A resistor that the board has on it to its supply.
    pub pull_up: Option<Ohms>,
    /// Its group.
    pub group: Option<String>,
    /// What the plan does with it.
    pub jobs: Vec<PinJob>,
    /// Out of it, at most continuously.
    pub out: Amps,
    /// Into it.
    pub into: Amps,
    /// What it may carry continuously.
    pub recommended: Option<Amps>,
    /// Its absolute maximum.
    pub absolute: Option<Amps>,
}

/// What a plan does with a pin.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct PinJob {
    /// The item: `shoreline`, `span.2`.
    pub subject: String,
    /// `data`, `clock`, `signal`, `feed`, `sink`, `wire`, `input`, a line of a bus, `select` or `stacked board`.
    pub what: &'static str,
    /// Which way the signal goes.
    pub direction: Direction,
    /// What lies on its way, and where it ends: shifters, and the pin at the far end of a wire.
    pub ends: Vec<String>,
    /// The worst finding about it.
    pub trouble: Option<Severity>,
}

impl PinFigures {
    /// True for a pin that a signal may use and nothing uses.
    #[must_use]
    pub fn is_free(&self) -> bool {
        self.jobs.is_empty() && self.role.is_signal() && self.reserved.is_none()
    }

    /// True where it can do all of `needs`, now, as an input or an output.
    #[must_use]
    pub fn could(&self, needs: &[&str], as_input: bool) -> bool {
        let can = |need: &&str| self.functions.as_ref().is_some_and(|c| c.contains(need)) && !self.lost.contains(need);
        (self.role == PinRole::Io || (self.role == PinRole::Input && as_input)) && needs.iter().all(can)
    }
}

/// Words for abilities, as plans write them.
#[must_use]
pub fn pin_abilities() -> Vec<&'static str> {
    Ability::ALL.iter().map(|(word, _)| *word).collect()
}

impl Review {
    /// The pins of every board of the plan.
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
    ///     [led.beacon]
    ///     part = "led-red"
    ///     from = "keeper.io16"
    ///     resistor = "220 Ω"
    /// "#).unwrap();
    /// let boards = plan.review().pins();
    /// let pin = boards[0].pins.iter().find(|p| p.name == "io16").unwrap();
    /// assert_eq!((pin.position.as_deref(), pin.jobs[0].subject.as_str()), (Some("p27"), "beacon"));
    /// assert!(pin.out.get() > 5e-3 && pin.recommended.is_some_and(|most| pin.out < most));
    /// ```
    #[must_use]
    pub fn pins(&self) -> Vec<BoardPins> {
        let plan = &self.plan;
        let jobs = jobs(plan);
        let context = self.context();
        let mut most: BTreeMap<(usize, String), (f64, f64)> = BTreeMap::new();
        let mut totals = vec![0.0f64; plan.boards.len()];
        let mut groups: BTreeMap<(usize, &str), f64> = BTreeMap::new();
        for o in context.continuous() {
            let Ok(s) = o.sustained.as_ref() else { continue };
            let mut sums = vec![0.0; plan.boards.len()];
            let mut group_sums: BTreeMap<(usize, &str), f64> = BTreeMap::new();
            for ((index, pin), amps) in pin_amps(plan, s) {
                let Some(board) = plan.boards.get(index) else { continue };
                sums[index] += amps.most();
                let listed = board.pins.find(&pin).and_then(|i| board.pins.list.get(i));
                if let Some(group) = listed.and_then(|p| p.group.as_deref()) {
                    *group_sums.entry((index, group)).or_default() += amps.most();
                }
                let at = most.entry((index, pin)).or_default();
                *at = (at.0.max(amps.out), at.1.max(amps.into));
            }
            totals.iter_mut().zip(&sums).for_each(|(t, s)| *t = t.max(*s));
            for (key, sum) in group_sums {
                let at = groups.entry(key).or_default();
                *at = at.max(sum);
            }
        }
        let board = |(i, c): (usize, &Board)| {
            let mut pins: Vec<PinFigures> = c.pins.list.iter().enumerate().map(|(n, pin)| figures(c, n, pin)).collect();
            for job in jobs.iter().filter(|j| j.pin.board == i && !j.pin.is_open()) {
                let at = pins.iter().position(|p| p.name == job.pin.pin).unwrap_or_else(|| {
                    pins.push(unlisted(c, &job.pin.pin));
                    pins.len() - 1
                });
                pins[at].jobs.push(self.job(job));
            }
            for pin in &mut pins {
                if let Some((out, into)) = most.get(&(i, pin.name.clone())) {
                    (pin.out, pin.into) = (Amps::new(*out), Amps::new(*into));
                }
            }
            BoardPins {
                board: c.name.text.clone(),
                header: c.pins.header,
                pins,
                current: Amps::new(totals[i]),
                total: c.pins.total.as_ref().map(|t| t.low),
                groups: (c.pins.groups.iter())
                    .map(|g| {
                        let sum = groups.get(&(i, g.name.as_str())).copied().unwrap_or(0.0);
                        (g.name.clone(), Amps::new(sum), g.total.low)
                    })
                    .collect(),
            }
        };
        plan.boards.iter().enumerate().map(board).collect()
    }

    /// A job with the worst that is said of it.
    fn job(&self, job: &Job<'_>) -> PinJob {
        const ABOUT: [&str; 3] = ["pins", "levels", "inputs"];
        let families: Vec<&str> =
            crate::checks::registry().iter().filter(|c| ABOUT.contains(&c.family)).map(|c| c.code).collect();
        let about = self.findings.iter().filter(|f| f.accepted.is_none() && families.contains(&f.code));
        let own = about.filter(|f| f.subject == job.subject || f.subject == job.name);
        PinJob {
            subject: job.subject.clone(),
            what: job.what,
            direction: job.way,
            ends: job.ends.clone(),
            trouble: own.map(|f| f.severity).max(),
        }
    }
}

fn figures(board: &Board, index: usize, pin: &Pin) -> PinFigures {
    let (recommended, absolute) = board.pins.limits(Some(index), false);
    let lost = |a: &&Ability| board.pins.can(index, **a) == Some(Has::NotWithRadio);
    PinFigures {
        name: pin.name.clone(),
        position: pin.position.clone(),
        role: match pin.kind {
            PinKind::Io => PinRole::Io,
            PinKind::Input => PinRole::Input,
            PinKind::Supply(_) => PinRole::Supply,
            PinKind::Ground => PinRole::Ground,
            PinKind::Reset => PinRole::Reset,
            PinKind::Open => PinRole::Open,
        },
        rail: if let PinKind::Supply(of) = &pin.kind { of.clone() } else { None },
        functions: pin.can.as_ref().filter(|_| pin.is_signal()).map(|c| c.iter().map(|a| a.word()).collect()),
        lost: pin.can.iter().flatten().filter(lost).map(|a| a.word()).collect(),
        boot_level: pin.samples,
        at_reset: pin.boot,
        reserved: pin.reserved.clone(),
        pull_up: pin.pull_up.as_ref().map(|r| r.typical),
        group: pin.group.clone(),
        jobs: Vec::new(),
        out: Amps::new(0.0),
        into: Amps::new(0.0),
        recommended: recommended.filter(|_| pin.is_signal()).map(|f| f.low),
        absolute: absolute.filter(|_| pin.is_signal()).map(|f| f.low),
    }
}

/// A pin of which only the plan's use of it is known.
fn unlisted(board: &Board, name: &str) -> PinFigures {
    let (recommended, absolute) = board.pins.limits(None, false);
    PinFigures {
        name: name.to_owned(),
        position: None,
        role: PinRole::Io,
        rail: None,
        functions: None,
        lost: Vec::new(),
        boot_level: None,
        at_reset: AtBoot::Floats,
        reserved: None,
        pull_up: None,
        group: None,
        jobs: Vec::new(),
        out: Amps::new(0.0),
        into: Amps::new(0.0),
        recommended: recommended.map(|f| f.low),
        absolute: absolute.map(|f| f.low),
    }
}
