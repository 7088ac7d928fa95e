//! `catalogue`: the generic parts.

use modest_ohm::catalogue::{PartClass, classes};
use modest_ohm_report::{catalogue_json, catalogue_list_text};

use crate::args::{Catalogue, Format};
use crate::output;

/// Runs `catalogue`.
pub fn run(args: &Catalogue) -> u8 {
    let mut classes = classes();
    if let Some(word) = &args.word {
        classes.retain(|c| names(c, &word.to_lowercase()));
        if classes.is_empty() && args.format == Format::Text {
            output::message(&format!(
                "no part has `{word}` in its name, title, kind or markings; `mohm catalogue` lists all"
            ));
            return output::UNREADABLE;
        }
    }
    output::result(&match args.format {
        Format::Text => catalogue_list_text(&classes, output::layout().width),
        Format::Json => catalogue_json(&classes),
    });
    output::FINE
}

fn names(class: &PartClass, word: &str) -> bool {
    [&class.name, &class.title, &class.kind].into_iter().chain(&class.markings).any(|t| t.to_lowercase().contains(word))
}
