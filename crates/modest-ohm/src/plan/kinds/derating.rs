//! What warm air leaves of a supply's rating.

use super::supply::{Supply, SupplyKind};
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::{Celsius, Fraction};
use crate::text::problem::Problem;
use crate::text::reader::Reader;

/// `derates = ["50 °C 100 %", "70 °C 60 %"]`: the share of its rating by the air around it.
pub(super) fn read_derates(reader: &mut Reader<'_>) -> Vec<(f64, f64)> {
    let mut points: Vec<(f64, f64)> = Vec::new();
    for word in reader.texts("derates") {
        let read = word.text.rsplit_once("°C").and_then(|(air, share)| {
            let air = parse_quantity::<Celsius>(&format!("{}°C", air.trim_end())).ok()?;
            Some((air.get(), parse_quantity::<Fraction>(share.trim()).ok()?.get()))
        });
        let falls = |p: &(f64, f64)| points.last().is_none_or(|l| p.0 > l.0 && p.1 <= l.1);
        match read.filter(|p| (0.0..=1.0).contains(&p.1)).filter(falls) {
            Some(point) => points.push(point),
            None => reader.problem(Problem::new(
                word.span,
                format!(
                    "`{}` in `derates` of {} is not a share at a temperature, or does not fall",
                    word.text,
                    reader.what()
                ),
                "write `derates = [\"50 °C 100 %\", \"70 °C 60 %\"]`, warmest last",
            )),
        }
    }
    points
}

impl Supply {
    /// The share of its rating that it carries in air of this temperature: stated, else adapters and bench supplies all
    /// to 40 °C and 2.5 % less a kelvin, mains converters all to 50 °C and 2 % less a kelvin (typical).
    pub fn derated(&self, air_c: f64) -> f64 {
        if let (Some(first), Some(last)) = (self.derates.first(), self.derates.last()) {
            if air_c <= first.0 {
                return first.1;
            }
            let pair = self.derates.windows(2).find(|p| air_c <= p[1].0);
            return pair.map_or(last.1, |p| p[0].1 + (p[1].1 - p[0].1) * (air_c - p[0].0) / (p[1].0 - p[0].0));
        }
        let (full_c, per_k) = match self.kind {
            SupplyKind::Adapter | SupplyKind::Bench => (40.0, 0.025),
            SupplyKind::MainsConverter => (50.0, 0.02),
            _ => return 1.0,
        };
        (1.0 - per_k * (air_c - full_c).max(0.0)).max(0.0)
    }
}
