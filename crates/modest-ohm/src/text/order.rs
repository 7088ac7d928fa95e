//! Two figures of one item that contradict each other.

use super::problem::Problem;
use super::reader::Reader;
use crate::quantity::units::Quantity;

/// Reports where one figure has to be at most another and is more; both are named. Where the plan gives only one of
/// them, the other is its class's.
pub(crate) fn at_most<Q: Quantity>(
    reader: &Reader<'_>,
    (low_key, low): (&str, Option<Q>),
    (high_key, high): (&str, Option<Q>),
    help: &str,
) {
    let (Some(low), Some(high)) = (low, high) else { return };
    if low.si() <= high.si() * (1.0 + 1e-9) {
        return;
    }
    let (low_span, high_span) = (reader.own_span(low_key), reader.own_span(high_key));
    let message = format!("{} has `{low_key}` {low} and `{high_key}` {high}", reader.what());
    let problem = Problem::new(low_span.or(high_span).unwrap_or(reader.span), message, help);
    reader.problem(if low_span.is_some() { problem.with_related(high_span, "the other") } else { problem });
}
