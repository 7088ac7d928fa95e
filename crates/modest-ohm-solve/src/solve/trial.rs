//! The strip solver opened up for the benchmark, which measures single Newton steps; nothing else uses it.

use super::{Limits, Step, Workspace, solve_pixels};
use crate::network::{Branch, Clamp, Ladder, Law, Network, PixelLaw, Port};

/// A strip between two ideal feeds at its ends.
#[derive(Debug)]
pub struct LadderTrial {
    net: Network,
    workspace: Workspace,
    step: Step,
}

impl LadderTrial {
    /// A strip of `pixels` at 60 /m with copper of `ohm_per_m` in each track, both ends at `volts`.
    #[must_use]
    pub fn new(pixels: usize, ohm_per_m: f64, volts: f64, law: &[(f64, f64, f64)]) -> Self {
        let clamps = law.iter().map(|(amps, vf, vreg)| Clamp { amps: *amps, start_v: *vf, slope: 1.0 / (vreg - vf) });
        let port = |at_m, plus| Port { at_m, plus, minus: 0 };
        let ladder = Ladder {
            pixels,
            per_m: 60.0,
            first_m: 0.0,
            feed_ohm_per_m: ohm_per_m,
            return_ohm_per_m: ohm_per_m,
            law: PixelLaw { clamps: clamps.collect() },
            ports: vec![port(0.0, 1), port(pixels as f64 / 60.0, 1)],
        };
        let source = Law::Source { emf: volts, ohms: 0.0, limit: f64::INFINITY, sinks: false };
        let net = Network {
            vertices: 2,
            branches: vec![Branch { from: 0, to: 1, law: source }],
            source_minus: vec![0],
            supplies: vec![0],
            ladders: vec![ladder],
            strips: Vec::new(),
        };
        let step = Step::of(&net.ladders[0], volts);
        Self { net, workspace: Workspace::default(), step }
    }

    /// A whole converged solve; the voltage of every pixel, or nothing where there is no solution.
    pub fn solve(&mut self) -> Vec<f64> {
        let solved = solve_pixels(&self.net, Limits::LIFTED, &mut self.workspace);
        solved.map(|mut s| std::mem::take(&mut s.ladders[0].v)).unwrap_or_default()
    }

    /// One Newton step inside the strip: tangents, elimination, substitution.
    pub fn step(&mut self) -> f64 {
        self.step.newton(&self.net.ladders[0])
    }

    /// A pass that only reads and writes the arrays which a step reads and writes.
    pub fn touch(&mut self) -> f64 {
        self.step.touch()
    }
}
