//! One strip: a ladder of pixels between two copper tracks, eliminated in O(n).
//!
//! Between two feed points let I₊ and I₋ be the currents along the feed and the return track, both towards growing x.
//! A pixel takes j(v) out of one and puts it into the other, so S = I₊ + I₋ is constant along the piece. With
//! w = r₋/(r₊ + r₋) the differential current J = I₊ − w·S obeys
//!
//! ```text
//! v(k) − v(k+1) = (R₊ + R₋)·J(k)      J(k−1) − J(k) = j(v(k))
//! ```
//!
//! an ordinary one-conductor ladder, and the weighted common mode c = w·p + (1 − w)·m is linear:
//! c(a) − c(b) = (R₊ ∥ R₋)·S. No general matrix is needed inside a strip. Elimination only adds and multiplies
//! positive numbers (couplings and shunts are kept apart), so it loses no digits on the stiffest copper.

use crate::network::{Ladder, PixelLaw};

/// Pixels whose numbers fit the first cache together.
const BLOCK: usize = 512;

/// A piece between two ports (or beyond the outermost), reduced to what its ports see.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Piece {
    /// Port on the left, if any.
    pub left: Option<usize>,
    /// Port on the right, if any.
    pub right: Option<usize>,
    pub first_pixel: usize,
    pub last_pixel: usize,
    /// R₊ ∥ R₋ of the whole piece.
    pub common_ohms: f64,
    /// R₊ + R₋ of a piece without pixels.
    pub bare_ohms: f64,
    /// Conductance between the ports, and conductance and current source from each port's + to its −.
    pub coupling: f64,
    pub left_shunt: f64,
    pub left_source: f64,
    pub right_shunt: f64,
    pub right_source: f64,
    pub first_gap: f64,
    pub last_gap: f64,
    /// Couplings of the middle pixel once everything else is eliminated, for the way back.
    pub middle: [f64; 3],
}

/// Voltages of the pixels and the arrays of the elimination.
#[derive(Clone, Debug)]
pub(crate) struct LadderState {
    pub v: Vec<f64>,
    pub next: Vec<f64>,
    pub(super) slope: Vec<f64>,
    pub(super) offset: Vec<f64>,
    pub(super) to_neighbour: Vec<f64>,
    pub(super) to_port: Vec<f64>,
    pub(super) constant: Vec<f64>,
    pub pieces: Vec<Piece>,
}

impl Ladder {
    fn pieces(&self) -> Vec<Piece> {
        let parallel = self.feed_ohm_per_m * self.return_ohm_per_m / self.loop_ohm_per_m();
        // A pixel at a port's very place belongs to the piece on its right.
        let first_from = |x: f64| {
            let guess = ((x - self.first_m) * self.per_m - 0.5).ceil().max(0.0) as usize;
            let guess = guess.min(self.pixels);
            if guess > 0 && self.position(guess - 1) >= x { guess - 1 } else { guess }
        };
        let mut cuts: Vec<usize> = self.ports.iter().map(|p| first_from(p.at_m)).collect();
        cuts.insert(0, 0);
        cuts.push(self.pixels);
        (0..=self.ports.len())
            .map(|i| {
                let (left, right) = (i.checked_sub(1), (i < self.ports.len()).then_some(i));
                let (first, last) = (cuts[i], cuts[i + 1]);
                let gap = |from: f64, to: f64| 1.0 / self.loop_ohms(from, to);
                let span = match (left, right) {
                    (Some(l), Some(r)) => self.ports[r].at_m - self.ports[l].at_m,
                    _ => 0.0,
                };
                Piece {
                    left,
                    right,
                    first_pixel: first,
                    last_pixel: last,
                    common_ohms: parallel * span,
                    bare_ohms: self.loop_ohm_per_m() * span,
                    coupling: 0.0,
                    left_shunt: 0.0,
                    left_source: 0.0,
                    right_shunt: 0.0,
                    right_source: 0.0,
                    first_gap: left
                        .filter(|_| last > first)
                        .map_or(0.0, |l| gap(self.ports[l].at_m, self.position(first))),
                    last_gap: right
                        .filter(|_| last > first)
                        .map_or(0.0, |r| gap(self.position(last - 1), self.ports[r].at_m)),
                    middle: [0.0; 3],
                }
            })
            .filter(|p| p.last_pixel > p.first_pixel || (p.left.is_some() && p.right.is_some()))
            .collect()
    }

    /// Makes a state fit this ladder, with no voltage anywhere; keeps its memory if it has as many pixels.
    pub(crate) fn renew(&self, state: &mut LadderState) {
        if state.v.len() == self.pixels {
            state.v.fill(0.0);
            state.pieces = self.pieces();
        } else {
            *state = self.state();
        }
    }

    /// Fresh state with no voltage anywhere.
    pub(crate) fn state(&self) -> LadderState {
        let zeros = || vec![0.0; self.pixels];
        LadderState {
            v: zeros(),
            next: zeros(),
            slope: zeros(),
            offset: zeros(),
            to_neighbour: zeros(),
            to_port: zeros(),
            constant: zeros(),
            pieces: self.pieces(),
        }
    }
}

impl LadderState {
    /// Replaces the law by its tangent at the present voltages: j ≈ slope·v + offset.
    pub fn linearise(&mut self, law: &PixelLaw) {
        // Block by block, so that all clamps find their numbers in the cache.
        let tangents = self.slope.chunks_mut(BLOCK).zip(self.offset.chunks_mut(BLOCK));
        for (volts, (slope, offset)) in self.v.chunks(BLOCK).zip(tangents) {
            slope.fill(0.0);
            offset.fill(0.0);
            for clamp in &law.clamps {
                let (amps, rate, start) = (clamp.amps, clamp.amps * clamp.slope, clamp.start_v);
                for ((v, s), o) in volts.iter().zip(slope.iter_mut()).zip(offset.iter_mut()) {
                    let t = (v - start) * clamp.slope;
                    let sloping = if t > 0.0 && t < 1.0 { rate } else { 0.0 };
                    let full = if t >= 1.0 { amps } else { 0.0 };
                    *s += sloping;
                    *o += full - sloping * start;
                }
            }
        }
    }

    /// Σ over pixels of (law − tangent)·(new − old), and the largest |law − tangent|, both at the new voltages.
    pub fn overshoot(&self, law: &PixelLaw) -> (f64, f64) {
        let (mut work, mut worst) = (0.0, 0.0f64);
        for k in 0..self.next.len() {
            let miss = law.current(self.next[k]) - (self.slope[k] * self.next[k] + self.offset[k]);
            work += miss * (self.next[k] - self.v[k]);
            worst = worst.max(miss.abs());
        }
        (work, worst)
    }

    /// As [`overshoot`](Self::overshoot) at a share of the step, the tangent's value kept at the full step.
    pub fn slope_along(&self, law: &PixelLaw, share: f64) -> f64 {
        let mut work = 0.0;
        for k in 0..self.next.len() {
            let step = self.next[k] - self.v[k];
            let target = self.slope[k] * self.next[k] + self.offset[k];
            work += (law.current(self.v[k] + share * step) - target) * step;
        }
        work
    }

    /// Σ dv²/R over the copper of the step.
    pub fn copper_work(&self, ladder: &Ladder, port_step: impl Fn(usize) -> f64) -> f64 {
        let gap = ladder.per_m / ladder.loop_ohm_per_m();
        let step = |k: usize| self.next[k] - self.v[k];
        let mut work = 0.0;
        for p in &self.pieces {
            for k in p.first_pixel..p.last_pixel.saturating_sub(1) {
                work += gap * (step(k + 1) - step(k)).powi(2);
            }
            if p.last_pixel > p.first_pixel {
                if let Some(l) = p.left {
                    work += p.first_gap * (step(p.first_pixel) - port_step(l)).powi(2);
                }
                if let Some(r) = p.right {
                    work += p.last_gap * (step(p.last_pixel - 1) - port_step(r)).powi(2);
                }
            }
        }
        work
    }

    /// Moves to a share of the step.
    pub fn accept(&mut self, share: f64) {
        if share >= 1.0 {
            std::mem::swap(&mut self.v, &mut self.next);
        } else {
            for (v, next) in self.v.iter_mut().zip(&self.next) {
                *v += share * (next - *v);
            }
        }
    }
}
