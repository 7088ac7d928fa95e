//! What people read is plain technical English: phrases that engineers stumble over stand in none of our texts.
//!
//! Read are the string literals of the core, the reports and the tool, and the documents listed below. What stands in
//! braces is filled in by a value and is not read. A phrase that comes back fails here, with what to write instead.

use std::path::{Path, PathBuf};

use proc_macro2::{Delimiter, TokenStream, TokenTree};
use regex::Regex;

use crate::tool::root;

/// What is not written, and what to write instead.
const BANNED: [(&str, &str); 35] = [
    (r"\bvolts\b|\bamps\b|\bwatts\b|\bohms\b", "voltage, current, power, resistance"),
    (r"\bfor ever\b|\bfor long\b|\bfor a moment\b", "continuous, peak"),
    (r"\blets? go\b|\blet go\b", "turns off, releases"),
    (r"\bhangs? (on|behind|at)\b", "is fed from, is connected to, depends on"),
    (r"\bturned round at\b|\bturns? it round before\b", "reversed"),
    (r"\b(is|are) asked for\b", "must supply"),
    (r"\bgets (\d|enough|too)", "is at"),
    (r"\bwants\b|\bwished\b", "needs, required"),
    (r"\bmend(s|ed)?\b|\bcures?\b", "fix"),
    (r"\breckon", "calculate"),
    (r"\bwindings?\b", "coil, motor or inductive load"),
    (r"\bbursting\b", "at peak current"),
    (r"\bbesides\b", "also"),
    (r"\b(the|a|its|each) leads?\b|\bleads (are|of|to)\b", "cable, wire"),
    (r"\b(its|the|a) sheet\b", "datasheet"),
    (r"\bcaps?\b", "firmware limit, capacitor"),
    (r"\bstands? (\d|up to)|\bit stands\b", "withstands, is rated"),
    (r"\bis not known, so\b|\bso neither is\b", "cannot check X: Y not given"),
    (r"\bnow and then\b", "occasionally"),
    (r"\bsays no\b", "is missing"),
    (r"\bnowhere to go\b", "no path"),
    (r"\bbalanced pair\b", "differential pair"),
    (r"\bname its class\b|\bpart class\b", "set `part`"),
    (r"\bfeed collapses\b", "supply collapses"),
    (r"\bout of the drawer\b", "own stock"),
    (r"\bneed not (be|pull|turn)\b", "may not"),
    (r"\bboth ways\b|\bone way only\b", "bidirectional, in one direction only"),
    (r"\binto heat\b", "dissipates"),
    (r"\b(in|into) a short\b( [^c]|[^ ]|$)", "short circuit"),
    (r"\bopens the fuse\b|\bleaves? it whole\b", "the fuse blows"),
    (r"\bguarded by\b", "protected by"),
    (r"\b(less|more|few) volts\b", "a lower, a higher voltage"),
    (r"\bhas no feed\b( [^c]|$)|\bno feed of its own\b", "has no power, no supply of its own"),
    (r"\bon the way back\b", "in the other direction"),
    (r"\bat the (most|least)\b", "at most, at least"),
];

/// Documents that are held to the list, as are the long texts of the checks.
const READ: [&str; 10] = [
    "README.md",
    "CHANGELOG.md",
    "CONTRIBUTING.md",
    "docs/architecture.md",
    "docs/glossary.md",
    "docs/json-format.md",
    "docs/fixes.md",
    "docs/odds.md",
    "docs/plan-format.md",
    "docs/screenshots/README.md",
];

fn rust_files(folder: &Path, found: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            rust_files(&path, found);
        } else if path.extension().is_some_and(|e| e == "rs") {
            found.push(path);
        }
    }
}

/// The string literals of a source, those of attributes and comments left out.
fn literals(tokens: TokenStream, found: &mut Vec<String>) {
    let mut after_hash = false;
    for token in tokens {
        let hash = matches!(&token, TokenTree::Punct(p) if p.as_char() == '#' || (after_hash && p.as_char() == '!'));
        match token {
            TokenTree::Group(group) if !(after_hash && group.delimiter() == Delimiter::Bracket) => {
                literals(group.stream(), found);
            }
            TokenTree::Literal(literal) if literal.to_string().starts_with('"') => found.push(literal.to_string()),
            _ => {}
        }
        after_hash = hash;
    }
}

/// What of the list is in a text; the values that are filled in are not read.
fn banned(text: &str, list: &[(Regex, &'static str)], braces: &Regex) -> Vec<String> {
    let plain = braces.replace_all(text, "…");
    let hit =
        |(regex, instead): &(Regex, &str)| regex.find(&plain).map(|m| format!("`{}` in {text}: {instead}", m.as_str()));
    list.iter().filter_map(hit).collect()
}

#[test]
fn texts_are_plain_english() {
    let list: Vec<(Regex, &str)> = BANNED.iter().map(|(r, instead)| (Regex::new(r).unwrap(), *instead)).collect();
    let braces = Regex::new(r"\{[^{}]*\}|`[^`]*`").unwrap();
    let mut files = Vec::new();
    for part in ["modest-ohm", "modest-ohm-report", "modest-ohm-cli"] {
        rust_files(&root().join("crates").join(part).join("src"), &mut files);
    }
    rust_files(&root().join("crates/modest-ohm/examples"), &mut files);
    let (mut wrong, mut read) = (Vec::new(), 0);
    for file in files {
        let source = std::fs::read_to_string(&file).unwrap();
        let source = source.split("#[cfg(test)]\nmod tests").next().unwrap_or_default();
        let mut found = Vec::new();
        literals(source.parse().unwrap_or_else(|e| panic!("{}: {e}", file.display())), &mut found);
        // A single word is a key or a name.
        for text in found.iter().filter(|t| t.trim_matches('"').trim().contains(' ')) {
            read += 1;
            wrong.extend(banned(text, &list, &braces).into_iter().map(|w| format!("{}: {w}", file.display())));
        }
    }
    let about = std::fs::read_dir(root().join("crates/modest-ohm/src/about")).unwrap();
    for path in READ.iter().map(|name| root().join(name)).chain(about.map(|entry| entry.unwrap().path())) {
        let text = std::fs::read_to_string(&path).unwrap();
        // A paragraph is read as one line: a phrase may be broken over two.
        for paragraph in text.split("\n\n") {
            let line = paragraph.replace('\n', " ");
            read += 1;
            wrong.extend(banned(&line, &list, &braces).into_iter().map(|w| format!("{}: {w}", path.display())));
        }
    }
    assert!(read > 2_000, "{read}");
    assert!(wrong.is_empty(), "{} of {read}:\n{}", wrong.len(), wrong.join("\n"));
}

/// The list finds what it is there to find, and leaves alone what it is not.
#[test]
fn the_list_fires_and_stays_silent() {
    let list: Vec<(Regex, &str)> = BANNED.iter().map(|(r, instead)| (Regex::new(r).unwrap(), *instead)).collect();
    let braces = Regex::new(r"\{[^{}]*\}|`[^`]*`").unwrap();
    for bad in [
        "its volts fall",
        "may give 7.5 A for ever",
        "hangs on `five`",
        "into a short it",
        "wants 3 V",
        "a lead of 1 m",
    ] {
        assert_eq!(banned(bad, &list, &braces).len(), 1, "{bad}");
    }
    for good in
        ["{volts} is below `caps`", "into a short circuit", "the voltage leads", "withstands 5 V", "a capacitor"]
    {
        assert!(banned(good, &list, &braces).is_empty(), "{good}: {:?}", banned(good, &list, &braces));
    }
}
