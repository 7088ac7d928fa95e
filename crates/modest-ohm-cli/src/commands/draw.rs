//! `draw`: figures of a plan as SVG or PNG.

use modest_ohm::views::PanelMap;
use modest_ohm::{Plan, Scenario};
use modest_ohm_report::{drop_svg, panel_svg, pattern_svg, pins_svg, power_svg, release_svg};

use crate::args::{Draw, Figure, Format};
use crate::commands::firmware::map_of;
use crate::{files, output, plans};

/// Runs `draw`.
pub fn run(args: &Draw) -> u8 {
    // What cannot be written is reported before anything is computed.
    let pixels = match args.output.as_deref().map(|p| p.extension().and_then(|e| e.to_str()).map(str::to_lowercase)) {
        None if output::rows().is_some() => {
            let name = args.plan.with_extension("svg");
            output::message(&format!("name a file for the picture: --output {} (or .png)", name.display()));
            return output::UNREADABLE;
        }
        None => false,
        Some(Some(end)) if end == "svg" => false,
        Some(Some(end)) if end == "png" => true,
        _ => {
            output::message("name the file with its kind: --output power.svg or --output power.png");
            return output::UNREADABLE;
        }
    };
    let plan = match plans::read(&args.plan, Format::Text) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let svg = match args.figure {
        Figure::Power => power(&plan, args),
        Figure::Drop => drop_svg(&plan.review(), &args.item, &args.scenario).map_err(|e| e.to_string()),
        Figure::Pins => pins(&plan, args),
        Figure::Release => release(&plan, args),
        Figure::Panel => one_panel(&plan, args).map(|map| panel_svg(&plan, &map)),
        Figure::Pattern => one_panel(&plan, args).and_then(|map| {
            pattern_svg(&plan, &map).ok_or_else(|| format!("`{}` does not fill its columns and rows", map.name))
        }),
    };
    let svg = match svg {
        Ok(svg) => svg,
        Err(message) => {
            output::message(&message);
            return output::UNREADABLE;
        }
    };
    let Some(file) = &args.output else {
        output::result(&svg);
        return output::FINE;
    };
    let bytes = if pixels { as_pixels(&svg) } else { Ok(svg.into_bytes()) };
    match bytes.and_then(|bytes| files::write(file, &bytes, args.force)) {
        Ok(()) => {
            output::message(&format!("wrote {}", file.display()));
            output::FINE
        }
        Err(message) => {
            output::message(&message);
            output::UNREADABLE
        }
    }
}

fn power(plan: &Plan, args: &Draw) -> Result<String, String> {
    let unused = |said: &[String], what: &str| match said {
        [] => Ok(()),
        _ => Err(format!("`draw power` shows the whole plan in one scenario: leave out {what}")),
    };
    unused(&args.item, "--item")?;
    unused(args.scenario.get(1..).unwrap_or_default(), "the other scenarios")?;
    let review = plan.review();
    let scenario = args.scenario.first().map_or(Scenario::Worst, |s| Scenario::from(s.as_str()));
    power_svg(&review, &scenario).ok_or_else(|| output::no_scenario(&review, scenario.name()))
}

/// The header of the board that is named, or of the only one.
fn pins(plan: &Plan, args: &Draw) -> Result<String, String> {
    if !args.scenario.is_empty() {
        return Err("a pin is drawn with its largest current in any scenario: leave out --scenario".into());
    }
    let review = plan.review();
    let boards: Vec<String> = review.pins().into_iter().map(|b| b.board).collect();
    let name = match (args.item.as_slice(), boards.as_slice()) {
        ([name], _) if boards.contains(name) => name.clone(),
        ([name], _) => return Err(format!("the plan has no board `{name}` (it has: {})", boards.join(", "))),
        ([], [only]) => only.clone(),
        ([], []) => return Err("the plan has no board".into()),
        _ => return Err(format!("name one board with --item; this plan has: {}", boards.join(", "))),
    };
    pins_svg(&review, &name)
        .ok_or_else(|| format!("the pins of `{name}` are not given: set `part`, or list its `pins`"))
}

/// A coil that is turned off.
fn release(plan: &Plan, args: &Draw) -> Result<String, String> {
    if !args.scenario.is_empty() {
        return Err("a coil turns off at its largest current: leave out --scenario".into());
    }
    release_svg(&plan.review(), &args.item).map_err(|e| e.to_string())
}

/// The panel that is named, or the only one.
fn one_panel(plan: &Plan, args: &Draw) -> Result<PanelMap, String> {
    if !args.scenario.is_empty() {
        return Err("a panel looks the same in every scenario: leave out --scenario".into());
    }
    let name = match (args.item.as_slice(), plan.panels().as_slice()) {
        ([name], _) => name.clone(),
        ([], [only]) => (*only).to_owned(),
        ([], []) => return Err("the plan has no panel".into()),
        (_, all) => return Err(format!("name one panel with --item; this plan has: {}", all.join(", "))),
    };
    map_of(plan, &name)
}

#[cfg(feature = "png")]
fn as_pixels(svg: &str) -> Result<Vec<u8>, String> {
    modest_ohm_report::png(svg).map_err(|e| e.to_string())
}

#[cfg(not(feature = "png"))]
fn as_pixels(_: &str) -> Result<Vec<u8>, String> {
    Err("this build of mohm draws no PNG; write an SVG: --output picture.svg".to_owned())
}
