//! The solved network: potentials, currents, powers, and how well Kirchhoff's laws are met.

use super::ladder::Ladder;
use crate::network::{Law, Network};

/// Potentials per vertex, currents per branch, voltages per pixel.
#[derive(Clone, Debug)]
pub(crate) struct Solution {
    pub potential: Vec<f64>,
    pub current: Vec<f64>,
    pub ladders: Vec<LadderSolution>,
    /// Branches that are sources held at their limit.
    pub limiting: Vec<bool>,
    /// False for what no conductor joins to a supply.
    pub alive: Vec<bool>,
}

/// One strip, solved.
#[derive(Clone, Debug, Default)]
pub(crate) struct LadderSolution {
    pub alive: bool,
    /// Empty unless asked for.
    pub v: Vec<f64>,
    pub ports: Vec<PortFlow>,
    pub current_a: f64,
    pub pixel_w: f64,
    pub copper_w: f64,
    pub copper_max_feed_a: f64,
    pub copper_max_return_a: f64,
    pub minus_first: f64,
    pub minus_last: f64,
    /// Voltage and index of the lowest pixel (the first of equals) and the highest voltage.
    pub lowest: (f64, usize),
    pub highest_v: f64,
    pub first_v: f64,
    pub last_v: f64,
    /// Pixels that draw less than their full current.
    pub below_full: usize,
}

/// Currents into the strip at a port.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct PortFlow {
    pub feed_a: f64,
    pub return_a: f64,
}

/// A piece's currents at its ports: J into it at the left and right end, and S.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct PieceFlow {
    pub left_j: f64,
    pub right_j: f64,
    pub s: f64,
}

impl LadderSolution {
    /// Walks the copper once: losses, largest currents, what each port feeds, and the − of the outermost pixels.
    pub fn of(ladder: &Ladder, v: &[f64], pieces: &[(super::ladder::Piece, PieceFlow)], potential: &[f64]) -> Self {
        let w = ladder.weight();
        let mut out = Self {
            alive: true,
            ports: vec![PortFlow::default(); ladder.ports.len()],
            lowest: (f64::INFINITY, 0),
            highest_v: f64::NEG_INFINITY,
            ..Self::default()
        };
        let least_full = ladder.law.full() - 1e-9;
        let minus_of = |port: usize| potential[ladder.ports[port].minus];
        for (piece, flow) in pieces {
            if let Some(l) = piece.left {
                out.ports[l].feed_a += flow.left_j + w * flow.s;
                out.ports[l].return_a += (1.0 - w) * flow.s - flow.left_j;
            }
            if let Some(r) = piece.right {
                out.ports[r].feed_a += flow.right_j - w * flow.s;
                out.ports[r].return_a -= (1.0 - w) * flow.s + flow.right_j;
            }
            // Along +x: I₊ and I₋ in the gap before the first pixel; a stub to the left starts with nothing.
            let (mut plus, mut minus) = if piece.left.is_some() {
                (flow.left_j + w * flow.s, (1.0 - w) * flow.s - flow.left_j)
            } else {
                (0.0, 0.0)
            };
            let mut at = piece.left.map(|l| ladder.ports[l].at_m);
            let mut m = piece.left.map(minus_of);
            let mut gap = |to: f64, plus: f64, minus: f64, m: &mut Option<f64>| {
                if let Some(from) = at {
                    let length = to - from;
                    out.copper_w +=
                        length * (ladder.feed_ohm_per_m * plus * plus + ladder.return_ohm_per_m * minus * minus);
                    out.copper_max_feed_a = out.copper_max_feed_a.max(plus.abs());
                    out.copper_max_return_a = out.copper_max_return_a.max(minus.abs());
                    if let Some(m) = m {
                        *m -= length * ladder.return_ohm_per_m * minus;
                    }
                }
                at = Some(to);
            };
            for k in piece.first_pixel..piece.last_pixel {
                gap(ladder.position(k), plus, minus, &mut m);
                let j = ladder.law.current(v[k]);
                if v[k] < out.lowest.0 {
                    out.lowest = (v[k], k);
                }
                out.highest_v = out.highest_v.max(v[k]);
                out.below_full += usize::from(j < least_full);
                out.current_a += j;
                out.pixel_w += j * v[k];
                plus -= j;
                minus += j;
                if k == 0 {
                    out.minus_first = m.unwrap_or(f64::NAN);
                }
                if k + 1 == ladder.pixels {
                    out.minus_last = m.unwrap_or(f64::NAN);
                }
            }
            if let Some(r) = piece.right {
                gap(ladder.ports[r].at_m, plus, minus, &mut m);
                // A stub before the first port is walked from its open end: its − is known from the port backwards.
                if piece.left.is_none() {
                    let (mut back, mut m, mut from) = (0.0, minus_of(r), ladder.ports[r].at_m);
                    for k in piece.first_pixel..piece.last_pixel {
                        back += ladder.law.current(v[k]);
                    }
                    for k in (piece.first_pixel..piece.last_pixel).rev() {
                        m += (from - ladder.position(k)) * ladder.return_ohm_per_m * back;
                        back -= ladder.law.current(v[k]);
                        from = ladder.position(k);
                        if k == 0 {
                            out.minus_first = m;
                        }
                        if k + 1 == ladder.pixels {
                            out.minus_last = m;
                        }
                    }
                }
            }
        }
        out.first_v = v.first().copied().unwrap_or(0.0);
        out.last_v = v.last().copied().unwrap_or(0.0);
        out
    }
}

/// Where the power goes, W.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Totals {
    pub source_w: f64,
    pub source_internal_w: f64,
    pub load_w: f64,
    pub conductor_w: f64,
    pub converter_loss_w: f64,
}

impl Solution {
    pub fn across(&self, plus: usize, minus: usize) -> f64 {
        self.potential[plus] - self.potential[minus]
    }

    /// The voltage a branch drops in the direction of its current.
    pub fn drop_of(&self, net: &Network, branch: usize) -> f64 {
        let b = &net.branches[branch];
        self.across(b.from, b.to)
    }

    pub fn totals(&self, net: &Network) -> Totals {
        let mut t = Totals::default();
        for (i, b) in net.branches.iter().enumerate() {
            let (amps, drop) = (self.current[i], self.drop_of(net, i));
            match b.law {
                Law::Conductor { .. } => t.conductor_w += amps * drop,
                Law::Source { ohms, .. } if net.supplies.contains(&i) => {
                    // Σ EMF·I; at its limit a supply's EMF is what it makes there.
                    t.source_w += (ohms * amps - drop) * amps;
                    t.source_internal_w += ohms * amps * amps;
                }
                Law::Source { .. } => t.converter_loss_w += drop * amps,
                Law::Regulator { .. } | Law::ConverterInput { .. } => t.converter_loss_w += amps * drop,
                _ => t.load_w += amps * drop,
            }
        }
        for ladder in &self.ladders {
            t.load_w += ladder.pixel_w;
            t.conductor_w += ladder.copper_w;
        }
        t
    }

    /// Largest current imbalance at a vertex, and what rounding excuses there: max(1e-9·I_max, 8·ε·Σ|G·V|).
    #[cfg(test)]
    pub fn imbalance(&self, net: &Network) -> (f64, f64) {
        let mut sum = vec![0.0; net.vertices];
        let mut largest = 0.0f64;
        let mut flow = vec![0.0f64; net.vertices];
        for (i, b) in net.branches.iter().enumerate() {
            let amps = match &b.law {
                Law::Conductor { ohms, rise, ampacity } if *ohms > 0.0 => {
                    // From the potentials, not from the solver's own current.
                    let r = ohms * (1.0 + rise * (self.current[i] / ampacity).powi(2).min(1.0));
                    flow[b.from] += 1.0 / r * self.potential[b.from].abs();
                    flow[b.to] += 1.0 / r * self.potential[b.to].abs();
                    self.drop_of(net, i) / r
                }
                _ => self.current[i],
            };
            sum[b.from] -= amps;
            sum[b.to] += amps;
            largest = largest.max(amps.abs());
        }
        for (ladder, solved) in net.ladders.iter().zip(&self.ladders).filter(|(_, s)| s.alive) {
            for (port, amps) in ladder.ports.iter().zip(&solved.ports) {
                sum[port.plus] -= amps.feed_a;
                sum[port.minus] -= amps.return_a;
                largest = largest.max(amps.feed_a.abs());
            }
        }
        let excused = flow.iter().fold(1e-9 * largest, |m, f| m.max(8.0 * f64::EPSILON * f));
        (sum.iter().fold(0.0, |m, s| m.max(s.abs())), excused)
    }
}
