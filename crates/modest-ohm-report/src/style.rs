//! Colours: few, by meaning, and never the only carrier of it.

use anstyle::{AnsiColor, Style};
use modest_ohm::Severity;

/// The style of a severity's word.
pub(crate) fn of(severity: Severity) -> Style {
    match severity {
        Severity::Danger => AnsiColor::BrightRed.on_default().bold(),
        Severity::Fault => AnsiColor::BrightMagenta.on_default().bold(),
        Severity::Caution => AnsiColor::BrightYellow.on_default().bold(),
        Severity::Advice => AnsiColor::BrightBlue.on_default().bold(),
        Severity::Unknown => AnsiColor::BrightCyan.on_default().bold(),
    }
}

/// Names and headings.
pub(crate) const STRONG: Style = Style::new().bold();
/// What explains.
pub(crate) const QUIET: Style = AnsiColor::BrightBlack.on_default();
/// What is in order.
pub(crate) const SOUND: Style = AnsiColor::BrightGreen.on_default();

/// A text of the user's as it may be shown: without control characters, which could steer a terminal.
pub(crate) fn printable(text: &str) -> String {
    text.chars().map(|c| if c.is_control() { '\u{fffd}' } else { c }).collect()
}

/// A text in a style.
pub(crate) fn paint(style: Style, text: &str) -> String {
    format!("{style}{text}{style:#}")
}
