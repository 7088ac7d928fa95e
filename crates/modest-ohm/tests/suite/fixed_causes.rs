//! What stands under a finding once its fixes are known, what is listed by itself, and how both are counted.

use modest_ohm::{Finding, Plan, Review, Severity};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn finding<'r>(review: &'r Review, code: &str, subject: &str) -> &'r Finding {
    let all: Vec<_> = review.findings().iter().map(|f| (f.code, f.subject.as_str())).collect();
    let found = review.findings().iter().find(|f| f.code == code && f.subject == subject);
    found.unwrap_or_else(|| panic!("no {code} on {subject} in {all:?}"))
}

/// A strip of 240 pixels, 14.6 A, on a supply of 10 A through 20 AWG, which carries 9.6 A.
const THIN_PAIR: &str = "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"10 A\"\n[strip.sign]\n\
    part = \"pixel-5v-rgb\"\nlength = \"4 m\"\npixels = \"60 /m\"\ncopper = \"0.01 Ω/m\"\n\
    inject = [{ at = \"middle\", from = \"wall\", cable = \"0.2 m 20 AWG\", fuse = \"10 A\" }]\n";

/// A firmware limit ends both, a larger supply leaves the thin wire: the wire is a finding of its own, with its own fix,
/// and says what else would end it.
#[test]
fn what_one_fix_leaves_is_listed_by_itself() {
    let review = review(THIN_PAIR).with_fixes();
    let supply = finding(&review, "supply-overloaded", "wall");
    assert!(supply.fixes.len() > 1 && supply.fixes[0].edits[0].path == "strip.sign.firmware-limit", "{supply:?}");
    let wire = finding(&review, "wire-overloaded", "sign.inject[0]");
    assert_eq!(wire.severity, Severity::Danger);
    assert!(wire.fixes[0].edits.iter().any(|e| e.path == "strip.sign.inject[0].cable"), "{wire:?}");
    assert_eq!(wire.goes_with, Some(("supply-overloaded", "wall".to_owned())));
    assert!(supply.also.iter().all(|c| supply.fixes.iter().all(|fix| fix.removes(c.code, &c.subject))));
    assert_eq!(supply.goes_with, None);
}

/// A start that takes a supply to its limit and an encoder's output above the falling supply of its board: the start is
/// the cause, a fault; the danger stands under it with its number, is counted, and puts the entry among the dangers.
#[test]
fn the_head_is_the_cause_and_not_the_worst() {
    let body = "[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"2.06 A\"\n\
         [board.hub]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\ncable = \"0.1 m 22 AWG\"\n\
         [load.screen]\nfrom = \"hub.3v3\"\ncurrent = \"20 mA\"\nvoltage = \"3.3 V\"\nminimum = \"2.9 V\"\n\
         [input.encoder]\npin = \"hub.io34\"\nkind = \"voltage\"\nlow = \"0 V\"\nhigh = \"3.45 V\"\n\
         [load.lamp]\nfrom = \"wall\"\ncurrent = \"0.5 A\"\nvoltage = \"5 V\"\nsurge = \"1.9 A\"\n";
    for review in [review(body), review(body).with_fixes()] {
        let head = &review.findings()[0];
        assert_eq!((head.code, head.severity, head.worst()), ("supply-surge", Severity::Fault, Severity::Danger));
        let pin = head.also.iter().find(|c| c.code == "pin-overvoltage").unwrap();
        assert_eq!((pin.subject.as_str(), pin.severity), ("encoder", Severity::Danger));
        let (judged, limit) = pin.comparison.as_ref().unwrap();
        assert!(judged.value > limit.value, "{pin:?}");
        assert!(pin.number().unwrap().contains(" A, at most "), "{:?}", pin.number());
        assert!(review.count(Severity::Danger) >= 1);
        assert_eq!(review.finding_groups()[0].severity(), Severity::Danger);
    }
}

/// A lamp of 12 V behind a profile that is not offered: accepting the profile accepts nothing else.
#[test]
fn what_is_accepted_hides_nothing() {
    let body = "[supply.brick]\nkind = \"negotiated\"\nprofiles = [\"5 V 3 A\", \"12 V 3 A\"]\nselected = \"13 V\"\n\
        [load.lamp]\nfrom = \"brick\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n";
    let under = review(body);
    assert!(finding(&under, "profile-not-offered", "brick").also.iter().any(|c| c.code == "supply-voltage"));
    let accept = "[[accept]]\ncode = \"profile-not-offered\"\nbecause = \"a test\"\n";
    let apart = review(&format!("{body}{accept}"));
    let lamp = finding(&apart, "supply-voltage", "lamp");
    assert!(lamp.accepted.is_none() && apart.count(lamp.severity) >= 1);
    assert!(finding(&apart, "profile-not-offered", "brick").also.is_empty());
}

/// Two leads without a fuse behind one supply: one finding, headed by the one with the most to carry, whose fix ends
/// both. Of one that is accepted the other is left.
#[test]
fn what_is_alike_is_fixed_together() {
    let lead = |name: &str, amps: &str, size: &str| {
        format!(
            "[load.{name}]\nkind = \"heater\"\nfrom = \"wall\"\ncable = \"0.5 m {size}\"\ncurrent = \"{amps}\"\nvoltage = \"12 V\"\n"
        )
    };
    let body = format!(
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"40 A\"\n{}{}",
        lead("small", "1 A", "20 AWG"),
        lead("large", "6 A", "14 AWG")
    );
    let fixed = review(&body).with_fixes();
    let head = finding(&fixed, "fuse-missing", "large");
    assert!(head.also.iter().any(|c| c.code == "fuse-missing" && c.subject == "small"), "{head:?}");
    assert!(!head.fixes.is_empty());
    for fix in &head.fixes {
        assert!(fix.removes("fuse-missing", "small"), "{}", fix.text());
    }
    let paths: Vec<&str> = head.fixes[0].edits.iter().map(|e| e.path.as_str()).collect();
    assert_eq!(paths, ["load.large.fuse", "load.small.fuse"]);
    // 6 A / 0.75 = 8 A: 10 A; 1 A / 0.75 = 1.33 A: 2 A.
    let values: Vec<&str> = head.fixes[0].edits.iter().filter_map(|e| e.value.as_deref()).collect();
    assert_eq!(values, ["\"10 A\"", "\"2 A\""]);
    let accept = "[[accept]]\ncode = \"fuse-missing\"\non = \"small\"\nbecause = \"a test\"\n";
    let accepted = review(&format!("{body}{accept}"));
    assert!(finding(&accepted, "fuse-missing", "small").accepted.is_some());
    assert!(finding(&accepted, "fuse-missing", "large").also.is_empty());
    assert!(!accepted.findings().iter().any(|f| f.code == "acceptance-stale"));
}
