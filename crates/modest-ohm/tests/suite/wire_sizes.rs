//! Proposals name wires as the plan does, or as its policy asks.

use modest_ohm::advise::FeedRequest;
use modest_ohm::findings::Fix;
use modest_ohm::{Plan, Review};

fn review(policy: &str, size: &str) -> Review {
    let text = format!(
        "format = 1\n{policy}[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"30 A\"\n\
         [load.heater]\nfrom = \"wall\"\ncable = \"1 m {size}\"\nvoltage = \"12 V\"\ncurrent = \"15 A\"\n"
    );
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review().with_fixes()
}

fn fixes(r: &Review) -> String {
    let of = r.findings().iter().filter(|f| f.code == "wire-overloaded" || f.code == "fuse-missing");
    of.flat_map(|f| f.fixes.iter().map(Fix::text)).collect::<Vec<_>>().join("\n")
}

#[test]
fn as_the_cable_at_hand() {
    let (metric, american) = (fixes(&review("", "0.75 mm²")), fixes(&review("", "18 AWG")));
    assert!(metric.contains(" mm² for the cable") && !metric.contains("AWG"), "{metric}");
    assert!(american.contains(" AWG for the cable") && !american.contains("mm²"), "{american}");
}

#[test]
fn as_the_policy_asks() {
    let of = |sizes: &str, size: &str| fixes(&review(&format!("[policy]\nwire-sizes = \"{sizes}\"\n"), size));
    let metric = of("mm²", "18 AWG");
    assert!(metric.contains(" mm² for the cable") && !metric.contains("AWG"), "{metric}");
    let american = of("AWG", "0.75 mm²");
    assert!(american.contains(" AWG for the cable") && !american.contains("mm²"), "{american}");
    // Thick enough both times: 15 A asks the same copper by either name, rounded to the next listed size.
    assert_ne!(metric, american);
}

#[test]
fn feed_points_as_most_cables_of_the_plan() {
    let text = |size: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"20 A\"\n\
             [branch.hall]\nfrom = \"wall\"\ncable = \"1 m {size}\"\n\
             [strip.stairs]\npart = \"pixel-5v-rgb\"\nfrom = \"hall\"\nlength = \"3 m\"\nleds = \"60 /m\"\n"
        )
    };
    let sizes = |size: &str| {
        let plan = Plan::from_toml(&text(size)).unwrap();
        let feeds = plan.feed_plan("stairs", &FeedRequest::default()).unwrap();
        let options = format!("{:?}", feeds.options);
        (options.contains("Mm2"), options.contains("Awg"))
    };
    assert_eq!(sizes("2.5 mm²"), (true, false));
    assert_eq!(sizes("14 AWG"), (false, true));
}

#[test]
fn another_word_is_refused_with_the_two() {
    let e = Plan::from_toml("format = 1\n[policy]\nwire-sizes = \"metric\"\n").unwrap_err().to_string();
    assert!(e.contains("mm²") && e.contains("AWG"), "{e}");
}
