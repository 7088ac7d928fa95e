//! Fuses: load factor and cold resistance by family and rating.

/// A fuse family.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum FuseFamily {
    /// Automotive blade, ISO 8820-3.
    Blade,
    /// Miniature cartridge, IEC 60127-2.
    Cartridge,
}

/// Blade fuses, ISO 8820-3: rating in A, cold resistance in mΩ (typical).
const BLADE: [(f64, f64); 13] = [
    (1.0, 120.0),
    (2.0, 53.0),
    (3.0, 31.0),
    (4.0, 23.0),
    (5.0, 18.0),
    (7.5, 11.0),
    (10.0, 7.7),
    (15.0, 4.8),
    (20.0, 3.4),
    (25.0, 2.6),
    (30.0, 2.1),
    (35.0, 1.8),
    (40.0, 1.5),
];

impl FuseFamily {
    /// The share of its rating that a fuse carries for ever without ageing.
    pub fn load_factor(self) -> f64 {
        match self {
            FuseFamily::Blade => 0.75,
            FuseFamily::Cartridge => 0.9,
        }
    }
}

/// Cold resistance in ohms of a fuse of this rating: the blade rows, log–log between and beyond them. A cartridge
/// of the same rating drops about as much (typical).
pub(crate) fn cold_ohms(rating_a: f64) -> f64 {
    let next = BLADE.iter().position(|(a, _)| *a >= rating_a).unwrap_or(BLADE.len() - 1).max(1);
    let ((a0, r0), (a1, r1)) = (BLADE[next - 1], BLADE[next]);
    let share = (rating_a / a0).ln() / (a1 / a0).ln();
    (r0.ln() + share * (r1 / r0).ln()).exp() / 1000.0
}

#[cfg(test)]
mod tests {
    use super::cold_ohms;

    #[test]
    fn rows_are_met_and_rows_between_lie_between() {
        for (a, mohm) in super::BLADE {
            assert!((cold_ohms(a) * 1000.0 - mohm).abs() < 1e-9);
        }
        assert!(cold_ohms(6.0) < 0.018 && cold_ohms(6.0) > 0.011);
        assert!(cold_ohms(0.5) > 0.12);
    }
}
