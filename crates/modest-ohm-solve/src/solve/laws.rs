//! The laws of the elements at a voltage: currents, tangents, and which mode a source is in.

use super::run::{Mode, Power, Run};
use crate::network::{Law, Lies};

/// Rounds in which all sources and diodes may change what they do.
const ALL_AT_ONCE: usize = 25;

/// Volts along a conductor that warms with its current, and their slope.
pub(super) fn warm(ohms: f64, rise: f64, ampacity: f64, amps: f64) -> (f64, f64) {
    let x = amps / ampacity;
    if rise == 0.0 || x.abs() >= 1.0 {
        let warmed = ohms * (1.0 + rise);
        return (warmed * amps, warmed);
    }
    (ohms * (1.0 + rise * x * x) * amps, ohms * (1.0 + 3.0 * rise * x * x))
}

impl Run<'_> {
    /// Watts a constant-power branch takes when its output is in this state.
    pub fn watts(&self, law: &Law, potential: &[f64], current: &[f64]) -> f64 {
        self.scale
            * match law {
                Law::ConstantPower { watts } => *watts,
                // An output that is kept from giving takes nothing in; its trace of a leak is none of its power.
                Law::ConverterInput { output, quiescent_w, .. } if self.at.modes[*output] == Mode::Blocked => {
                    *quiescent_w
                }
                Law::ConverterInput { output, efficiency, quiescent_w } => {
                    let out = -self.volts(potential, *output) * current[*output];
                    out.max(0.0) / efficiency + quiescent_w
                }
                _ => 0.0,
            }
    }

    /// Replaces every demand's law by its tangent at the present voltages.
    pub fn linearise(&mut self, power: Power) {
        self.linearise_demands(power);
        for (ladder, state) in self.net.ladders.iter().zip(&mut self.ladders) {
            state.linearise(&ladder.law);
        }
    }

    /// As [`linearise`](Self::linearise), the strips left as they are.
    pub fn linearise_demands(&mut self, power: Power) {
        for i in 0..self.net.branches.len() {
            let law = &self.net.branches[i].law;
            let v = self.volts(&self.at.potential, i);
            self.tangent[i] = match law {
                Law::ConstantCurrent { amps, knee } => {
                    if v <= 0.0 {
                        (0.0, 0.0)
                    } else if v < *knee {
                        (amps / knee, 0.0)
                    } else {
                        (0.0, *amps)
                    }
                }
                Law::LedString { vf, siemens } if v > *vf => (*siemens, -siemens * vf),
                Law::LedString { .. } => (0.0, 0.0),
                Law::Resistive { siemens } => (if v > 0.0 { *siemens } else { 0.0 }, 0.0),
                law if law.is_power() => match power {
                    Power::Off => (0.0, 0.0),
                    Power::Held => (0.0, self.held[i]),
                    Power::Tangent => {
                        // i ≈ P/v0 − P/v0²·(v − v0)
                        let (watts, v) = (self.watts(law, &self.at.potential, &self.at.current), v.max(1e-6));
                        (-watts / (v * v), 2.0 * watts / v)
                    }
                },
                _ => (0.0, 0.0),
            };
        }
    }

    /// Current of a demand whose law is monotone.
    pub fn monotone_current(law: &Law, v: f64) -> Option<f64> {
        match law {
            Law::ConstantCurrent { amps, knee } => Some(amps * (v / knee).clamp(0.0, 1.0)),
            Law::LedString { vf, siemens } => Some(siemens * (v - vf).max(0.0)),
            Law::Resistive { siemens } => Some(siemens * v.max(0.0)),
            _ => None,
        }
    }

    /// Sources that ran past their limit hold it; those that need less leave it; diodes open and close. True if any
    /// changed. All at once is quick and may go in circles: after some rounds only the first of them changes, which
    /// ends (the least-index rule for complementarity problems, Murty 1974).
    pub fn change_modes(&mut self, round: usize) -> bool {
        // Diodes, regulators and outputs first: a supply that takes current back mostly does so through one of them,
        // and would be kept from giving for nothing.
        for supplies in [false, true] {
            let mut changed = false;
            for i in 0..self.net.branches.len() {
                if !self.islands.branch[i] || self.net.supplies.contains(&i) != supplies {
                    continue;
                }
                let next = self.mode_of(i);
                changed |= std::mem::replace(&mut self.at.modes[i], next) != next;
                if changed && round >= ALL_AT_ONCE {
                    break;
                }
            }
            if changed {
                return true;
            }
        }
        false
    }

    /// A source that blocks and would have to give at the point that the linear system points to gives: a rail whose
    /// only source blocks has no point worth stepping to. True if there is any.
    pub fn unblock(&mut self) -> bool {
        let mut any = false;
        for i in 0..self.net.branches.len() {
            let is_source = matches!(self.net.branches[i].law, Law::Source { .. });
            if is_source && self.islands.branch[i] && self.at.modes[i] == Mode::Blocked {
                let next = self.mode_at(i, self.next.1[i], &self.next.0);
                any |= next != Mode::Blocked;
                self.at.modes[i] = next;
            }
        }
        any
    }

    /// Sources and regulators that are held at their current limit.
    pub fn limited(&self) -> impl Iterator<Item = usize> + '_ {
        let gives = |law: &Law| matches!(law, Law::Source { .. } | Law::Regulator { .. });
        self.living().filter(move |(i, b)| gives(&b.law) && self.at.modes[*i] == Mode::Limit).map(|(i, _)| i)
    }

    /// Lets sources, and diodes in front of them, give that block because another one holds the rail higher, or only
    /// leaks. True if there is any.
    pub fn offer(&mut self) -> bool {
        let feeds = |law: &Law| match law {
            Law::Source { .. } => true,
            Law::Diode { lies, .. } => *lies != Lies::Across,
            _ => false,
        };
        let blocked: Vec<usize> = self
            .living()
            .filter(|(i, b)| feeds(&b.law) && self.at.modes[*i] == Mode::Blocked)
            .map(|(i, _)| i)
            .collect();
        blocked.iter().for_each(|i| self.at.modes[*i] = Mode::Volts);
        !blocked.is_empty()
    }

    fn mode_of(&self, i: usize) -> Mode {
        self.mode_at(i, self.at.current[i], &self.at.potential)
    }

    fn mode_at(&self, i: usize, amps: f64, potential: &[f64]) -> Mode {
        let b = &self.net.branches[i];
        match &b.law {
            Law::Source { emf, ohms, limit, sinks } => {
                let v = -self.volts(potential, i);
                let limit = if self.sources_limit { *limit } else { f64::INFINITY };
                let small = 1e-9 * (1.0 + amps.abs());
                match self.at.modes[i] {
                    Mode::Volts if amps > limit + small => Mode::Limit,
                    Mode::Volts if amps < -small && !sinks => Mode::Blocked,
                    Mode::Limit if v > emf - ohms * limit + 1e-6 => Mode::Volts,
                    Mode::Blocked if v < emf - 1e-9 => Mode::Volts,
                    mode => mode,
                }
            }
            Law::Regulator { common, volts, ohms, dropout, limit } => {
                let v_in = potential[b.from] - potential[*common];
                let v_out = potential[b.to] - potential[*common];
                let limit = if self.sources_limit { *limit } else { f64::INFINITY };
                let small = 1e-9 * (1.0 + amps.abs());
                let set = volts - ohms * amps.clamp(0.0, limit);
                match self.at.modes[i] {
                    Mode::Volts | Mode::Dropout if amps > limit + small => Mode::Limit,
                    Mode::Volts | Mode::Dropout if amps < -small => Mode::Blocked,
                    Mode::Dropout if v_in < dropout - 1e-9 => Mode::Blocked,
                    Mode::Volts | Mode::Limit if v_in < v_out + dropout - 1e-9 => Mode::Dropout,
                    Mode::Dropout | Mode::Limit if v_out > set + 1e-9 => Mode::Volts,
                    Mode::Blocked if v_out < volts.min(v_in - dropout) - 1e-9 => Mode::Volts,
                    mode => mode,
                }
            }
            Law::Diode { vf, reverse, .. } => {
                let v = self.volts(potential, i);
                let small = 1e-9 * (1.0 + amps.abs());
                match self.at.modes[i] {
                    Mode::Volts if amps < -small => Mode::Blocked,
                    Mode::Limit if amps > small => Mode::Blocked,
                    Mode::Blocked if v > vf + 1e-9 => Mode::Volts,
                    Mode::Blocked if v < -reverse - 1e-9 => Mode::Limit,
                    mode => mode,
                }
            }
            _ => Mode::Volts,
        }
    }
}
