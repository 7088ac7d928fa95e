//! Heaters, and the thermostat that ends them.

use modest_ohm::{Plan, Review, Select, Severity};

const PLAN: &str = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"3 A\"\n\
    [board.keeper]\npart = \"wifi-board-3v3\"\nusb = \"always\"\n\
    [input.warm-enough]\npin = \"keeper.io32\"\nkind = \"contact\"\npull = \"internal\"\n\
    [heater.bed]\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nfuse = \"2 A\"\nvoltage = \"12 V\"\nresistance = \"12 Ω\"\nmax-on-time = \"1 h\"\n";

fn review(more: &str) -> Review {
    Plan::from_toml(&format!("{PLAN}{more}")).unwrap_or_else(|e| panic!("{e}")).review()
}

fn on_time(r: &Review) -> Option<Severity> {
    r.findings().iter().find(|f| f.code == "on-time" && f.subject == "bed").map(|f| f.severity)
}

/// 12 V over 12 Ω is 1 A; on for longer than an hour in *typical*, and nothing ends it but a thermostat.
#[test]
fn a_thermostat_ends_a_heater() {
    let alone = review("").with_fixes();
    assert_eq!(on_time(&alone), Some(Severity::Advisory));
    let said = alone.findings().iter().find(|f| f.code == "on-time").unwrap();
    assert!(said.fixes.iter().any(|fix| fix.instruction().contains("`thermostat = ")), "{said:?}");
    let worst = Select { scenario: Some("worst".into()), ..Select::default() };
    let amps = alone.loads(&worst).iter().find(|r| r.row.name == "bed").unwrap().row.current;
    assert!((0.95..=1.0).contains(&amps.get()), "{amps}");
    let watched = review("thermostat = \"warm-enough\"\n");
    assert_eq!(on_time(&watched), None);
    assert!(
        watched.passed().iter().any(|p| p.code == "on-time" && p.subject == "bed" && p.margin.contains("warm-enough"))
    );
}

#[test]
fn mistakes_in_a_heater_are_told() {
    let message = |more: &str| {
        let errors = Plan::from_toml(&format!("{PLAN}{more}")).unwrap_err();
        let first = &errors.problems[0];
        (errors.source.slice(first.span.unwrap()).to_owned(), first.message.clone())
    };
    let (at, said) = message("thermostat = \"warm-enoug\"\n");
    assert!(at == "\"warm-enoug\"" && said.contains("warm-enoug"), "{at}: {said}");
    let (at, said) = message("thermostat = \"warm-enough\"\nstopped-by = \"warm-enough\"\n");
    assert!(at == "\"warm-enough\"" && said.contains("both"), "{at}: {said}");
}

/// The class of a heater suits a plain load too, as that of a motor does.
#[test]
fn a_heater_has_parts_of_its_own() {
    let part = "[part.mat]\nfor = \"heater\"\nvoltage = \"12 V\"\nresistance = \"24 Ω\"\n";
    for kind in ["heater", "load"] {
        review(&format!(
            "{part}[{kind}.second]\npart = \"mat\"\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nfuse = \"2 A\"\n"
        ));
    }
    let wrong = format!("{PLAN}{part}[motor.second]\npart = \"mat\"\nfrom = \"wall\"\n");
    assert!(Plan::from_toml(&wrong).is_err());
}
