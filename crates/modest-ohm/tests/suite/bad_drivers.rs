//! Mistakes in drivers, motors and mains are reported with their place, all at once, and never panic.

use crate::common::Dice;
use modest_ohm::Plan;

const HEAD: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n\
    [board.keeper]\npart = \"wifi-board-3v3\"\nusb = \"always\"\n";

/// What is wrong with a plan, each as `word: message (help)` with the words that it underlines.
fn told(more: &str) -> Vec<String> {
    let errors = Plan::from_toml(&format!("{HEAD}{more}")).expect_err(more);
    let place = |p: &modest_ohm::Problem| p.span.map_or(String::new(), |s| errors.source.slice(s).to_owned());
    errors.problems.iter().map(|p| format!("{} | {} ({})", place(p), p.message, p.help)).collect()
}

fn one(more: &str, words: &[&str]) {
    let told = told(more);
    assert_eq!(told.len(), 1, "{more}\n{told:#?}");
    for word in words {
        assert!(told[0].contains(word), "{word} not in {}", told[0]);
    }
}

const LOAD: &str = "[motor.lens]\nfrom = \"wall\"\ncurrent = \"0.2 A\"\nvoltage = \"12 V\"\n";
const SWITCH: &str = "[driver.sw]\npart = \"nmos-logic-30v\"\npin = \"keeper.io32\"\n";

#[test]
fn names_that_are_none() {
    one(&format!("{LOAD}driver = \"sww\"\n{SWITCH}"), &["\"sww\" |", "no driver `sww`", "did you mean `sw`?"]);
    one(&format!("{LOAD}driver = \"sw\"\n"), &["no driver `sw`", "write `[driver.sw]`"]);
    one(&format!("{LOAD}driver = \"sw.2\"\n{SWITCH}"), &["names an unknown channel of `sw`", "`driver = \"sw\"`"]);
    let channels = "[driver.arr]\npart = \"darlington-array\"\ncommon = \"wall\"\n[driver.arr.channels]\n1 = \"keeper.io16\"\n2 = \"keeper.io17\"\n";
    one(&format!("{LOAD}driver = \"arr\"\n{channels}"), &["names an unknown channel of `arr`", "arr.1, arr.2"]);
    one(&format!("{LOAD}driver = \"arr.3\"\n{channels}"), &["names an unknown channel of `arr`"]);
    one(
        &format!("{LOAD}driver = \"arr.1\"\n{channels}").replace("\"wall\"\n[driver.arr.ch", "\"wal\"\n[driver.arr.ch"),
        &["no node `wal`"],
    );
    one(&format!("{LOAD}stopped-by = \"float\"\n"), &["\"float\" | there is no input `float`"]);
    one("[mains.lamp]\nthrough = [\"horn\"]\n", &["there is no relay or switch `horn`"]);
    one(
        &format!("{SWITCH}{LOAD}driver = \"sw\"\nflyback = \"schotky-3a-40v\"\n"),
        &["did you mean `schottky-3a-40v`?"],
    );
    one(
        "[driver.sw]\npart = \"nmos-logic-30v\"\npin = \"keper.io32\"\n",
        &["no board `keper`", "did you mean `keeper`?"],
    );
}

#[test]
fn stages_where_they_cannot_be() {
    let bridge = "[driver.crane]\npart = \"bridge-mosfet-13v\"\nfrom = { motor = \"wall\", logic = \"keeper.3v3\" }\npins = [\"keeper.io25\"]\n";
    one(
        &format!("{LOAD}driver = \"crane\"\n{bridge}"),
        &["is a bridge, which feeds its load itself", "`from = \"crane.a\"`"],
    );
    one(
        &format!("{LOAD}driver = \"sw\"\ncontact = \"nc\"\n{SWITCH}"),
        &["the normally closed contact of `sw`, which has none"],
    );
    one(&format!("{LOAD}contact = \"nc\"\n"), &["has `contact` and no relay"]);
    // One switch, one rail.
    let two = format!(
        "{SWITCH}{LOAD}driver = \"sw\"\n[load.lamp]\nfrom = \"keeper.5v\"\ndriver = \"sw\"\ncurrent = \"0.1 A\"\n"
    );
    one(&two, &["is fed from `wall` behind `sw`, which also switches loads on `keeper.5v`", "one switch, one rail"]);
    let lead = format!("{LOAD}driver = \"sw\"\n{SWITCH}from = \"keeper.5v\"\ncable = \"0.2 m 18 AWG\"\n");
    one(&lead, &["its switch `sw` from `keeper.5v`", "name the same node in both"]);
    one(&format!("{SWITCH}cable = \"0.2 m 18 AWG\"\n"), &["needs the node that the cable comes from"]);
    one("[driver.sw]\npin = \"keeper.io32\"\n", &["`part` is missing", "`mohm catalogue driver`"]);
    one(&format!("{SWITCH}[driver.sw.channels]\n1 = \"keeper.io33\"\n"), &["has `channels` and a `pin` of its own"]);
    one("[driver.sw]\npart = \"nmos-logic-30v\"\n[driver.sw.channels]\n", &["has no channel"]);
    // The coil of a bare relay is connected to a driver or a pin; a signal does not switch it.
    let relay = "[driver.horn]\npart = \"relay-5v\"\nfrom = \"keeper.5v\"\n";
    one(
        &format!("{relay}pin = \"keeper.io33\"\n"),
        &["\"keeper.io33\" |", "`horn` is a bare relay", "from = \"keeper.io21\""],
    );
    let both = told(&format!("{relay}[driver.horn.channels]\n1 = \"keeper.io33\"\n"));
    assert!(both[0].contains("is a bare relay"), "{both:?}");
    // A wrong form of `channels` is reported of beside what it would have named.
    let number = told(&format!("{LOAD}driver = \"sw.a\"\n[driver.sw]\npart = \"nmos-logic-30v\"\nchannels = 4\n"));
    assert!(number.iter().any(|p| p.contains("is a plain number, not a table")), "{number:?}");
    assert!(number.iter().any(|p| p.contains("or give it channels: `channels = { 1 = ")), "{number:?}");
    one("[driver.sw]\npart = \"nmos-logic-30v\"\n[driver.sw.channels]\n1 = 5\n", &["channel `1` of driver `sw` is"]);
    one(
        &bridge.replace("[\"keeper.io25\"]", "[\"keeper.io25\", \"keeper.io26\", \"keeper.io27\"]"),
        &["has 3 inputs per channel"],
    );
    one("[driver.horn]\nkind = \"relay\"\nfrom = \"wall\"\ncoil = \"12 V\"\n", &["`coil-resistance` is missing"]);
    one("[driver.horn]\npart = \"relay-12v\"\n", &["`from` is missing"]);
    one(
        "[driver.crane]\npart = \"bridge-mosfet-13v\"\nfrom = { logic = \"keeper.3v3\" }\n",
        &["the motor supply is missing"],
    );
}

#[test]
fn figures_that_are_none() {
    one(
        &format!("{SWITCH}needs-voltage = [\"2.4 V\"]\n").replace("nmos-logic-30v", "darlington-array"),
        &["is not a voltage at a current"],
    );
    one(
        &format!("{SWITCH}hfe = 0\n").replace("nmos-logic-30v", "npn-small"),
        &["`hfe` of driver `sw`", "1 to 1000000"],
    );
    one(&format!("{SWITCH}rds-on-at = \"5 A\"\n"), &["A | `rds-on-at` of driver `sw`: `A` is not a unit of voltage"]);
    one(&format!("{SWITCH}flyback = 3\n"), &["`flyback` of driver `sw` is a plain number"]);
    one(
        &format!("{SWITCH}flyback = {{ part = \"rectifier-1a\", cathode = \"left\" }}\n"),
        &["unknown `cathode`: `left`"],
    );
    one(&format!("{SWITCH}gate-driver = 3\n"), &["`gate-driver` of driver `sw` is a plain number"]);
    one("[mains.lamp]\nsize = \"thick\"\n", &["is not a wire size"]);
    one("[mains.lamp]\ncurrent = \"1 A\"\npower = \"100 W\"\n", &["has both `current` and `power`"]);
    one("[policy]\nregion = \"moon\"\n", &["unknown `region`: `moon`"]);
    one(
        &format!("{SWITCH}gate-resitor = \"100 Ω\"\n"),
        &["unknown key `gate-resitor`", "did you mean `gate-resistor`?"],
    );
}

/// All at once: none of five mistakes hides another.
#[test]
fn all_at_once() {
    let told = told(
        "[driver.sw]\npart = \"nmos-logic-30v\"\npin = \"keper.io32\"\nrds-on-at = \"5 A\"\nvolatge = \"3 V\"\n\
         [motor.lens]\nfrom = \"wal\"\ndriver = \"sv\"\ncurrent = \"0.2 A\"\nstopped-by = \"flaot\"\n",
    );
    for word in ["`keper`", "not a unit of voltage", "`volatge`", "`sv`", "`wal`", "`flaot`"] {
        assert!(told.iter().any(|t| t.contains(word)), "{word}: {told:#?}");
    }
    assert_eq!(told.len(), 6, "{told:#?}");
}

const VALUES: [&str; 20] = [
    "\"0 V\"",
    "\"-5 V\"",
    "\"1e6 A\"",
    "\"0 Ω\"",
    "\"1 GΩ\"",
    "\"wall\"",
    "\"keeper.any\"",
    "\"keeper.3v3\"",
    "true",
    "0",
    "[]",
    "{}",
    "\"nc\"",
    "\"low\"",
    "\"in\"",
    "\"\"",
    "\"1 nH\"",
    "\"100 %\"",
    "\"none\"",
    "[\"a\", \"b\", \"c\"]",
];

/// Lines lost, doubled, changed over, and values of another kind.
fn mutate(dice: &mut Dice, lines: &mut Vec<String>) {
    for _ in 0..dice.within(1, 4) {
        let at = dice.within(0, lines.len());
        match dice.within(0, 5) {
            0 => {
                lines.remove(at);
            }
            1 => {
                let line = lines[at].clone();
                let to = dice.within(0, lines.len());
                lines.insert(to, line);
            }
            2 => {
                let other = dice.within(0, lines.len());
                lines.swap(at, other);
            }
            _ => {
                if let Some((key, _)) = lines[at].clone().split_once(" = ") {
                    lines[at] = format!("{key} = {}", dice.pick(&VALUES));
                }
            }
        }
        if lines.is_empty() {
            break;
        }
    }
}

/// Plans of drivers with lines lost, doubled, changed over, and values of another kind: read or refused, reviewed, no
/// panic.
#[test]
fn mutated_plans() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR"));
    let read = |p: &str| std::fs::read_to_string(folder.join(p)).unwrap();
    let seeds = [
        read("../../plans/harbour-diorama.toml"),
        read("tests/harbour/slice.toml"),
        read("tests/plans/flyback-missing/fires-danger-common.toml"),
        read("tests/plans/relay-logic/clean.toml"),
        read("tests/plans/bridge-logic/near-fault.toml"),
        read("tests/plans/mains-contact/clean.toml"),
        read("tests/plans/gate-drive/near-fault-no-pull.toml"),
        read("tests/plans/brown-out/fires-fault.toml"),
        read("tests/plans/ground-through-logic/fires-danger.toml"),
    ];
    let mut dice = Dice(23);
    let (mut read_well, mut refused) = (0, 0);
    for _ in 0..900 {
        let seed = &seeds[dice.within(0, seeds.len())];
        let mut lines: Vec<String> = seed.lines().map(str::to_owned).collect();
        mutate(&mut dice, &mut lines);
        match Plan::from_toml(&lines.join("\n")) {
            Ok(plan) => {
                let review = plan.review();
                let _ = (review.releases(), review.pins(), review.tree());
                let finite = review.findings().iter().flat_map(|f| &f.evidence).all(|e| !e.value.is_nan());
                assert!(finite, "{}", lines.join("\n"));
                read_well += 1;
            }
            Err(errors) => {
                assert!(!errors.problems.is_empty());
                refused += 1;
            }
        }
    }
    assert!(read_well > 150 && refused > 150, "{read_well} {refused}");
}
