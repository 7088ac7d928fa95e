//! How much an input's protection may carry continuously: the bands of all checks that judge it.

use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::tables::input::{ADVICE_A, CAUTION_A, FAULT_A};
use crate::verdict::severity::Severity;

/// What is too little to speak of: an input's own leakage, A.
const NOTHING_A: f64 = 1e-6;

/// Amps through a protection as a finding: below 0.2 mA advice, below 1 mA caution, below 5 mA fault, then danger
/// (electrical corrections, section 26; 5 mA destroys many an input, typical). `None` where it does not conduct.
pub(crate) fn severity(amps: f64) -> Option<Severity> {
    let bands = [(NOTHING_A, None), (ADVICE_A, Some(Severity::Advisory)), (CAUTION_A, Some(Severity::Caution))];
    let band = bands.into_iter().find(|(most, _)| amps < *most);
    let above = if amps < FAULT_A { Severity::Fault } else { Severity::Danger };
    band.map_or(Some(above), |(_, severity)| severity)
}

/// The upper end of the band below, which `amps` exceeds.
pub(crate) fn limit(severity: Severity) -> Amps {
    Amps::new(match severity {
        Severity::Danger => FAULT_A,
        Severity::Fault => CAUTION_A,
        Severity::Caution => ADVICE_A,
        _ => NOTHING_A,
    })
}

pub(crate) fn origin() -> Origin {
    Origin::Default("an input's protection diode carries 0.2 mA for years, 1 mA mostly, 5 mA not (typical)")
}
