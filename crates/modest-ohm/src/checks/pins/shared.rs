//! pin-shared: two jobs on one pin that is no bus, no mirror and no wire between boards.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::topology::pin_jobs::{Job, Together, Way, by_pin, jobs};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let jobs = jobs(context.plan);
    for all in by_pin(&jobs) {
        let first = all[0];
        // What two stacked boards take, and what two outputs drive, are other checks' matters.
        if all.iter().all(|j| j.claim) || is_tied(&all) {
            continue;
        }
        if may_share(&all) {
            sink.pass(&first.name, if all.len() == 1 { "one job".into() } else { "shared on purpose".into() });
            continue;
        }
        let names: Vec<String> = all.iter().map(|j| format!("`{}` ({})", j.subject, j.what)).collect();
        let outputs = all.iter().all(|j| j.way == Way::Out && !j.claim);
        let mut cures = vec![format!("give each a pin of its own: `mohm pins` lists those of the board that are free")];
        if outputs {
            cures.push("or, where all are to do the same, say so: `mirror = true` in all but one".into());
        }
        sink.find(
            Draft::fault((&first.name, all[1].span))
                .says(format!("{} has {} jobs: {}", first.pin_words(context.plan), all.len(), names.join(", ")))
                .cures(cures),
        );
    }
}

/// A wire ends where something else drives.
fn is_tied(all: &[&Job<'_>]) -> bool {
    let ends = all.iter().any(|j| j.together == Some(Together::WireEnd));
    // What a stacked board does with a pin is not known.
    ends && all.iter().any(|j| j.way == Way::Out && !j.claim && j.together != Some(Together::WireEnd))
}

fn may_share(all: &[&Job<'_>]) -> bool {
    let are = |of: &[Together]| all.iter().all(|j| j.together.is_some_and(|t| of.contains(&t)));
    let buses = || all.iter().filter(|j| matches!(j.together, Some(Together::Bus(_)))).count();
    let bus =
        || all.iter().all(|j| matches!(j.together, Some(Together::Bus(_) | Together::StackedBus))) && buses() <= 1;
    let mirrors = || all.iter().all(|j| j.way == Way::Out) && all.iter().filter(|j| !j.mirror).count() <= 1;
    all.len() == 1
        || bus()
        || mirrors()
        || are(&[Together::WireStart])
        || are(&[Together::WireEnd])
        || (are(&[Together::WireStart, Together::WireEnd]) && all.iter().all(|j| j.way == Way::Shared))
}
