//! The demo: what one writes first, then the sound plan.

use std::fmt::Write as _;

use modest_ohm::{Review, Select};

use crate::document::style::{STRONG, paint};
use crate::{Input, Layout, budget_text, check_text, drop_text, odds_text};

/// Findings of the draft, and how likely they are; findings, budget and drop of the sound plan.
#[must_use]
pub fn demo_text(draft: (&Input<'_>, &Review), sound: (&Input<'_>, &Review), layout: Layout) -> String {
    let mut out = String::new();
    let heading = |text: &str| format!("{}\n{}\n\n", paint(STRONG, text), "═".repeat(text.chars().count()));
    let first = heading("1 of 2: a first draft, with the usual mistakes");
    let _ = write!(out, "{first}{}", check_text(draft.0, draft.1, layout));
    let likely = heading("How likely: what becomes of builds within all tolerances (mohm odds)");
    let _ = write!(out, "\n\n{likely}{}", odds_text(draft.0, draft.1, &draft.1.odds(), layout));
    let second = heading("2 of 2: the sound plan, with its budget and its voltages");
    let _ = write!(out, "\n\n{second}{}\n", check_text(sound.0, sound.1, layout));
    let select = Select::default();
    let _ = write!(out, "{}\n{}", budget_text(sound.1, &select, layout), drop_text(sound.1, &select, layout));
    out
}
