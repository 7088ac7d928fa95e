//! Newton's method on the whole network, damped, from the unloaded (highest) voltages downwards.
//!
//! Each round replaces every non-linear law by its tangent, reduces the strips to their feed points, solves the sparse
//! rest for all potentials and branch currents at once, and goes as far along the step as the network's work function
//! allows: without converters the network is monotone, so the damped iteration always gets there. Constant-power
//! demands bend the work function the other way; they are followed from above on the upper branch, and running out of
//! it is reported as "no solution", never iterated around. Which sources hold their limit is settled between rounds.

use super::islands::{Islands, islands};
use super::ladder::LadderState;
use super::solution::{LadderSolution, PieceFlow, Solution};
use super::sparse::Rows;
use crate::network::{Law, Network};

/// What a solve may do.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Limits {
    /// False lifts the current limits of all sources: the wanted currents.
    pub sources_limit: bool,
    /// Multiplies every constant-power demand, converters' inputs included.
    pub power_scale: f64,
}

/// Why there is no solution.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum SolveError {
    /// The constant-power demands exceed what the feed can deliver.
    Collapsed,
    /// The iteration did not settle; never seen on a plan, and reported as such.
    Unsettled,
}

const MOST_ROUNDS: usize = 400;
const MOST_POWER_ROUNDS: usize = 120;
const MOST_MODE_CHANGES: usize = 60;
/// A converter whose input has fallen to this share of its unloaded volts has left the upper branch.
const LOST_SHARE: f64 = 0.02;
/// A source at its limit keeps this slope, so that a saturated load cannot leave its volts undefined.
const LIMIT_SIEMENS: f64 = 1e-9;

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Mode {
    /// A source holds its volts; a regulator regulates.
    Volts,
    /// A source holds its current limit; a regulator is in dropout.
    Limit,
    /// A source that would have to take current back.
    Blocked,
}

/// Solves the network.
///
/// # Errors
/// [`SolveError::Collapsed`] where constant-power demands have no solution.
pub(crate) fn solve(net: &Network, limits: Limits) -> Result<Solution, SolveError> {
    let mut run = Run::new(net, limits);
    run.start()?;
    for _ in 0..MOST_MODE_CHANGES {
        run.settle()?;
        if !run.change_modes() {
            return Ok(run.finish());
        }
    }
    Err(SolveError::Unsettled)
}

/// Volts along a conductor that warms with its current, and their slope.
fn warm(ohms: f64, rise: f64, ampacity: f64, amps: f64) -> (f64, f64) {
    let x = amps / ampacity;
    if rise == 0.0 || x.abs() >= 1.0 {
        let warmed = ohms * (1.0 + rise);
        return (warmed * amps, warmed);
    }
    (ohms * (1.0 + rise * x * x) * amps, ohms * (1.0 + 3.0 * rise * x * x))
}

struct Run<'a> {
    net: &'a Network,
    limits: Limits,
    islands: Islands,
    modes: Vec<Mode>,
    /// Row and column of a vertex or branch; `usize::MAX` where it has none.
    vertex_at: Vec<usize>,
    branch_at: Vec<usize>,
    /// First unknown of each ladder's pieces that join two ports: S, or J of a bare piece follows it.
    piece_at: Vec<Vec<usize>>,
    unknowns: usize,
    potential: Vec<f64>,
    current: Vec<f64>,
    /// Tangents of the demands: i = slope·v + offset.
    tangent: Vec<(f64, f64)>,
    ladders: Vec<LadderState>,
    flows: Vec<Vec<PieceFlow>>,
    unloaded: Vec<f64>,
    has_power: bool,
    /// True in the first solve, in which nothing draws current.
    unloaded_round: bool,
}

impl<'a> Run<'a> {
    fn new(net: &'a Network, limits: Limits) -> Self {
        let islands = islands(net);
        let mut unknowns = 0;
        let mut number = |wanted: bool| {
            if wanted {
                unknowns += 1;
                unknowns - 1
            } else {
                usize::MAX
            }
        };
        let vertex_at = (0..net.vertices).map(|v| number(islands.vertex[v] && !islands.reference[v])).collect();
        let branch_at = (0..net.branches.len()).map(|b| number(islands.branch[b])).collect();
        let ladders: Vec<LadderState> = net.ladders.iter().map(|l| l.state()).collect();
        let piece_at = ladders
            .iter()
            .zip(&islands.ladder)
            .map(|(state, alive)| {
                state
                    .pieces
                    .iter()
                    .map(|p| {
                        let between = *alive && p.left.is_some() && p.right.is_some();
                        let at = number(between);
                        if between && p.first_pixel == p.last_pixel {
                            number(true);
                        }
                        at
                    })
                    .collect()
            })
            .collect();
        let has_power = net.branches.iter().zip(&islands.branch).any(|(b, alive)| *alive && b.law.is_power());
        Self {
            net,
            limits,
            modes: vec![Mode::Volts; net.branches.len()],
            vertex_at,
            branch_at,
            piece_at,
            unknowns,
            potential: vec![0.0; net.vertices],
            current: vec![0.0; net.branches.len()],
            tangent: vec![(0.0, 0.0); net.branches.len()],
            flows: ladders.iter().map(|l| vec![PieceFlow::default(); l.pieces.len()]).collect(),
            ladders,
            unloaded: vec![0.0; net.branches.len()],
            has_power,
            unloaded_round: false,
            islands,
        }
    }

    /// The unloaded network: the highest voltages there can be, from which the upper branch is reached.
    fn start(&mut self) -> Result<(), SolveError> {
        self.unloaded_round = true;
        for _ in 0..MOST_MODE_CHANGES {
            for ladder in &mut self.ladders {
                ladder.no_current();
            }
            let (potential, current) = self.linear()?;
            (self.potential, self.current) = (potential, current);
            for (ladder, state) in self.net.ladders.iter().zip(&mut self.ladders) {
                let potential = &self.potential;
                state.substitute(|p| potential[ladder.ports[p].plus] - potential[ladder.ports[p].minus]);
                state.accept(1.0);
            }
            if !self.change_modes() {
                break;
            }
        }
        self.unloaded_round = false;
        self.unloaded = (0..self.net.branches.len()).map(|b| self.voltage(&self.potential, b)).collect();
        Ok(())
    }

    fn voltage(&self, potential: &[f64], branch: usize) -> f64 {
        let b = &self.net.branches[branch];
        potential[b.from] - potential[b.to]
    }

    /// Newton rounds with the sources' modes as they are.
    fn settle(&mut self) -> Result<(), SolveError> {
        let rounds = if self.has_power { MOST_POWER_ROUNDS } else { MOST_ROUNDS };
        for _ in 0..rounds {
            self.linearise();
            let (potential, current) = self.linear()?;
            if !potential.iter().chain(&current).all(|x| x.is_finite()) {
                return Err(SolveError::Collapsed);
            }
            for (ladder, state) in self.net.ladders.iter().zip(&mut self.ladders) {
                state.substitute(|p| potential[ladder.ports[p].plus] - potential[ladder.ports[p].minus]);
            }
            let (share, settled) = self.judge(&potential, &current)?;
            for (old, new) in self.potential.iter_mut().zip(&potential) {
                *old += share * (new - *old);
            }
            if share >= 1.0 {
                self.potential = potential;
            }
            self.current = current;
            for state in &mut self.ladders {
                state.accept(share);
            }
            if settled {
                return Ok(());
            }
        }
        Err(if self.has_power { SolveError::Collapsed } else { SolveError::Unsettled })
    }

    fn linearise(&mut self) {
        for i in 0..self.net.branches.len() {
            let v = self.voltage(&self.potential, i);
            self.tangent[i] = self.tangent_of(i, v);
        }
        for (ladder, state) in self.net.ladders.iter().zip(&mut self.ladders) {
            state.linearise(&ladder.law);
        }
    }

    /// Watts a constant-power branch takes, from the present state of its output.
    fn watts(&self, law: &Law, potential: &[f64], current: &[f64]) -> f64 {
        match law {
            Law::ConstantPower { watts } => watts * self.limits.power_scale,
            Law::ConverterInput { output, efficiency, quiescent_w } => {
                let out = -self.voltage(potential, *output) * current[*output];
                (out.max(0.0) / efficiency + quiescent_w) * self.limits.power_scale
            }
            _ => 0.0,
        }
    }

    fn tangent_of(&self, branch: usize, v: f64) -> (f64, f64) {
        match &self.net.branches[branch].law {
            Law::ConstantCurrent { amps, knee } => {
                if v <= 0.0 {
                    (0.0, 0.0)
                } else if v < *knee {
                    (amps / knee, 0.0)
                } else {
                    (0.0, *amps)
                }
            }
            Law::Resistive { siemens } => (if v > 0.0 { *siemens } else { 0.0 }, 0.0),
            law @ (Law::ConstantPower { .. } | Law::ConverterInput { .. }) => {
                let watts = self.watts(law, &self.potential, &self.current);
                let v = v.max(1e-6);
                // i ≈ P/v0 − P/v0²·(v − v0)
                (-watts / (v * v), 2.0 * watts / v)
            }
            _ => (0.0, 0.0),
        }
    }

    fn law_current(&self, branch: usize, v: f64, watts: f64) -> f64 {
        match &self.net.branches[branch].law {
            Law::ConstantCurrent { amps, knee } => amps * (v / knee).clamp(0.0, 1.0),
            Law::Resistive { siemens } => siemens * v.max(0.0),
            Law::ConstantPower { .. } | Law::ConverterInput { .. } => watts / v.max(1e-6),
            _ => 0.0,
        }
    }

    /// How far to go along the step, and whether the laws are met at its end.
    fn judge(&self, potential: &[f64], current: &[f64]) -> Result<(f64, bool), SolveError> {
        let scale = current.iter().fold(1e-6f64, |m, i| m.max(i.abs()));
        let (mut ahead, mut worst) = (0.0, 0.0f64);
        let mut most = 1.0f64;
        for (i, b) in self.net.branches.iter().enumerate().filter(|(i, _)| self.islands.branch[*i]) {
            let (old, new) = (self.voltage(&self.potential, i), self.voltage(potential, i));
            match &b.law {
                Law::Conductor { ohms, rise, ampacity } if *rise > 0.0 => {
                    let (volts, slope) = warm(*ohms, *rise, *ampacity, self.current[i]);
                    let tangent = volts + slope * (current[i] - self.current[i]);
                    let miss = warm(*ohms, *rise, *ampacity, current[i]).0 - tangent;
                    worst = worst.max((miss / ohms).abs());
                }
                law if law.is_demand() => {
                    let watts = self.watts(law, potential, current);
                    let (slope, offset) = self.tangent[i];
                    if law.is_power() {
                        if new <= LOST_SHARE * self.unloaded[i] && old <= 2.0 * LOST_SHARE * self.unloaded[i] {
                            return Err(SolveError::Collapsed);
                        }
                        // Not below a third of where it stood in one step.
                        if new < 0.3 * old {
                            most = most.min(0.7 * old / (old - new));
                            worst = f64::INFINITY;
                            continue;
                        }
                    }
                    let carried =
                        if matches!(law, Law::ConverterInput { .. }) { current[i] } else { slope * new + offset };
                    let miss = self.law_current(i, new, watts) - carried;
                    ahead += miss * (new - old);
                    worst = worst.max(miss.abs());
                }
                _ => {}
            }
        }
        for (ladder, state) in self.net.ladders.iter().zip(&self.ladders) {
            let (work, miss) = state.overshoot(&ladder.law);
            ahead += work;
            worst = worst.max(miss);
        }
        let settled = worst <= 1e-11 * scale;
        if settled || ahead <= 0.0 {
            return Ok((most, settled && most >= 1.0));
        }
        let behind = self.stiffness(potential);
        if ahead <= 0.5 * behind {
            return Ok((most, false));
        }
        Ok((most.min(self.search(potential, current)), false))
    }

    /// Σ over the linear laws of slope·dv²: the work function's curvature along the step.
    fn linear_work(&self, potential: &[f64]) -> f64 {
        let mut work = 0.0;
        let step = |i: usize| self.voltage(potential, i) - self.voltage(&self.potential, i);
        for (i, b) in self.net.branches.iter().enumerate().filter(|(i, _)| self.islands.branch[*i]) {
            match &b.law {
                Law::Source { .. } if self.modes[i] == Mode::Limit => work += LIMIT_SIEMENS * step(i).powi(2),
                Law::Conductor { ohms, .. } => work += step(i).powi(2) / ohms,
                Law::Source { ohms, .. } if *ohms > 0.0 => work += step(i).powi(2) / ohms,
                _ => {}
            }
        }
        for (l, (ladder, state)) in self.net.ladders.iter().zip(&self.ladders).enumerate() {
            if !self.islands.ladder[l] {
                continue;
            }
            work += state.copper_work(ladder, |p| {
                let port = &ladder.ports[p];
                (potential[port.plus] - potential[port.minus])
                    - (self.potential[port.plus] - self.potential[port.minus])
            });
        }
        work
    }

    fn stiffness(&self, potential: &[f64]) -> f64 {
        let mut work = self.linear_work(potential);
        for (i, _) in self.net.branches.iter().enumerate().filter(|(i, b)| self.islands.branch[*i] && b.law.is_demand())
        {
            let step = self.voltage(potential, i) - self.voltage(&self.potential, i);
            work += self.tangent[i].0.max(0.0) * step * step;
        }
        // The pixels' own tangents belong here too; leaving them out only damps a little earlier.
        work
    }

    /// The share of the step at which the work function stops falling, by bisection on its slope.
    fn search(&self, potential: &[f64], current: &[f64]) -> f64 {
        let linear = self.linear_work(potential);
        let slope_at = |share: f64| {
            let mut slope = (share - 1.0) * linear;
            for (i, b) in
                self.net.branches.iter().enumerate().filter(|(i, b)| self.islands.branch[*i] && b.law.is_demand())
            {
                let (old, new) = (self.voltage(&self.potential, i), self.voltage(potential, i));
                let (tangent, offset) = self.tangent[i];
                let watts = self.watts(&b.law, potential, current);
                let at = self.law_current(i, old + share * (new - old), watts);
                slope += (at - (tangent * new + offset)) * (new - old);
            }
            for (ladder, state) in self.net.ladders.iter().zip(&self.ladders) {
                slope += state.slope_along(&ladder.law, share);
            }
            slope
        };
        let (mut low, mut high) = (0.0, 1.0);
        for _ in 0..60 {
            let middle = 0.5 * (low + high);
            if slope_at(middle) > 0.0 {
                high = middle
            } else {
                low = middle
            }
            if high - low < 1e-3 * high {
                break;
            }
        }
        0.5 * (low + high)
    }

    /// Solves the tangent network for potentials and branch currents.
    fn linear(&mut self) -> Result<(Vec<f64>, Vec<f64>), SolveError> {
        let mut rows = Rows::new(self.unknowns);
        for i in 0..self.net.branches.len() {
            if self.islands.branch[i] {
                self.stamp(&mut rows, i);
            }
        }
        for l in 0..self.ladders.len() {
            if self.islands.ladder[l] {
                self.ladders[l].eliminate(&self.net.ladders[l]);
                self.stamp_ladder(&mut rows, l);
            }
        }
        let x = rows.solve().map_err(|_| if self.has_power { SolveError::Collapsed } else { SolveError::Unsettled })?;
        let potential = self.vertex_at.iter().map(|at| x.get(*at).copied().unwrap_or(0.0)).collect::<Vec<_>>();
        let current = self.branch_at.iter().map(|at| x.get(*at).copied().unwrap_or(0.0)).collect();
        self.read_flows(&x, &potential);
        Ok((potential, current))
    }

    /// Adds `value` · potential(vertex) to a row; the 0 V vertices add nothing.
    fn at_vertex(&self, rows: &mut Rows, row: usize, vertex: usize, value: f64) {
        if self.vertex_at[vertex] != usize::MAX {
            rows.add(row, self.vertex_at[vertex], value);
        }
    }

    fn leave(&self, rows: &mut Rows, vertex: usize, unknown: usize, value: f64) {
        if self.vertex_at[vertex] != usize::MAX {
            rows.add(self.vertex_at[vertex], unknown, value);
        }
    }

    fn stamp(&self, rows: &mut Rows, i: usize) {
        let b = &self.net.branches[i];
        let me = self.branch_at[i];
        self.leave(rows, b.from, me, 1.0);
        self.leave(rows, b.to, me, -1.0);
        let drop = |rows: &mut Rows, factor: f64| {
            self.at_vertex(rows, me, b.from, factor);
            self.at_vertex(rows, me, b.to, -factor);
        };
        match &b.law {
            Law::Conductor { ohms, rise, ampacity } => {
                let (volts, slope) = warm(*ohms, *rise, *ampacity, self.current[i]);
                drop(rows, 1.0);
                rows.add(me, me, -slope);
                rows.add_rhs(me, volts - slope * self.current[i]);
            }
            Law::Source { emf, ohms, limit, .. } => match self.modes[i] {
                Mode::Volts => {
                    // V₊ − V₋ + ohms·i = emf; `from` is −.
                    drop(rows, -1.0);
                    rows.add(me, me, *ohms);
                    rows.add_rhs(me, *emf);
                }
                Mode::Limit => {
                    // i + (V − V_limit)·g = limit
                    rows.add(me, me, 1.0);
                    drop(rows, -LIMIT_SIEMENS);
                    rows.add_rhs(me, limit + (emf - ohms * limit) * LIMIT_SIEMENS);
                }
                Mode::Blocked => rows.add(me, me, 1.0),
            },
            Law::Regulator { common, volts, dropout } => match self.modes[i] {
                Mode::Limit => {
                    drop(rows, 1.0);
                    rows.add_rhs(me, *dropout);
                }
                Mode::Blocked => rows.add(me, me, 1.0),
                Mode::Volts => {
                    self.at_vertex(rows, me, b.to, 1.0);
                    self.at_vertex(rows, me, *common, -1.0);
                    rows.add_rhs(me, *volts);
                }
            },
            Law::ConverterInput { output, efficiency, .. }
                if !self.unloaded_round && self.branch_at[*output] != usize::MAX =>
            {
                self.stamp_converter(rows, i, *output, *efficiency);
            }
            _ => {
                rows.add(me, me, 1.0);
                if !self.unloaded_round {
                    let (slope, offset) = self.tangent[i];
                    drop(rows, -slope);
                    rows.add_rhs(me, offset);
                }
            }
        }
    }

    /// i_in − dP/V − (−P0/V0²)·dV = P0/V0, with P's dependence on the output's volts and amps.
    fn stamp_converter(&self, rows: &mut Rows, i: usize, output: usize, efficiency: f64) {
        let b = &self.net.branches[i];
        let me = self.branch_at[i];
        let v0 = self.voltage(&self.potential, i).max(1e-6);
        let out = &self.net.branches[output];
        let (out_v, out_a) = (-self.voltage(&self.potential, output), self.current[output].max(0.0));
        let gain = self.limits.power_scale / (efficiency * v0);
        let (slope, _) = self.tangent[i];
        rows.add(me, me, 1.0);
        self.at_vertex(rows, me, b.from, -slope);
        self.at_vertex(rows, me, b.to, slope);
        rows.add(me, self.branch_at[output], -gain * out_v);
        self.at_vertex(rows, me, out.to, -gain * out_a);
        self.at_vertex(rows, me, out.from, gain * out_a);
        // P ≈ P0 + (Vo·(i − io) + io·(V − Vo))/η, so the constant is P0 − 2·Vo·io/η; i ≈ P/v0 − P0/v0²·(v − v0).
        let p0 = self.watts(&b.law, &self.potential, &self.current);
        rows.add_rhs(me, 2.0 * p0 / v0 - 2.0 * gain * out_v * out_a);
    }

    fn stamp_ladder(&self, rows: &mut Rows, l: usize) {
        let ladder = &self.net.ladders[l];
        let w = ladder.weight();
        for (piece, s) in self.ladders[l].pieces.iter().zip(&self.piece_at[l]) {
            let ends = [
                piece.left.map(|p| (ladder.ports[p], piece.left_shunt, piece.left_source)),
                piece.right.map(|p| (ladder.ports[p], piece.right_shunt, piece.right_source)),
            ];
            for (port, shunt, source) in ends.into_iter().flatten() {
                self.conductance(rows, (port.plus, port.minus), (port.plus, port.minus), shunt);
                self.inject(rows, port.plus, source);
                self.inject(rows, port.minus, -source);
            }
            let (Some((a, ..)), Some((b, ..))) = (ends[0], ends[1]) else { continue };
            let s = *s;
            for (vertex, value) in [(a.plus, w), (a.minus, 1.0 - w), (b.plus, -w), (b.minus, w - 1.0)] {
                self.leave(rows, vertex, s, value);
                self.at_vertex(rows, s, vertex, value);
            }
            rows.add(s, s, -piece.common_ohms.max(1e-12));
            if piece.first_pixel == piece.last_pixel {
                // No pixel between: the differential current is an unknown of its own.
                let j = s + 1;
                for (vertex, value) in [(a.plus, 1.0), (a.minus, -1.0), (b.plus, -1.0), (b.minus, 1.0)] {
                    self.leave(rows, vertex, j, value);
                    self.at_vertex(rows, j, vertex, value);
                }
                rows.add(j, j, -piece.bare_ohms.max(1e-12));
            } else {
                for ((p, m), (q, n)) in [((a.plus, a.minus), (b.plus, b.minus)), ((b.plus, b.minus), (a.plus, a.minus))]
                {
                    self.conductance(rows, (p, m), (p, m), piece.coupling);
                    self.conductance(rows, (p, m), (q, n), -piece.coupling);
                }
            }
        }
    }

    /// A current `siemens`·(potential difference of `by`) that leaves `at`'s + and enters its −.
    fn conductance(&self, rows: &mut Rows, at: (usize, usize), by: (usize, usize), siemens: f64) {
        for (vertex, sign) in [(at.0, 1.0), (at.1, -1.0)] {
            if self.vertex_at[vertex] != usize::MAX {
                self.at_vertex(rows, self.vertex_at[vertex], by.0, sign * siemens);
                self.at_vertex(rows, self.vertex_at[vertex], by.1, -sign * siemens);
            }
        }
    }

    fn inject(&self, rows: &mut Rows, vertex: usize, amps: f64) {
        if self.vertex_at[vertex] != usize::MAX {
            rows.add_rhs(self.vertex_at[vertex], amps);
        }
    }

    fn read_flows(&mut self, x: &[f64], potential: &[f64]) {
        for l in 0..self.ladders.len() {
            let ladder = &self.net.ladders[l];
            let port_v = |p: usize| potential[ladder.ports[p].plus] - potential[ladder.ports[p].minus];
            for (n, piece) in self.ladders[l].pieces.iter().enumerate() {
                let (va, vb) = (piece.left.map_or(0.0, port_v), piece.right.map_or(0.0, port_v));
                let at = self.piece_at[l][n];
                let mut flow = PieceFlow { s: x.get(at).copied().unwrap_or(0.0), ..PieceFlow::default() };
                if piece.first_pixel == piece.last_pixel {
                    flow.left_j = x.get(at.wrapping_add(1)).copied().unwrap_or(0.0);
                    flow.right_j = -flow.left_j;
                } else {
                    flow.left_j = piece.coupling * (va - vb) + piece.left_shunt * va - piece.left_source;
                    flow.right_j = piece.coupling * (vb - va) + piece.right_shunt * vb - piece.right_source;
                }
                self.flows[l][n] = flow;
            }
        }
    }

    /// Sources that ran past their limit hold it; those that need less leave it. True if any changed.
    fn change_modes(&mut self) -> bool {
        let mut changed = false;
        for (i, b) in self.net.branches.iter().enumerate().filter(|(i, _)| self.islands.branch[*i]) {
            let amps = self.current[i];
            let next = match &b.law {
                Law::Source { emf, ohms, limit, sinks } => {
                    let v = -self.voltage(&self.potential, i);
                    let limit = if self.limits.sources_limit { *limit } else { f64::INFINITY };
                    let small = 1e-9 * (1.0 + amps.abs());
                    match self.modes[i] {
                        Mode::Volts if amps > limit + small => Mode::Limit,
                        Mode::Volts if amps < -small && !sinks => Mode::Blocked,
                        Mode::Limit if v > emf - ohms * limit + 1e-6 => Mode::Volts,
                        Mode::Blocked if v < emf - 1e-9 => Mode::Volts,
                        mode => mode,
                    }
                }
                Law::Regulator { common, volts, dropout } => {
                    let v_in = self.potential[b.from] - self.potential[*common];
                    let v_out = self.potential[b.to] - self.potential[*common];
                    match self.modes[i] {
                        Mode::Volts if v_in < volts + dropout - 1e-9 => Mode::Limit,
                        Mode::Limit if v_out > volts + 1e-9 => Mode::Volts,
                        mode => mode,
                    }
                }
                _ => Mode::Volts,
            };
            if next != self.modes[i] {
                self.modes[i] = next;
                changed = true;
            }
        }
        changed
    }

    fn finish(self) -> Solution {
        let ladders = self
            .ladders
            .into_iter()
            .zip(&self.net.ladders)
            .zip(self.flows)
            .zip(&self.islands.ladder)
            .map(|(((state, ladder), flows), alive)| {
                if *alive {
                    let pieces: Vec<_> = state.pieces.iter().copied().zip(flows).collect();
                    LadderSolution::of(ladder, state.v, &pieces, &self.potential)
                } else {
                    LadderSolution {
                        v: state.v,
                        ports: vec![Default::default(); ladder.ports.len()],
                        ..Default::default()
                    }
                }
            })
            .collect();
        Solution { potential: self.potential, current: self.current, ladders, alive: self.islands.vertex }
    }
}
