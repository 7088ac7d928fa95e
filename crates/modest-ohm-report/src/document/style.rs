//! Colours: few, by meaning, and never the only carrier of it.

use anstyle::{AnsiColor, Style};
use modest_ohm::Severity;

/// The style of a severity's word.
pub(crate) fn of(severity: Severity) -> Style {
    match severity {
        Severity::Danger => AnsiColor::BrightRed.on_default().bold(),
        Severity::Fault => AnsiColor::BrightMagenta.on_default().bold(),
        Severity::Caution => AnsiColor::BrightYellow.on_default().bold(),
        Severity::Advisory => AnsiColor::BrightBlue.on_default().bold(),
        Severity::Unknown => AnsiColor::BrightCyan.on_default().bold(),
    }
}

/// Names and headings.
pub(crate) const STRONG: Style = Style::new().bold();
/// What explains.
pub(crate) const QUIET: Style = AnsiColor::BrightBlack.on_default();
/// What is in order.
pub(crate) const SOUND: Style = AnsiColor::BrightGreen.on_default();

/// A text that did not come through the reader of plans, as it may be shown: without characters that could steer a
/// terminal or turn the order of what is read; on one line.
pub(crate) fn printable(text: &str) -> String {
    let turns = |c| matches!(c, '\u{2028}' | '\u{2029}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}');
    let shown = |c: char| match c {
        '\n' | '\r' | '\t' => ' ',
        c if c.is_control() || turns(c) => '\u{fffd}',
        c => c,
    };
    text.chars().map(shown).collect()
}

/// A text in a style.
pub(crate) fn paint(style: Style, text: &str) -> String {
    format!("{style}{text}{style:#}")
}
