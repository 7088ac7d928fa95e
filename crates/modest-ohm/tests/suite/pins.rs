//! Pins through the public library: both numberings, jobs, currents, and allocations against every allocation tried.

use std::fmt::Write as _;

use crate::common::Dice;
use modest_ohm::advise::NoAssignment;
use modest_ohm::catalogue::classes;
use modest_ohm::views::BoardPins;
use modest_ohm::{Plan, Severity};

const WALL: &str =
    "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"10 A\"\n";

fn plan(text: &str) -> Plan {
    let text = format!("{WALL}{text}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}"))
}

const KEEPER: &str = "[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n";

fn codes(plan: &Plan) -> Vec<(&'static str, String)> {
    plan.review().findings().iter().map(|f| (f.code, f.subject.clone())).collect()
}

/// Every class of board: its positions are each there once, its supply pins name nodes that it has, and every signal
/// pin can be used by either spelling.
#[test]
fn pin_tables_of_the_classes() {
    let boards: Vec<_> = classes().into_iter().filter(|c| c.kind == "board").collect();
    assert_eq!(boards.len(), 10);
    for class in boards {
        let board = format!("[board.b]\npart = \"{}\"\nfrom = \"wall\"\n", class.name);
        let pins = plan(&board).review().pins().remove(0);
        let mut places: Vec<usize> =
            pins.pins.iter().filter_map(|p| p.position.as_deref()?.strip_prefix('p')?.parse().ok()).collect();
        places.sort_unstable();
        assert_eq!(places, (1..=places.len()).collect::<Vec<_>>(), "{}", class.name);
        assert_eq!(places.len(), pins.pins.len(), "{}: a pin without a position", class.name);
        let plan_nodes = plan(&board);
        let nodes = plan_nodes.nodes();
        for pin in &pins.pins {
            if let Some(of) = &pin.rail {
                let known = nodes.contains(&format!("b.{of}").as_str()) || ["usb", "vin"].contains(&of.as_str());
                assert!(known, "{}: {} of {of}", class.name, pin.name);
            }
            if pin.role.word() == "io" {
                assert!(pin.functions.is_some() && pin.recommended.is_some() && pin.absolute.is_some());
                for name in [pin.name.as_str(), pin.position.as_deref().unwrap()] {
                    let led =
                        format!("{board}[led.l]\npart = \"led-red\"\nfrom = \"b.{name}\"\nresistor = \"10 kΩ\"\n");
                    let at = plan(&led).review().pins().remove(0);
                    let used = at.pins.iter().find(|p| !p.jobs.is_empty()).unwrap();
                    assert_eq!(used.name, pin.name, "{}", class.name);
                }
            }
        }
        // Pixel boards have ports and terminals, and no header.
        if class.name.starts_with("pixel-board") {
            continue;
        }
        assert!(
            pins.pins.iter().any(|p| p.role.word() == "ground")
                && pins.total.is_some() != (class.name == "wifi-board-3v3-small"),
            "{}: {:?}",
            class.name,
            pins.total
        );
    }
}

/// The electrical reference's table: recommended, absolute and total of each class.
#[test]
fn limits_of_the_classes() {
    let of = |class: &str| plan(&format!("[board.b]\npart = \"{class}\"\nfrom = \"wall\"\n")).review().pins().remove(0);
    let milli = |b: &BoardPins| {
        let pin = b.pins.iter().find(|p| p.role.word() == "io" && p.reserved.is_none()).unwrap();
        let m = |a: modest_ohm::units::Amps| (a.get() * 1e4).round() / 10.0;
        (m(pin.recommended.unwrap()), m(pin.absolute.unwrap()), b.total.map(m))
    };
    assert_eq!(milli(&of("board-5v-8bit")), (20.0, 40.0, Some(200.0)));
    assert_eq!(milli(&of("wifi-board-3v3")), (12.0, 40.0, Some(1200.0)));
    assert_eq!(milli(&of("wifi-board-3v3-small")), (6.0, 12.0, None));
    assert_eq!(milli(&of("arm-board-3v3-small")), (4.0, 12.0, Some(50.0)));
    assert_eq!(milli(&of("linux-board-3v3")), (8.0, 16.0, Some(50.0)));
    assert_eq!(milli(&of("teaching-board-3v3-small")), (0.5, 5.0, Some(15.0)));
}

/// Position 18 of the two-row header is the chip's 24; a supply pin is its node; ground feeds nothing but returns.
#[test]
fn both_numberings() {
    let board = "[board.helm]\npart = \"linux-board-3v3\"\nfrom = \"wall\"\n";
    let two = format!(
        "{board}[led.a]\npart = \"led-red\"\nfrom = \"helm.p18\"\nresistor = \"1 kΩ\"\n\
         [led.b]\npart = \"led-red\"\nfrom = \"helm.io24\"\nresistor = \"1 kΩ\"\n"
    );
    assert!(codes(&plan(&two)).contains(&("pin-shared", "helm.io24".into())));
    let rail = format!("{board}[load.l]\nfrom = \"helm.p1\"\ncurrent = \"10 mA\"\nvoltage = \"3.3 V\"\n");
    let review = plan(&rail).review();
    let rows = review.nodes(&modest_ohm::Select::default());
    let row = rows.iter().find(|r| r.row.name == "helm.3v3" && r.scenario.name() == "worst").unwrap();
    assert!((row.row.demand.unwrap().get() - 0.01).abs() < 1e-9, "{:?}", row.row.demand);
    // A bare number could be either, and what each would be is reported.
    let bare =
        Plan::from_toml(&format!("{WALL}{board}[input.i]\npin = \"helm.18\"\nkind = \"contact\"\n")).unwrap_err();
    assert!(bare.problems[0].help.contains("`helm.io18`") && bare.problems[0].help.contains("`io24`"), "{bare}");
}

/// A pin's current against the plain formula, in the corner that is worst: 3.3 V + 3 %, Vf at its lowest, R − 5 %.
#[test]
fn currents_of_pins() {
    let text = format!(
        "{KEEPER}[led.a]\npart = \"led-red\"\ncount = 2\nfrom = \"keeper.io16\"\nresistor = \"470 Ω\"\n\
         [led.b]\npart = \"led-red\"\nfrom = \"wall\"\nsink = \"keeper.io17\"\nresistor = \"1 kΩ ± 1 %\"\n\
         [bus.mast]\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\npull = \"3.3 kΩ ± 0 %\"\nlength = \"0.1 m\"\n"
    );
    let board = plan(&text).review().pins().remove(0);
    let pin = |name: &str| board.pins.iter().find(|p| p.name == name).unwrap();
    // Both come through the pin's 33 Ω.
    let a = 2.0 * (3.3 * 1.03 - 1.7) / (470.0 * 0.95 + 2.0 * 33.0);
    assert!((pin("io16").out.get() - a).abs() < 1e-9, "{} {a}", pin("io16").out);
    let b = (5.0 - 1.7) / (990.0 + 33.0);
    assert!((pin("io17").into.get() - b).abs() < 1e-9, "{} {b}", pin("io17").into);
    let c = 3.3 * 1.03 / 3300.0;
    assert!((pin("io21").into.get() - c).abs() < 1e-9);
    assert!((board.current.get() - (a + b + 2.0 * c)).abs() < 1e-9);
    assert_eq!(pin("io16").jobs[0].subject, "a");
    assert!(pin("io18").is_free() && !pin("io6").is_free() && !pin("io16").is_free());
    assert!(pin("io32").could(&["analogue"], true) && !pin("io4").could(&["analogue"], true));
    assert!(pin("io34").could(&["analogue"], true) && !pin("io34").could(&[], false));
}

/// What a pin can is read for a board of the maker's own, and one pin of a class can be corrected.
#[test]
fn own_boards_and_corrections() {
    let own = "[board.helm]\nfrom = \"wall\"\nmean = \"20 mA\"\nrecommended = \"4.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n\
               pin-functions = [\"interrupt\"]\npin-current = \"10 mA\"\n\
               pins = { s1 = { position = \"p2\", extra-functions = [\"pwm\"] }, s2 = { position = \"p1\", kind = \"input\" }, p3 = { kind = \"ground\" } }\n";
    let board = plan(own).review().pins().remove(0);
    let names: Vec<&str> = board.pins.iter().map(|p| p.name.as_str()).collect();
    assert_eq!(names, ["s2", "s1", "p3"]);
    assert_eq!(board.pins[1].functions.as_deref(), Some(&["interrupt", "pwm"][..]));
    let text = format!(
        "{KEEPER}pins = {{ io27 = {{ reserved = \"own sounder\" }}, x1 = {{ position = \"p39\" }} }}\n[input.i]\npin = \"keeper.io27\"\nkind = \"contact\"\npull = \"internal\"\n"
    );
    assert_eq!(codes(&plan(&text)), [("pin-reserved", "i".into())]);
    let board = plan(&text).review().pins().remove(0);
    assert_eq!(board.pins.last().unwrap().name, "x1");
    assert_eq!(board.pins.len(), 39);
    for (bad, word) in [
        ("pins = { s1 = { position = \"p2\" }, s2 = { position = \"p2\" } }", "at `p2`"),
        ("pins = { s1 = { functions = [\"pwn\"] } }", "did you mean `pwm`?"),
        ("pins = { s1 = 5 }", "is not a table"),
        ("pins = { s1 = { group = \"east\" } }", "no group `east`"),
    ] {
        let text = format!("{WALL}[board.h]\nfrom = \"wall\"\nmean = \"1 mA\"\n{bad}\n");
        let e = Plan::from_toml(&text).unwrap_err().to_string();
        assert!(e.contains(word), "{bad}: {e}");
    }
}

const BOARD: &str = "from = \"wall\"\nmean = \"20 mA\"\nrecommended = \"4.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n\
                     pin-current = \"10 mA\"\npin-absolute = \"20 mA\"\npin-resistance = \"40 Ω ± 0 %\"\nvih = \"60 %\"\nvil = \"30 %\"\n";

/// A job of a random plan: what it needs, whether it is an output, its current, and the text that makes it.
struct RandomJob {
    needs: Vec<usize>,
    output: bool,
    milliamps: f64,
}

struct RandomPin {
    can: [bool; 3],
    input_only: bool,
    group: Option<usize>,
    samples_low: bool,
}

const WORDS: [&str; 3] = ["pwm", "analogue", "interrupt"];

/// A swing pulls low as a divider's source does; an LED to ground pulls low: both leave a pin that has to be low.
fn fits(job: &RandomJob, pin: &RandomPin) -> bool {
    let way = !pin.input_only || !job.output;
    let needs = job.needs.iter().all(|n| pin.can[*n]);
    // A signal that swings may be high while the board looks at the pin.
    let starts = job.output || !pin.samples_low;
    way && needs && starts && (!job.output || job.milliamps <= 10.0)
}

fn write_pins_and_jobs(text: &mut String, pins: &[RandomPin], jobs: &[RandomJob]) {
    for (i, pin) in pins.iter().enumerate() {
        let can: Vec<String> = (0..3).filter(|a| pin.can[*a]).map(|a| format!("\"{}\"", WORDS[a])).collect();
        let is = if pin.input_only { "kind = \"input\", " } else { "" };
        let group = pin.group.map_or(String::new(), |g| format!("group = \"g{g}\", "));
        let samples = if pin.samples_low { "boot-level = \"low\", " } else { "" };
        let _ = writeln!(text, "s{i} = {{ {is}{group}{samples}functions = [{}] }}", can.join(", "));
    }
    for (i, job) in jobs.iter().enumerate() {
        if job.output {
            // (5 − 2) V through 3 V / I, of which the pin itself has 40 Ω.
            let ohms = 3000.0 / job.milliamps - 40.0;
            let _ = write!(text, "[led.j{i}]\nfrom = \"b.any\"\nvf = \"2 V ± 0 %\"\nresistor = \"{ohms} Ω ± 0 %\"\n");
        } else {
            let reads = if job.needs.contains(&1) { "reads = \"analogue\"\n" } else { "" };
            let more = if job.needs.contains(&2) { "needs = [\"interrupt\"]\n" } else { "" };
            let _ = write!(text, "[input.j{i}]\npin = \"b.any\"\nkind = \"voltage\"\nhigh = \"5 V\"\n{reads}{more}");
        }
    }
}

/// What was allocated fits, keeps the totals, costs what the cheapest costs, and gives each pin once.
fn holds(
    got: &modest_ohm::advise::PinAssignment,
    pins: &[RandomPin],
    jobs: &[RandomJob],
    totals: &[f64],
    least: Option<u32>,
) {
    let at: Vec<usize> = got.pins.iter().map(|p| p.pin[1..].parse().unwrap()).collect();
    assert_eq!(at.len(), jobs.len());
    let of = |name: &str| -> usize { name[1..].parse().unwrap() };
    let mut sums = [0.0; 2];
    for (p, pin) in got.pins.iter().zip(&at) {
        let job = &jobs[of(&p.subject)];
        assert!(fits(job, &pins[*pin]), "{got:?}");
        if let (Some(g), true) = (pins[*pin].group, job.output) {
            sums[g] += job.milliamps;
        }
    }
    assert!(sums.iter().zip(totals).all(|(s, t)| *s <= t + 1e-9), "{sums:?}");
    let paid: u32 = got.pins.iter().zip(&at).map(|(p, pin)| price(&jobs[of(&p.subject)], &pins[*pin])).sum();
    assert_eq!(Some(paid), least, "{got:?}");
    let mut twice = at.clone();
    twice.sort_unstable();
    twice.dedup();
    assert_eq!(twice.len(), at.len());
    assert!(!got.findings.iter().any(|(s, m)| *s >= Severity::Fault && m.contains("pin")), "{:?}", got.findings);
}

/// Random boards and jobs: an allocation is found exactly where one of all allocations fits, what is found fits, and
/// none is cheaper.
#[test]
fn allocations_against_every_allocation() {
    let mut dice = Dice(61);
    let (mut found, mut none, mut grouped, mut dearer) = (0, 0, 0, 0);
    for round in 0..600 {
        let pins: Vec<RandomPin> = (0..dice.within(2, 6))
            .map(|_| RandomPin {
                can: [dice.chance(0.6), dice.chance(0.5), dice.chance(0.5)],
                input_only: dice.chance(0.2),
                group: dice.chance(0.5).then(|| dice.within(0, 2)),
                samples_low: dice.chance(0.15),
            })
            .collect();
        let jobs: Vec<RandomJob> = (0..dice.within(1, 5))
            .map(|_| {
                let output = dice.chance(0.6);
                // Outputs are LEDs of some current; inputs need this or that.
                let needs = if output { vec![] } else { (1..3).filter(|_| dice.chance(0.4)).collect() };
                RandomJob { needs, output, milliamps: dice.within(1, 10) as f64 }
            })
            .collect();
        let totals = [dice.within(3, 15) as f64, dice.within(3, 15) as f64];
        let mut text = format!(
            "[board.b]\n{BOARD}pin-groups = {{ g0 = \"{} mA\", g1 = \"{} mA\" }}\n[board.b.pins]\n",
            totals[0], totals[1]
        );
        write_pins_and_jobs(&mut text, &pins, &jobs);
        let plan = plan(&text);
        let least = cheapest(&jobs, &pins, &fits, &totals, &mut Vec::new());
        let anywhere = cheapest(&jobs, &pins, &fits, &[1e9, 1e9], &mut Vec::new());
        grouped += usize::from(least.is_none() && anywhere.is_some());
        dearer += usize::from(least > anywhere && anywhere.is_some() && least.is_some());
        match plan.assign_pins(&[]) {
            Ok(got) => {
                assert!(least.is_some(), "{round}: {got:?}\n{text}");
                found += 1;
                holds(&got, &pins, &jobs, &totals, least);
            }
            Err(why) => {
                assert!(least.is_none(), "{round}: {why}\n{text}");
                assert!(!matches!(why, NoAssignment::GivenUp(_)));
                none += 1;
            }
        }
    }
    assert!(found > 100 && none > 60 && grouped > 10 && dearer > 5, "{found} {none} {grouped} {dearer}");
}

/// What a pin costs: a converter that is not wanted 2, a level that it has to have at the start 20, an output where an
/// input would do 1.
fn price(job: &RandomJob, pin: &RandomPin) -> u32 {
    let spare = if pin.can[1] && !job.needs.contains(&1) { 2 } else { 0 };
    spare + if pin.samples_low { 20 } else { 0 } + u32::from(!job.output && !pin.input_only)
}

/// What the cheapest of all allocations costs that fit.
fn cheapest(
    jobs: &[RandomJob],
    pins: &[RandomPin],
    fits: &impl Fn(&RandomJob, &RandomPin) -> bool,
    totals: &[f64; 2],
    taken: &mut Vec<usize>,
) -> Option<u32> {
    if taken.len() == jobs.len() {
        let mut sums = [0.0; 2];
        for (job, pin) in jobs.iter().zip(taken.iter()) {
            if let (Some(g), true) = (pins[*pin].group, job.output) {
                sums[g] += job.milliamps;
            }
        }
        let fits = sums.iter().zip(totals).all(|(s, t)| *s <= t + 1e-9);
        return fits.then(|| jobs.iter().zip(taken.iter()).map(|(j, p)| price(j, &pins[*p])).sum());
    }
    let tries = (0..pins.len()).filter_map(|p| {
        if taken.contains(&p) || !fits(&jobs[taken.len()], &pins[p]) {
            return None;
        }
        taken.push(p);
        let least = cheapest(jobs, pins, fits, totals, taken);
        taken.pop();
        least
    });
    tries.min()
}

/// What is fixed stays; what is named is chosen anew; who competes is reported.
#[test]
fn what_is_fixed_stays() {
    let text = format!(
        "{KEEPER}[led.a]\npart = \"led-red\"\nfrom = \"keeper.io16\"\nresistor = \"470 Ω\"\n\
         [led.b]\npart = \"led-red\"\nfrom = \"keeper.any\"\nresistor = \"470 Ω\"\nat-power-on = \"off\"\n\
         [load.span]\ncount = 2\nfrom = \"wall\"\ncurrent = \"0.2 A\"\nvoltage = \"5 V\"\nvih = \"2 V\"\nvil = \"0.8 V\"\n\
         signal = [\"keeper.io17\", \"keeper.any\"]\n"
    );
    let plan = plan(&text);
    let got = plan.assign_pins(&[]).unwrap();
    let names: Vec<(&str, &str)> = got.pins.iter().map(|p| (p.subject.as_str(), p.path.as_str())).collect();
    assert_eq!(names, [("span.2", "load.span.signal[1]"), ("b", "led.b.from")]);
    assert!(got.findings.is_empty(), "{:?}", got.findings);
    assert!(got.pins.iter().all(|p| !["io16", "io17"].contains(&p.pin.as_str())));
    let anew = plan.assign_pins(&["span".to_owned()]).unwrap();
    assert_eq!(anew.pins.len(), 3);
    assert_eq!(plan.signals(), ["span", "a", "b"]);
    // Seven analogue inputs, six converters that the radio leaves alone.
    let mut many = KEEPER.to_owned();
    for i in 0..7 {
        let _ = write!(
            many,
            "[input.d{i}]\npin = \"keeper.any\"\nkind = \"voltage\"\nhigh = \"2 V\"\nreads = \"analogue\"\n"
        );
    }
    let Err(NoAssignment::TooFew { jobs, pins }) = self::plan(&many).assign_pins(&[]) else { panic!() };
    assert_eq!((jobs.len(), pins.len()), (7, 6));
    let without = many.replace("from = \"wall\"\n", "from = \"wall\"\nradio = false\n");
    assert_eq!(self::plan(&without).assign_pins(&[]).unwrap().pins.len(), 7);
    // An LED of (3.3 V + 3 % − 1.8 V)/(950 + 100) Ω = 1.52 mA on a board whose pins carry half a milliampere.
    let much = "[board.clerk]\npart = \"teaching-board-3v3-small\"\nfrom = \"wall\"\n\
                [led.shut]\nvf = \"1.8 V ± 0 %\"\nfrom = \"clerk.any\"\nresistor = \"1 kΩ\"\n";
    let why = self::plan(much).assign_pins(&[]).unwrap_err().to_string();
    assert!(why.contains("`shut` (feed, output, 1.52 mA; a pin is rated 500 µA)"), "{why}");
    let bare =
        self::plan("[board.h]\nfrom = \"wall\"\nmean = \"1 mA\"\n[input.i]\npin = \"h.any\"\nkind = \"contact\"\n");
    assert_eq!(bare.assign_pins(&[]).unwrap_err(), NoAssignment::NotListed("h".into()));
}

/// Wires whose pins are still to be chosen are no outputs on one pin; once they are chosen nothing is found.
#[test]
fn open_ends_of_wires() {
    let text = format!(
        "{KEEPER}[board.gate]\npart = \"arm-board-3v3-small\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n\
         [signal.ring]\npin = \"gate.any\"\nto = \"keeper.any\"\n[signal.free]\npin = \"keeper.any\"\nto = \"gate.any\"\n"
    );
    let open = plan(&text);
    let all = codes(&open);
    assert!(all.iter().all(|(code, _)| *code == "pin-unknown") && all.len() == 4, "{all:?}");
    let got = open.assign_pins(&[]).unwrap();
    assert_eq!(got.pins.len(), 4);
    assert!(got.findings.is_empty(), "{:?}", got.findings);
}
