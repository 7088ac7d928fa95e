//! Copper: resistance per metre and ampacity by size.

use crate::quantity::units::Celsius;

/// Resistivity of annealed copper at 20 °C (IEC 60028), Ω·m.
const RHO_20: f64 = 1.7241e-8;
/// Temperature coefficient of copper at 20 °C (IEC 60028), 1/K.
const ALPHA_20: f64 = 0.00393;
/// Stranded AWG cables are a little longer than their axis (typical).
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

/// Sizes that are sold, thinnest first: the ones that a fix may name.
const SOLD_AWG: [i32; 14] = [30, 28, 26, 24, 22, 20, 18, 16, 14, 12, 10, 8, 6, 4];
const SOLD_MM2: [f64; 11] = [0.14, 0.25, 0.5, 0.75, 1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0];

/// The air and the conductor temperature that [`free_air_a`] is stated for, °C.
const LAW_AIR_C: f64 = 30.0;
const LAW_CONDUCTOR_C: f64 = 70.0;
/// How much above 70 °C hot insulation may raise the ampacity: connectors, terminals and neighbours stand no more.
const MOST_HOT: f64 = 1.6;

/// What one copper conductor of a loaded pair carries continuously in free air of 30 °C, warming to 70 °C, A.
///
/// One law for all sizes: 14.6·S^0.63 above 0.5 mm², within 5 % of VDE 0298-4 to 16 mm² (NEC table 400.5 column B,
/// raised to the same 40 K, is 7 .. 19 % lower); 18.8·S below, where the surface counts (typical of hook-up wire).
pub(crate) fn free_air_a(area_mm2: f64) -> f64 {
    if area_mm2 <= 0.5 { 18.8 * area_mm2 } else { 14.6 * area_mm2.powf(0.63) }
}

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

/// Loaded cores in one sheath, and what is left of the ampacity of each (VDE 0298-4, table 26).
const SHEATH: [(usize, f64); 9] =
    [(3, 1.0), (4, 0.80), (5, 0.75), (7, 0.65), (10, 0.55), (14, 0.50), (19, 0.45), (24, 0.40), (40, 0.35)];

/// What is left of the ampacity of each of so many loaded cores in one sheath; between two rows the lower share counts.
pub(crate) fn sheath_factor(cores: usize) -> f64 {
    SHEATH.iter().find(|(n, _)| *n >= cores).map_or(SHEATH[SHEATH.len() - 1].1, |(_, share)| *share)
}

impl WireSize {
    /// Listed sizes of the same kind, thinnest first.
    pub(crate) fn listed_like(self) -> Vec<Self> {
        match self {
            WireSize::Awg(_) => SOLD_AWG.map(WireSize::Awg).to_vec(),
            WireSize::Mm2(_) => SOLD_MM2.map(WireSize::Mm2).to_vec(),
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
                Err(_) => Err(format!("`{n}` is not an AWG size")),
            };
        }
        let Some(area) = number("mm²").or_else(|| number("mm2")).or_else(|| number("mm^2")) else {
            return Err(format!("`{text}` is not a wire size"));
        };
        match area.parse::<f64>() {
            Ok(a) if (0.01..=300.0).contains(&a) => Ok(WireSize::Mm2(a)),
            Ok(a) => Err(format!("{a} mm² is outside 0.01 .. 300 mm²")),
            Err(_) => Err(format!("`{area}` is not a cross-section")),
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

/// What insulation stands where nothing else is said, °C: PVC (IEC 60227, VDE 0298-4).
pub(crate) const PLAIN_INSULATION_C: f64 = 70.0;

/// What insulation stands where nothing else is said: PVC (IEC 60227, VDE 0298-4).
pub const PLAIN_INSULATION: Celsius = Celsius::new(PLAIN_INSULATION_C);

/// How a conductor is made and laid, as far as it bears on what it carries.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Laid {
    pub material: Material,
    /// What its insulation stands, °C, where it is stated.
    pub insulation_c: Option<f64>,
    /// Loaded pairs that lie together.
    pub pairs: usize,
    /// Cores that carry current in one sheath, where more than a pair does.
    pub cores: Option<usize>,
    /// True for single conductors that do not touch.
    pub apart: bool,
}

impl Laid {
    /// A copper pair by itself, with common insulation.
    pub const PLAIN: Laid =
        Laid { material: Material::Copper, insulation_c: None, pairs: 1, cores: None, apart: false };

    /// What is left of, or added to, the ampacity in free air of 30 °C by neighbours and metal.
    pub fn share(&self) -> f64 {
        let clad = if self.material == Material::CopperClad { CLAD_AMPACITY } else { 1.0 };
        let apart = if self.apart { APART } else { 1.0 };
        clad * apart * bundle_factor(self.pairs) * self.cores.map_or(1.0, sheath_factor)
    }
}

/// Single conductors that do not touch lose more heat than a pair (VDE 0298-4, typical).
const APART: f64 = 1.25;

/// The ampacity at an ambient temperature, A; 0 where the air is as hot as the insulation stands.
///
/// [`free_air_a`] times √((T_ins − Ta)/40 K · ρ(70 °C)/ρ(T_ins)): heat grows with I²·ρ, what is shed with the rise. At
/// most 1 for common insulation, at most 1.6 for what is stated.
pub(crate) fn ampacity_at(size: WireSize, laid: Laid, ambient_c: f64) -> f64 {
    let limit_c = laid.insulation_c.unwrap_or(PLAIN_INSULATION_C);
    let most = if laid.insulation_c.is_some() { MOST_HOT } else { 1.0 };
    let rise = (limit_c - ambient_c).max(0.0) / (LAW_CONDUCTOR_C - LAW_AIR_C);
    let copper = temperature_factor(LAW_CONDUCTOR_C) / temperature_factor(limit_c);
    free_air_a(size.area_mm2()) * laid.share() * (rise * copper).sqrt().min(most)
}

/// How much above the air a current brings a conductor, K: 40 K at the current of [`free_air_a`], with its square.
pub(crate) fn rise_k(size: WireSize, laid: Laid, amps: f64) -> f64 {
    (LAW_CONDUCTOR_C - LAW_AIR_C) * (amps / (free_air_a(size.area_mm2()) * laid.share())).powi(2)
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

    fn close(got: f64, want: f64, share: f64) {
        assert!((got / want - 1.0).abs() < share, "{got} against {want}");
    }

    /// 18.8·S below 0.5 mm², 14.6·S^0.63 above, as a second hand computed them for the sizes that are sold.
    #[test]
    fn one_law_for_every_size() {
        let awg = [(30, 0.95), (28, 1.5), (26, 2.4), (24, 3.85), (22, 6.1), (20, 9.6), (18, 12.9), (16, 17.3)];
        let thick = [(14, 23.2), (12, 31.0), (10, 41.5), (8, 55.7), (6, 74.5), (4, 100.0)];
        for (n, amps) in awg.into_iter().chain(thick) {
            // The thin ones are printed with two digits.
            close(ampacity_at(WireSize::Awg(n), Laid::PLAIN, 30.0), amps, 0.016);
        }
        let mm2 = [(0.14, 2.6), (0.25, 4.7), (0.5, 9.4), (0.75, 12.2), (1.0, 14.6), (1.5, 18.8), (2.5, 26.0)];
        for (area, amps) in mm2.into_iter().chain([(4.0, 35.0), (6.0, 45.0), (10.0, 62.0), (16.0, 84.0)]) {
            close(ampacity_at(WireSize::Mm2(area), Laid::PLAIN, 30.0), amps, 0.015);
        }
        // More copper never carries less, over the connector of the two laws too.
        let areas: Vec<f64> = (1..3000).map(|i| f64::from(i) * 0.01).collect();
        assert!(areas.windows(2).all(|w| free_air_a(w[1]) > free_air_a(w[0])));
    }

    #[test]
    fn insulation_up_and_down_and_the_air() {
        let of = |insulation_c: Option<f64>, air_c| {
            let laid = Laid { insulation_c, ..Laid::PLAIN };
            ampacity_at(WireSize::Mm2(1.0), laid, air_c) / 14.6
        };
        let stated =
            [(60.0, 0.88), (80.0, 1.10), (90.0, 1.19), (105.0, 1.30), (125.0, 1.42), (150.0, 1.54), (200.0, 1.6)];
        for (stands_c, factor) in stated {
            close(of(Some(stands_c), 30.0), factor, 0.007);
        }
        // Common insulation gains nothing from cool air; at 66 °C √(4/40) is left, at 70 °C nothing.
        assert!((of(None, -20.0) - 1.0).abs() < 1e-12 && (of(None, 66.0) - 0.1f64.sqrt()).abs() < 1e-12);
        assert!(of(None, 70.0).abs() < 1e-12);
        let apart = Laid { apart: true, ..Laid::PLAIN };
        close(ampacity_at(WireSize::Awg(6), apart, 30.0), 93.1, 0.001);
        // 12 A on 18 AWG: 30 + 40·(12/12.93)² °C.
        close(30.0 + rise_k(WireSize::Awg(18), Laid::PLAIN, 12.0), 64.45, 0.002);
    }
}
