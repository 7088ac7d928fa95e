//! The second method: every node and every pixel a pair of unknown potentials, one dense matrix, Newton with halved
//! steps, demands grown from nothing to their full size. Slow, plain, and without anything of the first method.

use nalgebra::{DMatrix, DVector};

use crate::model::{Case, Law, Supply};

/// What the second method found.
pub struct Solved {
    /// + and − of every node.
    pub node: Vec<(f64, f64)>,
    /// Voltage of every pixel of every strip.
    pub pixels: Vec<Vec<f64>>,
    /// Current out of every source.
    pub source_a: Vec<f64>,
    /// Current out of every converter.
    pub converter_a: Vec<f64>,
    /// Current into + of every feed of every strip.
    pub feed_a: Vec<Vec<f64>>,
}

/// Two-terminal elements between unknowns.
enum Element {
    Ohms(usize, usize, f64),
    /// From − to +.
    Source(usize, usize, Supply),
    Load(usize, usize, Law),
    /// current·clamp((v − vf)/(vreg − vf), 0, 1).
    Clamp(usize, usize, f64, f64, f64),
    /// Anode, cathode, forward voltage, resistance with that of its cable.
    Diode(usize, usize, f64, f64),
    /// Input +, output +, common −, voltage, resistance, dropout.
    Linear(usize, usize, usize, f64, f64, f64),
    /// Input +, input −, output +, output −.
    Converter(usize, usize, usize, usize, f64, f64),
}

struct Net {
    unknowns: usize,
    elements: Vec<Element>,
    grounded: Vec<usize>,
}

/// A conductor of no resistance would not fit a conductance matrix.
const LEAST: f64 = 1e-7;
/// A regulator in dropout follows its input over this, Ω.
const FOLLOWS: f64 = 1e-6;

impl Net {
    fn pair(&mut self) -> (usize, usize) {
        self.unknowns += 2;
        (self.unknowns - 2, self.unknowns - 1)
    }

    fn ohms(&mut self, a: usize, b: usize, ohms: f64) {
        self.elements.push(Element::Ohms(a, b, ohms.max(LEAST)));
    }
}

fn source_current(s: &Supply, v: f64) -> (f64, f64) {
    let amps = (s.emf - v) / s.ohms;
    let limit = s.limit.unwrap_or(f64::INFINITY);
    if amps > limit {
        (limit, 0.0)
    } else if amps < 0.0 && !s.sinks {
        (0.0, 0.0)
    } else {
        (amps, -1.0 / s.ohms)
    }
}

fn load_current(law: Law, v: f64) -> (f64, f64) {
    match law {
        Law::Current { amps, knee } => {
            if v <= 0.0 {
                (0.0, 0.0)
            } else if v < knee {
                (amps * v / knee, amps / knee)
            } else {
                (amps, 0.0)
            }
        }
        Law::Ohms(ohms) => {
            if v > 0.0 {
                (v / ohms, 1.0 / ohms)
            } else {
                (0.0, 0.0)
            }
        }
        Law::Watts(watts) => (watts / v, -watts / (v * v)),
    }
}

/// Currents out of every unknown's node, and their derivatives.
#[expect(clippy::too_many_lines, reason = "one law after another, as on paper")]
fn residual(net: &Net, x: &DVector<f64>, scale: f64, jacobian: Option<&mut DMatrix<f64>>) -> DVector<f64> {
    let n = net.unknowns;
    let mut f = DVector::zeros(n);
    let mut local = DMatrix::zeros(0, 0);
    let j = match jacobian {
        Some(j) => j,
        None => &mut local,
    };
    let want = j.nrows() > 0;
    let mut two = |a: usize, b: usize, amps: f64, slope: f64, j: &mut DMatrix<f64>| {
        f[a] += amps;
        f[b] -= amps;
        if want {
            j[(a, a)] += slope;
            j[(a, b)] -= slope;
            j[(b, a)] -= slope;
            j[(b, b)] += slope;
        }
    };
    for e in &net.elements {
        match e {
            Element::Ohms(a, b, ohms) => two(*a, *b, (x[*a] - x[*b]) / ohms, 1.0 / ohms, j),
            Element::Source(m, p, s) => {
                let (amps, slope) = source_current(s, x[*p] - x[*m]);
                two(*p, *m, -amps, -slope, j);
            }
            Element::Load(p, m, law) => {
                let (amps, slope) = load_current(*law, x[*p] - x[*m]);
                two(*p, *m, scale * amps, scale * slope, j);
            }
            Element::Clamp(p, m, amps, vf, vreg) => {
                let t = (x[*p] - x[*m] - vf) / (vreg - vf);
                let slope = if t > 0.0 && t < 1.0 { amps / (vreg - vf) } else { 0.0 };
                two(*p, *m, scale * amps * t.clamp(0.0, 1.0), scale * slope, j);
            }
            Element::Diode(a, k, vf, ohms) => {
                let over = x[*a] - x[*k] - vf;
                let (amps, slope) = if over > 0.0 { (over / ohms, 1.0 / ohms) } else { (0.0, 0.0) };
                two(*a, *k, amps, slope, j);
            }
            Element::Linear(..) | Element::Converter(..) => {}
        }
    }
    for e in &net.elements {
        let Element::Linear(p, o, m, volts, ohms, dropout) = e else { continue };
        // The smaller of what regulation and what the input would give, and nothing backwards.
        let by_volts = (volts - (x[*o] - x[*m])) / ohms;
        let by_input = (x[*p] - dropout - x[*o]) / FOLLOWS;
        let amps = by_volts.min(by_input).max(0.0);
        f[*p] += amps;
        f[*o] -= amps;
        if want && by_volts.min(by_input) >= 0.0 {
            for (row, sign) in [(*p, 1.0), (*o, -1.0)] {
                if by_volts < by_input {
                    j[(row, *o)] -= sign / ohms;
                    j[(row, *m)] += sign / ohms;
                } else {
                    j[(row, *p)] += sign / FOLLOWS;
                    j[(row, *o)] -= sign / FOLLOWS;
                }
            }
        }
    }
    for e in &net.elements {
        let Element::Converter(p, m, op, om, efficiency, quiescent) = e else { continue };
        let out = net.elements.iter().find_map(|e| match e {
            Element::Source(sm, sp, s) if sp == op && sm == om => Some(s),
            _ => None,
        });
        let v = x[*op] - x[*om];
        let (amps, slope) = source_current(out.unwrap(), v);
        let watts = scale * (v * amps / efficiency + quiescent);
        let dwatts = scale * (amps + v * slope) / efficiency;
        let vin = x[*p] - x[*m];
        f[*p] += watts / vin;
        f[*m] -= watts / vin;
        if want {
            for (row, sign) in [(*p, 1.0), (*m, -1.0)] {
                j[(row, *p)] -= sign * watts / (vin * vin);
                j[(row, *m)] += sign * watts / (vin * vin);
                j[(row, *op)] += sign * dwatts / vin;
                j[(row, *om)] -= sign * dwatts / vin;
            }
        }
    }
    for g in &net.grounded {
        f[*g] = x[*g];
        if want {
            j.row_mut(*g).fill(0.0);
            j[(*g, *g)] = 1.0;
        }
    }
    f
}

/// Newton from a start; `None` where it does not settle.
fn newton(net: &Net, mut x: DVector<f64>, scale: f64) -> Option<DVector<f64>> {
    for _ in 0..80 {
        let mut j = DMatrix::zeros(net.unknowns, net.unknowns);
        let f = residual(net, &x, scale, Some(&mut j));
        // A trace of conductance everywhere, so that a node on saturated elements alone has a place to be.
        for i in 0..net.unknowns {
            j[(i, i)] += 1e-12;
        }
        let step = j.lu().solve(&f)?;
        if step.amax() < 1e-11 {
            return Some(x);
        }
        let before = f.norm();
        let mut share = 1.0;
        while share > 1e-6
            && residual(net, &(&x - &step * share), scale, None).norm() > before * (1.0 - 0.1 * share) + 1e-9
        {
            share *= 0.5;
        }
        x -= step * share;
        if share <= 1e-6 {
            return None;
        }
    }
    None
}

struct Places {
    node: Vec<(usize, usize)>,
    pixels: Vec<Vec<(usize, usize)>>,
    feeds: Vec<Vec<(usize, usize, f64)>>,
}

#[expect(clippy::too_many_lines, reason = "one kind of element after another")]
fn build(case: &Case) -> (Net, Places) {
    let mut net = Net { unknowns: 0, elements: Vec::new(), grounded: Vec::new() };
    let mut node: Vec<(usize, usize)> = (0..case.nodes).map(|_| net.pair()).collect();
    for c in &case.converters {
        // An isolated output has its own 0 V; else its − is the input's −, and the number of its own goes unused, at 0
        // V.
        let own = node[c.output.node].1;
        net.grounded.push(own);
        if !c.isolated {
            node[c.output.node].1 = node[c.input].1;
        }
    }
    for l in &case.linears {
        let own = node[l.node].1;
        net.grounded.push(own);
        node[l.node].1 = node[l.input].1;
        net.elements.push(Element::Linear(node[l.input].0, node[l.node].0, node[l.node].1, l.volts, l.ohms, l.dropout));
        let own = Law::Current { amps: l.own, knee: 1.0 };
        net.elements.push(Element::Load(node[l.input].0, node[l.input].1, own));
    }
    for (a, b, ohms) in &case.links {
        net.ohms(node[*a].0, node[*b].0, *ohms);
    }
    for s in case.supplies.iter().chain(case.converters.iter().map(|c| &c.output)) {
        let (p, m) = node[s.node];
        net.elements.push(Element::Source(m, p, s.clone()));
    }
    net.grounded.push(node[case.supplies[0].node].1);
    for l in &case.leads {
        match l.diode {
            Some((vf, ohms)) => {
                net.elements.push(Element::Diode(node[l.from].0, node[l.to].0, vf, ohms + l.feed));
            }
            None => net.ohms(node[l.from].0, node[l.to].0, l.feed),
        }
        net.ohms(node[l.back_to].1, node[l.to].1, l.back);
    }
    for c in &case.converters {
        let ((p, m), (op, om)) = (node[c.input], node[c.output.node]);
        net.elements.push(Element::Converter(p, m, op, om, c.efficiency, c.quiescent));
    }
    for (n, law) in &case.loads {
        net.elements.push(Element::Load(node[*n].0, node[*n].1, *law));
    }
    for (a, b, ohms) in &case.ties {
        net.ohms(node[*a].1, node[*b].1, *ohms);
    }
    let (mut pixels, mut feeds) = (Vec::new(), Vec::new());
    for s in &case.strips {
        let own: Vec<(usize, usize)> = (0..s.pixels).map(|_| net.pair()).collect();
        let mut points: Vec<(f64, (usize, usize))> =
            own.iter().enumerate().map(|(k, pair)| ((k as f64 + 0.5) / s.per_m, *pair)).collect();
        let mut ends = Vec::new();
        for (at, lead) in &s.feeds {
            let pair = net.pair();
            net.ohms(node[lead.from].0, pair.0, lead.feed);
            net.ohms(node[lead.back_to].1, pair.1, lead.back);
            ends.push((node[lead.from].0, pair.0, lead.feed.max(LEAST)));
            points.push((*at, pair));
        }
        points.sort_by(|a, b| a.0.total_cmp(&b.0));
        for w in points.windows(2) {
            let gap = w[1].0 - w[0].0;
            net.ohms(w[0].1.0, w[1].1.0, gap * s.copper.0);
            net.ohms(w[0].1.1, w[1].1.1, gap * s.copper.1);
        }
        for (p, m) in &own {
            net.elements.push(Element::Clamp(*p, *m, s.quiescent, 0.0, 1.5));
            for (amps, vf, vreg) in &s.colours {
                net.elements.push(Element::Clamp(*p, *m, s.light * amps, *vf, *vreg));
            }
        }
        pixels.push(own);
        feeds.push(ends);
    }
    (net, Places { node, pixels, feeds })
}

/// Solves a case; `None` where the second method does not settle.
pub fn solve(case: &Case) -> Option<Solved> {
    // Every + starts at the voltage of what feeds it.
    let mut volts = vec![0.0; case.nodes];
    for s in case.supplies.iter().chain(case.converters.iter().map(|c| &c.output)) {
        volts[s.node] = s.emf;
    }
    for l in &case.leads {
        volts[l.to] = volts[l.from];
    }
    for l in &case.linears {
        volts[l.node] = l.volts.min(volts[l.input]);
    }
    for l in &case.leads {
        volts[l.to] = volts[l.from];
    }
    let (net, places) = build(case);
    let mut x = start(&net, &places, case, &volts.iter().map(|v| (*v, 0.0)).collect::<Vec<_>>());
    for step in 0..=20 {
        x = newton(&net, x, f64::from(step) / 20.0)?;
    }
    Some(read(case, &places, &x))
}

/// As [`solve`], at full demand from the start, near given potentials of the nodes: where there are two solutions the
/// one that was meant.
pub fn solve_near(case: &Case, nodes: &[(f64, f64)]) -> Option<Solved> {
    let (net, places) = build(case);
    let x = newton(&net, start(&net, &places, case, nodes), 1.0)?;
    Some(read(case, &places, &x))
}

fn start(net: &Net, places: &Places, case: &Case, nodes: &[(f64, f64)]) -> DVector<f64> {
    let mut x = DVector::zeros(net.unknowns);
    for ((p, m), (plus, minus)) in places.node.iter().zip(nodes) {
        (x[*p], x[*m]) = (*plus, *minus);
    }
    for (s, (own, ends)) in case.strips.iter().zip(places.pixels.iter().zip(&places.feeds)) {
        let (plus, minus) = nodes[s.feeds[0].1.from];
        own.iter().for_each(|(p, m)| (x[*p], x[*m]) = (plus, minus));
        ends.iter().for_each(|(_, p, _)| (x[*p], x[*p + 1]) = (plus, minus));
    }
    x
}

fn read(case: &Case, places: &Places, x: &DVector<f64>) -> Solved {
    let volts = |(p, m): (usize, usize)| x[p] - x[m];
    let out = |s: &Supply| source_current(s, volts(places.node[s.node])).0;
    Solved {
        node: places.node.iter().map(|(p, m)| (x[*p], x[*m])).collect(),
        pixels: places.pixels.iter().map(|own| own.iter().map(|pair| volts(*pair)).collect()).collect(),
        source_a: case.supplies.iter().map(out).collect(),
        converter_a: case.converters.iter().map(|c| out(&c.output)).collect(),
        feed_a: places.feeds.iter().map(|f| f.iter().map(|(a, b, r)| (x[*a] - x[*b]) / r).collect()).collect(),
    }
}
