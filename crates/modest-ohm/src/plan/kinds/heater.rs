//! `[heater.x]`: a resistor that warms something, and the thermostat that switches it off.

use super::load::{Load, read_of_kind};
use super::load_kind::LoadKind;
use crate::plan::wiring::name::Name;
use crate::text::problem::Problem;
use crate::text::reader::Reader;

/// Reads a heater: a load whose `thermostat` names the input that ends it.
pub(crate) fn read_heater(reader: &mut Reader<'_>, name: Name) -> Load {
    let mut load = read_of_kind(reader, name, LoadKind::Heater);
    if let Some(thermostat) = reader.text("thermostat") {
        if let Some(other) = &load.limits.watched_by {
            reader.problem(
                Problem::new(
                    thermostat.span,
                    format!("{} names both `thermostat` and `stopped-by`", reader.what()),
                    "for a heater `thermostat` is enough: keep one of them",
                )
                .with_related(other.span, "the other"),
            );
        }
        load.limits.watched_by = Some(thermostat);
    }
    load
}
