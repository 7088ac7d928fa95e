//! What the plan's new kinds mean, computed by hand: groups, change-over switches, ports, stacks, sections, USB,
//! isolated outputs, clamps in the balance.

use modest_ohm::{Corner, Plan, Review, Select, Severity};

const WALL: &str = "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"20 A\"\n";

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn found(r: &Review) -> Vec<String> {
    r.findings().iter().map(|f| format!("{} {}", f.code, f.subject)).collect()
}

/// The wanted current of a node in a scenario, at its worst corner, A.
fn wanted(r: &Review, node: &str, scenario: &str) -> f64 {
    let select = Select { scenario: Some(scenario.into()), ..Select::default() };
    let rows = r.nodes(&select);
    rows.iter().find(|x| x.row.name == node).and_then(|x| x.row.demand).map_or(0.0, |a| a.get())
}

fn volts(r: &Review, node: &str, scenario: &str, corner: Corner) -> f64 {
    let select = Select { scenario: Some(scenario.into()), corner: Some(corner), ..Select::default() };
    r.nodes(&select).iter().find(|x| x.row.name == node).and_then(|x| x.row.voltage).map_or(0.0, |v| v.get())
}

fn near(got: f64, want: f64) {
    assert!((got - want).abs() <= 1e-6 * want.abs().max(1e-3), "{got} against {want}");
}

fn motor(name: &str, amps: f64, surge: f64) -> String {
    format!(
        "[load.{name}]\nfrom = \"wall\"\ncable = {{ feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"20 A\" }}\ncurrent = \"{amps} A\"\nsurge = \"{surge} A\"\nvoltage = \"12 V\"\n"
    )
}

/// 1 + 2 + 4 A; surges of 3, 5 and 9 A at 12 V.
#[test]
fn groups_start_together_or_exclude_each_other() {
    let three = format!("{WALL}{}{}{}", motor("a", 1.0, 3.0), motor("b", 2.0, 5.0), motor("c", 4.0, 9.0));
    let alone = review(&three);
    near(wanted(&alone, "wall", "worst"), 7.0);
    near(wanted(&alone, "wall", "start"), 17.0);
    // One at a time: the largest step is that of c, 1 + 2 + 9.
    near(wanted(&alone, "wall", "surge"), 12.0);
    let together = review(&format!("{three}[group.g]\nkind = \"together\"\nmembers = [\"a\", \"b\"]\n"));
    near(wanted(&together, "wall", "worst"), 7.0);
    // a and b at once are 3 + 5 + 4; c alone 1 + 2 + 9: equal, and no more than that.
    near(wanted(&together, "wall", "surge"), 12.0);
    let exclusive = review(&format!("{three}[group.g]\nkind = \"exclusive\"\nmembers = [\"b\", \"c\"]\n"));
    near(wanted(&exclusive, "wall", "worst"), 5.0);
    near(wanted(&exclusive, "wall", "start"), 12.0);
    // b surging keeps c off: 1 + 5; c surging keeps b off: 1 + 9; a surging beside c: 3 + 4.
    near(wanted(&exclusive, "wall", "surge"), 10.0);
}

#[test]
fn a_change_over_switch_stands_where_the_scenario_puts_it() {
    let r = review(
        "[supply.day]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"5 A\"\n[supply.night]\nkind = \"bench\"\n\
         voltage = \"9 V ± 0 %\"\ncurrent = \"5 A\"\n[ground.tie]\nbetween = [\"day\", \"night\"]\nresistance = \"1 mΩ\"\n\
         [switch.turn]\nfrom = { d = \"day\", n = \"night\" }\nposition = \"d\"\ncurrent = \"3 A\"\nresistance = \"0 Ω\"\n\
         [load.lamp]\nfrom = \"turn\"\ncurrent = \"0.3 A\"\nvoltage = \"12 V\"\nminimum = \"6 V\"\nrecommended = \"8 V .. 13 V\"\n\
         [scenario.dark]\nset = { turn = \"n\" }\n[scenario.quiet]\noff = [\"turn\"]\n",
    );
    near(volts(&r, "turn", "worst", Corner::Low), 12.0);
    near(volts(&r, "turn", "dark", Corner::Low), 9.0);
    near(wanted(&r, "day", "quiet"), 0.0);
    near(wanted(&r, "night", "dark"), 0.3);
    assert_eq!(r.count(Severity::Fault) + r.count(Severity::Danger), 0, "{:?}", found(&r));
}

#[test]
fn ports_are_given_out_and_named_ones_stay() {
    let body = |loads: &str| {
        format!(
            "{WALL}[board.crane]\nfrom = \"wall\"\nmean = \"0 A\"\nrecommended = \"10 V .. 14 V\"\nports = {{ out = {{ count = 3, limit = \"2 A\" }} }}\n{loads}"
        )
    };
    let lamp = |n: usize, from: &str, amps: f64| {
        format!("[load.l{n}]\nfrom = \"{from}\"\ncurrent = \"{amps} A\"\nvoltage = \"12 V\"\n")
    };
    // The second port is taken by name; the others are given out in the order of the plan.
    let r = review(&body(&(lamp(1, "crane.out", 0.05) + &lamp(2, "crane.out2", 0.1) + &lamp(3, "crane.out", 0.2))));
    near(wanted(&r, "crane.out1", "worst"), 0.05);
    near(wanted(&r, "crane.out2", "worst"), 0.1);
    near(wanted(&r, "crane.out3", "worst"), 0.2);
    assert!(found(&r).is_empty(), "{:?}", found(&r));
    // Two on one port by name is the maker's choice; three families' worth on three ports is not enough.
    let four: String = (1..=4).map(|n| lamp(n, "crane.out", 0.1)).collect();
    assert_eq!(found(&review(&body(&four))), ["ports-exhausted crane.out"]);
}

#[test]
fn a_section_wants_its_own_feed_only_if_it_is_used() {
    let body = |from: &str, load: &str| {
        format!(
            "{WALL}[board.crane]\nfrom = {from}\nmean = \"10 mA\"\nrecommended = \"10 V .. 14 V\"\nsections = [\"power\"]\n\
             ports = {{ out = {{ count = 2 }}, big = {{ count = 2, section = \"power\" }} }}\n[load.a]\nfrom = \"crane.{load}\"\ncurrent = \"0.1 A\"\nvoltage = \"12 V\"\n"
        )
    };
    assert!(found(&review(&body("\"wall\"", "out1"))).is_empty());
    let r = review(&body("\"wall\"", "big1"));
    assert_eq!(found(&r), ["not-powered crane.power"]);
    assert!(r.findings()[0].message.contains("no supply of its own"));
    assert!(found(&review(&body("{ 5v = \"wall\", power = \"wall\" }", "big1"))).is_empty());
}

#[test]
fn a_stack_feeds_its_host_until_the_pin_is_cut() {
    let body = |more: &str, host: &str| {
        format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"3 A\"\n[board.crane]\nfrom = \"wall\"\nmean = \"20 mA\"\n\
             recommended = \"4.5 V .. 5.5 V\"\n[board.keeper]\n{host}mean = \"50 mA\"\nrecommended = \"4.5 V .. 5.5 V\"\n\
             [stack.up]\nboard = \"crane\"\non = \"keeper\"\n{more}"
        )
    };
    let joined = review(&body("", ""));
    assert!(found(&joined).is_empty(), "{:?}", found(&joined));
    near(wanted(&joined, "wall", "worst"), 0.070);
    let cut = review(&body("cut = [\"5v\"]\n", ""));
    assert_eq!(found(&cut), ["not-powered keeper"]);
    let fixed = cut.with_fixes();
    assert!(fixed.findings()[0].fixes[0].edits.iter().any(|e| e.path == "board.keeper.from"), "{:?}", fixed.findings());
    assert!(found(&review(&body("cut = [\"5v\"]\n", "from = \"wall\"\n"))).is_empty());
}

/// The computer's 5 V less the diode reach the board while the main supply is off, and nothing goes the other way.
#[test]
fn programming_is_a_state_of_its_own() {
    let r = review(
        "[supply.main]\nkind = \"bench\"\nvoltage = \"5.2 V ± 0 %\"\ncurrent = \"3 A\"\n[board.keeper]\nfrom = \"main\"\nusb = \"sometimes\"\n\
         inputs = \"diode-joined\"\nmean = \"0.1 A\"\nusb-diode = \"0.3 V ± 0 %\"\nrecommended = \"4 V .. 5.5 V\"\n",
    );
    assert!(r.scenarios().contains(&&modest_ohm::Scenario::ProgrammingAlone));
    // 5 V − 0.3 V − 0.1 A·(0.1 Ω + 0.25 Ω).
    near(volts(&r, "keeper.5v", "programming-alone", Corner::Typical), 5.0 - 0.3 - 0.1 * 0.35);
    near(wanted(&r, "main", "programming"), 0.1);
    // Not shown unless asked for.
    assert!(r.nodes(&Select::default()).iter().all(|x| !x.scenario.name().starts_with("programming")));
}

/// An isolated 5 V has its own 0 V, and the balance counts its loss.
#[test]
fn an_isolated_output_is_a_group_of_its_own() {
    let r = review(&format!(
        "{WALL}[branch.far]\nfrom = \"wall\"\ncable = {{ feed = \"0.5 Ω\", return = \"0.5 Ω\", ampacity = \"30 A\" }}\n[converter.iso]\nkind = \"isolated\"\n\
         from = \"far\"\noutput = \"5 V ± 0 %\"\ncurrent = \"1 A\"\nefficiency = \"80 % ± 0 %\"\nquiescent = \"0 W\"\n\
         [load.probe]\nfrom = \"iso\"\ncurrent = \"0.4 A\"\nvoltage = \"5 V\"\n"
    ));
    let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
    let rows = r.nodes(&select);
    let iso = &rows.iter().find(|x| x.row.name == "iso").unwrap().row;
    near(iso.minus.unwrap().get(), 0.0);
    let far = &rows.iter().find(|x| x.row.name == "far").unwrap().row;
    assert!(far.minus.unwrap().get() > 0.05, "the far end is lifted, the isolated side is not");
    // 2 W/80 % at V: V = 12 − I·1 Ω, V·I = 2.5 W.
    let amps = 6.0 - (36.0f64 - 2.5).sqrt();
    near(far.current.unwrap().get(), amps);
    let totals = &r.totals(&select)[0].row;
    near(totals.converter_loss.get(), 0.5);
    assert!(found(&r).iter().all(|f| f.starts_with("voltage-drop")), "{:?}", found(&r));
}

/// A battery of stated voltage is as stiff as its resistance says, its corners are its range, and of its runtime
/// nothing is known.
#[test]
fn a_battery_by_its_volts() {
    let r = review(
        "[supply.pack]\nkind = \"battery\"\nvoltage = \"9 V .. 12.6 V\"\nresistance = \"0.5 Ω\"\ncurrent = \"2 A\"\nkeyed = true\n\
         [load.lamp]\nfrom = \"pack\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"9 A\" }\ncurrent = \"1 A\"\nvoltage = \"12 V\"\nminimum = \"7 V\"\nrecommended = \"8 V .. 13 V\"\n",
    );
    near(volts(&r, "pack", "worst", Corner::Low), 8.5);
    near(volts(&r, "pack", "worst", Corner::High), 12.1);
    assert_eq!(found(&r), ["battery-runtime pack"]);
    assert_eq!(r.findings()[0].severity, Severity::Unknown);
    assert!(r.runtimes().is_empty());
}

/// Charging voltage is the highest where a charger is on it: 4 · 3.65 V.
#[test]
fn a_charger_lifts_the_high_corner() {
    let pack = |more: &str| {
        review(&format!(
            "[supply.pack]\nkind = \"battery\"\ncell = \"lifepo4\"\nseries = 4\ncapacity = \"6 Ah\"\ncut-off = \"11 V\"\nkeyed = true\nruntime = \"1 h\"\nholder = \"0 Ω\"\n{more}\
             [load.lamp]\nfrom = \"pack\"\ncurrent = \"0 A\"\nvoltage = \"12 V\"\nrecommended = \"10 V .. 15 V\"\n"
        ))
    };
    near(volts(&pack(""), "pack", "worst", Corner::High), 13.6);
    near(volts(&pack("charger = true\n"), "pack", "worst", Corner::High), 14.6);
    // A quarter left: 4 · 3.25 V; two quarters: 4 · 3.28 V.
    near(volts(&pack(""), "pack", "worst", Corner::Low), 13.0);
    near(volts(&pack("reserve = \"50 %\"\n"), "pack", "worst", Corner::Low), 13.12);
}

fn finding<'r>(r: &'r Review, code: &str, subject: &str) -> &'r modest_ohm::Finding {
    let found = r.findings().iter().find(|f| f.code == code && f.subject == subject);
    found.unwrap_or_else(|| panic!("no {code} on {subject} in {:?}", found_with_also(r)))
}

fn found_with_also(r: &Review) -> Vec<String> {
    r.findings().iter().map(|f| format!("{} {} with {:?}", f.code, f.subject, f.also)).collect()
}

/// A converter that feeds another one and a board's own regulator, whose outputs a jumper joins. While nothing draws
/// yet the lower one is fed backwards and takes its feeder with it; the feed did not collapse for that.
#[test]
fn a_cascade_whose_ends_meet() {
    let r = review(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"20 V ± 0 %\"\ncurrent = \"5 A\"\n\
         [converter.twelve]\nkind = \"buck\"\nfrom = \"wall\"\noutput = \"12 V ± 0 %\"\ncurrent = \"3 A\"\nefficiency = \"80 %\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"twelve\"\noutput = \"5 V ± 2 %\"\ncurrent = \"3 A\"\nefficiency = \"80 %\"\n\
         [board.keeper]\npart = \"board-5v-8bit\"\nfrom = { vin = \"twelve\" }\n\
         [link.jumper]\nbetween = [\"keeper.5v\", \"five\"]\n",
    );
    assert!(!found(&r).iter().any(|f| f.starts_with("feed-collapses")), "{:?}", found(&r));
    // In *low* the converter's 4.9 V are above the board's 4.85 V: it gives all 60 mA of the burst.
    let low = Select { scenario: Some("worst".into()), corner: Some(Corner::Low), ..Select::default() };
    let given =
        |name: &str| r.nodes(&low).iter().find(|n| n.row.name == name).and_then(|n| n.row.demand).unwrap().get();
    near(given("five"), 0.06);
    // 4.9 V · 60 mA/0.8 + 0.05 W from 12 V, and nothing through the board's own regulator.
    near(given("twelve"), (4.9 * 0.06 / 0.8 + 0.05) / 12.0);
    near(given("keeper.vin"), 0.0);
}

/// What a surge does to others stands under it: 10 A of a source that limits at 5 A takes the lamp's voltage.
#[test]
fn what_a_surge_causes_stands_under_it() {
    let body = |limit: &str| {
        format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"5 A\"\nlimit = \"{limit}\"\n{}\
             [load.lamp]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n",
            motor("winch", 2.0, 10.0)
        )
    };
    let r = review(&body("5 A"));
    let surge = finding(&r, "supply-surge", "wall");
    // Of a rail that has collapsed only the collapse is reported.
    assert!(surge.also.is_empty(), "{:?}", found_with_also(&r));
    assert!(!r.findings().iter().any(|f| f.code == "supply-voltage"));
    assert!(found(&review(&body("11.1 A"))).is_empty(), "{:?}", found(&review(&body("11.1 A"))));
}

/// Two equal rails joined by a jumper: what that brings about stands under it, and the fix opens the jumper.
#[test]
fn fixes_name_what_joins() {
    let two = "[supply.left]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"3 A\"\n\
         [supply.right]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"3 A\"\n[ground.tie]\nbetween = [\"left\", \"right\"]\n";
    let lamp = |from: &str| {
        format!("[load.on-{from}]\nfrom = \"{from}\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"5 V\"\n")
    };
    let fix = |r: Review, code: &str, on: &str| finding(&r.with_fixes(), code, on).fixes[0].instruction();
    let joined = review(&format!("{two}{}{}[link.or]\nbetween = [\"left\", \"right\"]\n", lamp("left"), lamp("right")));
    assert_eq!(fix(joined, "supplies-paralleled", "right"), "`closed = false` in `[link.or]`");
    let trace = review(&format!(
        "{two}{}{}[link.or]\nkind = \"trace\"\nbetween = [\"left\", \"right\"]\n",
        lamp("left"),
        lamp("right")
    ));
    assert!(fix(trace, "supplies-paralleled", "right").contains("`[link.or]`"));
    // The halves of a bus bar are reported by `bridged`; different voltage is a danger.
    let bus = |right: &str| {
        let two = two.replace(
            "[supply.right]\nkind = \"bench\"\nvoltage = \"5 V\"",
            &format!("[supply.right]\nkind = \"bench\"\nvoltage = \"{right}\""),
        );
        review(&format!(
            "{two}[busbar.top]\nfrom = {{ left = \"left\", right = \"right\" }}\nbridged = \"both\"\n\
             [load.lamp]\nfrom = \"top.left\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"5 V\"\nabsolute = \"20 V\"\n\
             [load.fan]\nfrom = \"top.right\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"{right}\"\nabsolute = \"20 V\"\n"
        ))
    };
    assert_eq!(finding(&bus("12 V"), "rails-joined", "top.bridge").severity, Severity::Danger);
    assert!(fix(bus("12 V"), "rails-joined", "top.bridge").contains("`bridged = \"minus\"` in `[busbar.top]`"));
    assert!(fix(bus("5 V"), "supplies-paralleled", "right").contains("`[busbar.top]`"));
}
