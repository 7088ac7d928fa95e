//! The elimination of a strip: every piece reduced to its ports in one pass, and the way back in another.

use super::ladder::{LadderState, Piece};
use crate::network::{Ladder, SHORTEST_GAP_M};

impl LadderState {
    /// The pieces as bare copper: no pixel draws anything.
    pub fn bare(&mut self, ladder: &Ladder) {
        for piece in &mut self.pieces {
            (piece.left_shunt, piece.left_source) = (0.0, 0.0);
            (piece.right_shunt, piece.right_source) = (0.0, 0.0);
            piece.coupling = match (piece.left, piece.right) {
                (Some(l), Some(r)) => 1.0 / ladder.loop_ohms(ladder.ports[l].at_m, ladder.ports[r].at_m),
                _ => 0.0,
            };
        }
    }

    /// The voltage along bare copper, into `next`.
    pub fn spread(&mut self, ladder: &Ladder, port_v: impl Fn(usize) -> f64) {
        for p in &self.pieces {
            let next = &mut self.next[p.first_pixel..p.last_pixel];
            match (p.left, p.right) {
                (Some(l), Some(r)) => {
                    let (from, va) = (ladder.ports[l].at_m, port_v(l));
                    let slope = (port_v(r) - va) / (ladder.ports[r].at_m - from).max(SHORTEST_GAP_M);
                    for (k, v) in next.iter_mut().enumerate() {
                        *v = va + slope * (ladder.position(p.first_pixel + k) - from);
                    }
                }
                (Some(port), None) | (None, Some(port)) => next.fill(port_v(port)),
                (None, None) => {}
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
