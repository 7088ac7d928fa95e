//! Texts that are no text, too large, too deep or too long: refused with their reason, and without a panic.

use modest_ohm::plan::LARGEST_TEXT_BYTES;
use modest_ohm::{Plan, PlanErrors};

use crate::bad_input::{WALL, line, problems};

fn bytes(input: &[u8]) -> PlanErrors {
    Plan::from_bytes(input).expect_err("not a plan")
}

#[test]
fn bytes_that_are_no_text() {
    let errors = bytes(b"format = 1\ntitle = \"caf\xe9\"\n");
    let place = errors.source.place(errors.problems[0].span.unwrap().start);
    assert_eq!((errors.problems.len(), place.line, place.column), (1, 2, 13));
    assert!(errors.problems[0].message.contains("not UTF-8"));
    assert!(!bytes(&[0xff, 0xfe, 0x00, 0x41]).problems.is_empty());
    assert!(!bytes(&[0u8; 64]).problems.is_empty());
    // A byte order mark is no fault.
    let marked = [&b"\xef\xbb\xbf"[..], WALL.as_bytes()].concat();
    assert!(Plan::from_bytes(&marked).is_ok());
    assert!(Plan::from_bytes(WALL.replace('\n', "\r\n").as_bytes()).is_ok());
}

#[test]
fn absurd_sizes_are_refused_with_words() {
    let errors = bytes(&vec![b' '; LARGEST_TEXT_BYTES + 1]);
    assert!(errors.problems[0].message.contains("bytes long"), "{errors}");
    let many: String = (0..10_001).map(|i| format!("[load.l{i}]\nfrom = \"wall\"\ncurrent = \"1 mA\"\n")).collect();
    let errors = Plan::from_toml(&format!("{WALL}{many}")).map(|_| ()).unwrap_err();
    assert!(
        errors.problems.iter().any(|p| p.message.contains("10001 loads; at most 10000")),
        "{}",
        errors.problems.len()
    );
    // Together more pixels than a plan may have.
    let strips: String = (0..3)
        .map(|i| {
            format!(
                "[strip.s{i}]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"100 m\"\npixels = \"7000 /m\"\n"
            )
        })
        .collect();
    let errors = Plan::from_toml(&format!("{WALL}{strips}")).map(|_| ()).unwrap_err();
    assert!(errors.problems.iter().any(|p| p.message.contains("2100000 pixels")), "{errors}");
    let members = "[load.a]\nfrom = \"wall\"\ncurrent = \"1 mA\"\ncount = 1000\n";
    let loads: String = (0..21).map(|i| members.replace("load.a", &format!("load.a{i}"))).collect();
    let errors = Plan::from_toml(&format!("{WALL}{loads}")).map(|_| ()).unwrap_err();
    assert!(errors.problems.iter().any(|p| p.message.contains("21000")), "{errors}");
}

#[test]
fn more_scenarios_than_can_be_solved_are_refused() {
    let surging: String = (0..3000)
        .map(|i| format!("[load.l{i}]\nfrom = \"wall\"\ncurrent = \"1 mA\"\nsurge = \"3 mA\"\nvoltage = \"5 V\"\n"))
        .collect();
    problems(&format!("{WALL}{surging}"), &["3005 scenarios (3000 loads that surge in turn, 0 of its own)"]);
}

#[test]
fn deep_nesting_ends_in_an_error() {
    for open in ["[", "{a="] {
        let text = format!("{WALL}x = {}", open.repeat(200_000));
        assert!(Plan::from_toml(&text).is_err());
    }
    let dotted = format!("{WALL}{} = 1\n", vec!["a"; 100_000].join("."));
    assert!(Plan::from_toml(&dotted).is_err());
    let tables = format!("{WALL}[{}]\n", vec!["load"; 50_000].join("."));
    assert!(Plan::from_toml(&tables).is_err());
}

#[test]
fn long_chains_of_parts_and_feeds_end() {
    let like: String = (0..3000).map(|i| format!("[part.p{i}]\nfor = \"load\"\nlike = \"p{}\"\n", i + 1)).collect();
    let _ = Plan::from_toml(&format!(
        "{WALL}{like}[part.p3000]\nfor = \"load\"\ncurrent = \"1 A\"\n[load.a]\nfrom = \"wall\"\npart = \"p0\"\n"
    ));
    line(
        "[part.a]\nfor = \"load\"\nlike = \"b\"\n[part.b]\nfor = \"load\"\nlike = «\"a\"»\ncurrent = \"1 A\"\n[load.lamp]\nfrom = \"wall\"\npart = \"a\"",
        &["refers to itself"],
    );
    let chain: String = (0..2000)
        .map(|i| {
            format!(
                "[branch.b{i}]\nfrom = \"{}\"\ncable = \"1 mm 10 AWG\"\n",
                if i == 0 { "wall".into() } else { format!("b{}", i - 1) }
            )
        })
        .collect();
    let plan =
        Plan::from_toml(&format!("{WALL}{chain}[load.a]\nfrom = \"b1999\"\ncurrent = \"10 mA\"\nvoltage = \"5 V\"\n"))
            .unwrap();
    assert!(plan.review().node("b1999").is_some());
}
