//! feed-collapses: constant-power demands without a solution.

use crate::quantity::figure::Origin;
use modest_ohm_solve::solve::SolveError;

use crate::derived::context::{Context, Worst};
use crate::derived::deliverable::feed_row;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::quantity::units::Watts;
use crate::solved::outcome::Solved;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let Some(supply) = plan.supplies.first() else { return };
    // A state without a solution is reported before one whose solution was not found.
    let fails = |solved: &Solved, error: SolveError| solved.as_ref().err() == Some(&error);
    let with = |error| {
        let outcomes = context.outcomes;
        let wanted = outcomes.iter().find(|o| fails(&o.wanted, error));
        Some((wanted.or_else(|| outcomes.iter().find(|o| fails(&o.actual, error)))?, error))
    };
    let Some((outcome, error)) = with(SolveError::Collapsed).or_else(|| with(SolveError::Unsettled)) else {
        sink.pass(&supply.name.text, || "every scenario has a solution".into());
        return;
    };
    let at = Worst::at(outcome, 0.0);
    if error == SolveError::Unsettled {
        sink.unknown(
            &supply.name.text,
            supply.name.span,
            format!(
                "the voltages in scenario `{}`, corner {}, did not converge: nothing is known of them",
                at.scenario,
                at.corner.name()
            ),
            "report the plan as a bug",
        );
        return;
    }
    let (row, weakest) = feed_row(plan, outcome);
    let deliverable = row.deliverable.unwrap_or(Watts::new(0.0));
    let wanted = row.largest_scale.filter(|s| *s > 0.0).map(|s| Watts::new(deliverable.get() / s));
    let by_limit = outcome.wanted.is_ok();
    let crate::plan::wiring::name::Name { text: name, span } = weakest.unwrap_or(&supply.name);
    let asked = wanted.map_or_else(String::new, |w| format!(" {w} is drawn,"));
    let why = if by_limit { ", with its sources at their current limits" } else { "" };
    let mut evidence = vec![Evidence::judged("deliverable", deliverable)];
    if let Some(wanted) = wanted {
        evidence.push(Evidence::at_least("required", wanted, &Origin::Computed));
    }
    if let Some(in_range) = row.deliverable_in_range {
        evidence.push(Evidence::computed("deliverable_in_range", in_range));
    }
    sink.find(
        Draft::fault((name, *span))
            .at(&at)
            .says(format!("the supply of `{name}` collapses:{asked} it can deliver at most {deliverable}{why}"))
            .facts(evidence),
    );
}
