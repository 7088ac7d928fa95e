//! A strip in the network: ladders, one a piece of it, or a fan of one feed and a return a colour.

use crate::solve::Port;

/// A piece of a strip that has a ladder of its own: between + cuts and between rows.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Section {
    /// Index of its ladder.
    pub ladder: usize,
    pub first_pixel: usize,
}

/// One strip of the plan.
#[derive(Clone, Debug, Default)]
pub(crate) struct StripNet {
    pub sections: Vec<Section>,
    pub fan: Option<Fan>,
    /// Where something is connected to it, in order of position from its start.
    pub ports: Vec<Port>,
    pub pixels: usize,
    pub per_m: f64,
}

/// A plain strip whose colours have a return each.
#[derive(Clone, Debug, Default)]
pub(crate) struct Fan {
    /// Per group: the + beside it.
    pub plus: Vec<usize>,
    /// Per colour, per group: the − of that colour beside it.
    pub minus: Vec<Vec<usize>>,
    /// Per colour, per group: the branch of its LEDs.
    pub strings: Vec<Vec<usize>>,
    /// Full current of a string, per colour, A.
    pub full_a: Vec<f64>,
    pub feed_ohm_per_m: f64,
    /// Of each return.
    pub return_ohm_per_m: f64,
    /// Branches of the feed copper, none where it is cut, and of the return copper per colour, in the same order.
    pub feed_copper: Vec<Option<usize>>,
    pub return_copper: Vec<Vec<usize>>,
    /// Per port: its feed branch and its return branches.
    pub leads: Vec<(usize, Vec<usize>)>,
}
