//! pin-shared: two jobs on one pin that is no bus, no mirror and no wire between boards.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::wiring::pin::PinRef;
use crate::topology::pin_jobs::{Direction, Job, Together, by_pin, jobs};
use crate::topology::rail::way_up;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let mut jobs = jobs(context.plan);
    let on_its_board: Vec<bool> = jobs.iter().map(|j| j.claim && is_for_its_driver(context.plan, j)).collect();
    let mut keep = on_its_board.iter().map(|is| !is);
    jobs.retain(|_| keep.next().unwrap_or(true));
    for all in by_pin(&jobs) {
        let first = all[0];
        // What two stacked boards take, and what two outputs drive, are other checks' matters.
        if all.iter().all(|j| j.claim) || is_tied(&all) {
            continue;
        }
        if may_share(&all) {
            sink.pass(&first.name, || if all.len() == 1 { "one job".into() } else { "shared on purpose".into() });
            continue;
        }
        let names: Vec<String> = all.iter().map(|j| format!("`{}` ({})", j.subject, j.what)).collect();
        sink.find(Draft::fault((&first.name, all[1].span)).says(format!(
            "{} has {} jobs: {}",
            first.pin_words(context.plan),
            all.len(),
            names.join(", ")
        )));
    }
}

/// A stacked board takes the pin for a driver that sits on it: one whose load is fed from that board.
fn is_for_its_driver(plan: &Plan, claim: &Job<'_>) -> bool {
    let is_its_pin = |pin: &PinRef| pin.at.board == claim.pin.board && pin.at.pin == claim.pin.pin;
    let own = format!("{}.", claim.subject);
    plan.branches.iter().any(|run| {
        let RunKind::Stage(stage) = &run.kind else { return false };
        let pins = plan.drivers.get(stage.driver).and_then(|d| d.channels.get(stage.channel)).map(|c| &c.pins);
        pins.is_some_and(|pins| pins.iter().any(is_its_pin))
            && way_up(plan, run.feed.from.id).iter().any(|at| plan.nodes[at.0].name.starts_with(&own))
    })
}

/// A wire ends where something else drives.
fn is_tied(all: &[&Job<'_>]) -> bool {
    let ends = all.iter().any(|j| j.together == Some(Together::WireEnd));
    // What a stacked board does with a pin is not known.
    ends && all.iter().any(|j| j.way == Direction::Out && !j.claim && j.together != Some(Together::WireEnd))
}

fn may_share(all: &[&Job<'_>]) -> bool {
    let are = |of: &[Together]| all.iter().all(|j| j.together.is_some_and(|t| of.contains(&t)));
    let buses = || all.iter().filter(|j| matches!(j.together, Some(Together::Bus(_)))).count();
    let bus =
        || all.iter().all(|j| matches!(j.together, Some(Together::Bus(_) | Together::StackedBus))) && buses() <= 1;
    let mirrors = || all.iter().all(|j| j.way == Direction::Out) && all.iter().filter(|j| !j.mirror).count() <= 1;
    all.len() == 1
        || bus()
        || mirrors()
        || are(&[Together::WireStart])
        || are(&[Together::WireEnd])
        || (are(&[Together::WireStart, Together::WireEnd]) && all.iter().all(|j| j.way == Direction::Shared))
}
