//! Words explained: the long texts of the checks, the glossary, the kinds of tables, the severities.

use std::fmt::Write as _;

use modest_ohm::Severity;
use modest_ohm::catalogue::classes;
use modest_ohm::checks::{nearest_code, nearest_name, registry};
use modest_ohm::findings::Check;

use crate::document::style::{self, QUIET, STRONG, paint};
use crate::document::wrap::wrap;

/// The pages that explain words and keys: the same that people read as documents.
const PLAN_FORMAT: &str = include_str!("../../../docs/plan-format.md");
const GLOSSARY: &str = include_str!("../../../docs/glossary.md");
/// Pages that are read as a whole, by the word that shows them.
const PAGES: [(&str, &str); 1] = [("odds", include_str!("../../../docs/odds.md"))];

/// Sections of the plan format that describe no table.
const NO_TABLES: [&str; 2] = ["Quantities", "The plan itself"];

/// What a word means: the code of a check, a word of the glossary, a severity, a kind of table or a generic part.
///
/// # Errors
/// Unknown words, with the nearest known one.
pub fn about_word(word: &str, width: usize) -> Result<String, String> {
    if let Some(check) = registry().into_iter().find(|c| c.code == word) {
        return Ok(about_text(check, width));
    }
    if let Some((_, page)) = PAGES.iter().find(|(name, _)| *name == word) {
        return Ok(page_text(page, width));
    }
    if word == "tables" {
        return Ok(format!("{}\n{}\n", paint(STRONG, "Tables of a plan"), wrap(&table_names().join(", "), width, 0)));
    }
    let mut texts: Vec<String> = Vec::new();
    if let Some(severity) = Severity::LISTED.into_iter().find(|s| s.word() == word || s.plural() == word) {
        texts.push(format!("{}: {}.\n", paint(style::of(severity), severity.word()), severity.meaning()));
    }
    let lower = word.to_lowercase();
    let is_word = |(name, _): &(&str, &str)| {
        let name = name.to_lowercase();
        name == lower || name.split([',', ' ']).any(|part| part == lower) && lower.len() > 2
    };
    let exact = glossary().find(|(name, _)| name.to_lowercase() == lower);
    for (name, meaning) in exact.into_iter().chain(glossary().filter(is_word).filter(|_| exact.is_none())) {
        texts.push(format!("{}\n", wrap(&format!("{}: {}.", paint(STRONG, name), meaning.replace('*', "")), width, 2)));
    }
    if let Some(section) = section(&lower) {
        texts.push(section_text(&lower, section, width));
    }
    let parts: Vec<_> = classes().into_iter().filter(|c| c.name == lower).collect();
    if !parts.is_empty() {
        texts.push(crate::catalogue::catalogue_text(&parts, width));
    }
    if texts.is_empty() { Err(unknown(&lower)) } else { Ok(texts.join("\n")) }
}

/// The words of the glossary and what they mean.
fn glossary() -> impl Iterator<Item = (&'static str, &'static str)> {
    let rows = GLOSSARY.lines().filter_map(|l| l.strip_prefix("| ")?.strip_suffix(" |")?.split_once(" | "));
    rows.filter(|(word, _)| *word != "word")
}

/// The kinds of tables, in the order of the plan format.
fn table_names() -> Vec<&'static str> {
    let heads = PLAN_FORMAT.lines().filter_map(|l| l.strip_prefix("## ")).filter(|h| !NO_TABLES.contains(h));
    heads.flat_map(|h| h.split(", ")).collect()
}

/// The section of the plan format on a kind of table.
fn section(kind: &str) -> Option<&'static str> {
    let sections = PLAN_FORMAT.split("\n## ").skip(1).filter_map(|s| s.split_once('\n'));
    sections
        .filter(|(head, _)| !NO_TABLES.contains(head))
        .find(|(head, _)| head.split(", ").any(|h| h == kind))
        .map(|(_, text)| text)
}

/// A section for the terminal: prose wrapped, keys with their meaning and default, examples as they stand.
fn section_text(kind: &str, section: &str, width: usize) -> String {
    let mut out = format!("{}\n", paint(STRONG, &format!("[{kind}.…]: its keys")));
    let (mut prose, mut code) = (String::new(), false);
    let plain = |text: &str| text.replace("`", "").replace('*', "").replace("\\|", "|");
    for line in section.lines().chain([""]) {
        if line.starts_with("```") {
            code = !code;
            out.push_str(if code { "\n" } else { "" });
        } else if code {
            let _ = writeln!(out, "    {line}");
        } else if let Some(row) = line.strip_prefix("| ") {
            let cells: Vec<&str> = row.trim_end_matches('|').split(" | ").map(str::trim).collect();
            let [key, meaning, rest @ ..] = cells.as_slice() else { continue };
            if !key.starts_with('`') {
                continue;
            }
            let default =
                rest.first().filter(|d| !d.is_empty()).map_or_else(String::new, |d| format!(" [{}]", plain(d)));
            let _ = writeln!(out, "  {}", paint(STRONG, &wrap(&plain(key), width.saturating_sub(2), 2)));
            let _ = writeln!(out, "      {}", wrap(&format!("{}{default}", plain(meaning)), width, 6));
        } else if line.is_empty() || line.starts_with("|") {
            if !prose.is_empty() {
                let _ = writeln!(out, "\n{}", wrap(&plain(&std::mem::take(&mut prose)), width, 0));
            }
        } else {
            prose.push_str(if prose.is_empty() { "" } else { " " });
            prose.push_str(line);
        }
    }
    out
}

fn unknown(word: &str) -> String {
    let codes: Vec<&str> = registry().iter().map(|c| c.code).collect();
    let parts: Vec<String> = classes().into_iter().map(|c| c.name).collect();
    let words =
        glossary().map(|(name, _)| name).chain(codes).chain(table_names()).chain(parts.iter().map(String::as_str));
    let near = nearest_code(word)
        .or_else(|| nearest_name(word, words))
        .map_or_else(String::new, |near| format!("; did you mean `{near}`?"));
    format!(
        "nothing is called `{word}`{near} (`mohm about` lists the checks, `mohm about tables` the tables of a plan, `mohm catalogue` the generic parts)"
    )
}

/// One check's long text for the terminal.
#[must_use]
pub fn about_text(check: &Check, width: usize) -> String {
    let severities: Vec<String> = check.severities.iter().map(|s| paint(style::of(*s), s.word())).collect();
    let mut out =
        format!("{}  {}\n{}\n\n", paint(STRONG, check.code), severities.join(", "), wrap(check.title, width, 0));
    out.push_str(&page_text(check.about, width));
    out
}

/// A page for the terminal: prose wrapped, headings marked, examples as they stand.
fn page_text(page: &str, width: usize) -> String {
    let (mut out, mut prose, mut code, mut indent) = (String::new(), String::new(), false, "");
    let plain = |text: &str| text.replace("**", "");
    for line in page.lines().chain([""]) {
        let heading = line.strip_prefix("## ").or(line.strip_prefix("# "));
        let fence = line.starts_with("```");
        let item = line.starts_with("- ") && !code;
        let goes_on = heading.is_none() && !line.is_empty() && !fence && !code;
        if goes_on && (!item || prose.is_empty()) {
            // The lines of a paragraph are broken anew for this width.
            prose.push_str(if prose.is_empty() { "" } else { " " });
            prose.push_str(line.trim_start());
            continue;
        }
        if !prose.is_empty() {
            let paragraph = plain(&std::mem::take(&mut prose));
            let hang = if paragraph.starts_with("- ") { 2 } else { 0 };
            // Items of a list stand close together.
            let gap = if item { "" } else { "\n" };
            let _ = writeln!(out, "{}{gap}", wrap(&paragraph, width, hang));
        }
        match heading {
            _ if fence => {
                code = !code;
                // What the tool prints is as wide as a page may be.
                indent = if line.ends_with("text") { "" } else { "    " };
                out.push_str(if code { "" } else { "\n" });
            }
            _ if code => {
                let _ = writeln!(out, "{}", format!("{indent}{line}").trim_end());
            }
            Some(heading) => {
                let _ = writeln!(out, "{}", paint(STRONG, heading));
            }
            None => prose.push_str(line),
        }
    }
    out
}

/// All codes, a line each.
#[must_use]
pub fn codes_text(width: usize) -> String {
    let mut out = String::new();
    let checks = registry();
    let wide = checks.iter().map(|c| c.code.len()).max().unwrap_or(0);
    let mut family = "";
    for check in checks {
        if check.family != family {
            family = check.family;
            let _ = writeln!(out, "{}{}", if out.is_empty() { "" } else { "\n" }, paint(STRONG, family));
        }
        let words: Vec<&str> = check.severities.iter().map(|s| s.word()).collect();
        let _ = writeln!(out, "  {:<wide$}  {}", check.code, wrap(check.title, width, wide + 4));
        let _ = writeln!(out, "  {:<wide$}  {}", "", paint(QUIET, &wrap(&words.join(", "), width, wide + 4)));
    }
    out
}
