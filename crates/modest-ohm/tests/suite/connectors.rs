//! Connectors, lead ends and fuses in a plan's text: what a table says is what a class and a short form say, mistakes
//! are reported all at once, and what a cable is made of is counted in its resistance and its ampacity.

use modest_ohm::findings::Fix;
use modest_ohm::plan::{ConnectorDraft, Lead, LoadDraft, SupplyDraft};
use modest_ohm::units::Metres;
use modest_ohm::units::{Amps, Ohms, Volts};
use modest_ohm::{Corner, Plan, Review, Select, Severity};

const WALL: &str = "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"5 A\"\n";

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{WALL}{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn told(body: &str) -> Vec<String> {
    let text = format!("format = 1\n{WALL}{body}");
    let errors = Plan::from_toml(&text).expect_err(&text);
    errors.problems.iter().map(|p| format!("{} ({})", p.message, p.help)).collect()
}

fn lamp(cable: &str, amps: f64) -> String {
    format!("[load.lamp]\nfrom = \"wall\"\ncable = {cable}\ncurrent = \"{amps} A\"\nvoltage = \"12 V\"\n")
}

/// Volts lost between wall and lamp, typical.
fn lost(r: &Review) -> f64 {
    let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
    12.0 - r.loads(&select)[0].row.voltage.get()
}

fn near(got: f64, want: f64) {
    assert!((got - want).abs() <= 1e-6 * want.abs().max(1e-3), "{got} against {want}");
}

/// 2 A over 1 m of 1.5 mm², 13.3 mΩ at 20 °C, 25 °C warm; every contact adds its resistance to feed and return.
#[test]
fn contacts_and_number_count_in_the_ohms() {
    let metre = 0.0133 * (1.0 + 0.00393 * 5.0);
    let loses = |cable: &str| lost(&review(&lamp(cable, 2.0)));
    near(loses("\"1 m 1.5 mm²\""), 4.0 * metre);
    near(loses("{ length = \"1 m\", size = \"1.5 mm²\", parallel = 2 }"), 2.0 * metre);
    // A barrel plug has 10 mΩ, a lever splice 1 mΩ, two contacts side by side half of one.
    let connectors = "{ length = \"1 m\", size = \"1.5 mm²\", connectors = [\"barrel-2mm1\"], into = [\"lever-splice-2mm5\", \"\"] }";
    near(loses(connectors), 4.0 * (metre + 0.011));
    let two = "{ length = \"1 m\", size = \"1.5 mm²\", connectors = { part = \"barrel-2mm1\", contacts = 2 } }";
    near(loses(two), 4.0 * (metre + 0.005));
    near(loses("{ connectors = [\"jumper-lead-24awg\"] }"), 4.0 * 0.1);
    // Copper-clad aluminium: 1.6 ×.
    near(loses("{ length = \"1 m\", size = \"1.5 mm²\", material = \"copper-clad\" }"), 1.6 * 4.0 * metre);
}

/// A connector that is a node has its contact between its cable and what it feeds, in both conductors.
#[test]
fn a_joint_is_a_node() {
    let r = review(
        "[connector.plug]\nfrom = \"wall\"\npart = \"barrel-2mm1\"\n[load.lamp]\nfrom = \"plug\"\ncable = \"0 m 12 AWG\"\ncurrent = \"2 A\"\nvoltage = \"12 V\"\n",
    );
    near(lost(&r), 4.0 * 0.01);
    let node = r.node("plug").unwrap();
    assert_eq!((node.kind, node.limit), ("connector", Some(Amps::new(3.0))));
    assert!(r.findings().is_empty(), "{:?}", r.findings());
}

/// What a cable carries: 14.6 · 1.5^0.63 A of 1.5 mm² at 40 °C, six cores in one sheath, two wires side by side.
#[test]
fn bundle_air_and_number_count_in_the_ampacity() {
    let body = format!(
        "ambient = \"40 °C\"\n{WALL}{}",
        lamp("{ length = \"2 m\", size = \"1.5 mm²\", parallel = 2, cores = 6 }", 1.0)
    );
    let plan = Plan::from_toml(&format!("format = 1\n{body}")).unwrap();
    let row = plan.review().cables().remove(0);
    near(row.ampacity.get(), 2.0 * 14.6 * 1.5f64.powf(0.63) * (30.0f64 / 40.0).sqrt() * 0.65);
    assert_eq!(row.size.as_deref(), Some("2 × 1.5 mm²"));
}

/// An own class of connector, like one of the catalogue, with a figure of its own.
#[test]
fn own_classes_of_joints() {
    let part = "[part.my-plug]\nfor = \"connector\"\nlike = \"barrel-2mm1\"\ncurrent = \"5 A\"\n";
    let body = |plug: &str| {
        format!(
            "{part}{}",
            lamp(&format!("{{ length = \"0.5 m\", size = \"14 AWG\", connectors = [\"{plug}\"] }}"), 4.0)
        )
    };
    let codes = |r: &Review| r.findings().iter().map(|f| f.code).collect::<Vec<_>>();
    assert!(codes(&review(&body("barrel-2mm1"))).contains(&"contact-overloaded"));
    let own = review(&body("my-plug"));
    assert!(!codes(&own).contains(&"contact-overloaded") && !codes(&own).contains(&"unused"), "{:?}", codes(&own));
}

#[test]
fn mistakes_in_leads_are_told_all_at_once() {
    let all = told(
        "[connector.a]\nfrom = \"wall\"\npart = \"screw-termnal-5mm\"\nways = 0\nnear = \"plug\"\nfar = { gender = \"male\", counted-from = \"top\" }\n\
         wire-range = [\"2.5 mm²\"]\naccepts-ends = [\"ferule\"]\n\
         cable = { connectors = 5, into = [\"x\"], ends = [\"ferule\", 3], colours = \"red\", parallel = 0, cores = 1, bundle = 99, factory = \"yes\" }\n\
         [load.x]\nfrom = \"a\"\ncurrent = \"1 A\"\n\
         fuse = { rating = \"5 A\", family = \"blade\", body = \"glass\", speed = \"slow\", blows-from = \"90 %\" }\n\
         cable = { length = \"1 m\", size = \"18 AWG\", connectors = [\"pump-12v-small\"] }\n",
    );
    for words in [
        "did you mean `screw-terminal-5mm`?",
        "`ways` of connector `a` is not a whole number",
        "`near` in connector `a` is text",
        "unknown `gender`: `male`",
        "unknown `counted-from`: `top`",
        "lists 1 sizes",
        "`ferule` in `accepts-ends`",
        "not a connector",
        "`into` of `cable` of connector `a` lists 1 ends",
        "`ferule` in `ends`",
        "lists a plain number, not a wire end",
        "`colours` of `cable` of connector `a` does not match its cores",
        "`parallel`",
        "`cores`",
        "`bundle`",
        "`factory`",
        "has no `body`",
        "has no `speed`",
        "blows from 90 % of its rating",
        "`pump-12v-small` is a pump, not a connector",
    ] {
        assert!(all.iter().any(|t| t.contains(words)), "`{words}` is not in {all:#?}");
    }
    assert_eq!(all.len(), 20, "{all:#?}");
    let fewer = told(&lamp("{ length = \"1 m\", size = \"18 AWG\", parallel = 3, cores = 4 }", 1.0));
    assert!(fewer.iter().any(|t| t.contains("has 4 cores and uses 3 for each")), "{fewer:?}");
    let hiccup =
        told("[supply.other]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nhiccup = { on = \"1 s\", off = \"1 s\" }\n");
    assert!(hiccup.iter().any(|t| t.contains("unknown key `hiccup`")), "a battery does not hiccup: {hiccup:?}");
}

/// In code as in text.
#[test]
fn a_joint_in_code() {
    let built = Plan::builder("Jetty")
        .supply(SupplyDraft::bench("wall").voltage(Volts::new(12.0)).current(Amps::new(5.0)).resistance(Ohms::new(0.0)))
        .connector(
            ConnectorDraft::new("meet", "lever-splice-2mm5")
                .from("wall")
                .cable(Lead::awg(Metres::new(1.0), 16))
                .fuse(Amps::new(3.0)),
        )
        .load(
            LoadDraft::amps("lamp", Amps::new(1.0))
                .from("meet")
                .cable(
                    Lead::awg(Metres::new(2.0), 20)
                        .parallel(2)
                        .bundle(3)
                        .through("barrel-2mm1")
                        .ends("bare", "crimped"),
                )
                .voltage(Volts::new(12.0)),
        );
    let text = "format = 1\ntitle = \"Jetty\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\nresistance = \"0 Ω\"\n\
                [connector.meet]\npart = \"lever-splice-2mm5\"\nfrom = \"wall\"\ncable = \"1 m 16 AWG\"\nfuse = \"3 A\"\n\
                [load.lamp]\nfrom = \"meet\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n\
                cable = { length = \"2 m\", size = \"20 AWG\", parallel = 2, bundle = 3, connectors = [\"barrel-2mm1\"], ends = [\"bare\", \"crimped\"] }\n";
    let (a, b) = (built.build().unwrap().review(), Plan::from_toml(text).unwrap().review());
    let all = Select { all_corners: true, ..Select::default() };
    assert_eq!(format!("{:?}", a.nodes(&all)), format!("{:?}", b.nodes(&all)));
    assert_eq!(format!("{:?}", a.conductors(&all)), format!("{:?}", b.conductors(&all)));
    assert_eq!(format!("{:?}", a.cables()), format!("{:?}", b.cables()));
    assert_eq!(a.count(Severity::Danger), 0);
}

/// A firmware limit would end it all; but a larger supply makes neither the fuse nor the plug carry more, so that each
/// is reported.
#[test]
fn a_fuse_and_a_plug_that_only_a_cap_is_missing_for() {
    let text = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"4 A\"\n\
                [branch.deck]\nfrom = \"wall\"\ncable = \"0.5 m 18 AWG\"\nfuse = \"4 A\"\n\
                [connector.plug]\nfrom = \"deck\"\npart = \"strip-plug-3\"\n\
                [strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"plug\"\nlength = \"2 m\"\npixels = \"60 /m\"\ncable = \"0.2 m 20 AWG\"\n";
    let r = Plan::from_toml(text).unwrap().review().with_fixes();
    let head = r.findings().iter().find(|f| f.code == "supply-overloaded").unwrap();
    // A larger supply would leave it: it has its own place.
    assert!(head.also.is_empty() && r.verdict("firmware-limit-missing", "arch").is_some(), "{:?}", head.also);
    for (code, subject) in [("contact-overloaded", "plug"), ("fuse-too-small", "deck")] {
        let own = r.findings().iter().find(|f| f.code == code && f.subject == subject);
        let own = own.unwrap_or_else(|| panic!("no {code} on {subject} in {:?}", r.findings()));
        let limits = |fix: &Fix| fix.edits.iter().any(|e| e.path == "strip.arch.firmware-limit");
        assert!(own.fixes.iter().any(limits), "{own:?}");
    }
}

/// The usual short cables of servos, sensors and boards behind usual sources: nothing above advice.
#[test]
fn usual_short_leads_are_no_alarm() {
    for (volts, amps) in [(5.2, 2.5), (5.2, 3.0), (5.2, 5.0), (5.2, 6.0)] {
        let text = format!(
            "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"{volts} V ± 4 %\"\ncurrent = \"{amps} A\"\n\
             [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = {{ 5v = {{ node = \"wall\", cable = \"0.3 m 24 AWG\" }} }}\n\
             [load.span]\npart = \"servo-micro\"\ncount = 2\nfrom = \"wall\"\ncable = \"0.3 m 26 AWG\"\n\
             [load.eye]\nfrom = \"keeper.3v3\"\ncable = \"0.2 m 28 AWG\"\ncurrent = \"10 mA\"\nvoltage = \"3.3 V\"\nregulated = true\n\
             [load.ear]\nfrom = \"keeper.5v\"\ncable = \"0.2 m 28 AWG\"\ncurrent = \"10 mA\"\nvoltage = \"5 V\"\n"
        );
        let r = Plan::from_toml(&text).unwrap().review();
        let loud: Vec<_> =
            r.findings().iter().filter(|f| f.severity != Severity::Advisory).map(|f| &f.message).collect();
        assert!(loud.is_empty(), "{amps} A: {loud:?}");
    }
}
