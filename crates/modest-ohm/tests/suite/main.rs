//! The library as its users call it, one module per subject; one binary, because each costs its linking.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]
#![allow(missing_docs, reason = "the examples are taken in as modules")]
#![allow(dead_code, reason = "what modules share serves several modules, each in part")]

mod bad_boards;
mod bad_drivers;
mod bad_input;
mod bad_signals;
mod bad_sizes;
mod battery_budget;
mod boards;
mod both_numbers;
mod cascades;
mod cases;
mod catalogue;
mod causes;
mod checks;
mod common;
mod connectors;
mod counted;
mod discharges;
mod drafts;
mod edges;
mod examples;
mod first_builds;
mod grounds;
mod harbour;
mod heat_and_inrush;
mod heaters;
mod injection;
mod inputs;
mod inputs_random;
mod jobs_random;
mod label_words;
mod layers;
mod leads;
mod led_pins;
mod light;
mod mains;
mod monotone;
mod new_kinds;
mod offers;
mod one_place;
mod panels;
mod pins;
mod properties;
mod rails;
mod random_plans;
mod reckoned;
mod second_method;
mod signals;
mod signals_random;
mod simulated;
mod size;
mod size_signals;
mod size_stages;
mod sizes_by_force;
mod sound;
mod sound_rails;
mod stages;
mod strips;
mod tiles;
mod trees;
mod verdicts;
mod wire_sizes;
mod wrong_rail;
