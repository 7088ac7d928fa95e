//! Reading plans, and the plans that ship with the tool.

use std::io::Read;
use std::path::Path;

use modest_ohm::Plan;
use modest_ohm::plan::LARGEST_TEXT_BYTES;
use modest_ohm_report::{Input, problems_json, problems_text};

use crate::args::Format;
use crate::output;

/// What one writes first.
pub const DRAFT: (&str, &str) =
    ("plans/harbour-first-draft.toml", include_str!("../../../plans/harbour-first-draft.toml"));
/// The sound plan.
pub const SOUND: (&str, &str) = ("plans/harbour-diorama.toml", include_str!("../../../plans/harbour-diorama.toml"));
/// Reads a plan; says all that is wrong with it and gives the exit code if it cannot be read.
pub fn read(path: &Path, format: Format) -> Result<Plan, u8> {
    read_whole(path, format).map(|(plan, _)| plan)
}

/// As [`read`], with the bytes of the file.
pub fn read_whole(path: &Path, format: Format) -> Result<(Plan, Vec<u8>), u8> {
    let shown = path.display().to_string();
    let input = Input { path: if shown == "-" { "standard input" } else { &shown } };
    let bytes = bytes(path).map_err(|e| {
        output::message(&format!("{}: {}", input.path, crate::files::why(&e, "read")));
        output::UNREADABLE
    })?;
    let plan = Plan::from_bytes(&bytes).map_err(|errors| {
        match format {
            Format::Text => output::message(&problems_text(&input, &errors, output::layout().width)),
            Format::Json => output::result(&problems_json(&input, &errors)),
        }
        output::UNREADABLE
    })?;
    Ok((plan, bytes))
}

/// At most one byte more than a plan may have: enough to see that it is too large, whatever its size.
fn bytes(path: &Path) -> std::io::Result<Vec<u8>> {
    let mut bytes = Vec::new();
    let most = LARGEST_TEXT_BYTES as u64 + 1;
    if path.as_os_str() == "-" {
        std::io::stdin().lock().take(most).read_to_end(&mut bytes)?;
    } else {
        std::fs::File::open(path)?.take(most).read_to_end(&mut bytes)?;
    }
    Ok(bytes)
}
