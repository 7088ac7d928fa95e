//! `firmware`: what is to be set, and the pixels of panels.

use modest_ohm::Plan;
use modest_ohm::views::{NoPanel, PanelMap};
use modest_ohm_report::{
    Input, coordinates_csv, coordinates_json, coordinates_text, firmware_csv, firmware_json, firmware_text,
    pattern_csv, pattern_json, pattern_text,
};

use crate::args::{Firmware, Sheet};
use crate::{output, plans};

/// Runs `firmware`.
pub fn run(args: &Firmware) -> u8 {
    let plan = match plans::read(&args.plan, args.format.of_problems()) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let path = args.plan.display().to_string();
    let input = Input { path: &path };
    let text = match (&args.coordinates, &args.pattern) {
        (Some(panel), _) => map_of(&plan, panel).map(|map| match args.format {
            Sheet::Text => coordinates_text(&map),
            Sheet::Csv => coordinates_csv(&map),
            Sheet::Json => coordinates_json(&input, &map),
        }),
        (None, Some(panel)) => map_of(&plan, panel).map(|map| {
            let current = plan.pattern_current(panel);
            match args.format {
                Sheet::Text => pattern_text(&map, current),
                Sheet::Csv => pattern_csv(&map),
                Sheet::Json => pattern_json(&input, &map, current),
            }
        }),
        (None, None) => {
            let review = plan.review();
            let figures = review.firmware();
            Ok(match args.format {
                Sheet::Text => firmware_text(&input, &review, &figures, output::layout()),
                Sheet::Csv => firmware_csv(&figures),
                Sheet::Json => firmware_json(&input, &review, &figures),
            })
        }
    };
    output::answer(text)
}

/// The map of a panel; says why there is none.
pub fn map_of(plan: &Plan, panel: &str) -> Result<PanelMap, String> {
    plan.panel_map(panel).map_err(|e| {
        let names = plan.panels();
        let known = match (&e, names.as_slice()) {
            (NoPanel::Broken(_), _) => "see `mohm check`".to_owned(),
            (NoPanel::Unknown(_), []) => "it has none".to_owned(),
            (NoPanel::Unknown(_), names) => format!("it has: {}", names.join(", ")),
        };
        format!("`{panel}`: {e} ({known})")
    })
}
