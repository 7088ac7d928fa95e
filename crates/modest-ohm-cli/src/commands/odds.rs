//! `odds`: in how many builds of a plan everything works.

use modest_ohm_report::{Input, odds_json, odds_text};

use crate::args::{Format, Odds};
use crate::{output, plans};

/// Runs `odds`.
pub fn run(args: &Odds) -> u8 {
    let plan = match plans::read(&args.plan, args.format) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let review = plan.review();
    let odds = review.odds();
    let path = args.plan.display().to_string();
    let input = Input { path: &path };
    output::result(&match args.format {
        Format::Text => odds_text(&input, &review, &odds, output::layout()),
        Format::Json => odds_json(&input, &odds),
    });
    output::FINE
}
