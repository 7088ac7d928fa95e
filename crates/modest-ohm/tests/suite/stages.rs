//! Stages in their plans: what they leave their loads, what they carry, where they rest, against formulas and truth
//! tables.

use crate::common::{Dice, evidence, found, near, review, verdict};
use modest_ohm::views::LoadRow;
use modest_ohm::{Corner, Plan, Review, Select};

/// 12 V and 5 V, tied; a board whose pins have exactly 3.3 V and 33 Ω.
const RIG: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"50 A\"\n\
    [supply.logic]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"5 A\"\n\
    [ground.tie]\nbetween = [\"wall\", \"logic\"]\nresistance = \"0 Ω\"\n\
    [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"logic\"\ncable = \"0 m 12 AWG\"\nregulator = { voltage = \"3.3 V ± 0 %\" }\n";

fn at(review: &Review, load: &str, scenario: &str, corner: Corner) -> LoadRow {
    let select = Select { scenario: Some(scenario.into()), corner: Some(corner), ..Select::default() };
    review.loads(&select).into_iter().find(|r| r.row.name == load).unwrap_or_else(|| panic!("{load}")).row
}

/// A resistive load behind cables and a stage that drops V₀ + R·I, on either side: I = (V − V₀)/(R_load + R + leads).
#[test]
fn what_a_stage_leaves_its_load() {
    let mut dice = Dice(3);
    for round in 0..120 {
        let (drop, ohms) = (if dice.chance(0.4) { 0.0 } else { dice.between(0.05, 2.5) }, dice.log(0.01, 2.0));
        let (load, lead) = (dice.log(5.0, 300.0), dice.log(0.01, 0.5));
        let side = dice.pick(&["low", "high"]);
        let text = format!(
            "{RIG}[driver.sw]\nkind = \"npn\"\nside = \"{side}\"\ndrop = \"{drop} V ± 0 %\"\nresistance = \"{ohms} Ω ± 0 %\"\n\
             [load.lens]\nfrom = \"wall\"\ndriver = \"sw\"\nkind = \"heater\"\nvoltage = \"12 V\"\nresistance = \"{load} Ω ± 0 %\"\n\
             cable = {{ feed = \"{lead} Ω\", return = \"{lead} Ω\", ampacity = \"20 A\" }}\n"
        );
        let review = review(&text);
        let amps = (12.0 - drop) / (load + ohms + 2.0 * lead);
        for corner in Corner::ALL {
            let row = at(&review, "lens", "worst", corner);
            assert!(near(row.current.get(), amps), "{round}: {} {amps}\n{text}", row.current);
            assert!(near(row.voltage.get(), amps * load));
            // In its return the stage lifts the load's −; in its feed it does not.
            let shift = if side == "low" { drop + ohms * amps + lead * amps } else { lead * amps };
            assert!(near(row.ground_shift.get(), shift), "{round} {side}: {} {shift}", row.ground_shift);
        }
        let nodes = review.nodes(&Select { scenario: Some("worst".into()), ..Select::default() });
        let stage = nodes.iter().find(|n| n.row.name == "sw").unwrap();
        assert_eq!(stage.row.kind, "driver");
        assert!(near(stage.row.demand.unwrap().get(), amps));
    }
}

/// Loads on one channel share its drop; on channels of their own they do not.
#[test]
fn loads_that_share_a_channel() {
    let plan = |second: &str| {
        format!(
            "{RIG}[driver.sw]\nkind = \"mosfet-module\"\nresistance = \"0 Ω\"\ndrop = \"0 V\"\n[driver.sw.channels]\n1 = \"keeper.io32\"\n2 = \"keeper.io33\"\n\
             [load.a]\nfrom = \"wall\"\ndriver = \"sw.1\"\nkind = \"heater\"\nvoltage = \"12 V\"\nresistance = \"10 Ω ± 0 %\"\n\
             [load.b]\nfrom = \"wall\"\ndriver = \"sw.{second}\"\nkind = \"heater\"\nvoltage = \"12 V\"\nresistance = \"5 Ω ± 0 %\"\n"
        )
        .replace("resistance = \"0 Ω\"\ndrop", "resistance = \"0.2 Ω ± 0 %\"\ndrop")
    };
    // A MOSFET counts at its datasheet's resistance in *typical*: 12 V · (10 ‖ 5)/(10 ‖ 5 + 0.2).
    let parallel = 10.0 * 5.0 / 15.0;
    let shared = at(&review(&plan("1")), "a", "worst", Corner::Typical);
    assert!(near(shared.voltage.get(), 12.0 * parallel / (parallel + 0.2)), "{}", shared.voltage);
    let apart = at(&review(&plan("2")), "a", "worst", Corner::Typical);
    assert!(near(apart.voltage.get(), 12.0 * 10.0 / 10.2));
    // Hot, at the corner with the lowest voltage, half as much again.
    let hot = at(&review(&plan("2")), "a", "worst", Corner::Low);
    assert!(near(hot.voltage.get(), 12.0 * 10.0 / 10.3));
}

/// A colour of a strip behind a channel is as one behind a switch of the same resistance that the plan does not show;
/// and a strip of one colour is connected to its channel as a load does.
#[test]
fn colours_behind_channels() {
    let strip = |switched: &str| {
        format!(
            "{RIG}{}[strip.cornice]\npart = \"plain-12v-rgb\"\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nlength = \"1 m\"\nleds = \"60 /m\"\n\
             power = \"14.4 W/m\"\nswitched = {{ {switched} }}\n",
            "[driver.stage]\nkind = \"nmos\"\nresistance = \"0.4 Ω ± 0 %\"\nrds-on-at = \"2.5 V\"\n[driver.stage.channels]\nred = \"keeper.io16\"\nblue = \"keeper.io17\"\n"
        )
    };
    let by_driver = review(&strip("red = \"stage.red\", blue = \"stage.blue\""));
    let by_ohms = review(&strip(
        "red = { by = \"x\", resistance = \"0.4 Ω ± 0 %\" }, blue = { by = \"y\", resistance = \"0.4 Ω ± 0 %\" }",
    ));
    let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
    let [a, b] = [&by_driver, &by_ohms].map(|r| r.strips(&select).remove(0).row);
    assert!(near(a.current.get(), b.current.get()) && near(a.lowest.get(), b.lowest.get()), "{a:?}\n{b:?}");
    // 14.4 W/m over three colours at 12 V are 0.4 A a colour, less what cables and the stage take.
    let nodes = by_driver.nodes(&select);
    let red = nodes.iter().find(|n| n.row.name == "stage.red").unwrap().row.demand.unwrap().get();
    assert!(red > 0.34 && red < 0.4, "{red}");
    let white = |switched: &str| {
        review(&format!(
            "{RIG}[driver.stage]\nkind = \"nmos\"\npin = \"keeper.io16\"\nresistance = \"0.4 Ω ± 0 %\"\nrds-on-at = \"2.5 V\"\n\
             [strip.edge]\npart = \"plain-12v-white\"\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nlength = \"1 m\"\nleds = \"60 /m\"\npower = \"12 W/m\"\n{switched}"
        ))
    };
    let [with, without] =
        [white("switched = { white = \"stage\" }\n"), white("")].map(|r| r.strips(&select).remove(0).row);
    assert!(with.current < without.current && with.lowest < without.lowest);
}

/// Overdrive, array input and the pin's own current, by their formulas.
#[test]
fn bases_and_the_pins_that_drive_them() {
    let mut dice = Dice(5);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..150 {
        let (gain, base) = (dice.within(20, 200), dice.log(100.0, 20e3).round());
        let (amps, vbe) = (dice.log(0.005, 0.6), dice.between(0.6, 0.8));
        let lift = if dice.chance(0.5) { dice.between(0.0, 0.4) } else { 0.0 };
        // What draws in the shared return lifts the emitter: the stage counts its base against that.
        let text = format!(
            "{RIG}[branch.far]\nfrom = \"wall\"\ncable = {{ feed = \"0 Ω\", return = \"1 Ω\", ampacity = \"20 A\" }}\n\
             [load.ballast]\nfrom = \"far\"\ncurrent = \"{lift:.4} A\"\nvoltage = \"12 V\"\nkind = \"heater\"\nregulated = true\n\
             [driver.sw]\nkind = \"npn\"\npin = \"keeper.io32\"\nhfe = {gain}\nvbe = \"{vbe:.4} V ± 0 %\"\nbase-resistor = \"{base} Ω ± 0 %\"\n\
             drop = \"0 V\"\nresistance = \"0 Ω\"\n\
             [load.lens]\nfrom = \"far\"\ndriver = \"sw\"\ncurrent = \"{amps:.5} A\"\nvoltage = \"12 V\"\nkind = \"heater\"\n"
        );
        let review = review(&text);
        let parse = |x: f64, digits: usize| format!("{x:.digits$}").parse::<f64>().unwrap();
        let (amps, vbe) = (parse(amps, 5), parse(vbe, 4));
        // In *worst* the emitter stands at the return's voltage: both currents go through it.
        let shift = parse(lift, 4) + amps;
        let into = (3.3 - shift - vbe).max(0.0) / (base + 33.0);
        let overdrive = gain as f64 * into / amps;
        let want = if overdrive < 1.3 {
            "fault"
        } else if overdrive < 2.0 {
            "caution"
        } else {
            "pass"
        };
        if [1.3, 2.0].iter().any(|l| (overdrive / l - 1.0).abs() < 1e-4) {
            continue;
        }
        let f = found(&review, "base-drive", "sw");
        assert_eq!(verdict(f), want, "{round}: {overdrive}\n{text}");
        if let Some(f) = f {
            assert!(near(evidence(f, "overdrive"), overdrive), "{round} {}", evidence(f, "overdrive"));
        }
        // What the pin gives at most: while the load draws least its emitter is lowest.
        let idle = (3.3 - vbe).max(0.0) / (base + 33.0);
        let pins = review.pins();
        let out = pins[0].pins.iter().find(|p| p.name == "io32").unwrap().out.get();
        assert!(out >= into - 1e-12 && out <= idle + 1e-12, "{round}: {out} {into} {idle}");
        *seen.entry(want).or_insert(0) += 1;
    }
    assert!(seen.values().all(|n| *n >= 8) && seen.len() == 3, "{seen:?}");
}

/// Tj = Ta + P·θ, of one channel and of two in one package.
#[test]
fn junctions_by_their_formula() {
    let mut dice = Dice(9);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..120 {
        let (ohms, theta) = (dice.log(0.05, 2.0), dice.log(5.0, 200.0));
        let amps = [dice.between(0.3, 3.0), dice.between(0.3, 3.0)];
        let shared = dice.chance(0.5);
        let load = |n: usize| {
            format!(
                "[load.l{n}]\nfrom = \"wall\"\ndriver = \"sw.{n}\"\ncurrent = \"{:.4} A\"\nvoltage = \"10 V\"\nrecommended = \"1 V .. 13 V\"\nkind = \"heater\"\n",
                amps[n - 1]
            )
        };
        let text = format!(
            "{RIG}ambient_\n[driver.sw]\nkind = \"nmos\"\nresistance = \"{ohms:.4} Ω ± 0 %\"\ntheta-ja = \"{theta:.3} K/W ± 0 %\"\nshares-heat = {shared}\n\
             rds-on-at = \"2.5 V\"\n[driver.sw.channels]\n1 = \"keeper.io32\"\n2 = \"keeper.io33\"\n{}{}",
            load(1),
            load(2)
        )
        .replace("ambient_\n", "")
        .replace("format = 1\n", "format = 1\nambient = \"35 °C\"\n");
        let review = review(&text);
        let p = |x: f64, d: usize| format!("{x:.d$}").parse::<f64>().unwrap();
        // Hot its resistance is half as much again.
        let watts = amps.map(|a| 1.5 * p(ohms, 4) * p(a, 4).powi(2));
        let theta = p(theta, 3);
        let junctions = if shared {
            vec![("sw", 35.0 + (watts[0] + watts[1]) * theta)]
        } else {
            vec![("sw.1", 35.0 + watts[0] * theta), ("sw.2", 35.0 + watts[1] * theta)]
        };
        for (name, tj) in junctions {
            let want = if tj > 150.0 {
                "danger"
            } else if tj > 135.0 {
                "caution"
            } else {
                "pass"
            };
            let f = found(&review, "driver-heat", name);
            assert_eq!(verdict(f), want, "{round} {name} {tj}\n{text}");
            if let Some(f) = f {
                assert!((evidence(f, "junction") - tj).abs() < 1e-6 * tj);
            }
            *seen.entry(want).or_insert(0) += 1;
        }
    }
    assert!(seen["danger"] > 20 && seen["pass"] > 20 && seen["caution"] >= 3, "{seen:?}");
}

/// Every kind of stage on pins that float, are low, are high or pulse at the start, required on or off: a truth table.
#[test]
fn where_loads_rest() {
    // What the board does with these pins until the firmware runs.
    let pins = [("io32", None), ("io4", Some(false)), ("io15", Some(true)), ("io14", None)];
    let pulses = |pin: &str| pin == "io14";
    let stages = [
        ("npn", "kind = \"npn\"\nhfe = 100\nbase-resistor = \"1 kΩ\"\n", false),
        ("nmos", "kind = \"nmos\"\nrds-on-at = \"2.5 V\"\npull-down = \"10 kΩ\"\n", false),
        ("module", "part = \"mosfet-module-logic\"\n", false),
        ("solid", "part = \"solid-state-dc\"\n", false),
        (
            "high side",
            "part = \"pmos-30v\"\npull-up = \"10 kΩ\"\ngate-clamp = \"10 V\"\ngate-driver = { part = \"npn-small\", base-resistor = \"10 kΩ\" }\n",
            false,
        ),
        ("relay", "part = \"relay-module-5v\"\nfrom = { coil = \"logic\", logic = \"keeper.3v3\" }\n", true),
    ];
    let mut seen = (0, 0);
    for (kind, figures, active_low) in stages {
        for (pin, level) in pins {
            for wish in ["on", "off"] {
                for contact in if kind == "relay" { &["no", "nc"][..] } else { &["no"][..] } {
                    let text = format!(
                        "{RIG}[driver.sw]\n{figures}pin = \"keeper.{pin}\"\nsafe-state = \"{wish}\"\n\
                         [load.lens]\nfrom = \"wall\"\ndriver = \"sw\"\n{}current = \"0.1 A\"\nvoltage = \"12 V\"\nkind = \"heater\"\n",
                        if kind == "relay" { format!("contact = \"{contact}\"\n") } else { String::new() }
                    );
                    let closed_at_rest = *contact == "nc";
                    // Is it on: without power, and while the board starts.
                    let driven = level.is_some_and(|high| high != active_low);
                    let mut states = vec![driven != closed_at_rest];
                    if kind == "relay" {
                        states.push(closed_at_rest);
                    }
                    let bad = states.iter().any(|on| *on != (wish == "on")) || pulses(pin);
                    let review = review(&text);
                    let name = if closed_at_rest { "sw.nc" } else { "sw" };
                    let got = found(&review, "safe-state", name);
                    assert_eq!(got.is_some(), bad, "{kind} {pin} {wish} {contact}: {got:?}");
                    *(if bad { &mut seen.0 } else { &mut seen.1 }) += 1;
                }
            }
        }
    }
    assert!(seen.0 > 20 && seen.1 > 15, "{seen:?}");
}

/// A driver that rests off keeps its load off as power comes on; the resting contact of a relay does not.
#[test]
fn what_starts() {
    let plan = |driver: &str, load: &str| {
        review(&format!(
            "{RIG}[driver.coil]\nkind = \"nmos\"\npin = \"keeper.io33\"\nrds-on-at = \"2.5 V\"\npull-down = \"10 kΩ\"\n{driver}\
             [motor.lens]\nfrom = \"wall\"\ndriver = \"sw\"\n{load}current = \"0.2 A\"\nstall = \"1 A\"\nvoltage = \"12 V\"\nflyback = \"rectifier-1a\"\n"
        ))
    };
    let nmos = "[driver.sw]\nkind = \"nmos\"\npin = \"keeper.io32\"\nresistance = \"0 Ω\"\nrds-on-at = \"2.5 V\"\npull-down = \"10 kΩ\"\n";
    let start = |r: &Review| at(r, "lens", "start", Corner::Typical).current.get();
    assert!(near(start(&plan(nmos, "")), 1.0));
    assert_eq!(start(&plan(&format!("{nmos}safe-state = \"off\"\n"), "")), 0.0);
    let relay = "[driver.sw]\nkind = \"relay\"\nfrom = \"wall\"\ndriver = \"coil\"\ncoil = \"12 V\"\ncoil-resistance = \"400 Ω\"\ncurrent = \"10 A\"\nresistance = \"0 Ω\"\nsafe-state = \"off\"\nflyback = \"rectifier-1a\"\n";
    assert_eq!(start(&plan(relay, "")), 0.0);
    assert!(near(start(&plan(relay, "contact = \"nc\"\n")), 1.0));
}

/// A relay's coil is a load of its own: 12 V over 400 Ω and what its driver drops.
#[test]
fn coils_are_loads() {
    let review = review(&format!(
        "{RIG}[driver.coil]\nkind = \"npn\"\npin = \"keeper.io33\"\nhfe = 100\nbase-resistor = \"1 kΩ\"\ndrop = \"0.5 V ± 0 %\"\n\
         [driver.horn]\nkind = \"relay\"\nfrom = \"wall\"\ndriver = \"coil\"\ncoil = \"12 V\"\ncoil-resistance = \"400 Ω ± 0 %\"\ncurrent = \"10 A\"\n\
         [load.lens]\nfrom = \"wall\"\ndriver = \"horn\"\ncurrent = \"0.2 A\"\nvoltage = \"12 V\"\nkind = \"heater\"\n"
    ));
    let coil = at(&review, "horn", "worst", Corner::Typical);
    assert!(near(coil.voltage.get(), 11.5) && near(coil.current.get(), 11.5 / 400.0));
    assert_eq!(at(&review, "horn", "idle", Corner::Typical).current.get(), 0.0);
    // Nothing shows a path for its current.
    let f = found(&review, "flyback-missing", "horn").unwrap();
    assert!(near(evidence(f, "current"), 11.5 / 400.0));
}

/// The regulator of a bridge module is a converter of the plan: its heat is that of 12 V − 5 V.
#[test]
fn the_regulator_of_a_module() {
    let text = |jumper: &str, from: &str| {
        format!(
            "{RIG}[driver.crane]\npart = \"bridge-bipolar-2a\"\nfrom = {{ motor = \"wall\"{from} }}\nregulator-jumper = \"{jumper}\"\npins = [\"keeper.io25\"]\n\
             [motor.lens]\nfrom = \"crane.a\"\ncurrent = \"0.2 A\"\nvoltage = \"12 V\"\n[load.bell]\nfrom = \"crane.5v\"\ncurrent = \"0.214 A\"\nvoltage = \"5 V\"\nkind = \"electronics\"\n"
        )
    };
    let r = review(&text("in", ""));
    // (12.0 − 4.8) V · (0.214 + 0.036) A + 12 V · 5 mA = 1.86 W at its lowest output; 80 K/W above 25 °C: too hot.
    let f = found(&r, "converter-heat", "crane.5v").unwrap();
    assert!((evidence(f, "heat") - (7.2 * 0.250 + 0.060)).abs() < 1e-9, "{}", evidence(f, "heat"));
    let gone = Plan::from_toml(&text("out", ", logic = \"logic\"")).unwrap_err();
    assert!(gone.problems.iter().any(|p| p.message.contains("no node `crane.5v`")), "{gone}");
}

/// What is turned off, through which path: the row of the picture against the formula.
#[test]
fn releases_of_a_plan() {
    let plan = |flyback: &str| {
        review(&format!(
            "{RIG}[driver.sw]\nkind = \"nmos\"\npin = \"keeper.io32\"\nresistance = \"0 Ω\"\nrds-on-at = \"2.5 V\"\npull-down = \"10 kΩ\"\nvoltage = \"40 V\"\n\
             [solenoid.lock]\nfrom = \"wall\"\ndriver = \"sw\"\nresistance = \"24 Ω ± 0 %\"\nvoltage = \"12 V\"\ninductance = \"60 mH\"\n{flyback}"
        ))
    };
    let plain = plan("flyback = { vf = \"0.7 V ± 0 %\", current = \"1 A\" }\n").releases().remove(0);
    let need = plain.need.unwrap();
    assert!(near(need.current.get(), 0.5) && near(need.ohms.get(), 24.0) && near(need.supply.get(), 12.0));
    let r = plain.release.unwrap();
    // 2.5 ms · ln(0.52917/0.07917), computed by hand.
    assert!((r.time.get() - 4.749e-3).abs() < 2e-6 && near(r.peak.get(), 12.7));
    let zener =
        plan("flyback = { vf = \"0.7 V ± 0 %\", zener = \"24 V ± 0 %\", current = \"1 A\" }\n").releases().remove(0);
    assert!(near(zener.release.unwrap().peak.get(), 36.7));
    // A clamp at the switch takes its own voltage, the supply among them.
    let clamp = plan("flyback = { zener = \"30 V ± 0 %\", at = \"switch\", current = \"1 A\" }\n").releases().remove(0);
    assert!(near(clamp.release.unwrap().peak.get(), 30.0));
    let none = plan("").releases().remove(0);
    assert!(none.release.is_none());
    let (energy, volts) = none.breaks_down.unwrap();
    assert!(near(energy.get(), 7.5e-3 * 40.0 / 28.0) && volts.get() == 40.0);
    let unknown = review(&format!(
        "{RIG}[driver.sw]\nkind = \"nmos\"\n[solenoid.lock]\nfrom = \"wall\"\ndriver = \"sw\"\nresistance = \"24 Ω\"\nvoltage = \"12 V\"\n"
    ));
    assert!(unknown.releases()[0].need.is_none());
}
