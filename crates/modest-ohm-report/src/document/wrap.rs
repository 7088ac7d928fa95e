//! Wrapping: lines end at blanks, and numbers keep their units.

use textwrap::{Options, WordSeparator, WordSplitter, WrapAlgorithm};

/// Units that never begin a line: they belong to the number before them.
const UNITS: [&str; 53] = [
    "V", "mV", "µV", "A", "mA", "µA", "nA", "W", "mW", "µW", "kW", "MW", "Ω", "mΩ", "kΩ", "MΩ", "Hz", "kHz", "MHz",
    "pF", "nF", "µF", "F", "nH", "µH", "mH", "H", "m", "cm", "mm", "µm", "km", "m²", "s", "ms", "µs", "min", "h", "J",
    "mJ", "Ah", "mAh", "%", "°C", "K", "K/W", "AWG", "mm²", "/m", "Ω/m", "mΩ/m", "A/m", "W/m",
];

/// Breaks a text at blanks so that no line is wider than `width`, later lines indented; numbers keep their units.
pub(crate) fn wrap(text: &str, width: usize, indent: usize) -> String {
    let options = Options::new(width.saturating_sub(indent).max(30))
        .word_separator(WordSeparator::AsciiSpace)
        .word_splitter(WordSplitter::NoHyphenation)
        .wrap_algorithm(WrapAlgorithm::FirstFit)
        .break_words(false);
    let lines = textwrap::wrap(&with_units_held(text), options).join(&format!("\n{}", " ".repeat(indent)));
    lines.replace(NO_BREAK, " ")
}

/// As [`wrap`], with only the later lines indented, and the whole width for the first.
pub(crate) fn wrap_hanging(text: &str, width: usize, hang: usize) -> String {
    let pad = " ".repeat(hang);
    let options = Options::new(width.max(30))
        .subsequent_indent(&pad)
        .word_separator(WordSeparator::AsciiSpace)
        .word_splitter(WordSplitter::NoHyphenation)
        .wrap_algorithm(WrapAlgorithm::FirstFit)
        .break_words(false);
    textwrap::wrap(&with_units_held(text), options).join("\n").replace(NO_BREAK, " ")
}

/// A text that is no longer than `width`, with a mark where something is left out.
pub(crate) fn cut(text: &str, width: usize) -> String {
    if text.chars().count() <= width {
        return text.to_owned();
    }
    let kept: String = text.chars().take(width.saturating_sub(2)).collect();
    format!("{} …", kept.trim_end_matches([' ', ',', ';', ':', '…']).trim_end())
}

const NO_BREAK: char = '\u{a0}';

/// The text with a blank that does not break between each number and its unit.
pub(crate) fn with_units_held(text: &str) -> String {
    let mut held = String::with_capacity(text.len());
    for word in text.split(' ') {
        let bare = word.trim_end_matches([',', '.', ';', ':', ')', '`', '"']);
        let is_unit = UNITS.contains(&bare) && held.ends_with(|c: char| c.is_ascii_digit());
        if !held.is_empty() {
            held.push(if is_unit { NO_BREAK } else { ' ' });
        }
        held.push_str(word);
    }
    held
}

#[cfg(test)]
mod tests {
    use super::wrap;

    #[test]
    fn numbers_keep_their_units() {
        let text = "it could take 2.44 times as much, 48.9 W of it (11.4 V, 16 AWG).";
        for width in 30..60 {
            for line in wrap(text, width, 2).lines() {
                let first = line.trim_start().split(' ').next().unwrap_or("");
                assert!(!["W", "V,", "AWG)."].contains(&first), "{width}: {line}");
                assert!(line.chars().count() <= width.max(32));
            }
        }
        assert_eq!(wrap(text, 200, 0), text);
    }
}
