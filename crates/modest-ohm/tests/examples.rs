//! The examples run, and say what they are there to show.

#![allow(missing_docs, reason = "the examples are taken in as modules")]

#[path = "../examples/read_a_plan.rs"]
mod read_a_plan;
#[path = "../examples/sweep_feeds.rs"]
mod sweep_feeds;

#[test]
fn examples_run() {
    read_a_plan::run().expect("the plan in it is readable");
    sweep_feeds::run().expect("the plan it builds is readable");
}
