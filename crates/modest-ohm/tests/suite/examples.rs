//! The examples run, and say what they are there to show.

#![allow(missing_docs, reason = "the examples are taken in as modules")]

#[path = "../../examples/battery_mast.rs"]
mod battery_mast;
#[path = "../../examples/crane_stages.rs"]
mod crane_stages;
#[path = "../../examples/fused_landing.rs"]
mod fused_landing;
#[path = "../../examples/negotiated_planetarium.rs"]
mod negotiated_planetarium;
#[path = "../../examples/orchard_pins.rs"]
mod orchard_pins;
#[path = "../../examples/read_a_plan.rs"]
mod read_a_plan;
#[path = "../../examples/sweep_feeds.rs"]
mod sweep_feeds;
#[path = "../../examples/tower_panels.rs"]
mod tower_panels;
#[path = "../../examples/vehicle_stage.rs"]
mod vehicle_stage;

#[test]
fn examples_run() {
    read_a_plan::run().expect("the plan in it is readable");
    battery_mast::run().expect("the plan it builds is readable");
    vehicle_stage::run().expect("the plan it takes in is readable");
    negotiated_planetarium::run().expect("the plan it builds is readable");
    fused_landing::run().expect("the plan it builds is readable");
    orchard_pins::run().expect("the plan it takes in is readable, and has free pins");
    crane_stages::run().expect("its classes are there, and its plan is readable");
    tower_panels::run().expect("the plan it takes in is readable");
    sweep_feeds::run().expect("the plan it builds is readable");
}
