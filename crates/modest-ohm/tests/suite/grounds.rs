//! Grounds and motors in their plans: what returns where, by Kirchhoff; what a start leaves a board, and whether the
//! fixes do what they say.

use crate::common::{Dice, evidence, found, near, review, verdict};
use modest_ohm::{Corner, Plan, Review, Select};

const WALL: &str =
    "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"40 A\"\n";

/// A load with a return of its own and the − of its signal's lead beside it, into a board with a return of its own: two
/// ways in parallel. I₂ = (I·R₁ − I_b·R_b)/(R₁ + R₂ + R_b), I_b the board's own current.
#[test]
fn the_minus_of_a_signal_lead() {
    let mut dice = Dice(31);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..150 {
        let (own, board) = (dice.log(0.003, 1.0), dice.log(0.003, 0.3));
        let (amps, lead) = (dice.between(0.2, 4.0), dice.between(0.2, 3.0));
        let text = format!(
            "{WALL}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\nmean = \"0.1 A\"\npeak = \"0.1 A\"\n\
             cable = {{ feed = \"0 Ω\", return = \"{board:.5} Ω\", ampacity = \"20 A\" }}\n\
             [servo.span]\nfrom = \"wall\"\ncurrent = \"{amps:.4} A\"\nvoltage = \"5 V\"\nrecommended = \"0.1 V .. 6 V\"\n\
             cable = {{ feed = \"0 Ω\", return = \"{own:.5} Ω\", ampacity = \"20 A\" }}\n\
             signal = {{ pins = \"keeper.io21\", ground = true, cable = \"{lead:.3} m\" }}\nvih = \"2 V\"\nvil = \"0.8 V\"\n"
        );
        let r = review(&text);
        let p = |x: f64, d: usize| format!("{x:.d$}").parse::<f64>().unwrap();
        let (own, board, amps, lead) = (p(own, 5), p(board, 5), p(amps, 4), p(lead, 3));
        // 26 AWG, stranded, at 25 °C (ASTM B258, IEC 60028): 133.9 Ω/km, and warmer by what it carries in *low* only.
        let d = 0.127e-3 * 92f64.powf(10.0 / 39.0);
        let cold = 1.7241e-8 / (std::f64::consts::PI / 4.0 * d * d) * 1.03 * (1.0 + 0.003_93 * 5.0) * lead;
        let through = (amps * own - 0.1 * board) / (own + cold + board);
        let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
        let rows = r.conductors(&select);
        let tie = rows.iter().find(|c| c.row.name == "span.signal-ground").unwrap();
        assert!(
            (tie.row.back.get().abs() - through.abs()).abs() < 2e-4 * amps,
            "{round}: {} {through}\n{text}",
            tie.row.back
        );
        let aside = through.abs();
        // 26 AWG, 0.12881 mm², carries 18.8 A/mm².
        let carries = 18.8 * 0.128_81;
        let want = if aside > carries {
            "danger"
        } else if aside > 0.1 {
            "caution"
        } else {
            "pass"
        };
        // Warm copper takes a little less: at the edges either is right.
        if [0.1, carries].iter().any(|l| (aside / l - 1.0).abs() < 0.05) {
            continue;
        }
        // Within its rating, all of it may go there when its own return opens.
        let open = if want == "pass" && amps > carries { "caution" } else { want };
        let got = verdict(found(&r, "ground-through-logic", "span.signal-ground"));
        assert_eq!(got, open, "{round}: {aside} {amps}\n{text}");
        *seen.entry(open).or_insert(0) += 1;
    }
    assert!(seen.len() == 3 && seen.values().all(|n| *n >= 5), "{seen:?}");
}

/// Every kind of signal between two supplies, tied and not; what is isolated needs no tie.
#[test]
fn signals_without_a_ground() {
    let two = |tie: bool, more: &str| {
        let tie = if tie { "[ground.tie]\nbetween = [\"wall\", \"yard\"]\ncable = \"0.2 m 18 AWG\"\n" } else { "" };
        review(&format!(
            "{WALL}[supply.yard]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"5 A\"\n{tie}\
             [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\n[board.gate]\npart = \"board-5v-8bit\"\nfrom = \"yard\"\n{more}"
        ))
    };
    let strip = "[strip.edge]\npart = \"pixel-5v-rgb\"\nfrom = \"yard\"\nlength = \"1 m\"\npixels = \"30 /m\"\ndata = { pin = \"keeper.io27\" }\n";
    let nmos = "[driver.sw]\npart = \"nmos-logic-30v\"\npin = \"keeper.io32\"\npull-down = \"10 kΩ\"\n[load.lens]\nfrom = \"yard\"\ndriver = \"sw\"\nkind = \"heater\"\nvoltage = \"5 V\"\ncurrent = \"0.1 A\"\n";
    let swing = "[input.wind]\npin = \"keeper.io34\"\nkind = \"voltage\"\nhigh = \"3.3 V\"\nground = \"yard\"\n";
    let wire = "[signal.beat]\npin = \"keeper.io4\"\nto = \"gate.d4\"\n";
    let bus = "[bus.mast]\nkind = \"i2c\"\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\npull = \"4.7 kΩ\"\n[sensor.air]\nfrom = \"yard\"\nbus = \"mast\"\naddress = \"0x40\"\n";
    for (more, subject) in [(strip, "edge"), (nmos, "sw"), (swing, "wind"), (wire, "beat"), (bus, "air")] {
        let f = found(&two(false, more).with_fixes(), "ground-not-common", subject).cloned();
        let f = f.unwrap_or_else(|| panic!("{subject}"));
        assert_eq!(f.severity.word(), "fault");
        let words = f.fixes[0].instruction();
        assert!(words.contains("`[ground.tie]` with `between = [\""), "{subject}: {words}");
        // The tie that it proposes, written into the plan, does it.
        let tied = two(true, more);
        assert!(found(&tied, "ground-not-common", subject).is_none(), "{subject}");
        assert!(tied.passed().iter().any(|p| p.code == "ground-not-common" && p.subject == subject), "{subject}");
    }
    // A contact keeps its own loop; an optocoupler has no ground to share; a relay's load is connected to whatever it
    // likes.
    let contact = "[input.float]\npin = \"keeper.io34\"\nkind = \"contact\"\npull = \"10 kΩ\"\n";
    let opto = "[driver.sw]\npart = \"mosfet-module-opto\"\npin = \"keeper.io32\"\n[load.lens]\nfrom = \"yard\"\ndriver = \"sw\"\nkind = \"heater\"\nvoltage = \"5 V\"\ncurrent = \"0.1 A\"\n";
    let relay = "[driver.coil]\npart = \"npn-small\"\npin = \"keeper.io32\"\nbase-resistor = \"220 Ω\"\n[driver.horn]\npart = \"relay-5v\"\nfrom = \"wall\"\ndriver = \"coil\"\n\
                 [load.lens]\nfrom = \"yard\"\ndriver = \"horn\"\nkind = \"heater\"\nvoltage = \"5 V\"\ncurrent = \"0.1 A\"\n";
    for more in [contact, opto, relay] {
        let r = two(false, more);
        assert!(r.findings().iter().all(|f| f.code != "ground-not-common"), "{:?}", r.findings());
    }
}

fn lowest(r: &Review) -> f64 {
    let surges =
        ["start", "surge"].into_iter().flat_map(|s| r.loads(&Select { scenario: Some(s.into()), ..Select::default() }));
    surges.filter(|l| l.row.name == "keeper").map(|l| l.row.voltage.get()).fold(f64::INFINITY, f64::min)
}

/// A start that takes a board down: its own way to the source, a source of its own for the motor and a soft start are
/// tried, and each does what an independent plan with that change shows; a capacitor, which holds a board for a
/// millisecond, is not offered.
#[test]
fn fixes_of_a_brown_out_do_what_they_say() {
    let plan = |shared: f64, motor: &str, more: &str, stall: f64| {
        format!(
            "{WALL}[branch.shared]\nfrom = \"wall\"\ncable = {{ feed = \"{shared} Ω\", return = \"{shared} Ω\", ampacity = \"20 A\" }}\n\
             [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"shared\"\ncable = \"0 m 12 AWG\"\n\
             [motor.lens]\n{motor}cable = \"0 m 12 AWG\"\nvoltage = \"5 V\"\ncurrent = \"0.2 A ± 0 %\"\nstall = \"{stall} A\"\n{more}"
        )
    };
    for (shared, stall) in [(0.1, 8.0), (0.08, 10.0), (0.15, 5.5)] {
        let r = review(&plan(shared, "from = \"shared\"\n", "", stall)).with_fixes();
        let f = found(&r, "brown-out", "keeper").unwrap_or_else(|| panic!("{shared} {stall}: {:?}", r.findings()));
        assert!(near(evidence(f, "voltage"), lowest(&r)));
        assert!(!f.fixes.is_empty(), "{f:?}");
        for fix in &f.fixes {
            let words = fix.instruction();
            let text = modest_ohm::edit::apply(r.plan().source().text(), &fix.edits).unwrap();
            assert!(lowest(&Plan::from_toml(&text).unwrap().review()) > lowest(&r) + 0.1, "{words}");
            assert!(!words.contains("capacitor"), "{words}");
        }
        // The motor on the source itself leaves the board more than half a volt.
        let own_way = lowest(&review(&plan(shared, "from = \"wall\"\n", "", stall)));
        assert!(own_way > lowest(&r) + 0.5, "{own_way}");
    }
}

/// One cause, one finding: a servo on a board's 3.3 V, and all that follows from it.
#[test]
fn a_servo_on_logic_volts_is_one_finding() {
    let r = review(&format!(
        "{WALL}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\ncable = \"0.2 m 18 AWG\"\nfuse = \"3 A\"\n\
         [servo.span]\npart = \"servo-micro\"\ncount = 2\nfrom = \"keeper.3v3\"\ncable = \"0.3 m 26 AWG\"\nsignal = [\"keeper.io21\", \"keeper.io22\"]\n"
    ));
    let loud: Vec<&str> = r
        .findings()
        .iter()
        .filter(|f| f.severity.word() == "danger" || f.severity.word() == "fault")
        .map(|f| f.code)
        .collect();
    assert_eq!(loud, ["servo-supply"], "{:?}", r.findings());
    let head = found(&r, "servo-supply", "span").unwrap();
    assert!(near(evidence(head, "demand"), 1.6));
    for code in ["supply-overloaded", "supply-voltage"] {
        assert!(head.also.iter().any(|c| c.code == code), "{code}: {:?}", head.also);
    }
}

/// Members of an exclusive group on the two contacts of one relay are kept apart by wiring; on two channels by
/// firmware.
#[test]
fn what_keeps_loads_apart() {
    let plan = |kind: &str, second: &str, group: &str| {
        Plan::from_toml(&format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"4 A\"\n{kind}\
             [load.up]\nfrom = \"wall\"\ndriver = \"sw\"\nkind = \"heater\"\nvoltage = \"12 V\"\ncurrent = \"3 A\"\n\
             [load.down]\nfrom = \"wall\"\n{second}kind = \"heater\"\nvoltage = \"12 V\"\ncurrent = \"3 A\"\n\
             [group.winch]\nkind = \"exclusive\"\nmembers = [\"up\", \"down\"]\n{group}"
        ))
        .unwrap_or_else(|e| panic!("{e}"))
        .review()
    };
    let relay =
        "[driver.sw]\npart = \"relay-12v\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\nflyback = \"rectifier-1a\"\n";
    let two = "[driver.sw]\npart = \"nmos-logic-30v\"\n[driver.other]\npart = \"nmos-logic-30v\"\n";
    assert!(
        found(&plan(relay, "driver = \"sw\"\ncontact = \"nc\"\n", ""), "interlock-software-only", "winch").is_none()
    );
    let f = plan(two, "driver = \"other\"\n", "");
    let f = found(&f, "interlock-software-only", "winch").unwrap();
    assert!(near(evidence(f, "both_on"), 6.0) && near(evidence(f, "limit"), 4.0));
    assert!(
        found(&plan(two, "driver = \"other\"\n", "by = \"wiring\"\n"), "interlock-software-only", "winch").is_none()
    );
}
