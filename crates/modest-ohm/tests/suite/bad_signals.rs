//! Mistakes in pins, LEDs, inputs, wires, buses and shifters: each told with its place and what to write, all at once.

use modest_ohm::{Plan, PlanErrors};

const BASE: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"9 A\"\n\
                    [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\n";

/// The problems of a text whose wrong words stand between « and »; each has to point there and say its words.
fn problems(marked: &str, expected: &[&str]) {
    let (mut text, mut spans) = (BASE.to_owned(), Vec::new());
    for (n, part) in marked.split('«').enumerate() {
        let Some((wrong, rest)) = part.split_once('»').filter(|_| n > 0) else {
            text.push_str(part);
            continue;
        };
        spans.push((text.len(), text.len() + wrong.len()));
        text.push_str(wrong);
        text.push_str(rest);
    }
    let errors: PlanErrors = Plan::from_toml(&text).map(|_| ()).expect_err(&format!("should not be readable:\n{text}"));
    let told: Vec<String> = errors.problems.iter().map(|p| format!("{} ({})", p.message, p.help)).collect();
    assert_eq!(told.len(), expected.len(), "{told:#?}\n{text}");
    for ((words, problem), told) in expected.iter().zip(&errors.problems).zip(&told) {
        assert!(words.split('|').all(|w| told.contains(w)), "{words}: {told}");
        let span = problem.span.unwrap_or_else(|| panic!("{told} has no place"));
        assert!(spans.contains(&(span.start, span.end)), "{told} points at `{}`\n{text}", &text[span.start..span.end]);
    }
}

#[test]
fn pins() {
    let input = |pin: &str| format!("[input.float]\npin = {pin}\nkind = \"contact\"\n");
    problems(
        &input("«\"keeper.27\"»"),
        &["chip number or a header position|`keeper.io27`|position: `keeper.p27`, which is `io16`"],
    );
    problems(&input("«\"keeper.24\"»"), &["no pin has this chip number|`io2`"]);
    problems(&input("«\"keeper\"»"), &["names no pin|keeper.io36"]);
    problems(&input("«\"keper.io27\"»"), &["no board `keper`|did you mean `keeper`?"]);
    problems("[branch.b]\nfrom = «\"keeper.io27\"»\n", &["is a pin: it feeds a load or an LED|keeper.3v3"]);
    problems("[load.l]\nfrom = «\"keeper.p2\"»\ncurrent = \"1 mA\"\n", &["a reset or enable pin: it feeds nothing"]);
    problems("[load.l]\nfrom = «\"keeper.io77\"»\ncurrent = \"1 mA\"\n", &["no node `keeper.io77`"]);
}

#[test]
fn leds_and_wires() {
    problems("[led.«a»]\nresistor = \"1 kΩ\"\n", &["`part` is missing", "`from` is missing"]);
    problems("[led.a]\npart = «\"led-rde\"»\nfrom = \"wall\"\n", &["unknown part `led-rde`|did you mean `led-red`?"]);
    problems(
        "[led.a]\npart = \"led-red\"\nfrom = \"wall\"\nreturn = { to = \"wall\" }\nsink = «\"keeper.io4\"»\n",
        &["has both `return` and `sink`"],
    );
    problems(
        "[led.a]\npart = \"led-red\"\nfrom = \"wall\"\nin-series = «0»\n«resitsor» = \"1 kΩ\"\n",
        &["not a whole number from 1", "unknown key `resitsor`|did you mean `resistor`?"],
    );
    problems("[signal.«w»]\nto = \"keeper.io4\"\n", &["`pin` is missing"]);
    problems(
        "[signal.w]\npin = \"keeper.io4\"\nneeds = [«\"pwn\"»]\nthrough = «\"lift\"»\n",
        &["unknown function `pwn`|did you mean `pwm`?", "no shifter `lift`"],
    );
    problems("[signal.w]\npin = \"keeper.io4\"\nopto = «{ vf = \"1 V\" }»\n", &["`resistor` is missing"]);
    problems(
        "[load.span]\ncount = 3\nfrom = \"wall\"\ncurrent = \"1 mA\"\nsignal = «[\"keeper.io4\", \"keeper.io5\"]»\n",
        &["has 2 pins for 3 members"],
    );
    problems(
        "[load.span]\nfrom = \"wall\"\ncurrent = \"1 mA\"\nsignal = «{ cable = \"1 m\" }»\n",
        &["`pins` is missing"],
    );
}

#[test]
fn inputs() {
    problems("[input.«i»]\n", &["`pin` is missing", "`kind` is missing"]);
    problems("[input.i]\npin = \"keeper.io4\"\nkind = «\"kontact\"»\n", &["unknown `kind`|did you mean `contact`?"]);
    let swing = |more: &str| format!("[input.i]\npin = \"keeper.io4\"\nkind = \"voltage\"\n{more}");
    problems(&swing("high = «\"2 V\"»\nlow = \"2.5 V\"\n"), &["runs from 2.5 V to 2 V"]);
    problems(&swing("high = \"9 V\"\ndivider = «{ top = \"1 kΩ\" }»\n"), &["`bottom` is missing"]);
    problems(
        &swing("high = \"9 V\"\ndivider = { top = \"1 kΩ\", bottom = \"1 kΩ\" }\nseries = «\"1 kΩ\"»\n"),
        &["both a divider and a series resistor"],
    );
    problems(
        &swing("high = \"9 V\"\nground = «\"wal\"»\npull = \"4 «A»\"\n"),
        &["no node `wal`|did you mean `wall`?", "`pull` of input `i`"],
    );
    problems(
        "[input.i]\npin = \"keeper.io4\"\nkind = \"contact\"\npull-to = «\"wall\"»\n",
        &["has `pull-to` and no `pull`|pull = \"10 kΩ\""],
    );
    problems("[input.i]\npin = \"keeper.io4\"\nkind = \"contact\"\nsampled = \"«fast»\"\n", &["not a duration"]);
}

#[test]
fn buses_shifters_and_stacks() {
    problems("[bus.«mast»]\n", &["`data` is missing", "`clock` is missing"]);
    problems(
        "[bus.mast]\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\n[sensor.«s»]\nbus = «\"mats\"»\n",
        &["`from` is missing", "no bus `mats`|did you mean `mast`?"],
    );
    for address in ["0x80", "\"0x7g\"", "4", "true"] {
        problems(
            &format!(
                "[bus.mast]\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\n[sensor.s]\nbus = \"mast\"\nfrom = \"wall\"\naddress = «{address}»\n"
            ),
            &["not a seven-bit address|0x08 .. 0x77"],
        );
    }
    problems("[shifter.step]\nfrom = «{ low = \"wall\" }»\n", &["the high side is missing"]);
    problems(
        "[shifter.step]\nfrom = { low = \"wall\", high = \"wall\" }\nsends = «\"sideways\"»\n",
        &["unknown `sends`"],
    );
    problems(
        "[board.crane]\nfrom = \"wall\"\nmean = \"1 mA\"\n[stack.s]\nboard = \"crane\"\non = \"keeper\"\nshares = []\nclaims = [«\"25\"»]\n",
        &["chip number or a header position"],
    );
    problems(
        "[stack.s]\nboard = \"keeper\"\non = «\"keeper\"»\nshares = []\n",
        &["plugs `keeper` into itself|name two boards"],
    );
}

/// An address is the same number in every way of writing it, and a number with a prefix is never read as another.
#[test]
fn numbers_with_a_prefix() {
    let plan = |a: &str, b: &str| {
        let sensor = |name: &str, address: &str| {
            format!(
                "[sensor.{name}]\npart = \"sensor-3v3\"\nbus = \"mast\"\nfrom = \"keeper.3v3\"\naddress = {address}\n"
            )
        };
        let bus =
            "[bus.mast]\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\npull = \"4.7 kΩ\"\nlength = \"0.2 m\"\n";
        let text = format!("{BASE}{bus}{}{}", sensor("a", a), sensor("b", b));
        let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
        review.findings().iter().any(|f| f.code == "bus-pull-ups" && f.subject == "b")
    };
    for same in [("0x76", "\"0x76\""), ("0x76", "118"), ("\"0X76\"", "118")] {
        assert!(plan(same.0, same.1), "{same:?}");
    }
    for other in [("0x76", "76"), ("0x77", "0x76")] {
        assert!(!plan(other.0, other.1), "{other:?}");
    }
    problems("[load.l]\nfrom = \"wall\"\ncurrent = \"1 mA\"\ncount = «0x10»\n", &["not a whole number"]);
}

/// On a board whose pins nobody listed, what looks like a pin is one; what looks like nothing is still told.
#[test]
fn pins_of_a_board_without_a_class() {
    let board =
        "[board.helm]\nfrom = \"wall\"\nmean = \"20 mA\"\nregulator = { output = \"3v3\", voltage = \"3.3 V\" }\n";
    let led = |from: &str| format!("{board}[led.a]\npart = \"led-red\"\nfrom = {from}\nresistor = \"470 Ω\"\n");
    for (pin, subject) in [("helm.io5", "helm.io5"), ("helm.d13", "helm.d13"), ("helm.p7", "helm.p7")] {
        let plan = Plan::from_toml(&format!("{BASE}{}", led(&format!("\"{pin}\"")))).unwrap_or_else(|e| panic!("{e}"));
        let review = plan.review();
        let unknown: Vec<&str> =
            review.findings().iter().filter(|f| f.severity.word() == "unknown").map(|f| f.subject.as_str()).collect();
        // What it may carry is not known, and that is said, not passed.
        assert!(unknown.contains(&subject), "{pin}: {:?}", review.findings());
        assert!(!review.passed().iter().any(|p| p.code == "pin-overloaded" && p.subject == subject));
    }
    problems(&led("«\"helm.3v\"»"), &["no node `helm.3v`"]);
    problems(&led("«\"helm.lamp\"»"), &["no node `helm.lamp`"]);
    problems(&led("«\"helm.io5x\"»"), &["no node `helm.io5x`"]);
    // Of the terminals and outputs themselves it is the node that is meant.
    let plan = Plan::from_toml(&format!("{BASE}{}", led("\"helm.3v3\""))).unwrap_or_else(|e| panic!("{e}"));
    assert!(plan.review().findings().iter().all(|f| f.code != "pin-overloaded"));
}

#[test]
fn tables_of_pins() {
    let board = |pins: &str| format!("[board.helm]\nfrom = \"wall\"\nmean = \"20 mA\"\npins = {{ {pins} }}\n");
    problems(&board("s1 = { series = \"470 «V»\" }"), &["`series` of"]);
    problems(&board("s1 = { «serie» = \"470 Ω\" }"), &["unknown key `serie`|did you mean `series`?"]);
    problems(&board("s1 = { kind = «\"grund\"» }"), &["did you mean `ground`?"]);
    problems(&board("s1 = { boot-level = «\"open\"» }"), &["unknown `boot-level`"]);
    problems(
        &board("s1 = { position = \"p1\" }, «s2» = { position = \"p1\" }, s3 = { functions = [«\"pwn\"»] }"),
        &["both `s1` and `s2` at `p1`", "did you mean `pwm`?"],
    );
}
