//! Fuses: standard ratings, what they carry, when they open, what they interrupt, by family.

/// A fuse family.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum FuseFamily {
    /// Automotive blade, ISO 8820-3.
    Blade,
    /// Miniature cartridge, IEC 60127-2.
    Cartridge,
    /// Miniature cartridge, UL 248-14: of the same rating it opens earlier than one of IEC 60127-2.
    CartridgeUl,
    /// Bolt-down strip, ISO 8820-5: for the currents of batteries and inverters.
    Bolt,
    /// Resettable (polymer): it gets hot, lets little through, and comes back when it has cooled.
    Resettable,
}

/// What a cartridge's body is made of: what it can interrupt depends on it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default)]
pub enum FuseBody {
    /// Low breaking capacity.
    #[default]
    Glass,
    /// High breaking capacity.
    Ceramic,
}

/// How fast a cartridge is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default)]
pub enum FuseSpeed {
    /// F: quick-acting.
    #[default]
    Fast,
    /// T: time-lag.
    Slow,
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

/// Blade ratings, A.
const BLADE_A: [f64; 13] = [1.0, 2.0, 3.0, 4.0, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 35.0, 40.0];

/// Cartridge ratings of IEC 60127-2, A.
const CARTRIDGE_A: [f64; 21] =
    [0.1, 0.125, 0.16, 0.2, 0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1.0, 1.25, 1.6, 2.0, 2.5, 3.15, 4.0, 5.0, 6.3, 8.0, 10.0];

/// Cartridge ratings that fuses to UL 248-14 are sold in, A (typical).
const UL_A: [f64; 20] =
    [0.1, 0.125, 0.2, 0.25, 0.3, 0.375, 0.5, 0.75, 1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 10.0];

/// Bolt-down strip fuses, ISO 8820-5, A.
const BOLT_A: [f64; 11] = [30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 100.0, 125.0, 150.0, 175.0, 200.0];

/// Holding currents that resettable fuses are sold in, A (typical).
const RESETTABLE_A: [f64; 16] = [0.1, 0.2, 0.3, 0.5, 0.75, 0.9, 1.1, 1.35, 1.6, 1.85, 2.5, 3.0, 4.0, 5.0, 7.0, 9.0];

/// Multiples of the rating and the longest time until it has cleared, s (typical maxima); log–log between them.
const BLADE_CURVE: [(f64, f64); 3] = [(2.0, 5.0), (3.5, 0.5), (6.0, 0.1)];
const FAST_CURVE: [(f64, f64); 3] = [(2.75, 2.0), (4.0, 0.3), (10.0, 0.02)];
const SLOW_CURVE: [(f64, f64); 3] = [(2.75, 10.0), (4.0, 3.0), (10.0, 0.3)];
const RESETTABLE_CURVE: [(f64, f64); 2] = [(5.0, 10.0), (10.0, 2.0)];

impl FuseFamily {
    /// All families.
    pub const ALL: [Self; 5] = [Self::Blade, Self::Cartridge, Self::CartridgeUl, Self::Bolt, Self::Resettable];

    /// Its word in a plan.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Blade => "blade",
            Self::Cartridge => "cartridge",
            Self::CartridgeUl => "cartridge-ul",
            Self::Bolt => "bolt",
            Self::Resettable => "resettable",
        }
    }

    /// Standard ratings, A, smallest first.
    #[must_use]
    pub const fn ratings(self) -> &'static [f64] {
        match self {
            Self::Blade => &BLADE_A,
            Self::Cartridge => &CARTRIDGE_A,
            Self::CartridgeUl => &UL_A,
            Self::Bolt => &BOLT_A,
            Self::Resettable => &RESETTABLE_A,
        }
    }

    /// The share of its rating that a fuse carries continuously without ageing (a resettable one holds its rating, in
    /// cool air).
    #[must_use]
    pub const fn load_factor(self) -> f64 {
        match self {
            Self::Blade | Self::CartridgeUl | Self::Bolt => 0.75,
            Self::Cartridge => 0.9,
            Self::Resettable => 1.0,
        }
    }

    /// How much of a wire's ampacity its rating may be. A blade fuse and one to UL 248-14 open from 1.35 × rating; the
    /// others so late that 1.45 × ampacity (IEC 60364-4-43) asks for less.
    #[must_use]
    pub const fn ampacity_factor(self) -> f64 {
        match self {
            Self::Blade | Self::CartridgeUl | Self::Bolt => 1.0,
            Self::Cartridge => 0.69,
            Self::Resettable => 0.725,
        }
    }

    /// Multiple of the rating from which it opens in the end (ISO 8820-3 within 10 min, IEC 60127-2 within 30 min,
    /// UL 248-14 within 1 h; resettable typical).
    #[must_use]
    pub const fn blows_from(self) -> f64 {
        match self {
            Self::Blade | Self::CartridgeUl | Self::Bolt => 1.35,
            Self::Cartridge => 2.1,
            Self::Resettable => 2.0,
        }
    }

    /// Multiple of the rating from which it clears a short quickly.
    #[must_use]
    pub const fn clears_from(self) -> f64 {
        match self {
            Self::Blade | Self::Bolt => 2.0,
            Self::Cartridge | Self::CartridgeUl => 2.75,
            Self::Resettable => 5.0,
        }
    }

    /// The direct voltage it may interrupt, and whether that is its standard's figure or only typical of the family.
    pub(crate) const fn voltage_v(self) -> (f64, bool) {
        match self {
            Self::Blade | Self::Bolt => (32.0, true),
            Self::Cartridge | Self::CartridgeUl => (32.0, false),
            Self::Resettable => (16.0, false),
        }
    }

    /// The current it can interrupt, A, and whether that is its standard's figure or only typical.
    pub(crate) fn breaking_a(self, body: FuseBody, rating_a: f64) -> (f64, bool) {
        match (self, body) {
            (Self::Blade, _) => (1000.0, true),
            (Self::Bolt, _) => (2000.0, true),
            (Self::Cartridge, FuseBody::Glass) => (f64::max(35.0, 10.0 * rating_a), true),
            // 1.5 kA at 250 V of alternating current; at direct current up to 60 V about half (typical).
            (Self::Cartridge, FuseBody::Ceramic) => (750.0, false),
            (Self::CartridgeUl, FuseBody::Glass) => (f64::max(35.0, 10.0 * rating_a), false),
            (Self::CartridgeUl, FuseBody::Ceramic) => (750.0, false),
            (Self::Resettable, _) => (40.0, false),
        }
    }

    /// The share of its rating that it holds in warm air: 1 up to 25 °C, 0.65 at 60 °C (resettable only, typical).
    #[must_use]
    pub fn warm_share(self, ambient_c: f64) -> f64 {
        if self == Self::Resettable { (1.0 - 0.35 * (ambient_c - 25.0) / 35.0).clamp(0.05, 1.0) } else { 1.0 }
    }

    fn curve(self, speed: FuseSpeed) -> &'static [(f64, f64)] {
        match (self, speed) {
            (Self::Blade | Self::Bolt, _) => &BLADE_CURVE,
            (Self::Cartridge | Self::CartridgeUl, FuseSpeed::Fast) => &FAST_CURVE,
            (Self::Cartridge | Self::CartridgeUl, FuseSpeed::Slow) => &SLOW_CURVE,
            (Self::Resettable, _) => &RESETTABLE_CURVE,
        }
    }

    /// The longest time, s, in which it clears a multiple of its rating; `None` below its curve.
    pub(crate) fn clearing_s(self, speed: FuseSpeed, multiple: f64) -> Option<f64> {
        let curve = self.curve(speed);
        if multiple < curve[0].0 * (1.0 - 1e-12) {
            return None;
        }
        let next = curve.iter().position(|(m, _)| *m >= multiple);
        let Some(next) = next else { return Some(curve[curve.len() - 1].1) };
        if next == 0 {
            return Some(curve[0].1);
        }
        let ((m0, t0), (m1, t1)) = (curve[next - 1], curve[next]);
        let share = (multiple / m0).ln() / (m1 / m0).ln();
        Some((t0.ln() + share * (t1 / t0).ln()).exp())
    }

    /// The largest I²t, A²s, that it lets through for a short between two currents; `None` where the smaller one is
    /// below its curve. Between two points of the curve I²t is a power of the current, so that the largest lies at an
    /// end or at a point.
    pub(crate) fn let_through(self, speed: FuseSpeed, rating_a: f64, from_a: f64, to_a: f64) -> Option<f64> {
        let at = |amps: f64| self.clearing_s(speed, amps / rating_a).map(|s| amps * amps * s);
        let points = self.curve(speed).iter().map(|(m, _)| m * rating_a).filter(|a| *a > from_a && *a < to_a);
        let least = at(from_a)?;
        Some(points.chain([to_a.max(from_a)]).filter_map(at).fold(least, f64::max))
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
    use super::BLADE;
    use super::BLADE_A;
    use super::FuseFamily;
    use super::FuseSpeed;
    use super::cold_ohms;

    #[test]
    fn rows_are_met_and_rows_between_lie_between() {
        for ((a, mohm), listed) in BLADE.into_iter().zip(BLADE_A) {
            assert!((cold_ohms(a) * 1000.0 - mohm).abs() < 1e-9);
            assert_eq!(a, listed);
        }
        assert!(cold_ohms(6.0) < 0.018 && cold_ohms(6.0) > 0.011);
        assert!(cold_ohms(0.5) > 0.12);
    }

    #[test]
    fn clearing_times_meet_their_points() {
        let of = |multiple| FuseFamily::Blade.clearing_s(FuseSpeed::Fast, multiple);
        assert_eq!(of(1.9), None);
        assert!((of(2.0).unwrap() - 5.0).abs() < 1e-12);
        assert!((of(3.5).unwrap() - 0.5).abs() < 1e-12);
        assert_eq!(of(20.0), Some(0.1));
        // Halfway between the points on a log–log sheet: √(2 · 3.5) and √(5 · 0.5).
        assert!((of(7f64.sqrt()).unwrap() - 2.5f64.sqrt()).abs() < 1e-12);
        assert!((FuseFamily::Cartridge.clearing_s(FuseSpeed::Slow, 4.0).unwrap() - 3.0).abs() < 1e-12);
    }

    /// 10 A blade: 20 A for 5 s is 2000 A²s, 35 A for 0.5 s 612, 100 A for 0.1 s 1000.
    #[test]
    fn the_largest_let_through_of_a_span() {
        let of = |from, to| FuseFamily::Blade.let_through(FuseSpeed::Fast, 10.0, from, to);
        assert_eq!(of(19.0, 100.0), None);
        assert!((of(20.0, 100.0).unwrap() - 2000.0).abs() < 1e-9);
        assert!((of(60.0, 100.0).unwrap() - 1000.0).abs() < 1e-9);
        assert!((of(35.0, 60.0).unwrap() - 612.5).abs() < 1e-9);
    }
}
