//! Random jobs on random boards: what the checks of pins say against sets that are drawn up by hand, job by job; and
//! what pins carry against Kirchhoff at each pin.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write as _;

use crate::common::{Dice, review};

const HEAD: &str =
    "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n";
const BOARD: &str = "from = \"bench\"\ncable = \"0 m 12 AWG\"\nmean = \"20 mA\"\nvih = \"60 %\"\nvil = \"30 %\"\npin-voltage = \"7 V\"\n";

#[derive(Clone, Copy, PartialEq)]
enum Kind {
    Signal,
    InputOnly,
    Ground,
    /// Nowhere on the board.
    Missing,
}

struct Pin {
    kind: Kind,
    interrupt: bool,
    pull_up: bool,
    reserved: bool,
    /// The level that it has to have when the board starts.
    samples: Option<bool>,
}

#[derive(Clone, Copy, PartialEq)]
enum Job {
    /// A contact to ground, with a pull-up resistor or the pin's own, and whether it needs an interrupt.
    Contact { own_pull: bool, interrupt: bool },
    /// To ground, and whether it shares its pin on purpose.
    Led { mirror: bool },
    /// To a pin of the other board.
    Wire { to: usize },
}

/// Which findings there have to be, by code and subject, from the words of each check alone.
fn expected(pins: &[Pin], jobs: &[(usize, Job)]) -> BTreeSet<(&'static str, String)> {
    let mut all = BTreeSet::new();
    let mut by_pin: BTreeMap<usize, Vec<Job>> = BTreeMap::new();
    for (i, (at, job)) in jobs.iter().enumerate() {
        let (pin, name) = (&pins[*at], format!("j{i}"));
        by_pin.entry(*at).or_default().push(*job);
        match pin.kind {
            Kind::Missing => {
                all.insert(("pin-unknown", name));
                continue;
            }
            Kind::Ground => {
                all.insert(("pin-not-signal", name));
                continue;
            }
            Kind::Signal | Kind::InputOnly => {}
        }
        let output = !matches!(job, Job::Contact { .. });
        let lacks = match job {
            Job::Contact { own_pull, interrupt } => (*own_pull && !pin.pull_up) || (*interrupt && !pin.interrupt),
            _ => false,
        };
        if lacks || (output && pin.kind == Kind::InputOnly) {
            all.insert(("pin-cannot", name.clone()));
        }
        // Where it may be held at the start: by a resistor to the rail up, by a closed contact or an LED down, by a
        // wire not at all.
        let held: &[bool] = match job {
            Job::Contact { own_pull: true, .. } => &[false],
            Job::Contact { own_pull: false, .. } => &[true, false],
            Job::Led { .. } => &[false],
            Job::Wire { .. } => &[],
        };
        let wrong = pin.samples.is_some_and(|level| held.iter().any(|to| *to != level));
        if pin.reserved || wrong {
            all.insert(("pin-reserved", name));
        }
    }
    for (at, jobs) in &by_pin {
        let wires = jobs.iter().all(|j| matches!(j, Job::Wire { .. }));
        let outputs = jobs.iter().all(|j| !matches!(j, Job::Contact { .. }));
        let leaders = jobs.iter().filter(|j| !matches!(j, Job::Led { mirror: true })).count();
        if jobs.len() > 1 && !wires && !(outputs && leaders <= 1) {
            all.insert(("pin-shared", format!("b.s{at}")));
        }
    }
    let mut ends: BTreeMap<usize, BTreeSet<usize>> = BTreeMap::new();
    for (at, job) in jobs {
        if let Job::Wire { to } = job {
            ends.entry(*to).or_default().insert(*at);
        }
    }
    for (to, from) in ends {
        if from.len() > 1 {
            all.insert(("output-contention", format!("other.t{to}")));
        }
    }
    all
}

fn random_pins(dice: &mut Dice, careless: bool) -> Vec<Pin> {
    (0..8)
        .map(|_| Pin {
            kind: match dice.within(0, if careless { 14 } else { 100 }) {
                0 => Kind::Ground,
                1 => Kind::Missing,
                2 => Kind::InputOnly,
                _ => Kind::Signal,
            },
            interrupt: dice.chance(0.8),
            pull_up: dice.chance(0.7),
            reserved: dice.chance(0.08),
            samples: dice.chance(0.15).then(|| dice.chance(0.5)),
        })
        .collect()
}

fn write_pins(text: &mut String, pins: &[Pin]) {
    for (i, pin) in pins.iter().enumerate() {
        let is = match pin.kind {
            Kind::Signal => "",
            Kind::InputOnly => "kind = \"input\", ",
            Kind::Ground => "kind = \"ground\", ",
            Kind::Missing => continue,
        };
        let can: Vec<&str> = [(pin.interrupt, "\"interrupt\""), (pin.pull_up, "\"pull-up\"")]
            .iter()
            .filter(|c| c.0)
            .map(|c| c.1)
            .collect();
        let reserved = if pin.reserved { "reserved = \"flash\", " } else { "" };
        let samples =
            pin.samples.map_or("", |high| if high { "boot-level = \"high\", " } else { "boot-level = \"low\", " });
        let _ = writeln!(text, "s{i} = {{ {is}{reserved}{samples}functions = [{}] }}", can.join(", "));
    }
}

fn write_jobs(text: &mut String, jobs: &[(usize, Job)]) {
    for (i, (at, job)) in jobs.iter().enumerate() {
        let _ = match job {
            Job::Contact { own_pull, interrupt } => {
                let pull = if *own_pull { "internal" } else { "10 kΩ" };
                let needs = if *interrupt { "needs = [\"interrupt\"]\n" } else { "" };
                writeln!(text, "[input.j{i}]\npin = \"b.s{at}\"\nkind = \"contact\"\npull = \"{pull}\"\n{needs}")
            }
            Job::Led { mirror } => {
                writeln!(text, "[led.j{i}]\nfrom = \"b.s{at}\"\nvf = \"2 V\"\nresistor = \"1 kΩ\"\nmirror = {mirror}")
            }
            Job::Wire { to } => writeln!(text, "[signal.j{i}]\npin = \"b.s{at}\"\nto = \"other.t{to}\""),
        };
    }
}

#[test]
fn jobs_and_pins() {
    let mut dice = Dice(83);
    let mut seen: BTreeMap<&str, usize> = BTreeMap::new();
    let mut clean = 0;
    for round in 0..400 {
        let careless = dice.chance(0.7);
        let pins = random_pins(&mut dice, careless);
        let mut text = format!("{HEAD}[board.b]\n{BOARD}[board.b.pins]\n");
        write_pins(&mut text, &pins);
        let _ = write!(text, "[board.other]\n{BOARD}[board.other.pins]\n");
        for i in 0..6 {
            let _ = writeln!(text, "t{i} = {{}}");
        }
        let jobs: Vec<(usize, Job)> = (0..1 + dice.within(0, 5))
            .map(|_| {
                let at = dice.within(0, 8);
                let job = match dice.within(0, 3) {
                    0 => Job::Contact { own_pull: dice.chance(0.5), interrupt: dice.chance(0.4) },
                    // Nothing can be fed from a ground, nor from a pin that is not there: mistakes of the text.
                    1 if matches!(pins[at].kind, Kind::Signal | Kind::InputOnly) => {
                        Job::Led { mirror: dice.chance(0.3) }
                    }
                    _ => Job::Wire { to: dice.within(0, 6) },
                };
                (at, job)
            })
            .collect();
        write_jobs(&mut text, &jobs);
        let review = review(&text);
        let codes = ["pin-unknown", "pin-not-signal", "pin-cannot", "pin-reserved", "pin-shared", "output-contention"];
        let got: BTreeSet<(&str, String)> = review
            .findings()
            .iter()
            .filter(|f| codes.contains(&f.code) && f.severity != modest_ohm::Severity::Unknown)
            .map(|f| (f.code, f.subject.clone()))
            .collect();
        let want = expected(&pins, &jobs);
        assert_eq!(got, want, "{round}\n{text}");
        clean += usize::from(want.is_empty());
        want.iter().for_each(|(code, _)| *seen.entry(code).or_insert(0) += 1);
    }
    assert!(seen.len() == 6 && seen.values().all(|n| *n >= 10) && clean >= 30, "{seen:?} {clean}");
}

/// The current out of a pin on which LEDs hang, each (v − Vf)/R where it conducts: the pin's voltage by bisection.
fn pin_amps(rail: f64, pin_ohms: f64, leds: &[(f64, f64)]) -> f64 {
    let draws = |v: f64| leds.iter().map(|(vf, r)| (v - vf).max(0.0) / r).sum::<f64>();
    let (mut low, mut high) = (0.0, rail);
    for _ in 0..200 {
        let v = 0.5 * (low + high);
        if (rail - v) / pin_ohms > draws(v) { low = v } else { high = v }
    }
    draws(low)
}

/// None to three LEDs on a pin, all out of it or all into it: their forward voltages and resistors.
fn leds_on_pin(dice: &mut Dice, text: &mut String, i: usize) -> Vec<(f64, f64)> {
    let (n, into) = (dice.within(0, 4), dice.chance(0.4));
    let leds: Vec<(f64, f64)> =
        (0..n).map(|_| ((dice.between(1.7, 3.2) * 100.0).round() / 100.0, dice.between(80.0, 900.0).round())).collect();
    for (k, (vf, ohms)) in leds.iter().enumerate() {
        let feed = if into {
            format!("from = \"bench\"\ncable = \"0 m 12 AWG\"\nsink = \"b.s{i}\"")
        } else {
            format!("from = \"b.s{i}\"")
        };
        let _ = writeln!(
            text,
            "[led.m{i}x{k}]\n{feed}\nvf = \"{vf} V ± 0 %\"\nresistor = \"{ohms} Ω ± 0 %\"\ncurrent = \"1 A\"\nabsolute = \"1 A\"\nmirror = {}",
            k > 0
        );
    }
    leds
}

/// Pins, groups and the board: each limit against the sum of what is computed pin by pin.
#[test]
fn currents_and_limits() {
    let mut dice = Dice(97);
    let mut seen: BTreeMap<&str, usize> = BTreeMap::new();
    for round in 0..150 {
        let pin_ohms = dice.between(20.0, 100.0).round();
        let (group, total) = (dice.between(15.0, 60.0).round(), dice.between(30.0, 110.0).round());
        let (recommended, absolute) = (12.0, 25.0);
        let mut text = format!(
            "{HEAD}[board.b]\n{BOARD}pin-resistance = \"{pin_ohms} Ω ± 0 %\"\npin-current = \"{recommended} mA\"\npin-absolute = \"{absolute} mA\"\n\
             pins-total = \"{total} mA\"\npin-groups = {{ east = \"{group} mA\" }}\n[board.b.pins]\n"
        );
        for i in 0..6 {
            let _ = writeln!(text, "s{i} = {{ {} }}", if i < 3 { "group = \"east\"" } else { "" });
        }
        // On each pin none to three LEDs, all out of it or all into it.
        let mut amps = [0.0; 6];
        for (i, amps) in amps.iter_mut().enumerate() {
            let leds = leds_on_pin(&mut dice, &mut text, i);
            // Into a pin the rail lies on the other side of the LEDs: the same circuit, seen from the rail.
            *amps = 1e3 * pin_amps(5.0, pin_ohms, &leds);
        }
        let review = review(&text);
        let board = &review.pins()[0];
        for (i, want) in amps.iter().enumerate() {
            let pin = board.pins.iter().find(|p| p.name == format!("s{i}")).unwrap();
            let got = 1e3 * pin.out.get().max(pin.into.get());
            assert!((got - want).abs() < 1e-4 * want.max(1.0), "{round} s{i}: {got} {want}\n{text}");
            if [want / recommended, want / absolute].iter().any(|x| (x - 1.0).abs() < 1e-3) {
                continue;
            }
            let word = if *want > absolute {
                "danger"
            } else if *want > recommended {
                "caution"
            } else {
                "pass"
            };
            let subject = format!("b.s{i}");
            let f = review.findings().iter().find(|f| f.code == "pin-overloaded" && f.subject == subject);
            assert_eq!(f.map_or("pass", |f| f.severity.word()), word, "{round} s{i}: {want}\n{text}");
            *seen.entry(word).or_insert(0) += 1;
        }
        let sums = [("group", amps[..3].iter().sum::<f64>(), group), ("total", amps.iter().sum(), total)];
        let said = |what: &str| {
            let words = if what == "group" { "its pins of group `east`" } else { "all its pins together" };
            review
                .findings()
                .iter()
                .any(|f| f.code == "pin-overloaded" && f.subject == "b" && f.message.contains(words))
        };
        for (what, sum, limit) in sums {
            if (sum / limit - 1.0).abs() > 1e-3 {
                assert_eq!(said(what), sum > limit, "{round} {what}: {sum} of {limit}\n{text}");
                *seen.entry(if sum > limit { "too much together" } else { "fine together" }).or_insert(0) += 1;
            }
        }
        assert!((1e3 * board.current.get() - amps.iter().sum::<f64>()).abs() < 1e-3);
        assert!((1e3 * board.groups[0].1.get() - amps[..3].iter().sum::<f64>()).abs() < 1e-3);
    }
    assert!(seen.len() == 5 && seen.values().all(|n| *n >= 10), "{seen:?}");
}
