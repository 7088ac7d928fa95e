//! stack-pin-conflict: two boards that are plugged on one host take the same pin.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::topology::pin_jobs::{Together, by_pin, jobs};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let jobs: Vec<_> = jobs(context.plan).into_iter().filter(|j| j.claim).collect();
    for all in by_pin(&jobs) {
        let first = all[0];
        if all.len() == 1 || all.iter().all(|j| j.together == Some(Together::StackedBus)) {
            sink.pass(
                &first.name,
                || if all.len() == 1 { "one board uses it".into() } else { "shared as a bus".into() },
            );
            continue;
        }
        let names: Vec<String> = all.iter().map(|j| format!("`{}`", j.subject)).collect();
        sink.find(
            Draft::fault((&first.name, all[1].span))
                .says(format!(
                    "{} are plugged into one board and both use {}",
                    names.join(" and "),
                    first.pin_words(context.plan)
                ))
                .task(
                    "cut the pin of one of them and wire its signal to a free pin; or use a board whose pins can be \
                    chosen",
                )
                .task("or, if both share it as a bus, list it in `bus-pins` of both stacks"),
        );
    }
}
