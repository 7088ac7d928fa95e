//! The folders of the core are its stages, and none looks forward: the order in docs/architecture.md against every path
//! in the code. No crate has folders that import each other in a circle.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// The source files of a crate, by their path below `src`, without comments.
fn sources(name: &str) -> BTreeMap<String, String> {
    let src = root().join("crates").join(name).join("src");
    let (mut found, mut folders) = (BTreeMap::new(), vec![src.clone()]);
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() {
                folders.push(path);
            } else if path.extension().is_some_and(|e| e == "rs") {
                let below = path.strip_prefix(&src).unwrap().to_string_lossy().replace('\\', "/");
                let text = std::fs::read_to_string(&path).unwrap();
                let code =
                    text.lines().map(|l| l.split("//").next().unwrap_or_default()).collect::<Vec<_>>().join("\n");
                found.insert(below, code);
            }
        }
    }
    found
}

fn folder_of(file: &str) -> &str {
    file.rsplit_once('/').map_or("", |(folder, _)| folder)
}

/// The module that a file is.
fn module_of(file: &str) -> Vec<String> {
    let stem = file.trim_end_matches(".rs");
    let stem = if stem == "lib" || stem == "main" { "" } else { stem.trim_end_matches("/mod") };
    stem.split('/').filter(|s| !s.is_empty()).map(str::to_owned).collect()
}

/// `a::{b, c::d}` as `a::b` and `a::c::d`.
fn spread(tree: &str) -> Vec<String> {
    let Some((before, inner)) = tree.split_once('{') else { return vec![tree.trim().to_owned()] };
    let inner = inner.rsplit_once('}').map_or(inner, |(inner, _)| inner);
    let (mut parts, mut depth, mut start) = (Vec::new(), 0, 0);
    for (i, c) in inner.char_indices() {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            ',' if depth == 0 => {
                parts.push(&inner[start..i]);
                start = i + 1;
            }
            _ => {}
        }
    }
    parts.push(&inner[start..]);
    let whole = |part: &&&str| !part.trim().is_empty();
    parts.iter().filter(whole).flat_map(|part| spread(&format!("{}{}", before.trim(), part.trim()))).collect()
}

/// Every path in a file that begins with `crate` or `super`, absolute; `use` trees spread out.
fn paths(file: &str, code: &str) -> Vec<Vec<String>> {
    let mut written = Vec::new();
    let mut rest = code.to_owned();
    while let Some(at) = rest.find("use ") {
        let Some(end) = rest[at..].find(';').map(|e| at + e) else { break };
        let starts_word = at == 0 || !rest[..at].ends_with(|c: char| c.is_alphanumeric() || c == '_');
        if starts_word {
            written.extend(spread(&rest[at + 4..end]));
        }
        rest.replace_range(..end + 1, "");
    }
    for word in ["crate::", "super::"] {
        for (at, _) in code.match_indices(word) {
            let boundary = |c: char| !(c.is_alphanumeric() || c == '_' || c == ':');
            if at == 0 || code[..at].ends_with(boundary) {
                let end = code[at..].find(boundary).map_or(code.len(), |e| at + e);
                written.push(code[at..end].trim_end_matches(':').to_owned());
            }
        }
    }
    let module = module_of(file);
    let absolute = |path: &String| {
        let mut parts: Vec<&str> = path.split("::").map(str::trim).collect();
        let mut base: Vec<String> = match *parts.first()? {
            "crate" => Vec::new(),
            "super" => {
                let up = parts.iter().take_while(|p| **p == "super").count();
                parts.drain(..up - 1);
                module[..module.len().saturating_sub(up)].to_vec()
            }
            _ => return None,
        };
        base.extend(parts[1..].iter().map(|p| p.split(' ').next().unwrap_or_default().to_owned()));
        Some(base)
    };
    written.iter().filter_map(absolute).collect()
}

/// The file in which a path ends.
fn file_at<'f>(path: &[String], files: &'f BTreeMap<String, String>) -> Option<&'f str> {
    (1..=path.len()).rev().find_map(|n| {
        let stem = path[..n].join("/");
        let found = [format!("{stem}.rs"), format!("{stem}/mod.rs")].into_iter().find(|f| files.contains_key(f))?;
        files.get_key_value(&found).map(|(file, _)| file.as_str())
    })
}

/// The order of the stages: the first column of the second table of docs/architecture.md that lists folders.
fn drivers() -> Vec<String> {
    let page = std::fs::read_to_string(root().join("docs/architecture.md")).unwrap();
    let table = page.split("| folder |").nth(1).expect("a table of folders");
    let rows = table.lines().skip(2).take_while(|l| l.starts_with('|'));
    rows.map(|l| l.split('`').nth(1).expect("a folder in backquotes").to_owned()).collect()
}

/// The stage of a folder: the row that names it, or that names its parent with a star.
fn stage_of(folder: &str, stages: &[String]) -> Option<usize> {
    let star = folder.rsplit_once('/').map(|(parent, _)| format!("{parent}/*"));
    stages.iter().position(|s| s == folder).or_else(|| stages.iter().position(|s| Some(s) == star.as_ref()))
}

#[test]
fn no_stage_of_the_core_looks_forward() {
    let (files, stages) = (sources("modest-ohm"), drivers());
    assert!(stages.len() > 20, "{stages:?}");
    let mut forward = BTreeSet::new();
    let mut looked_at = 0;
    for (file, code) in files.iter().filter(|(file, _)| *file != "lib.rs") {
        let own = stage_of(folder_of(file), &stages).unwrap_or_else(|| panic!("{file} is in no stage of the table"));
        for path in paths(file, code) {
            let Some(other) = file_at(&path, &files) else { continue };
            let stage = stage_of(folder_of(other), &stages).unwrap();
            looked_at += 1;
            if stage > own || (stage == own && folder_of(other) != folder_of(file)) {
                forward.insert(format!("{file} looks forward to {other}"));
            }
        }
    }
    assert!(looked_at > 2000, "{looked_at} paths were found");
    assert!(forward.is_empty(), "{forward:#?}");
    let unused: Vec<_> =
        stages.iter().filter(|s| !s.contains('*') && !files.keys().any(|f| folder_of(f) == *s)).collect();
    assert!(unused.is_empty(), "the table names folders that are not there: {unused:?}");
}

#[test]
fn only_the_crate_root_lies_beside_lib_rs() {
    let files = sources("modest-ohm");
    let loose: Vec<_> = files.keys().filter(|f| folder_of(f).is_empty()).collect();
    assert_eq!(loose, ["lib.rs"]);
}

/// Folders that import each other, directly or round a corner.
fn circles(name: &str) -> Vec<String> {
    let files = sources(name);
    let mut to: BTreeMap<&str, BTreeSet<&str>> = BTreeMap::new();
    for (file, code) in files.iter().filter(|(f, _)| *f != "lib.rs" && *f != "main.rs") {
        for path in paths(file, code) {
            let other = file_at(&path, &files).map(folder_of);
            if let Some(other) = other.filter(|o| *o != folder_of(file)) {
                to.entry(folder_of(file)).or_default().insert(other);
            }
        }
    }
    let reaches = |from: &str| {
        let (mut seen, mut open) = (BTreeSet::new(), vec![from]);
        while let Some(at) = open.pop() {
            for next in to.get(at).into_iter().flatten() {
                if seen.insert(*next) {
                    open.push(next);
                }
            }
        }
        seen
    };
    to.keys()
        .filter(|f| reaches(f).contains(*f))
        .map(|f| format!("{name}: {f:?} imports itself round a circle"))
        .collect()
}

#[test]
fn no_crate_has_folders_in_a_circle() {
    let crates = ["modest-ohm-solve", "modest-ohm", "modest-ohm-report", "modest-ohm-cli"];
    let found: Vec<String> = crates.into_iter().flat_map(circles).collect();
    assert!(found.is_empty(), "{found:#?}");
}

/// The test can fail: a path that looks forward is found, however it is written.
#[test]
fn a_path_that_looks_forward_is_seen() {
    let code = "use crate::a::{b::C, d};\nuse super::super::e::F;\nfn f() { crate::g::h::i(); }";
    let found: Vec<String> = paths("x/y/z.rs", code).iter().map(|p| p.join("::")).collect();
    for want in ["a::b::C", "a::d", "x::e::F", "g::h::i"] {
        assert!(found.iter().any(|f| f == want), "{want} in {found:?}");
    }
}
