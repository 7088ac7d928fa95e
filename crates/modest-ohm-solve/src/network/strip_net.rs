//! A strip in the network: ladders, one a piece of it, or a fan of one feed and a return a colour.

use super::Port;

/// A piece of a strip that has a ladder of its own: between + cuts and between rows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Section {
    /// Index of its ladder.
    pub ladder: usize,
    /// Index of its first pixel in the strip.
    pub first_pixel: usize,
}

/// One strip of the plan.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct StripNet {
    /// Its pieces, in order.
    pub sections: Vec<Section>,
    /// Set for a strip with a return per colour.
    pub fan: Option<Fan>,
    /// Where something is connected to it, in order of position from its start.
    pub ports: Vec<Port>,
    /// Number of pixels.
    pub pixels: usize,
    /// Pixels per metre.
    pub per_m: f64,
}

/// A plain strip whose colours have a return each.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Fan {
    /// Per group: the + beside it.
    pub plus: Vec<usize>,
    /// Per colour, per group: the − of that colour beside it.
    pub minus: Vec<Vec<usize>>,
    /// Per colour, per group: the branch of its LEDs.
    pub strings: Vec<Vec<usize>>,
    /// Full current of a string, per colour, A.
    pub full_a: Vec<f64>,
    /// Resistance of the feed copper, Ω/m.
    pub feed_ohm_per_m: f64,
    /// Of each return.
    pub return_ohm_per_m: f64,
    /// Branches of the feed copper, none where it is cut, and of the return copper per colour, in the same order.
    pub feed_copper: Vec<Option<usize>>,
    /// Branches of the return copper, per colour, in the order of `feed_copper`.
    pub return_copper: Vec<Vec<usize>>,
    /// Per port: its feed branch and its return branches.
    pub leads: Vec<(usize, Vec<usize>)>,
}
