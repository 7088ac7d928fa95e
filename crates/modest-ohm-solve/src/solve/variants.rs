//! Random networks and their neighbours: warm starts against cold ones, derivatives against differences.

use super::{Limits, Measure, Solution, SolveError, Tangent, Workspace, solve, solve_from, solve_like};
use crate::network::{Branch, Clamp, Ladder, Law, Lies, Network, PixelLaw, Port};

/// More of them on demand.
fn cases(by_default: usize) -> usize {
    std::env::var("VARIANTS").ok().and_then(|n| n.parse().ok()).unwrap_or(by_default)
}

/// SplitMix64 (Steele, Lea and Flood, 2014).
struct Dice(u64);

impl Dice {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    fn unit(&mut self) -> f64 {
        (self.next() >> 11) as f64 / (1u64 << 53) as f64
    }

    fn within(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.unit()
    }

    fn pick(&mut self, n: usize) -> usize {
        (self.next() % n as u64) as usize
    }

    fn chance(&mut self, share: f64) -> bool {
        self.unit() < share
    }
}

/// A network in the making; vertex 0 is the common 0 V.
struct Maker<'d> {
    net: Network,
    dice: &'d mut Dice,
}

impl Maker<'_> {
    fn vertex(&mut self) -> usize {
        self.net.vertices += 1;
        self.net.vertices - 1
    }

    fn branch(&mut self, from: usize, to: usize, law: Law) -> usize {
        self.net.branches.push(Branch { from, to, law });
        self.net.branches.len() - 1
    }

    fn lead(&mut self, from: usize, to: usize, most_ohms: f64) {
        let ohms = self.dice.within(0.005, most_ohms);
        let (rise, ampacity) =
            if self.dice.chance(0.5) { (0.2, self.dice.within(2.0, 9.0)) } else { (0.0, f64::INFINITY) };
        self.branch(from, to, Law::Conductor { ohms, rise, ampacity });
    }

    /// The + and − at the end of a cable from a rail.
    fn end_of_cable(&mut self, (plus, minus): (usize, usize), most_ohms: f64) -> (usize, usize) {
        let end = (self.vertex(), self.vertex());
        self.lead(plus, end.0, most_ohms);
        self.lead(minus, end.1, most_ohms);
        end
    }

    fn limit(&mut self) -> f64 {
        if self.dice.chance(0.4) { self.dice.within(1.0, 5.0) } else { f64::INFINITY }
    }

    /// One to three supplies onto a bus of 12 V, through diodes where there are several.
    fn bus(&mut self) -> (usize, usize) {
        let bus = self.vertex();
        let supplies = 1 + self.dice.pick(3);
        for _ in 0..supplies {
            let plus = self.vertex();
            let law = Law::Source {
                emf: self.dice.within(11.4, 12.6),
                ohms: self.dice.within(0.01, 0.2),
                limit: self.limit(),
                sinks: false,
            };
            let branch = self.branch(0, plus, law);
            self.net.supplies.push(branch);
            if supplies > 1 {
                let after = self.vertex();
                self.lead(plus, after, 0.1);
                let law = Law::Diode {
                    vf: self.dice.within(0.3, 0.5),
                    ohms: self.dice.within(0.01, 0.05),
                    reverse: f64::INFINITY,
                    lies: Lies::InFeed,
                };
                self.branch(after, bus, law);
            } else {
                self.lead(plus, bus, 0.1);
            }
        }
        self.net.source_minus.push(0);
        (bus, 0)
    }

    /// A step-down converter or a linear regulator on a rail; its rail.
    fn converter(&mut self, rail: (usize, usize)) -> (usize, usize) {
        let (plus, minus) = self.end_of_cable(rail, 0.1);
        let out = self.vertex();
        let volts = self.dice.within(4.9, 5.2);
        if self.dice.chance(0.3) {
            let law = Law::Regulator {
                common: minus,
                volts,
                ohms: self.dice.within(0.005, 0.05),
                dropout: self.dice.within(0.2, 1.5),
                limit: self.limit(),
            };
            self.branch(plus, out, law);
        } else {
            let law =
                Law::Source { emf: volts, ohms: self.dice.within(0.005, 0.05), limit: self.limit(), sinks: false };
            let output = self.branch(minus, out, law);
            let efficiency = self.dice.within(0.7, 0.95);
            self.branch(plus, minus, Law::ConverterInput { output, efficiency, quiescent_w: 0.05 });
        }
        (out, minus)
    }

    fn load(&mut self, rail: (usize, usize), volts: f64) {
        let (plus, minus) = self.end_of_cable(rail, 0.3);
        let law = match self.dice.pick(5) {
            0 => Law::ConstantCurrent { amps: self.dice.within(0.05, 1.5), knee: 0.7 * volts },
            1 => Law::Resistive { siemens: self.dice.within(0.05, 1.5) / volts },
            2 => Law::LedString { vf: 0.6 * volts, siemens: self.dice.within(0.05, 1.0) / volts },
            _ => Law::ConstantPower { watts: self.dice.within(0.05, 1.6) * volts },
        };
        self.branch(plus, minus, law);
    }

    fn strip(&mut self, rails: &[(usize, usize)], volts: f64) {
        let pixels = 5 + self.dice.pick(60);
        let per_m = 60.0;
        let length = pixels as f64 / per_m;
        let mut places = vec![0.0];
        if self.dice.chance(0.6) {
            places.push(length);
        }
        if self.dice.chance(0.3) {
            places.insert(1, 0.5 * length);
        }
        let ports = places
            .into_iter()
            .map(|at_m| {
                let rail = rails[self.dice.pick(rails.len())];
                let (plus, minus) = self.end_of_cable(rail, 0.2);
                Port { at_m, plus, minus }
            })
            .collect();
        let clamp = |dice: &mut Dice, vf: f64| Clamp {
            amps: dice.within(0.002, 0.015),
            start_v: vf,
            slope: 1.0 / dice.within(0.3, 1.0),
        };
        let clamps = vec![clamp(self.dice, 0.5 * volts), clamp(self.dice, 0.7 * volts), clamp(self.dice, 0.2 * volts)];
        self.net.ladders.push(Ladder {
            pixels,
            per_m,
            first_m: 0.0,
            feed_ohm_per_m: self.dice.within(0.05, 0.4),
            return_ohm_per_m: self.dice.within(0.05, 0.4),
            law: PixelLaw { clamps },
            ports,
        });
    }
}

fn network(dice: &mut Dice) -> Network {
    let mut m = Maker { net: Network { vertices: 1, ..Network::default() }, dice };
    let bus = m.bus();
    let mut fives = Vec::new();
    for _ in 0..m.dice.pick(3) {
        let rail = m.converter(bus);
        fives.push(rail);
    }
    for _ in 0..1 + m.dice.pick(3) {
        m.load(bus, 12.0);
    }
    for rail in fives.clone() {
        for _ in 0..m.dice.pick(3) {
            m.load(rail, 5.0);
        }
    }
    if !fives.is_empty() && m.dice.chance(0.6) {
        m.strip(&fives, 5.0);
    }
    if m.dice.chance(0.3) {
        m.strip(&[bus], 12.0);
    }
    m.net
}

/// Everything a figure moves in a law, as places to change it.
fn figures(law: &mut Law) -> Vec<&mut f64> {
    match law {
        Law::Conductor { ohms, rise, .. } => vec![ohms, rise],
        Law::Copper { ohms } => vec![ohms],
        Law::Source { emf, ohms, limit, .. } => vec![emf, ohms, limit],
        Law::Regulator { volts, ohms, dropout, limit, .. } => vec![volts, ohms, dropout, limit],
        Law::Diode { vf, ohms, .. } => vec![vf, ohms],
        Law::ConverterInput { efficiency, quiescent_w, .. } => vec![efficiency, quiescent_w],
        Law::ConstantCurrent { amps, knee } => vec![amps, knee],
        Law::LedString { vf, siemens } => vec![vf, siemens],
        Law::Resistive { siemens } => vec![siemens],
        Law::ConstantPower { watts } => vec![watts],
    }
}

fn figures_of_ladder(ladder: &mut Ladder) -> Vec<&mut f64> {
    let clamps = ladder.law.clamps.iter_mut().flat_map(|c| [&mut c.amps, &mut c.start_v, &mut c.slope]);
    [&mut ladder.feed_ohm_per_m, &mut ladder.return_ohm_per_m].into_iter().chain(clamps).collect()
}

/// A neighbour: every finite figure moved by up to a share.
fn moved(net: &Network, share: f64, dice: &mut Dice) -> Network {
    let mut other = net.clone();
    let laws = other.branches.iter_mut().flat_map(|b| figures(&mut b.law));
    for figure in laws.chain(other.ladders.iter_mut().flat_map(figures_of_ladder)) {
        *figure *= 1.0 + share * dice.within(-1.0, 1.0);
    }
    for b in &mut other.branches {
        if let Law::ConverterInput { efficiency, .. } = &mut b.law {
            *efficiency = efficiency.min(0.98);
        }
    }
    other
}

fn limits(dice: &mut Dice) -> Limits {
    if dice.chance(0.5) { Limits::IN_FORCE } else { Limits::LIFTED }
}

/// A warm start finds what the cold one finds: the same voltages, and a collapse where there is one.
#[test]
fn warm_starts_agree_with_cold_ones() {
    let mut dice = Dice(1);
    let (mut compared, mut far) = (0, 0);
    let mut workspace = Workspace::default();
    while compared < cases(20_000) {
        let net = network(&mut dice);
        let limits = limits(&mut dice);
        let Ok(start) = solve(&net, limits, &mut workspace) else { continue };
        for _ in 0..8 {
            let share = [0.02, 0.1, 0.3, 0.6][dice.pick(4)];
            let other = moved(&net, share, &mut dice);
            let warm = solve_from(&other, limits, &start, &mut workspace);
            let like = solve_like(&other, limits, &start, &mut workspace);
            let cold = solve(&other, limits, &mut workspace);
            compared += 1;
            for pair in [(warm, cold.clone()), (like, cold)] {
                match pair {
                    (Ok(warm), Ok(cold)) => {
                        let worst =
                            |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
                        let apart = worst(&warm.potential, &cold.potential).max(worst(&warm.current, &cold.current));
                        assert!(apart < 1e-6, "{compared}: {apart}\n{other:#?}");
                    }
                    (Err(warm), Err(cold)) => {
                        assert_eq!(warm, cold);
                        far += 1;
                    }
                    (warm, cold) => {
                        panic!("{compared}: warm {:?}, cold {:?}\n{other:#?}", warm.err(), cold.err())
                    }
                }
            }
        }
    }
    assert!(far > compared / 100, "{far} of {compared} collapsed");
}

/// A quantity of each kind.
fn measures(net: &Network, solution: &Solution, dice: &mut Dice) -> Vec<Measure> {
    let b = &net.branches[dice.pick(net.branches.len())];
    let mut out = vec![Measure::voltage(b.from, b.to), Measure::current(dice.pick(net.branches.len()))];
    if !net.ladders.is_empty() {
        let ladder = dice.pick(net.ladders.len());
        out.push(Measure::pixel(ladder, solution.ladders[ladder].lowest.1));
    }
    out
}

fn value(measure: &Measure, solution: &Solution) -> f64 {
    let potentials: f64 = measure.potentials.iter().map(|(v, w)| w * solution.potential[*v]).sum();
    let currents: f64 = measure.currents.iter().map(|(b, w)| w * solution.current[*b]).sum();
    let pixels: f64 = measure.pixels.iter().map(|(l, p, w)| w * solution.state.pixels[*l][*p]).sum();
    potentials + currents + pixels
}

/// The same network with one figure changed, and what the adjoint says of it.
fn changed(net: &Network, place: usize, h: f64) -> (Network, Option<usize>, Option<usize>) {
    let mut other = net.clone();
    let mut at = place;
    for (i, b) in other.branches.iter_mut().enumerate() {
        let mut own = figures(&mut b.law);
        if at < own.len() {
            *own[at] += h;
            return (other, Some(i), None);
        }
        at -= own.len();
    }
    for (l, ladder) in other.ladders.iter_mut().enumerate() {
        let mut own = figures_of_ladder(ladder);
        if at < own.len() {
            *own[at] += h;
            return (other, None, Some(l));
        }
        at -= own.len();
    }
    (other, None, None)
}

fn figure(net: &Network, place: usize) -> f64 {
    let mut net = net.clone();
    let laws = net.branches.iter_mut().flat_map(|b| figures(&mut b.law));
    let all: Vec<f64> = laws.chain(net.ladders.iter_mut().flat_map(figures_of_ladder)).map(|f| *f).collect();
    all.get(place).copied().unwrap_or(f64::INFINITY)
}

/// Derivatives by the adjoint agree with central differences of cold solves, away from the knees of the laws.
#[test]
fn derivatives_agree_with_central_differences() {
    let mut dice = Dice(7);
    let mut workspace = Workspace::default();
    let mut compared = 0;
    while compared < cases(3_000) {
        let net = network(&mut dice);
        let limits = limits(&mut dice);
        let Ok(at) = solve(&net, limits, &mut workspace) else { continue };
        let mut other = Workspace::default();
        let Ok(mut tangent) = Tangent::new(&net, limits, &at, &mut other) else { continue };
        for measure in measures(&net, &at, &mut dice) {
            let adjoint = tangent.adjoint(&measure);
            for _ in 0..6 {
                let place = dice.pick(120);
                let theta = figure(&net, place);
                if !theta.is_finite() || theta == 0.0 {
                    continue;
                }
                let h = 1e-4 * theta.abs();
                // Two step widths that disagree straddle a knee.
                let mut solved = |h: f64| -> Result<f64, SolveError> {
                    let (net, ..) = changed(&net, place, h);
                    let there = solve(&net, limits, &mut workspace)?;
                    if there.state.modes != at.state.modes {
                        return Err(SolveError::Unsettled);
                    }
                    Ok(value(&measure, &there))
                };
                let mut slope = |h: f64| Some((solved(h).ok()? - solved(-h).ok()?) / (2.0 * h));
                let (Some(wide), Some(narrow)) = (slope(h), slope(0.5 * h)) else { continue };
                let scale = value(&measure, &at).abs().max(0.1) / theta.abs();
                if (wide - narrow).abs() > 1e-8 * scale {
                    continue;
                }
                let step = 1e-7 * theta.abs();
                let (net, branch, ladder) = changed(&net, place, step);
                let effect = match (branch, ladder) {
                    (Some(b), _) => tangent.effect(&adjoint, b, &net.branches[b].law),
                    (_, Some(l)) => tangent.effect_of_ladder(&adjoint, l, &net.ladders[l]),
                    _ => continue,
                };
                let got = effect.unwrap() / step;
                assert!(
                    (got - narrow).abs() <= 1e-6 * scale,
                    "{compared} {measure:?} {place} {theta}: {got} against {narrow}\n{net:#?}"
                );
                compared += 1;
            }
        }
    }
}
