//! The one place that writes: results on standard output, everything else on standard error.

use std::io::{IsTerminal, Write};

use modest_ohm::Review;
use modest_ohm_report::Layout;

/// Nothing to complain about.
pub const FINE: u8 = 0;
/// Findings at or above the wanted severity.
pub const FOUND: u8 = 1;
/// The input could not be read, or the output not written.
pub const UNREADABLE: u8 = 2;

/// Writes a result; styles are dropped where standard output is no terminal or NO_COLOR is set. What cannot be written
/// ends the program: a result that is cut off must not pass for one.
pub fn result(text: &str) {
    let mut out = anstream::stdout().lock();
    // A closed standard output is not detected: the runtime opens a null device in its place, and callers also pass one
    // on purpose, opened for reading and writing.
    if let Err(error) = out.write_all(text.as_bytes()).and_then(|()| out.flush()) {
        // A reader that has gone away (a pager, `head`) has what it wanted.
        if error.kind() != std::io::ErrorKind::BrokenPipe {
            message(&format!("cannot write to standard output: {error}"));
            std::process::exit(UNREADABLE.into());
        }
    }
}

/// Writes what somebody has to have seen before a file is changed.
///
/// # Errors
/// What to tell the user: it could not be written, also where nobody reads it any more.
pub fn shown(text: &str) -> Result<(), String> {
    let mut out = anstream::stdout().lock();
    let written = out.write_all(text.as_bytes()).and_then(|()| out.flush());
    written
        .map_err(|e| format!("cannot write to standard output: {}; nothing written", crate::files::why(&e, "written")))
}

/// Writes a message for the user.
pub fn message(text: &str) {
    let mut out = anstream::stderr().lock();
    let _ = writeln!(out, "{}", text.trim_end());
}

/// Writes an answer, or why there is none; gives the exit code.
pub fn answer(text: Result<String, String>) -> u8 {
    match text {
        Ok(text) => {
            result(&text);
            FINE
        }
        Err(why) => {
            message(&why);
            UNREADABLE
        }
    }
}

/// Which scenarios there are, where one is asked for that is none.
pub fn no_scenario(review: &Review, wanted: &str) -> String {
    format!(
        "there is no scenario `{wanted}`; this plan has: {}",
        review.scenarios().iter().map(|s| s.name()).collect::<Vec<_>>().join(", ")
    )
}

/// Which name may be meant, or which there are.
pub fn nearest(wanted: &str, names: &[String]) -> String {
    match modest_ohm::checks::nearest_name(wanted, names.iter().map(String::as_str)) {
        Some(near) => format!("did you mean `{near}`?"),
        None => {
            // Terminals and cables go without saying, and what belongs to the whole plan has no table.
            let is_item = |name: &&String| !name.contains(['.', '[', ' ']);
            let items: Vec<&str> = names.iter().filter(is_item).map(String::as_str).collect();
            format!("it has: {}", items.join(", "))
        }
    }
}

/// The terminal's width, or 110 columns where there is none.
pub fn layout() -> Layout {
    let columns = std::env::var("COLUMNS").ok().and_then(|c| c.parse().ok());
    let width = if std::io::stdout().is_terminal() {
        columns.or_else(terminal_width).unwrap_or(110)
    } else {
        columns.unwrap_or(110)
    };
    Layout { width: width.clamp(60, 160), passed: false, rows: None }
}

/// The lines of the terminal that are free above the next prompt; `None` where standard output is no terminal.
pub fn rows() -> Option<usize> {
    let lines = terminal_size::terminal_size().map_or(24, |(_, h)| usize::from(h.0));
    std::io::stdout().is_terminal().then_some(lines.clamp(24, 60) - 1)
}

fn terminal_width() -> Option<usize> {
    terminal_size::terminal_size().map(|(w, _)| usize::from(w.0))
}
