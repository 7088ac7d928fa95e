//! The long texts of the checks.

use std::fmt::Write as _;

use modest_ohm::checks::registry;
use modest_ohm::findings::Check;

use crate::document::style::{self, QUIET, STRONG, paint};
use crate::document::wrap::wrap;

/// One check's long text for the terminal.
#[must_use]
pub fn about_text(check: &Check, width: usize) -> String {
    let severities: Vec<String> = check.severities.iter().map(|s| paint(style::of(*s), s.word())).collect();
    let mut out =
        format!("{}  {}\n{}\n\n", paint(STRONG, check.code), severities.join(", "), wrap(check.title, width, 0));
    let mut prose = String::new();
    for line in check.about.lines().chain([""]) {
        let heading = line.strip_prefix("## ");
        if heading.is_none() && !line.is_empty() {
            // The lines of a paragraph are broken anew for this width.
            prose.push_str(if prose.is_empty() { "" } else { " " });
            prose.push_str(line);
            continue;
        }
        if !prose.is_empty() {
            let _ = writeln!(out, "{}\n", wrap(&std::mem::take(&mut prose), width, 0));
        }
        if let Some(heading) = heading {
            let _ = writeln!(out, "{}", paint(STRONG, heading));
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
        let _ = writeln!(out, "  {:<wide$}  {}", "", paint(QUIET, &words.join(", ")));
    }
    out
}
