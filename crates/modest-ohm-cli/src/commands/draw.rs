//! `draw`: figures of a plan as SVG or PNG.

use modest_ohm_report::{png, power_svg};

use crate::args::{Draw, Figure, Format};
use crate::{files, output, plans};

/// Runs `draw`.
pub fn run(args: &Draw) -> u8 {
    // What cannot be written is told before anything is reckoned.
    let pixels = match args.to.as_deref().map(|p| p.extension().and_then(|e| e.to_str()).map(str::to_lowercase)) {
        None => false,
        Some(Some(end)) if end == "svg" => false,
        Some(Some(end)) if end == "png" => true,
        _ => {
            output::message("name the file with its kind: --to power.svg or --to power.png");
            return output::UNREADABLE;
        }
    };
    let plan = match plans::read(&args.plan, Format::Text) {
        Ok(plan) => plan,
        Err(code) => return code,
    };
    let review = plan.review();
    let scenario = args.scenario.as_deref().unwrap_or("worst");
    let drawn = match args.figure {
        Figure::Power => power_svg(&review, scenario),
    };
    let Some(svg) = drawn else {
        output::no_scenario(&review, scenario);
        return output::UNREADABLE;
    };
    let Some(file) = &args.to else {
        output::result(&svg);
        return output::FINE;
    };
    let bytes = if pixels { png(&svg).map_err(|e| e.to_string()) } else { Ok(svg.into_bytes()) };
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
