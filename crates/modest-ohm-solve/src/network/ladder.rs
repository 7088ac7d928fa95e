//! A strip as the solver sees it: two copper tracks, pixels at equal distances, and where it is connected.

/// Gaps shorter than this count as this, so that a feed soldered onto a pixel stays a number.
pub(crate) const SHORTEST_GAP_M: f64 = 1e-9;

/// One clamp of a pixel's law: `amps · clamp((v − start) · slope, 0, 1)`.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Clamp {
    /// Current once fully on, A.
    pub amps: f64,
    /// Voltage at which current begins, V.
    pub start_v: f64,
    /// 1/V.
    pub slope: f64,
}

/// The pixel law as a sum of clamps: the quiescent current and one per colour.
#[derive(Clone, Debug, PartialEq)]
pub struct PixelLaw {
    /// One per current source in the pixel.
    pub clamps: Vec<Clamp>,
}

impl PixelLaw {
    /// Current at a voltage, A.
    pub fn current(&self, v: f64) -> f64 {
        self.clamps.iter().map(|c| c.amps * ((v - c.start_v) * c.slope).clamp(0.0, 1.0)).sum()
    }

    /// The steepest the law can be, 1/Ω.
    pub fn steepest(&self) -> f64 {
        self.clamps.iter().map(|c| c.amps * c.slope).sum()
    }

    /// Current when every colour is at its full current.
    pub fn full(&self) -> f64 {
        self.clamps.iter().map(|c| c.amps).sum()
    }
}

/// Where a strip is connected.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Port {
    /// Position from the start of the strip, m.
    pub at_m: f64,
    /// Vertex of the feed track there.
    pub plus: usize,
    /// Vertex of the return track there.
    pub minus: usize,
}

/// A strip's figures in one corner.
#[derive(Clone, Debug, PartialEq)]
pub struct Ladder {
    /// Number of pixels.
    pub pixels: usize,
    /// Pixels per metre.
    pub per_m: f64,
    /// Half a pitch before its first pixel, from where its positions count.
    pub first_m: f64,
    /// Resistance of the feed track, Ω/m.
    pub feed_ohm_per_m: f64,
    /// Resistance of the return track, Ω/m.
    pub return_ohm_per_m: f64,
    /// The current of one pixel by its voltage.
    pub law: PixelLaw,
    /// In order of position.
    pub ports: Vec<Port>,
}

impl Ladder {
    /// Position of a pixel from the start of the strip, m.
    pub fn position(&self, pixel: usize) -> f64 {
        self.first_m + (pixel as f64 + 0.5) / self.per_m
    }

    /// w = r₋/(r₊ + r₋).
    pub fn weight(&self) -> f64 {
        self.return_ohm_per_m / (self.feed_ohm_per_m + self.return_ohm_per_m)
    }

    /// Resistance of both tracks in series, Ω/m.
    pub fn loop_ohm_per_m(&self) -> f64 {
        self.feed_ohm_per_m + self.return_ohm_per_m
    }

    /// Feed and return copper in series between two places.
    pub fn loop_ohms(&self, from_m: f64, to_m: f64) -> f64 {
        self.loop_ohm_per_m() * (to_m - from_m).max(SHORTEST_GAP_M)
    }

    /// The return copper between neighbouring ports: from, to, Ω.
    pub fn return_pieces(&self) -> impl Iterator<Item = (usize, usize, f64)> + '_ {
        let ohms = |a: &Port, b: &Port| self.return_ohm_per_m * (b.at_m - a.at_m).max(SHORTEST_GAP_M);
        self.ports.windows(2).map(move |p| (p[0].minus, p[1].minus, ohms(&p[0], &p[1])))
    }
}
