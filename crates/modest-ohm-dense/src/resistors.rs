//! Resistors between sources and ground.

use nalgebra::{DMatrix, DVector};

/// Voltage at node 1 of a network of resistors: node 0 is ground, sources are connected to nodes of their own. Dense,
/// by Kirchhoff.
pub fn node_volts(resistors: &[(usize, usize, f64)], held: &[(usize, f64)], into: &[(usize, f64)]) -> f64 {
    let nodes = resistors.iter().map(|r| r.0.max(r.1)).max().unwrap() + 1;
    let mut g = DMatrix::<f64>::zeros(nodes, nodes);
    let mut i = DVector::<f64>::zeros(nodes);
    for (a, b, ohms) in resistors {
        g[(*a, *a)] += 1.0 / ohms;
        g[(*b, *b)] += 1.0 / ohms;
        g[(*a, *b)] -= 1.0 / ohms;
        g[(*b, *a)] -= 1.0 / ohms;
    }
    for (at, amps) in into {
        i[*at] += amps;
    }
    for (at, volts) in held.iter().chain([&(0, 0.0)]) {
        g.row_mut(*at).fill(0.0);
        g[(*at, *at)] = 1.0;
        i[*at] = *volts;
    }
    g.lu().solve(&i).unwrap()[1]
}
