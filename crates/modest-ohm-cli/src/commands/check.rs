//! `check`: the findings, and an exit code that a script can use.

use modest_ohm::{Review, Severity};
use modest_ohm_report::{Input, Layout, check_json, check_terse, check_text, finding_text};

use crate::args::{Check, Format};
use crate::{output, plans};

/// Runs `check`.
pub fn run(args: &Check) -> u8 {
    let plan = match plans::read(&args.plan, args.format) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let review = plan.review();
    let review = if args.no_fixes { review } else { review.with_fixes() };
    let path = args.plan.display().to_string();
    let input = Input { path: &path };
    let text = match args.format {
        Format::Text => match text(args, &input, &review) {
            Ok(text) => text,
            Err(message) => {
                output::message(&message);
                return output::UNREADABLE;
            }
        },
        Format::Json => check_json(&input, &review, args.passed),
    };
    output::result(&text);
    let fails = |severity: &Severity| args.fail_on.severity().is_some_and(|least| *severity >= least);
    let failed = Severity::LISTED.iter().filter(|s| fails(s)).any(|s| review.count(*s) > 0);
    if failed { output::FOUND } else { output::FINE }
}

fn text(args: &Check, input: &Input<'_>, review: &Review) -> Result<String, String> {
    let layout = output::layout();
    if let Some(wanted) = &args.show {
        let groups = review.finding_groups().len();
        return finding_text(input, review, wanted, layout)
            .ok_or_else(|| format!("there is no finding `{wanted}`; this plan has findings 1 to {groups}"));
    }
    if args.terse {
        return Ok(check_terse(input, review));
    }
    let rows = if args.all { None } else { output::rows() };
    Ok(check_text(input, review, Layout { passed: args.passed, rows, ..layout }))
}
