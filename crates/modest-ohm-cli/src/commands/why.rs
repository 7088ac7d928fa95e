//! `why`: where the numbers of a thing come from.

use modest_ohm_report::{Input, why_json, why_text};

use crate::args::{Format, Why};
use crate::{output, plans};

/// Runs `why`.
pub fn run(args: &Why) -> u8 {
    let plan = match plans::read(&args.plan, args.format) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let review = plan.review();
    let Some(traces) = review.why(&args.name) else {
        let help = output::nearest(&args.name, &review.why_names());
        output::message(&format!("the plan has no values for `{}`; {help}", args.name));
        return output::UNREADABLE;
    };
    let path = args.plan.display().to_string();
    let input = Input { path: &path };
    output::result(&match args.format {
        Format::Text => why_text(&input, &traces, output::layout()),
        Format::Json => why_json(&input, &args.name, &traces),
    });
    output::FINE
}
