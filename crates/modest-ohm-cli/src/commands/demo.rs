//! `demo`: the first draft's findings, then the sound plan.

use modest_ohm::{Plan, Review};
use modest_ohm_report::{Input, demo_text, problems_text};

use crate::{output, plans};

/// Runs `demo`.
pub fn run() -> u8 {
    let (Some(draft), Some(sound)) = (review(plans::DRAFT), review(plans::SOUND)) else { return output::UNREADABLE };
    let (draft_input, sound_input) = (Input { path: plans::DRAFT.0 }, Input { path: plans::SOUND.0 });
    output::result(&demo_text((&draft_input, &draft), (&sound_input, &sound), output::layout()));
    output::FINE
}

fn review((path, text): (&str, &str)) -> Option<Review> {
    match Plan::from_toml(text) {
        Ok(plan) => Some(plan.review()),
        Err(errors) => {
            output::message(&problems_text(&Input { path }, &errors, output::layout().width));
            None
        }
    }
}
