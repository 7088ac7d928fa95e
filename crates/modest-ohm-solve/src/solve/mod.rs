//! Numerics only: no part names. Newton on piecewise-smooth laws, strips eliminated in O(n).

mod chains;
mod eliminate;
mod islands;
mod ladder;
mod laws;
mod measure;
mod newton;
mod power;
mod residual;
mod resume;
mod run;
mod shape;
mod solution;
mod sparse;
mod stamp;
mod step;
mod strips;
mod tangent;
#[cfg(test)]
mod tests;
pub mod trial;
#[cfg(test)]
mod variants;

pub use measure::Measure;
pub use run::Workspace;
pub use solution::{PortFlow, Solution, StripSolution, Totals};
pub(crate) use step::Step;
pub use tangent::{Adjoint, Tangent};

use crate::network::Network;
use run::Run;

/// What a solve may do.
#[derive(Clone, Copy, Debug)]
pub struct Limits {
    /// False lifts the current limits of all sources: the wanted currents.
    pub sources_limit: bool,
    /// Multiplies every constant-power demand, converters' inputs included.
    pub power_scale: f64,
}

impl Limits {
    /// Source limits lifted: what is wanted.
    pub const LIFTED: Self = Self { sources_limit: false, power_scale: 1.0 };
    /// Source limits in force: what flows.
    pub const IN_FORCE: Self = Self { sources_limit: true, power_scale: 1.0 };
}

/// Why there is no solution.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum SolveError {
    /// The constant-power demands exceed what the feed can deliver.
    Collapsed,
    /// The iteration did not settle: whether there is a solution is not known. Seen once in 500 random plans whose sources
    /// are loaded far beyond their limits.
    Unsettled,
}

/// Solves the network; the pixels' own voltages are not kept.
///
/// # Errors
/// [`SolveError::Collapsed`] where constant-power demands have no solution.
pub fn solve(net: &Network, limits: Limits, workspace: &mut Workspace) -> Result<Solution, SolveError> {
    let mut run = Run::new(net, limits.sources_limit, workspace);
    run.solve_at(limits.power_scale)?;
    Ok(run.solution(false))
}

/// As [`solve`], where a similar network is solved: what that learnt on the way from the unloaded state shortens the way
/// of this one.
///
/// # Errors
/// As [`solve`].
pub fn solve_like(
    net: &Network,
    limits: Limits,
    like: &Solution,
    workspace: &mut Workspace,
) -> Result<Solution, SolveError> {
    let mut run = Run::new(net, limits.sources_limit, workspace);
    run.learn_from(like);
    run.solve_at(limits.power_scale)?;
    Ok(run.solution(false))
}

/// As [`solve`], with every pixel's voltage.
///
/// # Errors
/// As [`solve`].
pub fn solve_pixels(net: &Network, limits: Limits, workspace: &mut Workspace) -> Result<Solution, SolveError> {
    let mut run = Run::new(net, limits.sources_limit, workspace);
    run.solve_at(limits.power_scale)?;
    Ok(run.solution(true))
}

/// As [`solve`], started from the solution of a similar network: the same parts with other figures. Where that does not
/// lead to the upper solution at once, the network is solved from its unloaded state; so a collapse is never the word
/// of a start that was too far away.
///
/// # Errors
/// As [`solve`].
pub fn solve_from(
    net: &Network,
    limits: Limits,
    start: &Solution,
    workspace: &mut Workspace,
) -> Result<Solution, SolveError> {
    let mut run = Run::new(net, limits.sources_limit, workspace);
    if !run.resume(start, limits.power_scale) {
        run.reset();
        run.solve_at(limits.power_scale)?;
    }
    Ok(run.solution(false))
}

/// The largest scale of all constant-power demands, up to `top`, at which the network has a solution with every branch
/// of `minimums` at its voltage or more; and that solution.
///
/// # Errors
/// [`SolveError::Unsettled`] where not even the network without these demands settles.
pub fn largest_scale(
    net: &Network,
    minimums: &[(usize, f64)],
    top: f64,
    workspace: &mut Workspace,
) -> Result<(f64, Solution), SolveError> {
    let mut run = Run::new(net, true, workspace);
    run.largest_scale(top, |run| {
        let volts = |branch: &usize| run.volts(&run.at.potential, *branch);
        minimums.iter().all(|(branch, least)| !run.islands.branch[*branch] || volts(branch) >= least - 1e-9)
    })
}
