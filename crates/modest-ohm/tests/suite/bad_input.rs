//! Mistakes in a plan's text: all of them at once, each with the characters at fault, and what to write instead.
//!
//! In these texts «…» marks what has to be underlined; the marks are taken out before the plan is read.

use modest_ohm::Plan;
use modest_ohm::plan::Span;

pub const WALL: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n";

/// The text without marks, and the marked places.
fn unmark(marked: &str) -> (String, Vec<Span>) {
    let (mut text, mut spans, mut open) = (String::new(), Vec::new(), 0);
    for c in marked.chars() {
        match c {
            '«' => open = text.len(),
            '»' => spans.push(Span { start: open, end: text.len() }),
            c => text.push(c),
        }
    }
    (text, spans)
}

/// Reads a marked text: as many problems as marks, in order, each underlining its mark and saying its words.
pub fn problems(marked: &str, words: &[&str]) {
    let (text, spans) = unmark(marked);
    let errors = Plan::from_toml(&text).expect_err(&format!("should not be readable:\n{text}"));
    let said: Vec<String> = errors.problems.iter().map(|p| format!("{} ({})", p.message, p.help)).collect();
    assert_eq!(errors.problems.len(), words.len(), "{text}\n{said:#?}");
    let placed: Vec<&Span> = errors.problems.iter().filter_map(|p| p.span.as_ref()).collect();
    let shown: Vec<&str> = placed.iter().map(|s| errors.source.slice(**s)).collect();
    let wanted: Vec<&str> = spans.iter().map(|s| &text[s.start..s.end]).collect();
    assert_eq!(shown, wanted, "{text}\n{said:#?}");
    assert_eq!(placed, spans.iter().collect::<Vec<_>>(), "{text}\n{said:#?}");
    for (said, words) in said.iter().zip(words) {
        for word in words.split('|') {
            assert!(said.contains(word), "`{word}` is not in: {said}\n{text}");
        }
    }
}

/// One line below a sound supply.
pub fn line(marked: &str, words: &[&str]) {
    problems(&format!("{WALL}{marked}\n"), words);
}

/// A load with one more line.
fn load(marked: &str, words: &[&str]) {
    line(&format!("[load.lamp]\nfrom = \"wall\"\ncurrent = \"1 A\"\n{marked}"), words);
}

#[test]
fn unknown_keys_and_names_get_the_nearest_known_one() {
    load("«volatge» = \"5 V\"", &["unknown key `volatge`|did you mean `voltage`?"]);
    load("«xyzzy» = 1", &["unknown key `xyzzy`|`mohm about load` lists its keys"]);
    line("[«lod».lamp]\nfrom = \"wall\"", &["unknown table `lod`|did you mean `load`?"]);
    line("[load.lamp]\nfrom = «\"wal\"»\ncurrent = \"1 A\"", &["no node `wal`|did you mean `wall`?"]);
    line("[load.lamp]\nfrom = «\"nowhere\"»\ncurrent = \"1 A\"", &["no node `nowhere`|nodes of this plan: wall"]);
    line(
        "[strip.arch]\npart = «\"pixel-5v-rbg\"»\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"",
        &["unknown part|did you mean `pixel-5v-rgb`?"],
    );
    problems(
        "format = 1\n[supply.wall]\nkind = «\"adaptor\"»\nvoltage = \"5 V\"",
        &["unknown `kind`|did you mean `adapter`?"],
    );
    line(
        "[scenario.dusk]\noff = [«\"lmp\"»]\n[load.lamp]\nfrom = \"wall\"\ncurrent = \"1 A\"",
        &["unknown part `lmp`|did you mean `lamp`?"],
    );
    line("[«reading».fan]\nfrom = \"wall\"", &["unknown table `reading`|does not read it yet"]);
    problems(&format!("{WALL}[«suply».other]\nkind = \"bench\"\n"), &["did you mean `supply`?"]);
}

#[test]
fn quantities_say_what_is_wrong_inside_the_quotes() {
    load("voltage = \"12 «Vv»\"", &["`Vv` is not a unit of voltage|such as `5 V`"]);
    load("voltage = \"«5»\"", &["`5` has no unit|`5 V`"]);
    load("voltage = «12»", &["plain number|in quotes: `voltage = \"12 V\"`"]);
    load("voltage = «1.2e1»", &["plain number"]);
    load("voltage = «true»", &["true or false, not a voltage"]);
    load("voltage = «[\"5 V\"]»", &["a list, not a voltage"]);
    load("voltage = \"350 «mA»\"", &["`mA` is not a unit of voltage"]);
    load("voltage = \"«nan V»\"", &["not a voltage"]);
    load("voltage = \"«NaN»\"", &["not a voltage"]);
    load("voltage = \"«inf V»\"", &["not a voltage"]);
    load("voltage = \"«1e9 V»\"", &["outside the range of a voltage"]);
    load("voltage = \"1e999 «V»\"", &["not a unit of voltage"]);
    load("voltage = \"«»\"", &["is not a voltage"]);
    load("voltage = \"12 V ± «many %»\"", &["not a percentage"]);
    load("voltage = \"12 V ± «-5 %»\"", &["cannot be negative"]);
    load("voltage = \"«14 V .. 9 V»\"", &["runs from 14 V down to 9 V|smaller value first"]);
    load("voltage = \"9 V .. 14 V, «often 12 V»\"", &["after the range|typical"]);
    load("voltage = \"9 V .. 14 V, «typical 20 V»\"", &["is outside"]);
    load("voltage = «\"-5 V\"»", &["is −5 V|above zero"]);
    load("minimum = «\"0 V\"»", &["above zero"]);
    load("cable = \"1 «m 16 Ω»\"", &["not a unit of length"]);
    load("cable = \"1 m «x AWG»\"", &["not an AWG size"]);
    load("cable = \"1 m «99 AWG»\"", &["outside 0 .. 40 AWG"]);
    load("cable = \"1 m «0.001 mm²»\"", &["outside 0.01 .. 300 mm²"]);
    load("cable = \"«1 m»\"", &["conductor size is missing"]);
    load("cable = \"«-1 m» 16 AWG\"", &["outside the range of a length"]);
    load("cable = \"«99 km» 16 AWG\"", &["outside the range of a length"]);
    load("cable = «3»", &["not a cable"]);
    load("cable = «{ feed = \"1 Ω\" }»", &["one conductor only"]);
    load("cable = «{ length = \"1 m\" }»", &["`size` is missing"]);
    load("cable = { length = \"1 m\", size = «\"thick\"» }", &["not a wire size"]);
    load("cable = { length = \"1 m\", size = \"16 AWG\", «colour» = \"red\" }", &["unknown key `colour`"]);
    load("count = «0»", &["whole number from 1 to 1000"]);
    load("count = «1.5»", &["whole number"]);
    load("at-power-on = «\"of\"»", &["did you mean `off`?"]);
    load("regulated = «\"yes\"»", &["not true or false"]);
}

/// The places count characters, not bytes, and the offset is right behind letters of several bytes and after escapes.
#[test]
fn places_are_right_behind_wide_letters() {
    load("# Ωµ°²±…\nvoltage = \"12 «µΩ»\"", &["not a unit of voltage"]);
    problems(
        "format = 1\ntitle = \"größer Ω 漢字 🙂\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[load.lamp]\nfrom = «\"wärme\"»\ncurrent = \"1 A\"",
        &["no node `wärme`"],
    );
    let errors = Plan::from_toml("format = 1\n  «µ» = 2\n").unwrap_err();
    assert!(!errors.problems.is_empty());
    let (text, spans) = unmark("format = 1\n[supply.wall]\nkind = \"bench\" # µΩ\nvoltage = \"5 «Volt»\" # Ω\n");
    let errors = Plan::from_toml(&text).unwrap_err();
    let place = errors.source.place(spans[0].start);
    assert_eq!((place.line, place.column), (4, 14));
    // With an escape in the string the whole value is marked: a shifted place would be worse.
    load("voltage = «\"12 \\u0056v\"»", &["not a unit of voltage"]);
}

#[test]
fn shares_stay_below_the_whole() {
    problems(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nheadroom = «\"120 %\"»\n",
        &["is 120 %|below 100 %"],
    );
    line(
        "[converter.five]\nkind = \"buck\"\nfrom = \"wall\"\noutput = \"3 V\"\nheadroom = «\"100 %\"»",
        &["below 100 %"],
    );
    problems(&format!("policy.drop = «\"100 %\"»\npolicy.headroom = «\"200 %\"»\n{WALL}"), &["`drop`", "`headroom`"]);
    line(
        "[converter.five]\nkind = \"buck\"\nfrom = \"wall\"\noutput = \"3 V\"\nefficiency = «\"101 %\"»",
        &["at most 100 %"],
    );
}

#[test]
fn missing_things_are_said_at_the_item() {
    line("[load.«lamp»]\ncurrent = \"1 A\"", &["`from` is missing"]);
    line("[load.«lamp»]\nfrom = \"wall\"", &["exactly one of|nothing"]);
    line("[load.«lamp»]\nfrom = \"wall\"\ncurrent = \"1 A\"\npower = \"5 W\"", &["`current` and `power`"]);
    line("[strip.«arch»]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\npixels = \"60 /m\"", &["`length` is missing"]);
    line("[strip.«arch»]\npart = \"pixel-5v-rgb\"\nlength = \"1 m\"\npixels = \"60 /m\"", &["`from` is missing"]);
    line("[converter.«five»]\nfrom = \"wall\"\noutput = \"3 V\"", &["`kind` is missing"]);
    line("[ground.tie]\nbetween = «[\"wall\"]»", &["joins 1 nodes"]);
    problems("format = 1\n[supply.«wall»]\nkind = \"bench\"", &["`voltage` is missing"]);
    problems("[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"", &["`format` is missing"]);
    problems("format = «2»\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"", &["format 1"]);
    problems("format = 1\n", &["has no supply"]);
    problems("", &["`format` is missing", "has no supply"]);
    line("«[[accept]]»\non = \"wall\"\nbecause = \"so\"", &["`code` is missing"]);
}

#[test]
fn names_are_unique_and_plain() {
    line("[load.«wall»]\nfrom = \"wall\"\ncurrent = \"1 A\"", &["used twice"]);
    line("[load.«\"a b\"»]\nfrom = \"wall\"\ncurrent = \"1 A\"", &["is not a valid name"]);
    line("[load.«\"a.b\"»]\nfrom = \"wall\"\ncurrent = \"1 A\"", &["is not a valid name"]);
    line("[load.«\"\"»]\nfrom = \"wall\"\ncurrent = \"1 A\"", &["is not a valid name"]);
    line("[scenario.«worst»]\n", &["is built in"]);
    problems(&format!("load = «3»\n{WALL}"), &["a plain number, not a table"]);
    problems(&format!("load.lamp = «3»\n{WALL}"), &["not a table"]);
    let errors = Plan::from_toml(&format!("{WALL}[load.wall]\nfrom = \"wall\"\ncurrent = \"1 A\"\n")).unwrap_err();
    let (first, label) = errors.problems[0].related.clone().unwrap();
    assert_eq!((errors.source.place(first.start).line, label.as_str()), (2, "first used here"));
}

#[test]
fn feeds_that_lead_nowhere() {
    line("[branch.«a»]\nfrom = \"b\"\n[branch.b]\nfrom = \"a\"", &["is circular: a from b from a"]);
    line("[branch.«a»]\nfrom = \"a\"", &["is circular: a from a"]);
    line(
        "[supply.other]\nkind = \"bench\"\nvoltage = \"5 V\"\n[load.lamp]\nfrom = \"wall\"\ncurrent = \"1 A\"\nreturn = { to = «\"other\"» }",
        &["`lamp` has no return|join the two with `[ground.tie]`"],
    );
    line(
        "[load.lamp]\nfrom = «\"sign\"»\ncurrent = \"1 A\"\n[load.sign]\nfrom = \"wall\"\ncurrent = \"1 A\"",
        &["load tables feed nothing"],
    );
    let strip = "[strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"\n";
    line(
        &format!("{strip}[load.lamp]\nfrom = «\"arch\"»\ncurrent = \"1 A\""),
        &["name one of its nodes: arch.end, arch.start"],
    );
    // Through another strip and back.
    line(
        "[strip.a]\npart = \"pixel-5v-rgb\"\nfrom = \"b.end\"\nlength = \"1 m\"\npixels = \"60 /m\"\n\
         [strip.«b»]\npart = \"pixel-5v-rgb\"\nfrom = \"a.end\"\nlength = \"1 m\"\npixels = \"60 /m\"",
        &["circular"],
    );
}

#[test]
fn strips_and_pins() {
    let strip = |more: &str| {
        format!(
            "[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\n[strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\npixels = \"60 /m\"\n{more}"
        )
    };
    line(&strip("length = «\"5 mm\"»"), &["has no pixel"]);
    line(&strip("length = \"1 m\"\nfirmware-limit = «\"50 mA\"»"), &["is 50 mA; its dark current is 60 mA"]);
    line(&strip("length = «\"9999 m\"»\n").replace("60 /m", "90000 /m"), &["more than the 2000000"]);
    line(&strip("length = \"1 m\"\ninject = [ { at = «\"1.2 m\"» } ]"), &["beyond the strip's 1 m"]);
    line(&strip("length = \"1 m\"\ninject = [ { at = «\"begin\"» } ]"), &["write `start`"]);
    line(&strip("length = \"1 m\"\ninject = «[]»"), &["is empty"]);
    line(
        &strip("length = \"1 m\"\ncable = «\"1 m 18 AWG\"»\ninject = [ { at = \"start\" } ]"),
        &["is given beside `inject`"],
    );
    line(&strip("length = \"1 m\"\ninject = [ «{ cable = \"1 m 18 AWG\" }» ]"), &["`at` is missing"]);
    line(
        &strip("length = \"1 m\"\ndata = { pin = «\"keeper.27\"» }"),
        &["chip number or a header position|keeper.io27"],
    );
    line(&strip("length = \"1 m\"\ndata = { pin = «\"keeper\"» }"), &["names no pin"]);
    line(&strip("length = \"1 m\"\ndata = { pin = «\"kepeer.io27\"» }"), &["no board `kepeer`|did you mean `keeper`?"]);
    line(&strip("length = \"1 m\"\ndata = { pin = \"keeper.io27\", through = «\"lift\"» }"), &["no shifter `lift`"]);
    line(&strip("length = \"1 m\"\ndata = «{ series = \"330 Ω\" }»"), &["neither a pin nor a strip"]);
    line(&strip("length = \"1 m\"\n[strip.arch.colours]\nred = «{ vreg = \"1 V\" }»"), &["is not above vf"]);
}

#[test]
fn all_problems_at_once_in_the_order_of_the_text() {
    problems(
        "format = 1\n«tilte» = \"x\"\n[supply.wall]\nkind = «\"adaptor\"»\nvoltage = \"12 «Vv»\"\n[load.lamp]\nfrom = «\"wal\"»\ncurrent = «1»\n[load.sign]\nfrom = \"wall\"\n«amps» = 3\ncurrent = \"1 A\"\n",
        &["tilte|title", "adapter", "Vv", "wal", "plain number", "unknown key `amps`"],
    );
}

#[test]
fn syntax_errors_come_alone_and_all_of_them() {
    let errors = Plan::from_toml("format = \n[supply.wall\nkind = bench\nvoltage = \"5 V\"\n").unwrap_err();
    assert!(errors.problems.len() >= 2, "{errors}");
    assert!(errors.problems.iter().all(|p| p.message.starts_with("this is not TOML")), "{errors}");
    let lines: Vec<usize> = errors.problems.iter().map(|p| errors.source.place(p.span.unwrap().start).line).collect();
    assert!(lines.windows(2).all(|w| w[0] <= w[1]), "{lines:?}");
}

#[test]
fn scenarios_and_acceptances() {
    let scene = |inside: &str| {
        format!(
            "[strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"\n\
             [load.fan]\nfrom = \"wall\"\ncurrent = \"1 A\"\ncount = 2\n[scenario.dusk]\n{inside}"
        )
    };
    line(&scene("set = { arch = «25» }"), &["a plain number, not a setting"]);
    line(&scene("set = { arch = «\"125 %\"» }"), &["full white is 100 %"]);
    line(&scene("set = { arch = «\"dim\"» }"), &["cannot be set like this|a share of full white"]);
    line(&scene("set = { arch = \"3 «dim»\" }"), &["not a unit of current"]);
    line(&scene("set = { «arch» = \"idle\" }"), &["cannot be set like this|a share of full white"]);
    line(&scene("set = { «fan» = \"25 %\" }"), &["cannot be set like this|a state or a current"]);
    line(&scene("set = { «\"fan.3\"» = \"idle\" }"), &["unknown part `fan.3`|fan.1"]);
    line(&scene("set = «[]»"), &["a list, not a table"]);
    line(&scene("off = «true»"), &["not a list of names"]);
    line(&scene("off = [«3»]"), &["not a name"]);
    line(&scene("based-on = «\"wurst\"»"), &["did you mean `worst`?"]);
    line(&scene("«of» = [\"arch\"]"), &["did you mean `off`?"]);
    problems(&format!("accept = «3»\n{WALL}"), &["is not a list"]);
    line("«[[accept]]»\ncode = \"unused\"", &["because"]);
    line("[[accept]]\ncode = \"unused\"\nbecause = \"so\"\n«why» = \"x\"", &["unknown key `why`"]);
}

/// Sources, switches, diodes, boards: every mistake with its place and what to write.
/// Of two figures that contradict each other both are named.
#[test]
fn figures_that_contradict_each_other() {
    let load = |more: &str| format!("[load.m]\nfrom = \"wall\"\nvoltage = \"12 V\"\ncurrent = \"1 A\"\n{more}");
    line(&load("minimum = «\"13 V\"»"), &["`minimum` 13 V and `voltage` 12 V"]);
    line(&load("knee = «\"13 V\"»"), &["`knee` 13 V and `voltage` 12 V"]);
    line(
        "[load.m]\nfrom = \"wall\"\nvoltage = «\"12 V\"»\ncurrent = \"1 A\"\nabsolute = \"11 V\"",
        &["`voltage` 12 V and `absolute` 11 V"],
    );
    line(&load("recommended = «\"9 V .. 15 V\"»\nabsolute = \"14 V\""), &["`recommended` 15 V and `absolute` 14 V"]);
    line(
        "[motor.m]\nfrom = \"wall\"\nvoltage = \"12 V\"\ncurrent = «\"2 A\"»\nstall = \"1 A\"",
        &["`current` 2 A and `stall` 1 A"],
    );
    // Where its class says the other.
    line(
        "[motor.m]\npart = \"motor-gear-12v\"\nfrom = \"wall\"\nminimum = «\"13 V\"»",
        &["`minimum` 13 V and `voltage` 12 V"],
    );
    line(
        "[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\ncut-off = «\"5 V\"»",
        &["`cut-off` 5 V|the pack never reaches that voltage"],
    );
    line(
        "[board.keeper]\nfrom = \"wall\"\nmean = \"50 mA\"\nrecommended = «\"4.5 V .. 7 V\"»\nabsolute = \"6 V\"",
        &["`recommended` 7 V and `absolute` 6 V"],
    );
    line(
        "[driver.d]\nkind = \"nmos\"\ncurrent = «\"5 A\"»\nsurge-current = \"3 A\"",
        &["`current` 5 A and `surge-current` 3 A"],
    );
}

#[test]
fn limiters_led_drivers_and_power_banks() {
    line("[limiter.«l»]\nfrom = \"wall\"", &["`cold` is missing"]);
    line("[limiter.l]\nfrom = \"wall\"\ncold = \"5 Ω\"\nwarm = «\"8 Ω\"»", &["lower resistance when warm"]);
    line("[limiter.l]\nfrom = \"wall\"\npart = «\"ntc-5ohm-5a\"»\ncold = \"5 Ω\"", &["did you mean `ntc-5ohm-4a`?"]);
    let led = |more: &str| format!("[led.spot]\nfrom = \"wall\"\nvf = \"3 V\"\n{more}");
    line(&led("constant-current = «5»"), &["name the part"]);
    line(&led("constant-current = «\"led-driver-300ma\"»"), &["did you mean `led-driver-350ma`?"]);
    line(&led("constant-current = «{ headroom = \"2 V\" }»"), &["`current` is missing"]);
    line(
        &led("constant-current = \"led-driver-350ma\"\nresistor = «\"10 Ω\"»"),
        &["a resistor and a constant-current driver"],
    );
    line("[supply.bank]\nkind = \"adapter\"\nvoltage = \"5 V\"\noff-below = «\"0 A\"»", &["off-below"]);
    line(
        "[load.fan]\nfrom = \"wall\"\ncurrent = \"1 A\"\npwm-supply = «\"sometimes\"»",
        &["write one of: allowed, never"],
    );
    line("[load.fan]\nfrom = \"wall\"\ncurrent = \"1 A\"\nlocal-capacitor = «\"0 F\"»", &["local-capacitor"]);
    line("[capacitor.c]\nacross = \"wall\"\ncapacitance = \"1 mF\"\nripple = «\"-1 A\"»", &["ripple"]);
}

#[test]
fn sources_rails_and_boards() {
    let supply = |inside: &str| format!("[supply.pack]\n{inside}");
    line(&supply("kind = «\"batery\"»"), &["did you mean `battery`?"]);
    line("[supply.«pack»]\nkind = \"battery\"", &["`cell` is missing|alkaline-aa"]);
    line(&supply("kind = \"battery\"\ncell = «\"li-on-18650\"»"), &["did you mean `li-ion-18650`?"]);
    line(&supply("kind = \"battery\"\nvoltage = \"9 V\"\nseries = «3»"), &["needs a `cell`"]);
    line(&supply("kind = \"battery\"\ncell = \"nimh-aa\"\nseries = «0»"), &["not a whole number from 1"]);
    line(&supply("kind = \"battery\"\ncell = \"nimh-aa\"\nreserve = «\"100 %\"»"), &["below 100 %"]);
    line(
        &supply("kind = \"battery\"\ncell = \"nimh-aa\"\nruntime-in = «\"nigth\"»"),
        &["no continuous scenario `nigth`"],
    );
    line(&supply("kind = \"vehicle\"\nsystem = «\"13 V\"»"), &["did you mean `12 V`?"]);
    line(&supply("kind = \"negotiated\"\nselected = \"9 V\"\nprofiles = [«\"9 V\"»]"), &["not a profile|5 V 3 A"]);
    line("[supply.«pack»]\nkind = \"negotiated\"\nselected = \"9 V\"", &["`profiles` is missing|its `power`"]);
    line(&supply("kind = \"usb\"\nport = «\"usb-4\"»"), &["did you mean `usb-2`?"]);
    line("[switch.main]\nfrom = \"wall\"\nbreaks = «\"both-of-them\"»", &["plus, minus, both"]);
    line("[switch.main]\nfrom = { a = \"wall\" }\nposition = «\"b\"»", &["no position `b`|its positions: a"]);
    line("[switch.main]\nfrom = \"wall\"\nposition = «\"b\"»", &["needs a change-over switch"]);
    line("[diode.d]\nfrom = «\"wal\"»", &["did you mean `wall`?"]);
    line("[diode.«d»]\nacross = \"wall\"", &["`clamps` is missing"]);
    line("[diode.d]\nacross = «\"nowhere\"»\nclamps = \"16 V\"", &["no node `nowhere`"]);
    line("[link.l]\nbetween = «[\"wall\"]»", &["joins 1 nodes"]);
    line("[link.l]\nbetween = [\"wall\", «\"walk\"»]", &["did you mean `wall`?"]);
    line("[busbar.«b»]\nfrom = \"wall\"", &["`bridged` is missing"]);
    line("[busbar.b]\nbridged = \"both\"\nfrom = { «middle» = \"wall\" }", &["its feed terminals: left, right"]);
    line("[busbar.b]\nbridged = \"both\"\nfrom = \"wall\"\nkind = «\"breadbord\"»", &["did you mean `breadboard`?"]);
    line("[capacitor.c]\nacross = \"wall\"\ncapacitance = \"10 «uH»\"", &["not a unit of capacitance"]);
    line(
        "[load.a]\nfrom = \"wall\"\ncurrent = \"1 A\"\n[group.g]\nkind = \"together\"\nmembers = «[\"a\"]»",
        &["has one member"],
    );
    line("[enclosure.b]\ncontains = [«\"fiv\"»]\narea = \"0.1 m²\"", &["`fiv`"]);
    line("[enclosure.b]\ncontains = []\nsize = «[\"1 m\", \"2 m\"]»", &["not three lengths"]);
    line("[stack.s]\nboard = «\"hat\"»\non = «\"keeper\"»", &["no board `hat`", "no board `keeper`"]);
}
