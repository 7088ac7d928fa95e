//! Pages generated from the code: docs/checks.md.

use std::fmt::Write as _;

use modest_ohm::checks::registry;

/// docs/checks.md: every check with its long text.
#[must_use]
pub fn checks_page() -> String {
    let mut out = String::from(
        "# Checks\n\nGenerated from the registry (`MOHM_UPDATE_DOCS=1 cargo test -p modest-ohm-cli --test suite \
        docs`); CI fails if it differs.\n\nSeverities: **danger** (can injure, start a fire or destroy a part: do not \
        power on), **fault** (will not work, or will reset or shut down), **caution** (works, but with too little \
        margin or not every time), **advisory** (works; good practice suggests a change, or a value worth knowing), \
        **unknown** (could not be checked; the line names the missing value).\n\n| code | severity | fires when \
        |\n|---|---|---|\n",
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
