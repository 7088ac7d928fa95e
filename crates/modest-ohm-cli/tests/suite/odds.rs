//! `odds` as a user calls it.

use crate::tool::{code, command, mohm, out};

/// The same builds every time, on however many cores; never a share of danger.
#[test]
fn odds_are_the_same_on_any_number_of_cores() {
    let of = |threads: &str, format: &str| {
        let call = ["odds", "plans/harbour-first-draft.toml", "--format", format];
        let output = command(&call).env("RAYON_NUM_THREADS", threads).output().unwrap();
        assert_eq!(code(&output), 0);
        out(&output)
    };
    assert_eq!(of("1", "text"), of("2", "text"));
    let json = of("3", "json");
    assert_eq!(json, of("1", "json"));
    let odds: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!((&odds["builds"], &odds["dangers"]), (&512.into(), &5.into()));
    assert!(odds["works"].is_null());
    let verdicts = odds["verdicts"].as_array().unwrap();
    assert!(verdicts.iter().all(|v| v["severity"] != "danger") && !verdicts.is_empty());
    // A caution of its own keeps its place: `check` says the same with and without.
    let gate = verdicts.iter().find(|v| v["code"] == "gate-drive").unwrap();
    assert_eq!(gate["decided_by"][0]["key"], "threshold");
    assert_eq!(gate["measure"]["best"]["works"]["share"], 1.0);
}

#[test]
fn odds_of_what_cannot_be_read() {
    assert_eq!(code(&mohm(&["odds", "clippy.toml"])), 2);
    assert_eq!(code(&mohm(&["odds", "no-such-file.toml"])), 2);
    assert!(out(&mohm(&["odds", "plans/harbour-diorama.toml"])).contains("Every build works."));
}
