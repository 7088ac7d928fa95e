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

/// Gaps shorter than this count as this, so that a feed soldered onto a pixel stays a number.
const SHORTEST_GAP_M: f64 = 1e-9;

/// One clamp of a pixel's law: `amps · clamp((v − start) · slope, 0, 1)`.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Clamp {
    pub amps: f64,
    pub start_v: f64,
    /// 1/V.
    pub slope: f64,
}

/// The pixel law as a sum of clamps: the quiescent current and one per colour.
#[derive(Clone, Debug)]
pub(crate) struct PixelLaw {
    pub clamps: Vec<Clamp>,
}

impl PixelLaw {
    pub fn current(&self, v: f64) -> f64 {
        self.clamps.iter().map(|c| c.amps * ((v - c.start_v) * c.slope).clamp(0.0, 1.0)).sum()
    }

    /// Current when every colour is at its full current.
    pub fn full(&self) -> f64 {
        self.clamps.iter().map(|c| c.amps).sum()
    }
}

/// Where a strip is connected.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Port {
    pub at_m: f64,
    pub plus: usize,
    pub minus: usize,
}

/// A strip's figures in one corner.
#[derive(Clone, Debug)]
pub(crate) struct Ladder {
    pub pixels: usize,
    pub per_m: f64,
    pub feed_ohm_per_m: f64,
    pub return_ohm_per_m: f64,
    pub law: PixelLaw,
    /// In order of position.
    pub ports: Vec<Port>,
}

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
    first_gap: f64,
    last_gap: f64,
    /// Couplings of the middle pixel once everything else is eliminated, for the way back.
    middle: [f64; 3],
}

/// Voltages of the pixels and the arrays of the elimination.
#[derive(Clone, Debug)]
pub(crate) struct LadderState {
    pub v: Vec<f64>,
    pub next: Vec<f64>,
    slope: Vec<f64>,
    offset: Vec<f64>,
    to_neighbour: Vec<f64>,
    to_port: Vec<f64>,
    constant: Vec<f64>,
    pub pieces: Vec<Piece>,
}

impl Ladder {
    pub fn position(&self, pixel: usize) -> f64 {
        (pixel as f64 + 0.5) / self.per_m
    }

    /// w = r₋/(r₊ + r₋).
    pub fn weight(&self) -> f64 {
        self.return_ohm_per_m / (self.feed_ohm_per_m + self.return_ohm_per_m)
    }

    pub fn loop_ohm_per_m(&self) -> f64 {
        self.feed_ohm_per_m + self.return_ohm_per_m
    }

    fn pieces(&self) -> Vec<Piece> {
        let parallel = self.feed_ohm_per_m * self.return_ohm_per_m / self.loop_ohm_per_m();
        // A pixel at a port's very place belongs to the piece on its right.
        let first_from = |x: f64| {
            let guess = (x * self.per_m - 0.5).ceil().max(0.0) as usize;
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
                let gap = |from: f64, to: f64| 1.0 / (self.loop_ohm_per_m() * (to - from).max(SHORTEST_GAP_M));
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

    /// Fresh state with no voltage anywhere.
    pub fn state(&self) -> LadderState {
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
        let (slope, offset) = (&mut self.slope, &mut self.offset);
        slope.fill(0.0);
        offset.fill(0.0);
        for clamp in &law.clamps {
            let (amps, rate, start) = (clamp.amps, clamp.amps * clamp.slope, clamp.start_v);
            for ((v, s), o) in self.v.iter().zip(slope.iter_mut()).zip(offset.iter_mut()) {
                let t = (v - start) * clamp.slope;
                let sloping = if t > 0.0 && t < 1.0 { rate } else { 0.0 };
                let full = if t >= 1.0 { amps } else { 0.0 };
                *s += sloping;
                *o += full - sloping * start;
            }
        }
    }

    /// All pixels dark and drawing nothing: the start of the solve.
    pub fn no_current(&mut self) {
        self.slope.fill(0.0);
        self.offset.fill(0.0);
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

    /// Reduces every piece to its ports.
    pub fn eliminate(&mut self, ladder: &Ladder) {
        let mut pieces = std::mem::take(&mut self.pieces);
        let gap = ladder.per_m / ladder.loop_ohm_per_m();
        for piece in pieces.iter_mut().filter(|p| p.last_pixel > p.first_pixel) {
            match (piece.left, piece.right) {
                (Some(_), Some(_)) => self.eliminate_between(piece, gap),
                (Some(_), None) => {
                    let pixels = (piece.first_pixel..piece.last_pixel).rev();
                    (piece.left_shunt, piece.left_source) = self.eliminate_stub(pixels, gap, piece.first_gap);
                }
                (None, Some(_)) => {
                    let pixels = piece.first_pixel..piece.last_pixel;
                    (piece.right_shunt, piece.right_source) = self.eliminate_stub(pixels, gap, piece.last_gap);
                }
                (None, None) => {}
            }
        }
        self.pieces = pieces;
    }

    /// From the open end towards the port: each pixel sees the next one over `gap`, the last one the port.
    fn eliminate_stub(&mut self, pixels: impl Iterator<Item = usize>, gap: f64, port_gap: f64) -> (f64, f64) {
        let mut pixels = pixels.peekable();
        let (mut shunt, mut source) = (0.0, 0.0);
        while let Some(k) = pixels.next() {
            shunt += self.slope[k];
            source -= self.offset[k];
            let towards = if pixels.peek().is_some() { gap } else { port_gap };
            let inverse = 1.0 / (shunt + towards);
            let share = towards * inverse;
            self.to_neighbour[k] = share;
            self.constant[k] = source * inverse;
            shunt *= share;
            source *= share;
        }
        (shunt, source)
    }

    /// From both ports towards the middle at once: two chains of divisions overlap, which halves the time.
    fn eliminate_between(&mut self, piece: &mut Piece, gap: f64) {
        let (first, last) = (piece.first_pixel, piece.last_pixel);
        let middle = first + (last - first) / 2;
        let mut l = Front::at(piece.first_gap);
        let mut r = Front::at(piece.last_gap);
        let both = (middle - first).min(last - 1 - middle);
        {
            let slope = &self.slope[first..last];
            let offset = &self.offset[first..last];
            let near = &mut self.to_neighbour[first..last];
            let port = &mut self.to_port[first..last];
            let constant = &mut self.constant[first..last];
            let n = last - first;
            for i in 0..both {
                let j = n - 1 - i;
                (near[i], port[i], constant[i]) = l.eliminate(slope[i], offset[i], gap);
                (near[j], port[j], constant[j]) = r.eliminate(slope[j], offset[j], gap);
            }
            for i in both..(middle - first) {
                (near[i], port[i], constant[i]) = l.eliminate(slope[i], offset[i], gap);
            }
            for i in both..(last - 1 - middle) {
                let j = n - 1 - i;
                (near[j], port[j], constant[j]) = r.eliminate(slope[j], offset[j], gap);
            }
        }
        // The middle pixel: coupled to the left port, to the right port, and to its − through its tangent.
        let shunt = self.slope[middle] + l.shunt + r.shunt;
        let source = l.source + r.source - self.offset[middle];
        let inverse = 1.0 / (l.coupling + r.coupling + shunt);
        piece.middle = [l.coupling * inverse, r.coupling * inverse, source * inverse];
        piece.coupling = l.coupling * r.coupling * inverse;
        piece.left_shunt = l.port_shunt + shunt * piece.middle[0];
        piece.left_source = l.port_source + source * piece.middle[0];
        piece.right_shunt = r.port_shunt + shunt * piece.middle[1];
        piece.right_source = r.port_source + source * piece.middle[1];
    }

    /// From the ports' voltages back to every pixel's, into `next`.
    pub fn substitute(&mut self, port_v: impl Fn(usize) -> f64) {
        for p in self.pieces.iter().filter(|p| p.last_pixel > p.first_pixel) {
            let (first, last) = (p.first_pixel, p.last_pixel);
            let next = &mut self.next[first..last];
            let near = &self.to_neighbour[first..last];
            let port = &self.to_port[first..last];
            let constant = &self.constant[first..last];
            let n = last - first;
            match (p.left, p.right) {
                (Some(l), Some(r)) => {
                    let (va, vb) = (port_v(l), port_v(r));
                    let m = n / 2;
                    let mid = p.middle[0] * va + p.middle[1] * vb + p.middle[2];
                    next[m] = mid;
                    let (mut down, mut up) = (mid, mid);
                    let both = m.min(n - 1 - m);
                    for i in 1..=both {
                        down = near[m - i] * down + (port[m - i] * va + constant[m - i]);
                        next[m - i] = down;
                        up = near[m + i] * up + (port[m + i] * vb + constant[m + i]);
                        next[m + i] = up;
                    }
                    for i in both + 1..=m {
                        down = near[m - i] * down + (port[m - i] * va + constant[m - i]);
                        next[m - i] = down;
                    }
                    for i in both + 1..n - m {
                        up = near[m + i] * up + (port[m + i] * vb + constant[m + i]);
                        next[m + i] = up;
                    }
                }
                (Some(l), None) => {
                    let mut v = port_v(l);
                    for k in 0..n {
                        v = near[k] * v + constant[k];
                        next[k] = v;
                    }
                }
                (None, Some(r)) => {
                    let mut v = port_v(r);
                    for k in (0..n).rev() {
                        v = near[k] * v + constant[k];
                        next[k] = v;
                    }
                }
                (None, None) => {}
            }
        }
    }
}

/// The moving front of an elimination that starts at a port.
struct Front {
    /// Conductance between the port and the pixel at the front.
    coupling: f64,
    /// What the eliminated pixels leave at the front: a shunt and a source.
    shunt: f64,
    source: f64,
    /// And at the port.
    port_shunt: f64,
    port_source: f64,
}

impl Front {
    fn at(first_gap: f64) -> Self {
        Self { coupling: first_gap, shunt: 0.0, source: 0.0, port_shunt: 0.0, port_source: 0.0 }
    }

    /// Eliminates the pixel at the front; returns its shares of neighbour and port, and its constant.
    #[inline(always)]
    fn eliminate(&mut self, slope: f64, offset: f64, gap: f64) -> (f64, f64, f64) {
        let shunt = self.shunt + slope;
        let source = self.source - offset;
        let inverse = 1.0 / (self.coupling + shunt + gap);
        let near = gap * inverse;
        let port = self.coupling * inverse;
        self.port_shunt += shunt * port;
        self.port_source += source * port;
        self.coupling *= near;
        // Far inside a lit strip the coupling fades below every digit; a denormal would only cost time.
        if self.coupling < 1e-200 {
            self.coupling = 0.0;
        }
        self.shunt = shunt * near;
        self.source = source * near;
        (near, port, source * inverse)
    }
}
