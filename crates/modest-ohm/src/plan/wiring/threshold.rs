//! Logic thresholds: a fixed voltage, or a share of the receiver's supply.

use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Fraction, Volts};
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// A logic threshold: fixed voltage, or a share of the receiver's VDD.
#[derive(Clone, Debug, Figures)]
pub(crate) enum Threshold {
    Volts(Figure<Volts>),
    OfVdd(Figure<Fraction>),
}

impl Threshold {
    /// From here on every part of its kind takes a level as high, at a VDD: the upper end of a range that is given.
    pub fn surely_high(&self, vdd: f64) -> f64 {
        match self {
            Threshold::Volts(v) => v.high.get(),
            Threshold::OfVdd(f) => f.high.get() * vdd,
        }
    }

    /// Up to here every part of its kind takes a level as low, at a VDD.
    pub fn surely_low(&self, vdd: f64) -> f64 {
        match self {
            Threshold::Volts(v) => v.low.get(),
            Threshold::OfVdd(f) => f.low.get() * vdd,
        }
    }
}

/// Reads a threshold: `"2.0 V"` or `"70 %"` (of VDD).
pub(crate) fn read_threshold(reader: &mut Reader<'_>, key: &'static str) -> Option<Threshold> {
    let is_share = matches!(reader.node(key).map(|n| &n.value), Some(crate::text::tree::Value::Text(t, _)) if t.trim_end().ends_with('%'));
    if is_share {
        reader.figure(key, Need::Positive).map(Threshold::OfVdd)
    } else {
        reader.figure(key, Need::NotNegative).map(Threshold::Volts)
    }
}

/// A default origin for levels of CMOS outputs.
pub(crate) fn cmos_default() -> Origin {
    Origin::Default("a CMOS output into a CMOS input: VDD − 0.1 V and 0.1 V (typical)")
}
