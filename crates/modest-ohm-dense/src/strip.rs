//! A strip solved the slow way: every conductor of every pixel is a node of a dense matrix, tangents taken until
//! nothing changes. Shares nothing with the product.

/// One LED string or pixel colour between two nodes: current at voltage.
#[derive(Clone, Copy)]
pub enum Draws {
    /// current · clamp((v − start)/(full − start), 0, 1)
    Clamped { amps: f64, start: f64, full: f64 },
    /// (v − start)/resistance above start
    Resistor { start: f64, ohms: f64 },
}

impl Draws {
    /// Amps and their slope.
    pub fn at(self, v: f64) -> (f64, f64) {
        match self {
            Draws::Clamped { amps, start, full } if v > start && v < full => {
                (amps * (v - start) / (full - start), amps / (full - start))
            }
            Draws::Clamped { amps, full, .. } => (if v >= full { amps } else { 0.0 }, 0.0),
            Draws::Resistor { start, ohms } => {
                if v > start {
                    ((v - start) / ohms, 1.0 / ohms)
                } else {
                    (0.0, 0.0)
                }
            }
        }
    }
}

/// Node 0 is the − of the source, node 1 its +, held at `volts`.
#[derive(Default)]
pub struct Dense {
    pub nodes: usize,
    pub volts: f64,
    pub wires: Vec<(usize, usize, f64)>,
    pub loads: Vec<(usize, usize, Draws)>,
}

impl Dense {
    pub fn new(volts: f64) -> Self {
        Self { nodes: 2, volts, ..Self::default() }
    }

    pub fn node(&mut self) -> usize {
        self.nodes += 1;
        self.nodes - 1
    }

    pub fn wire(&mut self, a: usize, b: usize, ohms: f64) {
        self.wires.push((a, b, ohms));
    }

    /// The potentials of all nodes.
    pub fn solve(&self) -> Vec<f64> {
        let mut v = vec![0.0; self.nodes];
        // Full voltage everywhere on the + side is where the upper branch begins.
        for l in &self.loads {
            v[l.0] = self.volts;
        }
        for _ in 0..500 {
            let next = self.step(&v);
            let moved = v.iter().zip(&next).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
            // Half steps occasionally, so that a tangent that flips to and fro settles.
            for (old, new) in v.iter_mut().zip(&next) {
                *old = 0.5f64.mul_add(*new - *old, *old);
            }
            if moved < 1e-11 {
                return next;
            }
        }
        panic!("the dense method did not settle");
    }

    fn step(&self, v: &[f64]) -> Vec<f64> {
        let n = self.nodes;
        let mut m = vec![vec![0.0; n + 1]; n];
        let mut stamp = |a: usize, b: usize, g: f64, amps: f64| {
            for (from, to, sign) in [(a, b, 1.0), (b, a, -1.0)] {
                m[from][from] += g;
                m[from][to] -= g;
                m[from][n] -= sign * amps;
            }
        };
        for (a, b, ohms) in &self.wires {
            stamp(*a, *b, 1.0 / ohms, 0.0);
        }
        for (a, b, draws) in &self.loads {
            let across = v[*a] - v[*b];
            let (amps, slope) = draws.at(across);
            stamp(*a, *b, slope, amps - slope * across);
        }
        for (node, held) in [(0, 0.0), (1, self.volts)] {
            m[node] = vec![0.0; n + 1];
            (m[node][node], m[node][n]) = (1.0, held);
        }
        eliminate(m)
    }
}

/// Gauss with column pivots.
fn eliminate(mut m: Vec<Vec<f64>>) -> Vec<f64> {
    let n = m.len();
    for c in 0..n {
        let pivot = (c..n).max_by(|a, b| m[*a][c].abs().total_cmp(&m[*b][c].abs())).unwrap();
        m.swap(c, pivot);
        for r in c + 1..n {
            let factor = m[r][c] / m[c][c];
            if factor != 0.0 {
                let pivot_row = m[c].clone();
                m[r][c..].iter_mut().zip(&pivot_row[c..]).for_each(|(x, p)| *x -= factor * p);
            }
        }
    }
    let mut x = vec![0.0; n];
    for r in (0..n).rev() {
        let known: f64 = (r + 1..n).map(|k| m[r][k] * x[k]).sum();
        x[r] = (m[r][n] - known) / m[r][r];
    }
    x
}
