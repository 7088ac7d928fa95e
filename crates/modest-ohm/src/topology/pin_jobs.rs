//! What a plan does with the pins of its boards: every job with what it asks of its pin.

use std::collections::HashMap;

use crate::plan::driver::channels::Enable;
use crate::plan::driver::figures::GateDriver;
use crate::plan::driver::{Driver, DriverKind};
use crate::plan::kinds::input::{Input, Sampled, Source as InputSource};
use crate::plan::model::Plan;
use crate::plan::pins::{Ability, Level};
use crate::plan::wiring::pin::{PinAt, PinRef};
use crate::source::Span;

/// Which way a signal goes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum Direction {
    /// Out of the board.
    Out,
    /// Into it.
    In,
    /// Either may pull the line low; nobody drives it high.
    Shared,
}

impl Direction {
    /// In one word, as in JSON: `out`, `in`, `shared`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Out => "out",
            Self::In => "in",
            Self::Shared => "shared",
        }
    }
}

/// What a plan's thing asks of a pin.
#[derive(Clone, Debug)]
pub(crate) struct Job<'p> {
    /// The item that it belongs to: `shoreline`, `span.2`, `mast`.
    pub subject: String,
    /// `data`, `clock`, `signal`, `feed`, `sink`, `input` …
    pub what: &'static str,
    pub pin: &'p PinAt,
    /// `keeper.io27`.
    pub name: String,
    pub span: Span,
    pub way: Direction,
    pub needs: Vec<Ability>,
    /// True where it shares its pin on purpose.
    pub mirror: bool,
    /// What the same pin may serve together.
    pub together: Option<Together>,
    /// The levels at which it may hold the pin while the board starts.
    pub pulls: Vec<Pulls>,
    /// True where a stacked board takes the pin for itself.
    pub claim: bool,
    /// The level at which what is fed from it rests, where it has to until the firmware runs.
    pub rests: Option<Level>,
    /// Where the plan names the pin: `led.beacon.from`.
    pub path: String,
    /// What lies on its way, and where it ends, by name.
    pub ends: Vec<String>,
}

impl Job<'_> {
    /// Its pin in words, with its position in the header.
    pub fn pin_words(&self, plan: &Plan) -> String {
        plan.pin_words(self.pin)
    }
}

/// Which jobs may share a pin.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Together {
    Bus(usize),
    /// A pin that a stacked board shares as part of a bus.
    StackedBus,
    /// The pin that several wires start at.
    WireStart,
    /// The receiving end of wires; their senders are judged by another check.
    WireEnd,
}

/// What something does to the level of a pin that nobody drives.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Pulls {
    pub to: Level,
    /// False where it does so only occasionally, as a contact that may be closed.
    pub always: bool,
}

/// All jobs of a plan, in its order.
pub(crate) fn jobs(plan: &Plan) -> Vec<Job<'_>> {
    let mut jobs = Vec::new();
    strips(plan, &mut jobs);
    loads(plan, &mut jobs);
    drivers(plan, &mut jobs);
    wires(plan, &mut jobs);
    inputs(plan, &mut jobs);
    buses(plan, &mut jobs);
    stacks(plan, &mut jobs);
    // What could not be resolved is a problem of the text.
    jobs.retain(|j| j.pin.board < plan.boards.len());
    // By the pin that it is, not as the plan wrote it: one that is chosen on a copy of the plan is no longer `any`.
    jobs.iter_mut().for_each(|j| j.name = plan.pin_name(j.pin));
    jobs
}

fn of<'p>(subject: &str, what: &'static str, pin: &'p PinRef, span: Span, way: Direction) -> Job<'p> {
    Job { span: pin.name.span.unwrap_or(span), ..at(subject, what, &pin.at, span, way) }
}

fn at<'p>(subject: &str, what: &'static str, pin: &'p PinAt, span: Span, way: Direction) -> Job<'p> {
    Job {
        subject: subject.to_owned(),
        what,
        pin,
        name: String::new(),
        span,
        way,
        needs: Vec::new(),
        mirror: false,
        together: None,
        pulls: Vec::new(),
        claim: false,
        rests: None,
        path: String::new(),
        ends: Vec::new(),
    }
}

fn hops(through: &[(crate::text::Named, crate::plan::wiring::through::Stage)]) -> Vec<String> {
    through.iter().map(|(name, _)| name.text.clone()).collect()
}

fn strips<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    for strip in &plan.strips {
        let Some(data) = &strip.data else { continue };
        for (pin, what, key) in [(&data.pin, "data", "pin"), (&data.clock, "clock", "clock")] {
            let Some(pin) = pin else { continue };
            let path = format!("{}.{}.data.{key}", strip.word(), strip.name.text);
            let ends = hops(&data.through);
            jobs.push(Job {
                mirror: data.mirror,
                path,
                ends,
                ..of(&strip.name.text, what, pin, strip.name.span, Direction::Out)
            });
        }
    }
}

fn loads<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    for (i, load) in plan.loads.iter().enumerate() {
        let led = plan.leds.iter().find(|l| l.load == i);
        let mirror = led.map_or(load.mirror, |l| l.mirror);
        let (out, sink) = load.feed.pins();
        let span_of = |r: Option<Span>| r.unwrap_or(load.name.span);
        let item = format!("{}.{}", load.kind.word(), load.name.text);
        let rests = |on: Level| load.rests_off.then_some(if on == Level::High { Level::Low } else { Level::High });
        if let Some(pin) = out {
            let span = span_of(load.feed.from.name.span);
            // It lies between the pin and ground.
            let pulls = vec![Pulls { to: Level::Low, always: true }];
            let (rests, path) = (rests(Level::High), format!("{item}.from"));
            let job = at(&load.name.text, "feed", pin, span, Direction::Out);
            jobs.push(Job { mirror, pulls, rests, path, ..job });
        }
        if let Some(pin) = sink {
            let span = span_of(load.feed.back.as_ref().and_then(|b| b.to.name.span));
            let pulls = vec![Pulls { to: Level::High, always: true }];
            let (rests, key) = (rests(Level::Low), if led.is_some() { "sink" } else { "return.to" });
            let path = format!("{item}.{key}");
            let job = at(&load.name.text, "sink", pin, span, Direction::Out);
            jobs.push(Job { mirror, pulls, rests, path, ..job });
        }
        let Some(signal) = &load.signal else { continue };
        for (m, pin) in signal.pins.iter().enumerate() {
            let subject = if signal.pins.len() == 1 { load.name.text.clone() } else { load.member(m) };
            let job = of(&subject, "signal", pin, signal.line.span, Direction::Out);
            let key = if signal.is_table { "signal.pins" } else { "signal" };
            let path = if signal.is_list { format!("{item}.{key}[{m}]") } else { format!("{item}.{key}") };
            let rests = rests(Level::High);
            let ends = hops(&signal.line.through);
            jobs.push(Job { needs: signal.line.needs.clone(), mirror: load.mirror, rests, path, ends, ..job });
        }
    }
}

fn drivers<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    for driver in &plan.drivers {
        let item = format!("driver.{}", driver.name.text);
        let pwm = driver.pwm.as_ref().map(|_| Ability::Pwm);
        for channel in &driver.channels {
            let own = channel.name.strip_prefix(&format!("{}.", driver.name.text)).filter(|_| !channel.only);
            let base = own.map_or_else(|| item.clone(), |c| format!("{item}.channels.{c}"));
            for (n, pin) in channel.pins.iter().enumerate() {
                let what = driver.input_word();
                let mut needs = driver.line.needs.clone();
                needs.extend(pwm.filter(|_| !matches!(channel.enable, Enable::Pin(_))));
                let path =
                    if driver.kind == DriverKind::Bridge { format!("{base}.pins[{n}]") } else { format!("{base}.pin") };
                let (pulls, rests) = (driver.pulls().into_iter().collect(), driver.rests_at());
                let ends = hops(&driver.line.through);
                let job = of(&channel.name, what, pin, channel.span, Direction::Out);
                jobs.push(Job { needs, mirror: driver.mirror, pulls, rests, path, ends, ..job });
            }
            if let Enable::Pin(pin) = &channel.enable {
                let pull = driver.bridge().and_then(|b| b.enable_pull.as_ref());
                let pulls = pull.map(|_| Pulls { to: Level::Low, always: true }).into_iter().collect();
                let rests = (driver.rests_off == Some(true)).then_some(Level::Low);
                let needs = pwm.into_iter().collect();
                let path = format!("{base}.enable");
                jobs.push(Job {
                    needs,
                    pulls,
                    rests,
                    path,
                    ..of(&channel.name, "enable", pin, channel.span, Direction::Out)
                });
            }
        }
    }
}

impl Driver {
    /// What a pin drives in it.
    pub(crate) fn input_word(&self) -> &'static str {
        match self.kind {
            DriverKind::Npn | DriverKind::Darlington => "base",
            DriverKind::Nmos | DriverKind::Pmos => "gate",
            _ => "input",
        }
    }

    /// The level of its pin at which it is off.
    pub(crate) fn off_level(&self) -> Level {
        match self.fet().map(|f| &f.gate) {
            Some(GateDriver::Pin) if self.kind == DriverKind::Pmos => Level::High,
            _ if self.active_low => Level::High,
            _ => Level::Low,
        }
    }

    fn rests_at(&self) -> Option<Level> {
        let off = self.off_level();
        self.rests_off.map(|wished| match (wished, off) {
            (true, level) => level,
            (false, Level::Low) => Level::High,
            (false, Level::High) => Level::Low,
        })
    }

    /// What it does to its pin while nobody drives it.
    fn pulls(&self) -> Option<Pulls> {
        let to = |to| Some(Pulls { to, always: true });
        match self.kind {
            DriverKind::Nmos | DriverKind::MosfetModule => self.fet()?.pull.as_ref().and_then(|_| to(Level::Low)),
            DriverKind::Pmos => match &self.fet()?.gate {
                GateDriver::Pin => self.fet()?.pull.as_ref().and_then(|_| to(Level::High)),
                _ => to(Level::Low),
            },
            // A base, and the LED of an input, take what would lift the pin.
            DriverKind::Npn | DriverKind::Darlington | DriverKind::SolidState => to(Level::Low),
            DriverKind::RelayModule => to(if self.active_low { Level::High } else { Level::Low }),
            DriverKind::Bridge | DriverKind::Relay => None,
        }
    }
}

fn wires<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    for wire in &plan.wires {
        let (name, span) = (&wire.name.text, wire.name.span);
        let way = if wire.open_drain { Direction::Shared } else { Direction::Out };
        let (together, path) = (Some(Together::WireStart), format!("wire.{name}.pin"));
        let mut ends = hops(&wire.line.through);
        ends.extend(wire.to.as_ref().map(|to| plan.pin_name(&to.at)));
        let job = of(name, "wire", &wire.pin, span, way);
        jobs.push(Job { needs: wire.line.needs.clone(), together, path, ends, ..job });
        if let Some(to) = &wire.to {
            let way = match (wire.open_drain, wire.bidirectional) {
                (true, _) => Direction::Shared,
                (false, true) => Direction::Out,
                (false, false) => Direction::In,
            };
            let together = Some(Together::WireEnd);
            let path = format!("wire.{name}.to");
            let mut ends = vec![plan.pin_name(&wire.pin.at)];
            ends.extend(hops(&wire.line.through));
            ends.reverse();
            jobs.push(Job { together, path, ends, ..of(name, "wire", to, span, way) });
        }
    }
}

fn inputs<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    for input in &plan.inputs {
        let mut needs = input.needs.clone();
        if input.analogue {
            needs.push(Ability::Analogue);
        }
        match input.sampled {
            Some(Sampled::Interrupt) => needs.push(Ability::Interrupt),
            Some(Sampled::Count) => needs.push(Ability::Count),
            _ => {}
        }
        if input.pull.as_ref().is_some_and(|p| p.ohms.is_none()) {
            needs.push(if input.pulls_up() { Ability::PullUp } else { Ability::PullDown });
        }
        let job = of(&input.name.text, "input", &input.pin, input.name.span, Direction::In);
        jobs.push(Job { needs, pulls: pulls_of(input), path: format!("input.{}.pin", input.name.text), ..job });
    }
}

/// What an input may do to its pin while the board starts: the level of its own pull, and that of what drives it, which
/// wins while it is closed.
fn pulls_of(input: &Input) -> Vec<Pulls> {
    let pull = input.pull.as_ref().filter(|p| p.ohms.is_some());
    let up = input.pulls_up();
    let to = |up: bool| if up { Level::High } else { Level::Low };
    let driven = |up| Pulls { to: to(up), always: false };
    let held = match &input.divider {
        // Its lower resistor holds the pin low whatever happens at the other end.
        Some(_) => Some(Level::Low),
        None => pull.map(|_| to(up)),
    };
    let mut pulls: Vec<Pulls> = held.map(|to| Pulls { to, always: true }).into_iter().collect();
    match &input.source {
        InputSource::Contact { to: Some(_), .. } => pulls.push(driven(true)),
        InputSource::Contact { to: None, .. } | InputSource::OpenCollector { .. } => pulls.push(driven(false)),
        InputSource::Swing { .. } => pulls.extend([driven(false), driven(true)]),
    }
    pulls
}

fn buses<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    use crate::plan::kinds::bus::BusKind;
    for (i, bus) in plan.buses.iter().enumerate() {
        for (line, pin) in &bus.lines {
            let need = match (bus.kind, *line) {
                (BusKind::I2c, "data") => Ability::I2cData,
                (BusKind::I2c, _) => Ability::I2cClock,
                (BusKind::Spi, _) => Ability::Spi,
            };
            let way = match (bus.kind, *line) {
                (BusKind::I2c, _) => Direction::Shared,
                (BusKind::Spi, "in") => Direction::In,
                (BusKind::Spi, _) => Direction::Out,
            };
            // Pull-ups to a + hold both lines high.
            let pulls =
                (bus.kind == BusKind::I2c).then_some(Pulls { to: Level::High, always: true }).into_iter().collect();
            let job = of(&bus.name.text, line, pin, bus.name.span, way);
            let path = format!("bus.{}.{line}", bus.name.text);
            jobs.push(Job { needs: vec![need], together: Some(Together::Bus(i)), pulls, path, ..job });
        }
    }
    for sensor in &plan.sensors {
        if let Some(select) = &sensor.select {
            let job = of(&sensor.name.text, "select", select, sensor.name.span, Direction::Out);
            jobs.push(Job { path: format!("sensor.{}.select", sensor.name.text), ..job });
        }
    }
}

fn stacks<'p>(plan: &'p Plan, jobs: &mut Vec<Job<'p>>) {
    for stack in &plan.stacks {
        let board = &stack.upper.text;
        for pin in &stack.claims {
            jobs.push(Job { claim: true, ..of(board, "stacked board", pin, stack.name.span, Direction::Out) });
        }
        for pin in &stack.bus_pins {
            let job = of(board, "stacked board", pin, stack.name.span, Direction::Shared);
            jobs.push(Job { claim: true, together: Some(Together::StackedBus), ..job });
        }
    }
}

/// The jobs by pin, each pin once, in the order of the first job on it.
pub(crate) fn by_pin<'j, 'p>(jobs: &'j [Job<'p>]) -> Vec<Vec<&'j Job<'p>>> {
    let mut place: HashMap<(usize, &str), usize> = HashMap::new();
    let mut pins: Vec<Vec<&Job<'p>>> = Vec::new();
    // What is still to be chosen is no pin yet.
    for job in jobs.iter().filter(|j| !j.pin.is_open()) {
        let at = *place.entry((job.pin.board, job.pin.pin.as_str())).or_insert(pins.len());
        if at == pins.len() {
            pins.push(Vec::new());
        }
        pins[at].push(job);
    }
    pins
}
