//! One file a verb; each gives the exit code.

mod about;
mod catalogue;
mod check;
mod demo;
mod draw;
mod feeds;
mod firmware;
mod fix;
mod leads;
mod new;
mod odds;
mod pins;
mod problems;
mod signals;
mod size;
mod stages;
mod tables;
mod why;

use crate::args::Command;

/// Runs a verb.
pub fn run(command: Command) -> u8 {
    match command {
        Command::Demo => demo::run(),
        Command::New(args) => new::run(&args),
        Command::Check(args) => check::run(&args),
        Command::Fix(args) => fix::run(&args),
        Command::Budget(args) => tables::budget(&args),
        Command::Drop(args) => tables::drop(&args),
        Command::Pins(args) => pins::run(&args),
        Command::Firmware(args) => firmware::run(&args),
        Command::Why(args) => why::run(&args),
        Command::Odds(args) => odds::run(&args),
        Command::Size(question) => size::run(&question),
        Command::Draw(args) => draw::run(&args),
        Command::About(args) => about::run(&args),
        Command::Catalogue(args) => catalogue::run(&args),
    }
}
