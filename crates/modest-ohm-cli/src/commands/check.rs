//! `check`: the findings, and an exit code that a script can use.

use modest_ohm::Severity;
use modest_ohm_report::{Input, Layout, check_json, check_text};

use crate::args::{Check, Format};
use crate::{output, plans};

/// Runs `check`.
pub fn run(args: &Check) -> u8 {
    let plan = match plans::read(&args.plan, args.format) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let review = plan.review();
    let path = args.plan.display().to_string();
    let input = Input { path: &path };
    let text = match args.format {
        Format::Text => check_text(&input, &review, Layout { passed: args.passed, ..output::layout() }),
        Format::Json => check_json(&input, &review, args.passed),
    };
    output::result(&text);
    let fails = |severity: &Severity| args.fail_on.severity().is_some_and(|least| *severity >= least);
    let failed = Severity::LISTED.iter().filter(|s| fails(s)).any(|s| review.count(*s) > 0);
    if failed { output::FOUND } else { output::FINE }
}
