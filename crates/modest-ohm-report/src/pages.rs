//! Pages generated from the code: docs/checks.md.

use std::fmt::Write as _;

use modest_ohm::checks::registry;

/// docs/checks.md: every check with its long text.
#[must_use]
pub fn checks_page() -> String {
    let mut out = String::from(
        "# Checks\n\nGenerated from the registry (`MOHM_UPDATE_DOCS=1 cargo test -p modest-ohm-cli --test suite docs`); CI fails if it differs.\n\n\
         Severities: **danger** (heat, fire, a destroyed part, shock), **fault** (will not work, or resets), **caution** (works \
         without margin, or only sometimes), **advice** (good practice), **unknown** (a figure is missing; the message names it).\n\n\
         | code | severity | fires when |\n|---|---|---|\n",
    );
    for c in registry() {
        let words: Vec<&str> = c.severities.iter().map(|s| s.word()).collect();
        let _ = writeln!(out, "| [{0}](#{0}) | {1} | {2} |", c.code, words.join(" / "), c.title);
    }
    for c in registry() {
        let _ = write!(out, "\n## {}\n\n{}", c.code, c.about.replace("## ", "### "));
    }
    out
}
