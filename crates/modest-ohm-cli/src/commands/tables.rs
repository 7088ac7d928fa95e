//! `budget` and `drop`: tables of one plan.

use modest_ohm::{Review, Scenario, Select};
use modest_ohm_report::{Input, budget_json, budget_text, drop_json, drop_text};

use crate::args::{Format, Tables};
use crate::{output, plans};

/// Runs `budget`.
pub fn budget(args: &Tables) -> u8 {
    show(args, |input, review, select| match args.format {
        Format::Text => budget_text(review, select, output::layout()),
        Format::Json => budget_json(input, review, select),
    })
}

/// Runs `drop`.
pub fn drop(args: &Tables) -> u8 {
    show(args, |input, review, select| match args.format {
        Format::Text => drop_text(review, select, output::layout()),
        Format::Json => drop_json(input, review, select),
    })
}

fn show(args: &Tables, text: impl Fn(&Input<'_>, &Review, &Select) -> String) -> u8 {
    let plan = match plans::read(&args.plan, args.format) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let review = plan.review();
    if let Some(wanted) = &args.scenario
        && !review.scenarios().iter().any(|s| s.name() == wanted)
    {
        output::message(&output::no_scenario(&review, wanted));
        return output::UNREADABLE;
    }
    let path = args.plan.display().to_string();
    let select = Select {
        scenario: args.scenario.as_deref().map(Scenario::from),
        corner: args.corner.map(Into::into),
        all_corners: args.all_corners,
        items: args.item.clone(),
    };
    let names = review.why_names();
    if let Some(item) = args.item.iter().find(|item| !names.contains(item)) {
        output::message(&format!("the plan has nothing called `{item}`; {}", output::nearest(item, &names)));
        return output::UNREADABLE;
    }
    let shown = text(&Input { path: &path }, &review, &select);
    if shown.trim().is_empty() {
        output::message(&format!("{}: nothing to show in this table", args.item.join(", ")));
    }
    output::result(&shown);
    output::FINE
}
