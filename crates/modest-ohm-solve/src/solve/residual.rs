//! By how much a solved point misses the law of a branch, in the branch's present mode: the rows of the tangent
//! network before they are made linear.

use super::laws::warm;
use super::run::{Mode, Run};
use crate::network::Law;

impl Run<'_> {
    /// What the row of a branch with this law leaves at the present point: 0 for the law that was solved. `None` for an
    /// element without a row.
    pub(super) fn miss(&self, i: usize, law: &Law) -> Option<f64> {
        let b = &self.net.branches[i];
        let (v, amps) = (self.volts(&self.at.potential, i), self.at.current[i]);
        let leak = self.leak;
        Some(match (law, self.at.modes[i]) {
            (Law::Copper { .. } | Law::LedString { .. }, _) => return None,
            (Law::Conductor { ohms, rise, ampacity }, _) => v - warm(*ohms, *rise, *ampacity, amps).0,
            (Law::Source { emf, ohms, .. }, Mode::Volts) => -v + ohms * amps - emf,
            (Law::Source { emf, ohms, limit, .. }, Mode::Limit) => {
                amps - leak * v - limit - (emf - ohms * limit) * leak
            }
            (Law::Source { emf, .. }, _) => amps - leak * v - emf * leak,
            (Law::Regulator { common, volts, ohms, dropout, limit }, mode) => {
                let out = self.at.potential[b.to] - self.at.potential[*common];
                match mode {
                    Mode::Volts => out + ohms * amps - volts,
                    Mode::Dropout => v - dropout,
                    Mode::Limit => leak * out + amps - limit - (volts - ohms * limit) * leak,
                    Mode::Blocked => leak * out + amps,
                }
            }
            (Law::Diode { vf, ohms, .. }, Mode::Volts) => v - ohms * amps - vf,
            (Law::Diode { ohms, reverse, .. }, Mode::Limit) => v - ohms * amps + reverse,
            (Law::Diode { .. }, _) => amps - leak * v,
            (law, _) if law.is_power() => amps - self.watts(law, &self.at.potential, &self.at.current) / v.max(1e-6),
            (law, _) => amps - Self::monotone_current(law, v)?,
        })
    }
}
