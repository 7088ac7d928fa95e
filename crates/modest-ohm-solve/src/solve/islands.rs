//! Which part of the network is alive: joined to a supply by conductors, by diodes in their forward direction, by
//! regulators and converters that are fed.

use crate::network::Groups;
use crate::network::{Law, Lies, Network};

/// Alive vertices and branches, and the vertices held at 0 V.
#[derive(Debug)]
pub(crate) struct Islands {
    pub vertex: Vec<bool>,
    pub branch: Vec<bool>,
    pub ladder: Vec<bool>,
    pub reference: Vec<bool>,
}

/// What is fed: vertices, branches and ladders, and the vertices from which potentials are counted.
pub(crate) fn islands(net: &Network) -> Islands {
    let vertex = fed_vertices(net);
    let mut whole = Groups::new(net.vertices);
    let mut branch = vec![false; net.branches.len()];
    let mut fed_outputs = vec![false; net.branches.len()];
    for b in &net.branches {
        if let Law::ConverterInput { output, .. } = b.law {
            fed_outputs[output] = vertex[b.from] && vertex[b.to];
        }
    }
    for (i, b) in net.branches.iter().enumerate() {
        let ends = vertex[b.from] && vertex[b.to];
        branch[i] = ends
            && match b.law {
                Law::Source { .. } => net.supplies.contains(&i) || fed_outputs[i],
                Law::Regulator { common, .. } => vertex[common],
                _ => true,
            };
        if branch[i] && !b.law.is_demand() {
            whole.join(b.from, b.to);
        }
    }
    for ladder in &net.ladders {
        for pair in ladder.ports.windows(2) {
            whole.join(pair[0].plus, pair[1].plus);
            whole.join(pair[0].minus, pair[1].minus);
        }
    }
    let ladder = net.ladders.iter().map(|l| l.ports.iter().any(|p| vertex[p.plus] && vertex[p.minus])).collect();
    let mut reference = vec![false; net.vertices];
    let mut has_reference = vec![false; net.vertices];
    for v in &net.source_minus {
        let root = whole.find(*v);
        if vertex[*v] && !std::mem::replace(&mut has_reference[root], true) {
            reference[*v] = true;
        }
    }
    Islands { vertex, branch, ladder, reference }
}

/// Conductor islands grow from the supplies; a converter's output is a source only once its input is alive.
fn fed_vertices(net: &Network) -> Vec<bool> {
    let mut copper = Groups::new(net.vertices);
    for b in &net.branches {
        if matches!(b.law, Law::Conductor { .. } | Law::Copper { .. }) {
            copper.join(b.from, b.to);
        }
    }
    for ladder in &net.ladders {
        for pair in ladder.ports.windows(2) {
            copper.join(pair[0].plus, pair[1].plus);
            copper.join(pair[0].minus, pair[1].minus);
        }
    }
    let mut alive = vec![false; net.vertices];
    for s in &net.supplies {
        for v in [net.branches[*s].from, net.branches[*s].to] {
            alive[copper.find(v)] = true;
        }
    }
    // Each pass can only wake more; it ends when a pass wakes nothing.
    loop {
        let mut woke = false;
        let mut wake = |copper: &mut Groups, alive: &mut Vec<bool>, v: usize| {
            let root = copper.find(v);
            woke |= !std::mem::replace(&mut alive[root], true);
        };
        for b in &net.branches {
            let both = |copper: &mut Groups, alive: &[bool]| alive[copper.find(b.from)] && alive[copper.find(b.to)];
            match b.law {
                Law::ConverterInput { output, .. } if both(&mut copper, &alive) => {
                    wake(&mut copper, &mut alive, net.branches[output].from);
                    wake(&mut copper, &mut alive, net.branches[output].to);
                }
                Law::Regulator { common, .. } if alive[copper.find(b.from)] && alive[copper.find(common)] => {
                    wake(&mut copper, &mut alive, b.to);
                }
                // Only forwards: what a diode keeps from every source is dead.
                Law::Diode { lies: Lies::InFeed, .. } if alive[copper.find(b.from)] => {
                    wake(&mut copper, &mut alive, b.to);
                }
                Law::Diode { lies: Lies::InReturn, .. } if alive[copper.find(b.to)] => {
                    wake(&mut copper, &mut alive, b.from);
                }
                _ => {}
            }
        }
        if !woke {
            break;
        }
    }
    (0..net.vertices).map(|v| alive[copper.find(v)]).collect()
}
