//! `about`: the long text of a check.

use modest_ohm::checks::registry;
use modest_ohm_report::{about_text, codes_text};

use crate::args::About;
use crate::output;

/// Runs `about`.
pub fn run(args: &About) -> u8 {
    let width = output::layout().width.min(100);
    let Some(code) = &args.code else {
        output::result(&codes_text(width));
        return output::FINE;
    };
    if let Some(check) = registry().into_iter().find(|c| c.code == code) {
        output::result(&about_text(check, width));
        return output::FINE;
    }
    let near = modest_ohm::checks::nearest_code(code)
        .map_or_else(|| "`mohm about` lists them".to_owned(), |n| format!("did you mean `{n}`?"));
    output::message(&format!("there is no check `{code}`; {near}"));
    output::UNREADABLE
}
