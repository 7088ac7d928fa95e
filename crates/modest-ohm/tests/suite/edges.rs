//! Odd shapes that makers do build: feeds on one spot, feeds on a pixel's spot, one pixel, strips behind strips, ties,
//! several supplies, things switched off.

use modest_ohm::views::StripRow;
use modest_ohm::{Corner, Plan, Review, Select, Severity};

const WALL: &str =
    "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"50 A\"\n";

fn review(text: &str) -> Review {
    Plan::from_toml(&format!("{WALL}{text}")).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-7, "{what}: {got} against {want}");
}

fn at(scenario: &str) -> Select {
    Select { scenario: Some(scenario.into()), corner: Some(Corner::Typical), ..Select::default() }
}

/// Pixels that always draw 100 mA, copper of 1 Ω/m in the feed and 2 Ω/m in the return.
fn strip(name: &str, pixels: usize, rest: &str) -> String {
    format!(
        "[strip.{name}]\nlength = \"{} m\"\npixels = \"10 /m\"\ncopper = {{ feed = \"1 Ω/m\", return = \"2 Ω/m\" }}\nquiescent = \"0 A\"\n\
         minimum = \"1 V\"\nrecommended = \"1 V .. 6 V\"\n{rest}\n[strip.{name}.colours]\nwhite = {{ current = \"100 mA\", vf = \"0.1 V\", vreg = \"0.2 V\" }}\n",
        pixels as f64 / 10.0
    )
}

fn solved(r: &Review, name: &str) -> StripRow {
    r.strips(&at("worst")).into_iter().find(|s| s.row.name == name).unwrap().row
}

#[test]
fn one_pixel() {
    // 0.05 m of 3 Ω/m at 0.1 A from the start.
    let r = review(&strip("a", 1, "from = \"wall\""));
    near(solved(&r, "a").lowest.get(), 5.0 - 0.1 * 0.15, "one pixel");
    assert_eq!(solved(&r, "a").pixels, 1);
}

#[test]
fn a_feed_right_on_a_pixel() {
    // Pixel 1 of 3 sits at 0.15 m; its neighbours hang 0.1 m away.
    let r = review(&strip("a", 3, "from = \"wall\"\ninject = [ { at = \"0.15 m\" } ]"));
    let v: Vec<f64> = r.solve_profile("a", "worst", Corner::Typical).unwrap().iter().map(|p| p.voltage.get()).collect();
    near(v[1], 5.0, "the pixel under the feed");
    near(v[0], 5.0 - 0.1 * 0.3, "left");
    near(v[2], 5.0 - 0.1 * 0.3, "right");
}

/// Two feeds on one spot are one feed over both cables in parallel.
#[test]
fn two_feeds_on_one_spot() {
    let lead = |ohms: &str| format!("cable = {{ feed = \"{ohms} Ω\", return = \"{ohms} Ω\" }}");
    let two = review(&strip(
        "a",
        4,
        &format!(
            "from = \"wall\"\ninject = [ {{ at = \"start\", {} }}, {{ at = \"start\", {} }} ]",
            lead("0.6"),
            lead("0.3")
        ),
    ));
    let one = review(&strip("a", 4, &format!("from = \"wall\"\ninject = [ {{ at = \"start\", {} }} ]", lead("0.2"))));
    near(solved(&two, "a").lowest.get(), solved(&one, "a").lowest.get(), "lowest");
    let feeds = solved(&two, "a").feeds;
    near(feeds[0].feed.get(), 0.4 / 3.0, "through 0.6 Ω");
    near(feeds[1].feed.get(), 0.8 / 3.0, "through 0.3 Ω");
}

/// The order in which feeds are written does not matter, and their rows keep it.
#[test]
fn feeds_in_any_order() {
    let feeds = [
        "{ at = \"0.1 m\", cable = { feed = \"0.1 Ω\", return = \"0.1 Ω\" } }",
        "{ at = \"end\", cable = { feed = \"0.2 Ω\", return = \"0.2 Ω\" } }",
        "{ at = \"middle\" }",
    ];
    let with = |order: [usize; 3]| {
        let list: Vec<&str> = order.iter().map(|i| feeds[*i]).collect();
        solved(&review(&strip("a", 8, &format!("from = \"wall\"\ninject = [ {} ]", list.join(", ")))), "a")
    };
    let (a, b) = (with([0, 1, 2]), with([2, 0, 1]));
    near(a.lowest.get(), b.lowest.get(), "lowest");
    near(a.feeds[0].feed.get(), b.feeds[1].feed.get(), "the feed at 0.1 m");
    near(a.feeds[1].at.get(), 0.8, "rows in the order of the text");
    near(b.feeds[0].at.get(), 0.4, "rows in the order of the text");
    let sum: f64 = a.feeds.iter().map(|f| f.feed.get()).sum();
    near(sum, 0.8, "all that is fed is drawn");
}

/// A strip behind a strip: the first one's copper carries both.
#[test]
fn a_strip_behind_a_strip() {
    let text = format!("{}{}", strip("a", 2, "from = \"wall\""), strip("b", 2, "from = \"a.end\""));
    let r = review(&text);
    let (a, b) = (solved(&r, "a"), solved(&r, "b"));
    // Along a: 0.05 m at 0.4 A, 0.1 m at 0.3 A, 0.05 m at 0.2 A; then b like any strip of two.
    near(a.lowest.get(), 5.0 - 3.0 * (0.05 * 0.4 + 0.1 * 0.3), "a's last pixel");
    let end = a.lowest.get() - 3.0 * 0.05 * 0.2;
    near(b.lowest.get(), end - 3.0 * (0.05 * 0.2 + 0.1 * 0.1), "b's last pixel");
    near(a.copper_max_feed.get(), 0.4, "a's copper");
    near(b.first_minus.get(), 2.0 * (0.05 * 0.4 + 0.1 * 0.3 + 0.05 * 0.2) + 2.0 * 0.05 * 0.2, "b's ground");
    // A load on a strip's end too.
    let lamp = "[load.lamp]\nfrom = \"a.end\"\ncable = \"0 m 16 AWG\"\ncurrent = \"0.2 A\"\nknee = \"0.1 V\"\nvoltage = \"5 V\"\n";
    let r = review(&format!("{}{lamp}", strip("a", 2, "from = \"wall\"")));
    near(r.loads(&at("worst"))[0].row.voltage.get(), end, "the lamp on the strip's end");
}

/// A tie between two groups makes their grounds one; without a current through it they stay where they are.
#[test]
fn a_tie_joins_grounds() {
    let second = "[supply.bench]\nkind = \"bench\"\nvoltage = \"12 V\"\nresistance = \"0 Ω\"\ncurrent = \"5 A\"\n\
                  [load.bell]\nfrom = \"bench\"\ncable = { feed = \"0 Ω\", return = \"0.1 Ω\", ampacity = \"9 A\" }\ncurrent = \"1 A\"\nknee = \"0.1 V\"\nvoltage = \"12 V\"\n\
                  [load.lamp]\nfrom = \"wall\"\ncable = \"0 m 16 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"5 V\"\n";
    let tie = "[ground.tie]\nbetween = [\"wall\", \"bench\"]\nresistance = \"0.5 Ω\"\n";
    let r = review(&format!("{second}{tie}"));
    let rows = r.loads(&at("worst"));
    let bell = &rows.iter().find(|l| l.row.name == "bell").unwrap().row;
    near(bell.ground_shift.get(), 0.1, "against wall's −, through a tie without current");
    let conductor = r.conductors(&at("worst")).into_iter().find(|c| c.row.name == "tie").unwrap().row;
    assert_eq!(conductor.feed, None);
    near(conductor.back.get(), 0.0, "no current in the tie");
    assert!(r.findings().is_empty(), "{:?}", r.findings());
}

#[test]
fn what_is_switched_off_draws_nothing() {
    let text = format!(
        "{}[board.keeper]\nfrom = \"wall\"\nmean = \"0.1 A\"\n[load.fan]\nfrom = \"wall\"\ncable = \"0 m 16 AWG\"\ncurrent = \"1 A\"\ncount = 3\nvoltage = \"5 V\"\n\
         [scenario.dark]\noff = [\"a\", \"keeper\", \"fan\"]\n[scenario.one]\noff = [\"a\", \"keeper\", \"fan.1\", \"fan.3\"]\n",
        strip("a", 2, "from = \"wall\"")
    );
    let r = review(&text);
    let wall = |scenario: &str| {
        r.nodes(&at(scenario)).into_iter().find(|n| n.row.name == "wall").unwrap().row.demand.unwrap().get()
    };
    near(wall("dark"), 0.0, "dark");
    near(wall("one"), 1.0, "one fan");
    near(wall("worst"), 3.0 + 0.1 + 0.2, "worst");
}

/// Everything behind an open run is dead, and nothing of it is called passed.
#[test]
fn behind_an_open_run() {
    let text = format!(
        "[branch.deck]\nfrom = \"wall\"\ncable = \"1 m 16 AWG\"\nclosed = false\n{}\
         [converter.three]\nkind = \"buck\"\nfrom = \"deck\"\ncable = \"0 m 16 AWG\"\noutput = \"3 V\"\ncurrent = \"1 A\"\n\
         [load.lamp]\nfrom = \"three\"\ncable = \"0 m 16 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"3 V\"\n\
         [load.sign]\nfrom = \"wall\"\ncable = \"0 m 16 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"5 V\"\n",
        strip("a", 2, "from = \"deck\"")
    );
    let r = review(&text);
    assert_eq!(r.findings().len(), 1, "{:?}", r.findings());
    let f = &r.findings()[0];
    assert_eq!((f.code, f.severity, f.subject.as_str()), ("not-powered", Severity::Fault, "deck"));
    for name in ["`lamp`", "`a`"] {
        assert!(f.message.contains(name), "{}", f.message);
    }
    for dead in ["lamp", "a", "three"] {
        let passed: Vec<_> =
            r.passed().iter().filter(|p| p.subject == dead && p.code != "unused").map(|p| p.code).collect();
        assert!(passed.is_empty(), "{dead} passed {passed:?}");
    }
    assert!(r.passed().iter().any(|p| p.subject == "sign" && p.code == "supply-voltage"));
}

/// One scenario collapses, the others do not: what the others show is no pass. 60 W over 0.5 Ω from 10 V is too much
/// (50 W at most), 20 W are not.
#[test]
fn a_collapse_anywhere_leaves_the_volts_undecided() {
    let text = |watts: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"10 V\"\nresistance = \"0 Ω\"\ncurrent = \"50 A\"\n\
             [branch.run]\nfrom = \"wall\"\ncable = {{ feed = \"250 mΩ\", return = \"250 mΩ\", ampacity = \"50 A\" }}\n\
             [load.stove]\nfrom = \"run\"\ncable = \"0 m 12 AWG\"\npower = \"{watts}\"\ntypical = \"5 W\"\nvoltage = \"10 V\"\nrecommended = \"5 V .. 12 V\"\n\
             [load.lamp]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"10 V\"\n\
             [converter.three]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"3.3 V\"\ncurrent = \"1 A\"\n\
             [load.radio]\nfrom = \"three\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"3.3 V\"\n"
        )
    };
    let on_volts = ["supply-voltage", "converter-input", "voltage-drop"];
    let passed = |r: &Review, code: &str| r.passed().iter().any(|p| p.code == code);
    let calm = Plan::from_toml(&text("20 W")).unwrap().review();
    let dead = Plan::from_toml(&text("60 W")).unwrap().review();
    assert!(dead.findings().iter().any(|f| f.code == "feed-collapses"), "{:?}", dead.findings());
    for code in on_volts {
        assert!(passed(&calm, code), "{code} on the calm plan");
        assert!(!passed(&dead, code), "{code} though *worst* has no volts");
    }
}

/// A plan of a supply and nothing else is readable, and says that nothing uses it.
#[test]
fn the_smallest_plan() {
    let r = review("");
    assert_eq!(r.findings().iter().map(|f| f.code).collect::<Vec<_>>(), ["unused"]);
    assert_eq!(r.strip("wall").map(|_| ()), None);
    assert_eq!(r.node("nothing").map(|_| ()), None);
    assert_eq!(r.solve_profile("a", "worst", Corner::Low).map(|_| ()), None);
}

/// A supply at its limit: what is wanted, what flows, and who is said to be at the limit.
#[test]
fn a_limiting_supply_says_so() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"2 A\"\nlimit = \"100 % .. 150 %, hiccup\"\n\
                [load.stove]\nfrom = \"wall\"\ncable = \"0 m 16 AWG\"\nresistance = \"1 Ω\"\nvoltage = \"5 V\"\n";
    let r = Plan::from_toml(text).unwrap().review();
    let wall = r.node("wall").unwrap();
    near(wall.demand.unwrap().get(), 5.0, "wanted");
    near(wall.current.unwrap().get(), 2.0 + 3e-11, "the lower end of the limit");
    near(wall.voltage.unwrap().get(), 2.0 + 3e-11, "volts that follow");
    assert!(wall.limiting);
    near(wall.headroom.unwrap().get(), -1.5, "headroom");
    // Of a rail that has collapsed only the collapse is reported.
    let head = &r.findings()[0];
    assert_eq!((head.code, head.also.len()), ("supply-overloaded", 0), "{:?}", head.also);
    assert!(!r.findings().iter().any(|f| f.code == "supply-voltage"));
    assert!(!r.passed().iter().any(|p| p.code == "supply-voltage" && p.subject == "stove"));
}

/// Reviews can be made on any thread and shared.
#[test]
fn plans_and_reviews_cross_threads() {
    fn crosses<T: Send + Sync>() {}
    crosses::<Plan>();
    crosses::<Review>();
    let plan = Plan::from_toml(WALL).unwrap();
    let there = std::thread::scope(|s| s.spawn(|| plan.review().findings().len()).join().unwrap());
    assert_eq!(there, plan.review().findings().len());
}
