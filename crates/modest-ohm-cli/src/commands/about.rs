//! `about`: a word explained.

use modest_ohm_report::{about_word, codes_text};

use crate::args::About;
use crate::output;

/// Runs `about`.
pub fn run(args: &About) -> u8 {
    let width = output::layout().width.min(100);
    let Some(word) = &args.word else {
        output::result(&codes_text(width));
        return output::FINE;
    };
    output::answer(about_word(word, width))
}
