//! A verdict at the worst corner says what is typical too, by hand: 12 V ± 10 % are 12 V, and 10.8 V at worst.

use modest_ohm::{Finding, Plan, Severity};

fn finding(tolerance: &str, recommended: &str) -> Finding {
    let text = format!(
        "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± {tolerance}\"\ncurrent = \"5 A\"\n\
         resistance = \"0 Ω\"\n[load.radio]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n\
         voltage = \"12 V\"\ncurrent = \"1 A\"\nrecommended = \"{recommended}\"\n"
    );
    let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}")).review();
    let found = review.findings().iter().find(|f| f.code == "supply-voltage").cloned();
    found.unwrap_or_else(|| panic!("{:#?}", review.findings()))
}

#[test]
fn the_worst_with_the_typical_beside_it() {
    let f = finding("10 %", "11 V .. 14 V");
    assert_eq!(f.severity, Severity::Caution);
    assert_eq!(f.message, "load `radio` is at 10.8 V (typical 12 V), below the recommended 11 V .. 14 V");
    let typical = f.evidence.iter().find(|e| e.name == "typical").unwrap();
    assert!((typical.value - 12.0).abs() < 1e-6 && typical.unit == "V", "{typical:?}");
}

#[test]
fn nothing_beside_what_has_no_tolerance() {
    let f = finding("0 %", "12.4 V .. 14 V");
    assert_eq!(f.message, "load `radio` is at 12 V, below the recommended 12.4 V .. 14 V");
    assert!(f.evidence.iter().all(|e| e.name != "typical"), "{:?}", f.evidence);
}
