//! What pictures and `why` are made from: the supply tree with what flows in it, and the traces of numbers, summed up
//! by hand.

use modest_ohm::views::{SupplyTree, Trace, TreeItem};
use modest_ohm::{Plan, Review, Severity};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

/// 10 V through 0.5 Ω of lead to a run with a lamp of 1 A and a pump of 2 A on 0.25 Ω; a spare run; a board that a link
/// feeds.
const YARD: &str = "\
[supply.wall]
kind = \"bench\"
voltage = \"10 V ± 0 %\"
current = \"8 A\"
[branch.yard]
from = \"wall\"
cable = { feed = \"0.25 Ω\", return = \"0.25 Ω\", ampacity = \"20 A\" }
fuse = { rating = \"5 A\", resistance = \"0 Ω\" }
[branch.spare]
from = \"wall\"
cable = \"0 m 12 AWG\"
closed = false
[load.lamp]
from = \"yard\"
cable = { feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"1.5 A\" }
current = \"1 A\"
recommended = \"7 V .. 11 V\"
[load.pump]
from = \"yard\"
cable = { feed = \"0.125 Ω\", return = \"0.125 Ω\", ampacity = \"20 A\" }
current = \"2 A\"
recommended = \"7 V .. 11 V\"
count = 2
[load.bell]
from = \"spare\"
cable = \"0 m 12 AWG\"
current = \"1 A\"
voltage = \"10 V\"
[link.bridge]
between = [\"yard\", \"spare\"]
closed = false
";

fn item<'t>(tree: &'t SupplyTree, name: &str) -> &'t TreeItem {
    tree.items.iter().find(|i| i.name == name).unwrap_or_else(|| panic!("no {name} in {:?}", tree.items))
}

fn amps(value: Option<modest_ohm::units::Amps>) -> f64 {
    value.map_or(f64::NAN, |a| a.get())
}

fn near(got: f64, want: f64) {
    assert!((got - want).abs() < 1e-6, "{got} against {want}");
}

#[test]
fn the_tree_has_everything_once_behind_what_feeds_it() {
    let tree = review(YARD).supply_tree("worst").unwrap();
    let names: Vec<&str> = tree.items.iter().map(|i| i.name.as_str()).collect();
    assert_eq!(names, ["wall", "yard", "lamp", "pump × 2", "spare", "bell"]);
    let parents: Vec<Option<&str>> = tree.items.iter().map(|i| i.parent.map(|p| names[p])).collect();
    let (wall, yard, spare) = (Some("wall"), Some("yard"), Some("spare"));
    assert_eq!(parents, [None, wall, yard, yard, wall, spare]);
    assert!(tree.items.iter().enumerate().all(|(i, item)| item.parent.is_none_or(|p| p < i)));
    let [link] = tree.links.as_slice() else { panic!("{:?}", tree.links) };
    assert_eq!((link.between.map(|i| names[i]), link.closed), (["yard", "spare"], false));
}

/// 1 A and twice 2 A are 5 A: 10 V − 5 A · 0.5 Ω = 7.5 V at the run, 7.5 V − 2 A · 0.25 Ω = 7 V at a pump.
#[test]
fn currents_add_up_and_volts_fall_along_it() {
    let tree = review(YARD).supply_tree("worst").unwrap();
    for (name, current, volts) in [("wall", 5.0, 10.0), ("yard", 5.0, 7.5), ("lamp", 1.0, 7.5), ("pump × 2", 4.0, 7.0)]
    {
        let item = item(&tree, name);
        near(amps(item.current), current);
        near(item.voltage.unwrap().get(), volts);
        assert!(!item.dead, "{name}");
    }
    // Limits: the supply's rating; 0.75 of a 5 A blade fuse; the lamp's own cable; two cables of 20 A.
    let limits = [("wall", 8.0), ("yard", 3.75), ("lamp", 1.5), ("pump × 2", 40.0)];
    limits.iter().for_each(|(name, limit)| near(amps(item(&tree, name).limit), *limit));
    // What is fed through the open run is dead.
    for name in ["spare", "bell"] {
        assert!(item(&tree, name).dead && item(&tree, name).voltage.is_none(), "{name}");
    }
    assert_eq!(item(&tree, "spare").trouble, Some((Severity::Fault, "not-powered")));
    assert!(review(YARD).supply_tree("midnight").is_none());
}

/// 12 W of a converter of 80 % take 15 W, and 0.05 W idle: at 10 V 1.505 A in, 2.4 A out at 5 V.
#[test]
fn a_converter_takes_in_other_than_it_gives() {
    let r = review(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"10 V ± 0 %\"\ncurrent = \"8 A\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"5 V ± 0 %\"\ncurrent = \"3 A\"\n\
         efficiency = \"80 %\"\n\
         [load.lamp]\nfrom = \"five\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"9 A\" }\ncurrent = \"2.4 A\"\nvoltage = \"5 V\"\n",
    );
    let tree = r.supply_tree("worst").unwrap();
    near(amps(item(&tree, "five").current), 2.4);
    near(amps(item(&tree, "five").intake), 1.505);
    near(amps(item(&tree, "wall").current), 1.505);
    assert_eq!(r.tree(), [("wall".to_owned(), 0), ("five".to_owned(), 1)]);
}

/// A finding on a part shows at its own box and not at its neighbours'.
#[test]
fn trouble_stands_where_it_is() {
    let tree = review(
        &YARD
            .replace("rating = \"5 A\"", "rating = \"7.5 A\"")
            .replace("\"8 A\"", "\"4 A\"")
            .replace("\"1.5 A\"", "\"9 A\""),
    )
    .supply_tree("worst")
    .unwrap();
    assert_eq!(item(&tree, "wall").trouble, Some((Severity::Danger, "supply-overloaded")));
    // What its cable loses is its own; that the source has collapsed is reported at the source only.
    assert_eq!(item(&tree, "lamp").trouble, Some((Severity::Caution, "voltage-drop")));
    assert_eq!(item(&tree, "yard").trouble, None);
}

fn trace<'t>(traces: &'t [Trace], what: &str) -> &'t Trace {
    let found = traces.iter().find(|t| t.what.starts_with(what));
    found.unwrap_or_else(|| panic!("no {what} in {:?}", traces.iter().map(|t| &t.what).collect::<Vec<_>>()))
}

#[test]
fn why_sums_up_what_a_run_carries() {
    let r = review(YARD);
    let traces = r.why("yard").unwrap();
    let wanted = trace(&traces, "demand on yard");
    assert_eq!(wanted.value, "5 A");
    let parts: Vec<(&str, &str)> = wanted.from.iter().map(|t| (t.what.as_str(), t.value.as_str())).collect();
    assert_eq!(parts, [("lamp", "1 A"), ("pump.1", "2 A"), ("pump.2", "2 A")]);
    // The voltage on the way from the source: lead, then what the source gives.
    let volts = trace(&traces, "voltage of yard");
    assert_eq!(volts.value, "7.5 V");
    let steps: Vec<&str> = volts.from.iter().map(|t| t.value.as_str()).collect();
    assert_eq!(steps, ["2.5 V", "10 V"]);
    let lead: Vec<(&str, &str, &str)> =
        volts.from[0].from.iter().map(|t| (t.what.as_str(), t.value.as_str(), t.because.as_str())).collect();
    assert_eq!(lead, [("feed", "1.25 V", "5 A · 250 mΩ"), ("return", "1.25 V", "5 A · 250 mΩ")]);
    // The line of the plan with the cable: the eighth of YARD behind `format`.
    assert_eq!(volts.from[0].line, Some(8));
    // 5 A · 0.75 against 20 A of wire.
    let limit = trace(&traces, "limit of yard");
    assert_eq!(limit.value, "3.75 A");
    assert_eq!(limit.from.iter().map(|t| t.value.as_str()).collect::<Vec<_>>(), ["3.75 A", "20 A"]);
}

#[test]
fn why_names_figures_by_their_keys_and_findings_by_their_evidence() {
    let r = review(YARD);
    let pump = r.why("pump").unwrap();
    let current = trace(&pump, "current");
    assert_eq!((current.value.as_str(), current.line), ("2 A", Some(22)));
    assert!(current.because.starts_with("the plan"), "{}", current.because);
    let minimum = r.why("lamp").unwrap();
    let drop = trace(&minimum, "voltage-drop (caution");
    let evidence: Vec<(&str, &str)> = drop.from.iter().map(|t| (t.what.as_str(), t.value.as_str())).collect();
    // 2.5 V of 10 V against 5 %; the plan is exact, so every build is the same.
    let builds = ("builds", "works in all 512 builds tried; has its margin in none");
    assert_eq!(evidence, [("drop", "25 %"), ("policy", "5 %"), ("lost", "2.5 V"), builds]);
    // One of two equal members.
    assert_eq!(trace(&r.why("pump.1").unwrap(), "voltage at pump.1").value, "7 V");
    assert!(r.why("pomp").is_none());
    assert!(r.why_names().iter().all(|n| r.why(n).is_some()), "{:?}", r.why_names());
    assert!(["wall", "yard", "bridge", "pump", "pump.2"].iter().all(|n| r.why_names().iter().any(|k| k == n)));
}

/// 12 V over 0.6 V + 50 mΩ of diode, and what an open link and a clamp that stands off carry.
#[test]
fn why_of_what_lies_between() {
    let r = review(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"8 A\"\n\
         [diode.guard]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\nvf = \"0.6 V\"\nresistance = \"50 mΩ\"\ncurrent = \"3 A\"\nreverse = \"40 V\"\n\
         [diode.clamp]\nacross = \"guard\"\nclamps = \"16 V\"\n\
         [branch.near]\nfrom = \"guard\"\ncable = { feed = \"0.1 Ω\", return = \"0.1 Ω\", ampacity = \"9 A\" }\n\
         [branch.far]\nfrom = \"guard\"\ncable = { feed = \"0.1 Ω\", return = \"0.1 Ω\", ampacity = \"9 A\" }\n\
         [link.bridge]\nbetween = [\"near\", \"far\"]\nresistance = \"0.2 Ω\"\n\
         [load.lamp]\nfrom = \"near\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"9 A\" }\ncurrent = \"2 A\"\nvoltage = \"12 V\"\n",
    );
    // 2 A divide between 0.1 Ω and 0.1 + 0.2 Ω at +: a quarter goes the long way.
    assert_eq!(trace(&r.why("bridge").unwrap(), "current through bridge").value, "500 mA");
    assert_eq!(trace(&r.why("clamp").unwrap(), "current through clamp").value, "0 A");
    let guard = r.why("guard").unwrap();
    let volts = trace(&guard, "voltage of guard");
    assert_eq!(volts.value, "11.3 V");
    assert_eq!(trace(&volts.from, "drop in the diode guard").value, "700 mV");
    // The key of the plan, not that of a clamp.
    assert_eq!(trace(&guard, "reverse").value, "40 V");
    assert_eq!(trace(&r.why("clamp").unwrap(), "clamps").value, "16 V");
}

/// What stands under another finding is found by the name it is on.
#[test]
fn why_tells_what_has_another_cause() {
    let r = review(
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n\
         [strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = \"0.3 m 18 AWG\"\nlength = \"1 m\"\npixels = \"60 /m\"\n",
    );
    let missing = r.why("arch").unwrap();
    let missing = trace(&missing, "firmware-limit-missing");
    assert!(missing.because.contains("supply-overloaded on `wall`"), "{}", missing.because);
}

/// A regulator of 5 V that gets 6 V and needs 2 V: it gives 4 V, and says why.
#[test]
fn why_a_regulator_gives_less_than_it_is_set_to() {
    let body = |volts: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"{volts} ± 0 %\"\ncurrent = \"8 A\"\n\
             [converter.five]\nkind = \"linear\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"5 V ± 0 %\"\ncurrent = \"1 A\"\ndropout = \"2 V\"\n\
             [load.lamp]\nfrom = \"five\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"5 V\"\n"
        ))
    };
    let volts = |r: &Review| trace(&r.why("five").unwrap(), "voltage of five").clone();
    let starved = volts(&body("6 V"));
    assert_eq!(starved.value, "4 V");
    assert_eq!(trace(&starved.from, "five supplies").because, "set to 5 V; input 6 V, dropout 2 V");
    assert_eq!(trace(&volts(&body("7.1 V")).from, "five supplies").because, "its voltage in the corner low");
}
