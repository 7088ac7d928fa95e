//! Copper: resistance per metre and ampacity by size.

use crate::quantity::units::Celsius;

/// Resistivity of annealed copper at 20 °C (IEC 60028), Ω·m.
const RHO_20: f64 = 1.7241e-8;
/// Temperature coefficient of copper at 20 °C (IEC 60028), 1/K.
const ALPHA_20: f64 = 0.00393;
/// Stranded AWG leads are a little longer than their axis (typical).
const STRANDED: f64 = 1.03;
/// Copper-clad aluminium: resistance and ampacity against copper (typical).
const CLAD_RESISTANCE: f64 = 1.6;
const CLAD_AMPACITY: f64 = 0.8;

/// A conductor size.
///
/// ```
/// use modest_ohm::tables::WireSize;
/// assert_eq!("16 AWG".parse(), Ok(WireSize::Awg(16)));
/// assert_eq!("0.75 mm²".parse(), Ok(WireSize::Mm2(0.75)));
/// assert!((WireSize::Awg(16).area_mm2() - 1.309).abs() < 1e-3);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum WireSize {
    /// American wire gauge (ASTM B258), 0 .. 40.
    Awg(i32),
    /// Cross-section in mm² (IEC 60228), 0.01 .. 300.
    Mm2(f64),
}

/// What a conductor is made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default)]
pub(crate) enum Material {
    #[default]
    Copper,
    CopperClad,
}

/// IEC 60228 class 5, largest resistance at 20 °C: mm², Ω/km.
const CLASS_5: [(f64, f64); 9] = [
    (0.5, 39.0),
    (0.75, 26.0),
    (1.0, 19.5),
    (1.5, 13.3),
    (2.5, 7.98),
    (4.0, 4.95),
    (6.0, 3.30),
    (10.0, 1.91),
    (16.0, 1.21),
];

/// AWG, A. 18 and thicker: two-conductor flexible cord, 30 °C ambient, 60 °C insulation (NEC table 400.5(A)(1),
/// column B). Thinner: typical of hook-up wire in free air.
const AMPACITY_AWG: [(i32, f64); 14] = [
    (4, 70.0),
    (6, 55.0),
    (8, 40.0),
    (10, 30.0),
    (12, 25.0),
    (14, 18.0),
    (16, 13.0),
    (18, 10.0),
    (20, 7.5),
    (22, 5.0),
    (24, 3.5),
    (26, 2.2),
    (28, 1.4),
    (30, 0.8),
];

/// mm², A: flexible, two loaded cores, 30 °C, 70 °C PVC, free in air (after VDE 0298-4); 0.14 and 0.25 typical.
const AMPACITY_MM2: [(f64, f64); 11] = [
    (0.14, 2.0),
    (0.25, 4.0),
    (0.5, 9.0),
    (0.75, 12.0),
    (1.0, 15.0),
    (1.5, 18.0),
    (2.5, 26.0),
    (4.0, 34.0),
    (6.0, 44.0),
    (10.0, 61.0),
    (16.0, 82.0),
];

/// Loaded pairs that lie together, and what is left of the ampacity of each (IEC 60364-5-52, table B.52.17, bunched).
const BUNDLE: [(usize, f64); 12] = [
    (1, 1.0),
    (2, 0.80),
    (3, 0.70),
    (4, 0.65),
    (5, 0.60),
    (6, 0.57),
    (7, 0.54),
    (8, 0.52),
    (9, 0.50),
    (12, 0.45),
    (16, 0.41),
    (20, 0.38),
];

/// What is left of the ampacity of each of so many loaded pairs that lie together. Between two rows the lower share
/// counts; beyond 20 pairs that of 20.
pub(crate) fn bundle_factor(pairs: usize) -> f64 {
    BUNDLE.iter().find(|(n, _)| *n >= pairs).map_or(BUNDLE[BUNDLE.len() - 1].1, |(_, share)| *share)
}

impl WireSize {
    /// Listed sizes of the same kind, thinnest first.
    pub(crate) fn listed_like(self) -> Vec<Self> {
        match self {
            WireSize::Awg(_) => AMPACITY_AWG.iter().rev().map(|(n, _)| WireSize::Awg(*n)).collect(),
            WireSize::Mm2(_) => AMPACITY_MM2.iter().map(|(a, _)| WireSize::Mm2(*a)).collect(),
        }
    }

    /// Cross-section of the copper, mm².
    #[must_use]
    pub fn area_mm2(self) -> f64 {
        match self {
            WireSize::Awg(n) => {
                let d_mm = 0.127 * 92f64.powf(f64::from(36 - n) / 39.0);
                std::f64::consts::PI / 4.0 * d_mm * d_mm
            }
            WireSize::Mm2(area) => area,
        }
    }

    /// What the insulation stands where nothing else is said: 60 °C for AWG, 70 °C for mm².
    #[must_use]
    pub fn insulation(self) -> Celsius {
        Celsius::new(self.insulation_c())
    }

    /// Default insulation temperature of the ampacity tables, °C.
    pub(crate) fn insulation_c(self) -> f64 {
        match self {
            WireSize::Awg(_) => 60.0,
            WireSize::Mm2(_) => 70.0,
        }
    }

    /// Name as printed.
    pub(crate) fn name(self) -> String {
        match self {
            WireSize::Awg(n) => format!("{n} AWG"),
            WireSize::Mm2(a) => format!("{a} mm²"),
        }
    }
}

impl std::fmt::Display for WireSize {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.name())
    }
}

impl std::str::FromStr for WireSize {
    type Err = String;

    /// Reads `16 AWG`, `0.75 mm²`, `0.75 mm2`.
    fn from_str(text: &str) -> Result<Self, String> {
        let text = text.trim();
        let number = |unit: &str| text.strip_suffix(unit).map(str::trim_end);
        if let Some(n) = number("AWG").or_else(|| number("awg")) {
            return match n.parse() {
                Ok(n) if (0..=40).contains(&n) => Ok(WireSize::Awg(n)),
                Ok(n) => Err(format!("{n} AWG is outside 0 .. 40 AWG")),
                Err(_) => Err(format!("`{n}` is no AWG size")),
            };
        }
        let Some(area) = number("mm²").or_else(|| number("mm2")).or_else(|| number("mm^2")) else {
            return Err(format!("`{text}` is no conductor size"));
        };
        match area.parse::<f64>() {
            Ok(a) if (0.01..=300.0).contains(&a) => Ok(WireSize::Mm2(a)),
            Ok(a) => Err(format!("{a} mm² is outside 0.01 .. 300 mm²")),
            Err(_) => Err(format!("`{area}` is no cross-section")),
        }
    }
}

/// Resistance of one conductor per metre at 20 °C.
///
/// AWG by ASTM B258: d = 0.127 mm · 92^((36 − n)/39). Metric sizes by IEC 60228 class 5, others 1.13·ρ/A; a solid
/// metric core 1.06·ρ/A (about IEC 60228 class 1).
pub(crate) fn conductor_ohms_per_metre(size: WireSize, solid: bool, material: Material) -> f64 {
    let copper = match size {
        WireSize::Awg(n) => {
            let d = 0.127e-3 * 92f64.powf(f64::from(36 - n) / 39.0);
            let solid_ohms = RHO_20 / (std::f64::consts::PI / 4.0 * d * d);
            if solid { solid_ohms } else { solid_ohms * STRANDED }
        }
        WireSize::Mm2(area) if solid => 1.06 * RHO_20 / (area * 1e-6),
        WireSize::Mm2(area) => CLASS_5
            .iter()
            .find(|(a, _)| (a - area).abs() < 1e-9)
            .map_or(1.13 * RHO_20 / (area * 1e-6), |(_, per_km)| per_km / 1000.0),
    };
    match material {
        Material::Copper => copper,
        Material::CopperClad => copper * CLAD_RESISTANCE,
    }
}

/// R(T)/R(20 °C) of copper.
pub(crate) fn temperature_factor(celsius: f64) -> f64 {
    1.0 + ALPHA_20 * (celsius - 20.0)
}

/// The ampacity at an ambient temperature, A; `None` for sizes thinner than the tables.
///
/// A size between two rows counts as the thinner one. The temperature factor is
/// sqrt((T_ins − Ta)/(T_ins − 30)), at most 1, and 0 from T_ins on; `pairs` loaded pairs lie together.
pub(crate) fn ampacity_at(
    size: WireSize,
    material: Material,
    insulation_c: Option<f64>,
    ambient_c: f64,
    pairs: usize,
) -> Option<f64> {
    let base = match size {
        WireSize::Awg(n) => AMPACITY_AWG.iter().find(|(row, _)| *row >= n)?.1,
        WireSize::Mm2(area) => AMPACITY_MM2.iter().rev().find(|(row, _)| *row <= area + 1e-9)?.1,
    };
    let material_factor = if material == Material::CopperClad { CLAD_AMPACITY } else { 1.0 };
    let limit = insulation_c.unwrap_or(size.insulation_c());
    // An insulation that stands no more than the table's ambient carries nothing in it.
    let factor = if limit > 30.0 { ((limit - ambient_c) / (limit - 30.0)).clamp(0.0, 1.0).sqrt() } else { 0.0 };
    Some(base * material_factor * factor * bundle_factor(pairs))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// ASTM B258 solid values at 20 °C, Ω/km, as printed in standard wire tables.
    #[test]
    fn awg_rows() {
        for (n, per_km) in [(30, 338.6), (24, 84.22), (22, 52.96), (18, 20.95), (10, 3.277), (4, 0.815)] {
            let got = conductor_ohms_per_metre(WireSize::Awg(n), true, Material::Copper) * 1000.0;
            assert!((got / per_km - 1.0).abs() < 1e-3, "{n} AWG: {got} against {per_km}");
        }
    }

    #[test]
    fn temperature_and_size_between_rows() {
        // (60 − 45)/(60 − 30) = 0.5, its root 0.7071; 13 A · 0.7071 = 9.19 A
        let a = ampacity_at(WireSize::Awg(16), Material::Copper, None, 45.0, 1).unwrap();
        assert!((a - 9.192).abs() < 1e-3);
        assert_eq!(ampacity_at(WireSize::Awg(17), Material::Copper, None, 25.0, 1), Some(10.0));
        assert_eq!(ampacity_at(WireSize::Mm2(0.6), Material::Copper, None, 25.0, 1), Some(9.0));
        assert_eq!(ampacity_at(WireSize::Awg(34), Material::Copper, None, 25.0, 1), None);
        assert_eq!(ampacity_at(WireSize::Awg(16), Material::Copper, None, 60.0, 1), Some(0.0));
    }
}
