//! A Zener diode at an input: a soft one below 5.6 V, which conducts long before the voltage printed on it.

use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;

/// The current at which its voltage is given, A (data sheets of the 0.3 W .. 0.5 W class).
const TEST_A: f64 = 5e-3;
/// V = V_z · (I/5 mA)^n; n falls with the voltage, as tunnelling gives way to avalanche (electrical corrections,
/// section 10; typical of data sheets).
const SOFTNESS: [(f64, f64); 5] = [(3.6, 0.13), (3.9, 0.12), (4.7, 0.09), (5.1, 0.05), (5.6, 0.02)];
/// Tangents come this near, V, in this many steps at most.
const NEAR_V: f64 = 1e-12;
const STEPS: usize = 60;
/// Forward voltage where the pin is driven below ground, V.
const FORWARD_V: f64 = 0.7;

#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Zener {
    /// At its test current, V.
    volts: f64,
    softness: f64,
}

impl Zener {
    /// The upper end of its tolerance, or the lower one.
    pub fn at_end(clamp: &Figure<Volts>, most: bool) -> Self {
        let volts = if most { clamp.high.get() } else { clamp.low.get() };
        Self { volts, softness: softness(clamp.typical.get()) }
    }

    /// What it carries, A; negative below ground.
    pub fn amps(&self, volts: f64) -> f64 {
        if volts > 0.0 { TEST_A * (volts / self.volts).powf(1.0 / self.softness) } else { 0.0 }
    }

    /// What a source of some volts behind some ohms becomes across it, V.
    pub fn holds(&self, volts: f64, ohms: f64) -> f64 {
        if volts <= 0.0 {
            return volts.max(-FORWARD_V);
        }
        // What comes through the resistance less what the diode carries falls with its voltage, ever more steeply:
        // tangents from above come down to the root and never cross it. All of the current into the diode is a place
        // above.
        let alone = self.volts * (volts / ohms / TEST_A).powf(self.softness);
        let mut at = volts.min(alone);
        for _ in 0..STEPS {
            let carries = self.amps(at);
            let step = ((volts - at) / ohms - carries) / (1.0 / ohms + carries / (self.softness * at));
            at += step;
            if step.abs() < NEAR_V {
                break;
            }
        }
        at
    }
}

fn softness(volts: f64) -> f64 {
    let [first, .., last] = SOFTNESS;
    if volts <= first.0 {
        return first.1;
    }
    let between = SOFTNESS.windows(2).find(|w| volts <= w[1].0);
    between.map_or(last.1, |w| w[0].1 + (w[1].1 - w[0].1) * (volts - w[0].0) / (w[1].0 - w[0].0))
}

#[cfg(test)]
mod tests {
    use super::Zener;
    use crate::quantity::figure::{Figure, Origin};
    use crate::quantity::units::Volts;

    fn zener(volts: f64) -> Zener {
        Zener::at_end(&Figure::exact(Volts::new(volts), Origin::Computed), true)
    }

    /// Worked by hand: 3.3 · 0.06^0.13 = 2.29 V and 4.7 · 0.06^0.09 = 3.65 V at 0.3 mA.
    #[test]
    fn a_low_one_gives_way_early() {
        for (rated, held) in [(3.3, 2.289), (4.7, 3.649)] {
            let volts = zener(rated).holds(held + 0.3e-3 * 20e3, 20e3);
            assert!((volts - held).abs() < 2e-3, "{rated} V: {volts}");
        }
        assert_eq!(zener(3.3).holds(-12.0, 1e3), -0.7);
    }

    /// Where the diode carries next to nothing the voltage is that of the source; everywhere both currents are equal.
    #[test]
    fn what_comes_through_the_ohms_goes_through_the_diode() {
        for rated in [2.4, 3.3, 3.9, 4.7, 5.1, 6.2] {
            for (volts, ohms) in [(0.5, 1e3), (3.0, 1e5), (9.0, 1e2), (15.0, 2e4), (150.0, 1e5)] {
                let at = zener(rated).holds(volts, ohms);
                let (through, carries) = ((volts - at) / ohms, zener(rated).amps(at));
                assert!(
                    (through - carries).abs() < 1e-9 * through.max(1e-6),
                    "{rated} V: {at} V, {through} and {carries}"
                );
                assert!(at > 0.0 && at <= volts);
            }
        }
    }

    /// At the current at which it is sold it stands at what is printed on it.
    #[test]
    fn it_stands_at_its_own_volts_at_5_ma() {
        for rated in [2.4, 3.3, 4.3, 5.1, 5.6, 12.0] {
            let volts = zener(rated).holds(rated + 5.0, 1e3);
            assert!((volts - rated).abs() < 1e-9, "{rated} V: {volts}");
        }
    }
}
