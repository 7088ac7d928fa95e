//! The one place that writes: results on standard output, everything else on standard error.

use std::io::{IsTerminal, Write};

use modest_ohm::Review;
use modest_ohm_report::Layout;

/// Nothing to complain about.
pub const FINE: u8 = 0;
/// Findings at or above the wanted severity.
pub const FOUND: u8 = 1;
/// The input could not be read.
pub const UNREADABLE: u8 = 2;

/// Writes a result; styles are dropped where standard output is no terminal or NO_COLOR is set.
pub fn result(text: &str) {
    // A reader that has gone away (a pager, `head`) is no error.
    let mut out = anstream::stdout().lock();
    let _ = out.write_all(text.as_bytes());
    let _ = out.flush();
}

/// Writes a message for the user.
pub fn message(text: &str) {
    let mut out = anstream::stderr().lock();
    let _ = writeln!(out, "{}", text.trim_end());
}

/// Which scenarios there are, where one is asked for that is none.
pub fn no_scenario(review: &Review, wanted: &str) -> String {
    format!("there is no scenario `{wanted}`; this plan has: {}", review.scenarios().join(", "))
}

/// The terminal's width, or 110 columns where there is none.
pub fn layout() -> Layout {
    let columns = std::env::var("COLUMNS").ok().and_then(|c| c.parse().ok());
    let width = if std::io::stdout().is_terminal() {
        columns.or_else(terminal_width).unwrap_or(110)
    } else {
        columns.unwrap_or(110)
    };
    Layout { width: width.clamp(60, 160), passed: false }
}

fn terminal_width() -> Option<usize> {
    terminal_size::terminal_size().map(|(w, _)| usize::from(w.0))
}
