//! The clock tower's dial: what is set in the firmware, where its pixels are, and what a wrong setting would look like.
//!
//! `cargo run --example tower_panels`

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::panel::{Along, EntryCorner, Order, PanelLayout, Rotation, Side, Turns};
use modest_ohm::{Plan, PlanErrors};

fn main() -> Result<(), PlanErrors> {
    run()
}

/// Runs the example.
///
/// # Errors
/// The problems of the plan that it takes in.
pub fn run() -> Result<(), PlanErrors> {
    let plan = Plan::from_toml(include_str!("../../../plans/clock-tower.toml"))?;
    let figures = plan.review().firmware();
    for output in &figures.outputs {
        let names: Vec<&str> = output.parts.iter().map(|p| p.strip.as_str()).collect();
        println!("{}: {} pixels of {}", output.pin, output.pixels, names.join(", then "));
    }
    for cap in &figures.firmware_limits {
        let carries = cap.available.map_or_else(|| "an unknown current".to_owned(), |a| a.to_string());
        let by = cap.binding.as_ref().map_or("full white", |(name, _)| name.as_str());
        println!("{}: brightness {}; the path is rated {carries}, limited by {by}", cap.name, cap.brightness);
    }

    match plan.panel_map("dial") {
        Ok(map) => {
            let corner = map.walk.pixel_at(map.walk.columns - 1, 0);
            println!("dial: {} by {}, {corner:?} at the top right", map.walk.columns, map.walk.rows);
        }
        Err(why) => println!("{why}"),
    }

    // Without a plan: a single tile, and what its test pattern looks like with one setting wrong.
    let order = Order { entry: EntryCorner::TopLeft, along: Along::Rows, turns: Turns::Alternating };
    let tile = PanelLayout { columns: 8, rows: 8, order, rotated: Rotation::None, tiles: None, seen: Side::Front };
    for mistake in tile.mistakes().unwrap_or_default().iter().take(3) {
        let reds = mistake.shown[0].iter().filter(|c| c.red > 32 && c.green == 0).count();
        println!("{}: {reds} pixels of the top row are red", mistake.causes.join(", or "));
    }
    Ok(())
}
