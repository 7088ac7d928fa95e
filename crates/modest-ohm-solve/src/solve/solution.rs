//! The solved network: potentials, currents, powers, and how well Kirchhoff's laws are met.

use super::ladder::Piece;
use super::resume::State;
use crate::network::{Ladder, Law, Network};

/// A pixel that draws less than its full current by more than this counts as below it.
const BELOW_FULL_A: f64 = 1e-9;

/// Potentials per vertex, currents per branch, voltages per pixel.
#[derive(Clone, Debug)]
pub struct Solution {
    /// Per vertex, V.
    pub potential: Vec<f64>,
    /// Per branch, A, positive from `from` to `to`.
    pub current: Vec<f64>,
    /// Per ladder.
    pub ladders: Vec<StripSolution>,
    /// Per strip of the plan.
    pub strips: Vec<StripSolution>,
    /// Branches that are sources held at their limit.
    pub limiting: Vec<bool>,
    /// False for what no conductor joins to a supply.
    pub alive: Vec<bool>,
    /// What a solve of a similar network may start from.
    pub(crate) state: State,
}

/// One strip, or one piece of it that has a ladder of its own, solved.
#[derive(Clone, Debug, Default)]
pub struct StripSolution {
    /// False for a strip that no supply feeds.
    pub alive: bool,
    /// Empty unless asked for.
    pub v: Vec<f64>,
    /// Per port, in order of position.
    pub ports: Vec<PortFlow>,
    /// Drawn by all pixels, A.
    pub current_a: f64,
    /// Dissipated in the pixels, W.
    pub pixel_w: f64,
    /// Dissipated in the copper, W.
    pub copper_w: f64,
    /// The largest current in the feed track, A.
    pub copper_max_feed_a: f64,
    /// The largest current in the return track, A.
    pub copper_max_return_a: f64,
    /// The most heat in any place of the copper, all its conductors together, W/m.
    pub copper_max_w_per_m: f64,
    /// Potential of the return track at the first pixel, V.
    pub minus_first: f64,
    /// Potential of the return track at the last pixel, V.
    pub minus_last: f64,
    /// Voltage and index of the lowest pixel (the first of equals) and the highest voltage.
    pub lowest: (f64, usize),
    /// Voltage of the highest pixel, V.
    pub highest_v: f64,
    /// Voltage of the first pixel, V.
    pub first_v: f64,
    /// Voltage of the last pixel, V.
    pub last_v: f64,
    /// Pixels that draw less than their full current.
    pub below_full: usize,
    /// Lowest and highest voltage per colour, where every colour has its own.
    pub colour_v: Vec<(f64, f64)>,
}

/// Currents into the strip at a port.
#[derive(Clone, Copy, Debug, Default)]
pub struct PortFlow {
    /// Into the feed track, A.
    pub feed_a: f64,
    /// Into the return track, A; negative where current leaves the strip.
    pub return_a: f64,
}

/// A piece's currents at its ports: J into it at the left and right end, and S.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct PieceFlow {
    pub left_j: f64,
    pub right_j: f64,
    pub s: f64,
}

/// A walk along a strip's copper in the direction of growing x.
struct Walk {
    /// Where it is; `None` before the first place of a piece that is open on its left.
    at_m: Option<f64>,
    /// Currents in the feed and the return copper.
    plus_a: f64,
    minus_a: f64,
    /// Potential of the return copper, where it is known.
    minus_v: Option<f64>,
}

impl StripSolution {
    /// Walks the copper once: losses, largest currents, what each port feeds, and the − of the outermost pixels.
    pub(crate) fn of(ladder: &Ladder, v: &[f64], pieces: &[(Piece, PieceFlow)], potential: &[f64]) -> Self {
        let mut out = Self {
            alive: true,
            ports: vec![PortFlow::default(); ladder.ports.len()],
            lowest: (f64::INFINITY, 0),
            highest_v: f64::NEG_INFINITY,
            ..Self::default()
        };
        let minus_of = |port: usize| potential[ladder.ports[port].minus];
        for (piece, flow) in pieces {
            out.feed_ports(ladder.weight(), piece, flow);
            let (plus_a, minus_a) = flow.at_left(ladder.weight());
            let mut walk = match piece.left {
                Some(l) => Walk { at_m: Some(ladder.ports[l].at_m), plus_a, minus_a, minus_v: Some(minus_of(l)) },
                None => Walk { at_m: None, plus_a: 0.0, minus_a: 0.0, minus_v: None },
            };
            for (k, volts) in (piece.first_pixel..).zip(&v[piece.first_pixel..piece.last_pixel]) {
                out.step(ladder, &mut walk, ladder.position(k));
                out.meet_pixel(ladder, &mut walk, k, *volts);
            }
            if let Some(r) = piece.right {
                out.step(ladder, &mut walk, ladder.ports[r].at_m);
                if piece.left.is_none() {
                    out.minus_of_stub(ladder, v, piece, (ladder.ports[r].at_m, minus_of(r)));
                }
            }
        }
        out.first_v = v.first().copied().unwrap_or(0.0);
        out.last_v = v.last().copied().unwrap_or(0.0);
        out
    }

    fn feed_ports(&mut self, weight: f64, piece: &Piece, flow: &PieceFlow) {
        if let Some(l) = piece.left {
            let (plus, minus) = flow.at_left(weight);
            self.ports[l].feed_a += plus;
            self.ports[l].return_a += minus;
        }
        if let Some(r) = piece.right {
            self.ports[r].feed_a += flow.right_j - weight * flow.s;
            self.ports[r].return_a -= (1.0 - weight) * flow.s + flow.right_j;
        }
    }

    /// Along the copper to the next place.
    fn step(&mut self, ladder: &Ladder, walk: &mut Walk, to_m: f64) {
        if let Some(from) = walk.at_m.replace(to_m) {
            let (length, plus, minus) = (to_m - from, walk.plus_a, walk.minus_a);
            let heat = ladder.feed_ohm_per_m * plus * plus + ladder.return_ohm_per_m * minus * minus;
            self.copper_w += length * heat;
            self.copper_max_w_per_m = self.copper_max_w_per_m.max(heat);
            self.copper_max_feed_a = self.copper_max_feed_a.max(plus.abs());
            self.copper_max_return_a = self.copper_max_return_a.max(minus.abs());
            if let Some(v) = &mut walk.minus_v {
                *v -= length * ladder.return_ohm_per_m * minus;
            }
        }
    }

    fn meet_pixel(&mut self, ladder: &Ladder, walk: &mut Walk, k: usize, volts: f64) {
        let amps = ladder.law.current(volts);
        if volts < self.lowest.0 {
            self.lowest = (volts, k);
        }
        self.highest_v = self.highest_v.max(volts);
        self.below_full += usize::from(amps < ladder.law.full() - BELOW_FULL_A);
        self.current_a += amps;
        self.pixel_w += amps * volts;
        walk.plus_a -= amps;
        walk.minus_a += amps;
        if k == 0 {
            self.minus_first = walk.minus_v.unwrap_or(f64::NAN);
        }
        if k + 1 == ladder.pixels {
            self.minus_last = walk.minus_v.unwrap_or(f64::NAN);
        }
    }

    /// The − along a stub that is open on its left: known from its port backwards.
    fn minus_of_stub(&mut self, ladder: &Ladder, v: &[f64], piece: &Piece, (port_m, port_v): (f64, f64)) {
        let pixels = piece.first_pixel..piece.last_pixel;
        let mut amps: f64 = v[pixels.clone()].iter().map(|v| ladder.law.current(*v)).sum();
        let (mut minus, mut from) = (port_v, port_m);
        for (k, volts) in pixels.clone().zip(&v[pixels]).rev() {
            minus += (from - ladder.position(k)) * ladder.return_ohm_per_m * amps;
            amps -= ladder.law.current(*volts);
            from = ladder.position(k);
            if k == 0 {
                self.minus_first = minus;
            }
            if k + 1 == ladder.pixels {
                self.minus_last = minus;
            }
        }
    }
}

impl PieceFlow {
    /// I₊ and I₋ at the left end, both towards growing x.
    fn at_left(&self, weight: f64) -> (f64, f64) {
        (self.left_j + weight * self.s, (1.0 - weight) * self.s - self.left_j)
    }
}

/// Where the power goes, W.
#[derive(Clone, Copy, Debug, Default)]
pub struct Totals {
    /// Power of the ideal sources, W.
    pub source_w: f64,
    /// Dissipated in the sources' internal resistance, W.
    pub source_internal_w: f64,
    /// Drawn by loads, pixels included, W.
    pub load_w: f64,
    /// Dissipated in wires, contacts and strip copper, W.
    pub conductor_w: f64,
    /// Dissipated in converters, W.
    pub converter_loss_w: f64,
    /// Dissipated in diodes and driver junctions, W.
    pub diode_w: f64,
}

impl Solution {
    /// Voltage between two vertices, V.
    pub fn across(&self, plus: usize, minus: usize) -> f64 {
        self.potential[plus] - self.potential[minus]
    }

    /// The voltage a branch drops in the direction of its current.
    pub fn drop_of(&self, net: &Network, branch: usize) -> f64 {
        let b = &net.branches[branch];
        self.across(b.from, b.to)
    }

    /// Power by where it goes; the sum of all but `source_w` equals `source_w`.
    pub fn totals(&self, net: &Network) -> Totals {
        let mut t = Totals::default();
        for (i, b) in net.branches.iter().enumerate() {
            let (amps, drop) = (self.current[i], self.drop_of(net, i));
            match b.law {
                Law::Conductor { .. } | Law::Copper { .. } => t.conductor_w += amps * drop,
                Law::Source { ohms, .. } if net.supplies.contains(&i) => {
                    // Σ EMF·I; at its limit a supply's EMF is what it makes there.
                    t.source_w += (ohms * amps - drop) * amps;
                    t.source_internal_w += ohms * amps * amps;
                }
                Law::Source { .. } => t.converter_loss_w += drop * amps,
                Law::Regulator { .. } | Law::ConverterInput { .. } => t.converter_loss_w += amps * drop,
                Law::Diode { .. } => t.diode_w += amps * drop,
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
                Law::Copper { ohms } => {
                    flow[b.from] += self.potential[b.from].abs() / ohms;
                    flow[b.to] += self.potential[b.to].abs() / ohms;
                    self.current[i]
                }
                _ => self.current[i],
            };
            sum[b.from] -= amps;
            sum[b.to] += amps;
            largest = largest.max(amps.abs());
        }
        for (ladder, solved) in net.ladders.iter().zip(&self.ladders) {
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
