//! Constant-power demands, followed on the upper branch.
//!
//! A demand that keeps its power draws more as its voltage falls, so the work function bends the other way and a
//! network may have two solutions or none. The upper one is reached from above: from the network without these demands,
//! whose voltage is the highest there can be, Newton's method comes down to it (the defect is convex in the voltage, so
//! it does not jump past). Where knees get in the way the demands' currents are held and everything else settles around
//! them. What does not come down in one go is followed as the demands grow; where no growth is possible any more the
//! feed collapses, and the scale reached is what it can deliver.

use std::sync::Arc;

use super::newton::SETTLED;
use super::resume::Rest;
use super::run::{Mode, Power, Run, Saved};
use super::{Solution, SolveError};
use crate::network::Law;

/// Rounds from one known state to the next; near the end of the branch they halve the distance each.
const MOST_ROUNDS: usize = 40;
/// Enough for the least-index rule, which settles what goes in circles while all change at once
/// ([`change_modes`](Run::change_modes); our own figure). A round that changes modes does not count as one of
/// [`MOST_ROUNDS`].
const MOST_MODE_CHANGES: usize = 80;
/// A demand whose voltage has fallen to this share of the unloaded ones has left the upper branch.
const LOST_SHARE: f64 = 0.02;
/// Not below this share of where the voltage stood in one step.
const LARGEST_FALL: f64 = 0.4;
/// A step that changes no voltage by more than this share of it, or than this much in V: rounding (our own figure).
const STILL: f64 = 1e-12;
/// Growth in steps smaller than this share of the goal has come to its end.
const SMALLEST_STEP: f64 = 1e-4;
/// Halvings in the search for the largest scale: enough for seven digits of anything above a millionth.
const MOST_TRIALS: usize = 60;

impl Run<'_> {
    /// The network without constant power, every source that can give ready to.
    fn unpowered(&mut self) -> Result<(), SolveError> {
        let rest = self.rest.take();
        let known = rest.as_deref();
        if let Some(rest) = known {
            self.at.modes.clone_from(&rest.unloaded);
        }
        let started = self.start();
        let unloaded = self.at.modes.clone();
        if let Some(rest) = known {
            self.at.modes.clone_from(&rest.unpowered);
        }
        if started.and_then(|()| self.settle(Power::Off)).is_err() {
            if known.is_some() {
                // Without a hint.
                self.reset();
                return self.unpowered();
            }
            self.settle_gently()?;
        }
        self.rest = Some(Arc::new(Rest { unloaded, unpowered: self.at.modes.clone() }));
        // On the way a source may have been kept from giving by what has been kept from giving itself since, and stand
        // at voltage that only leaks hold: each gets another try.
        let settled = self.save();
        if self.offer() && self.settle(Power::Off).is_err() {
            self.restore(&settled);
            // The flows in the strips belong to the last linear system.
            self.settle(Power::Off)?;
        }
        Ok(())
    }

    /// Solves with the constant-power demands at a scale.
    pub fn solve_at(&mut self, goal: f64) -> Result<(), SolveError> {
        self.unpowered()?;
        if !self.has_power || goal == 0.0 {
            return Ok(());
        }
        let mut good = self.save();
        let (mut reached, mut step) = (0.0, goal);
        loop {
            let next = if reached + step >= goal { goal } else { reached + step };
            match self.come_down(next) {
                Ok(()) if next >= goal => return Ok(()),
                Ok(()) => {
                    good = self.save();
                    reached = next;
                    step *= 2.0;
                }
                Err(_) if step > SMALLEST_STEP * goal => {
                    self.restore(&good);
                    step *= 0.5;
                }
                Err(error) => return Err(error),
            }
        }
    }

    /// The largest scale up to `top` at which there is a solution that `holds`, to seven digits, and that solution.
    pub fn largest_scale(&mut self, top: f64, holds: impl Fn(&Self) -> bool) -> Result<(f64, Solution), SolveError> {
        self.unpowered()?;
        let mut good: Saved = self.save();
        let (mut reached, mut step) = (0.0, 1.0);
        // The smallest scale that is known not to hold.
        let mut ceiling: Option<f64> = None;
        for _ in 0..MOST_TRIALS {
            let next = match ceiling {
                None => f64::min(reached + step, top),
                Some(ceiling) => 0.5 * (reached + ceiling),
            };
            if self.come_down(next).is_ok() && holds(self) {
                good = self.save();
                reached = next;
                step *= 2.0;
            } else {
                self.restore(&good);
                ceiling = Some(next);
            }
            let found = ceiling.is_some_and(|c| c - reached <= 1e-7 * c);
            if found || reached >= top {
                break;
            }
        }
        self.restore(&good);
        if reached > 0.0 {
            // The flows in the strips belong to the last linear system.
            self.come_down(reached)?;
        } else {
            self.settle(Power::Off)?;
        }
        Ok((reached, self.solution(false)))
    }

    /// From the present state, a solution at a smaller scale, to the upper solution at this one.
    pub(super) fn come_down(&mut self, scale: f64) -> Result<(), SolveError> {
        self.descend(scale)?;
        if self.on_upper_branch() { Ok(()) } else { Err(SolveError::Collapsed) }
    }

    /// From the present state to a solution at this scale, on whatever branch.
    pub(super) fn descend(&mut self, scale: f64) -> Result<(), SolveError> {
        self.scale = scale;
        let (mut mode_changes, mut stands_still) = (0, false);
        for round in 0.. {
            if round >= MOST_ROUNDS + mode_changes {
                break;
            }
            self.linearise(Power::Tangent);
            // At the very end of the branch the tangent network is singular.
            self.linear(Power::Tangent).map_err(|_| SolveError::Collapsed)?;
            // What blocked while nothing drew may have to give now; voltage without a source are no sign of a collapse.
            if mode_changes < MOST_MODE_CHANGES && self.unblock() {
                mode_changes += 1;
                continue;
            }
            // Beyond the end of the branch the tangents ask for current backwards.
            if self.powered().any(|(i, _)| self.next.1[i] < 0.0) {
                // Unless it is an output that something else now feeds: that blocks.
                if mode_changes < MOST_MODE_CHANGES && self.block_outputs(|run, input| run.next.1[input] < 0.0) {
                    mode_changes += 1;
                    continue;
                }
                return Err(SolveError::Collapsed);
            }
            let judged = self.judge(round);
            let share = self.share_of_fall();
            if share >= 1.0 && judged.settled && self.power_met() {
                self.advance(1.0);
                let limited: Vec<usize> = self.limited().collect();
                if !self.change_modes(mode_changes) {
                    return Ok(());
                }
                mode_changes += 1;
                if mode_changes > MOST_MODE_CHANGES {
                    return Err(SolveError::Unsettled);
                }
                if self.limited().any(|i| !limited.contains(&i)) {
                    self.fall()?;
                }
            } else if share >= 1.0
                && judged.settled
                && mode_changes < MOST_MODE_CHANGES
                && self.block_outputs(|_, _| true)
            {
                // All other laws are met, but a converter's output sinks current, as happens just before the diode behind
                // it blocks. Its input saves no power by that, whatever its tangent says.
                mode_changes += 1;
            } else if share >= 1.0 && judged.whole {
                stands_still = self.stands_still();
                self.advance(1.0);
            } else {
                stands_still = false;
                self.settle_held(|run, i, _| run.at.current[i] + share * (run.next.1[i] - run.at.current[i]))?;
            }
            if self.is_lost() {
                return Err(SolveError::Collapsed);
            }
        }
        // Beyond the end of the branch the steps never come to rest.
        Err(if stands_still { SolveError::Unsettled } else { SolveError::Collapsed })
    }

    /// Whether the step leads nowhere.
    fn stands_still(&self) -> bool {
        let same = |(at, next): (&f64, &f64)| (at - next).abs() <= STILL * next.abs().max(1.0);
        self.at.potential.iter().zip(&self.next.0).all(same)
    }

    /// What a source does that has just come to its limit: its rail falls while the demands' currents stay, until what
    /// else is on it draws less or the next source takes over. The tangents at the voltage that it held would point
    /// upwards, since constant power draws less there.
    fn fall(&mut self) -> Result<(), SolveError> {
        self.offer();
        self.settle_held(|run, i, law| {
            run.watts(law, &run.at.potential, &run.at.current) / run.volts(&run.at.potential, i).max(1e-6)
        })
    }

    /// Settles everything else around constant-power demands that draw given currents.
    fn settle_held(&mut self, amps: impl Fn(&Self, usize, &Law) -> f64) -> Result<(), SolveError> {
        let held: Vec<(usize, f64)> = self.powered().map(|(i, law)| (i, amps(self, i, law))).collect();
        held.into_iter().for_each(|(i, amps)| self.held[i] = amps);
        self.settle(Power::Held)
    }

    /// Whether a constant-power demand has fallen off the upper branch.
    fn is_lost(&self) -> bool {
        self.powered().any(|(i, _)| self.volts(&self.at.potential, i) <= LOST_SHARE * self.unloaded[i])
    }

    /// Keeps converters' outputs that the step would feed from outside from taking it, of those whose input is `wanted`.
    /// True if there are any.
    fn block_outputs(&mut self, wanted: impl Fn(&Self, usize) -> bool) -> bool {
        let outputs: Vec<usize> = self
            .powered()
            .filter_map(|(i, law)| match law {
                Law::ConverterInput { output, .. } if wanted(self, i) => Some(*output),
                _ => None,
            })
            .filter(|o| self.next.1[*o] < 0.0 && self.at.modes[*o] != Mode::Blocked)
            .collect();
        for output in &outputs {
            self.at.modes[*output] = Mode::Blocked;
        }
        !outputs.is_empty()
    }

    /// The share of the step that no constant-power demand's voltage falls too far in.
    fn share_of_fall(&self) -> f64 {
        let mut share = 1.0f64;
        for (i, _) in self.powered() {
            let (old, new) = (self.volts(&self.at.potential, i), self.volts(&self.next.0, i));
            if new < LARGEST_FALL * old {
                share = share.min((1.0 - LARGEST_FALL) * old / (old - new));
            }
        }
        share
    }

    /// Every constant-power demand takes its power at the end of the step.
    fn power_met(&self) -> bool {
        let (potential, current) = &self.next;
        let scale = current.iter().fold(1e-6f64, |m, i| m.max(i.abs()));
        self.powered().all(|(i, law)| {
            let v = self.volts(potential, i);
            let wanted = self.watts(law, potential, current) / v.max(1e-6);
            (wanted - current[i]).abs() <= SETTLED * scale
        })
    }

    /// Whether the state was reached without passing the end of the upper branch: there the determinant of the tangent
    /// network changes its sign. It is compared with the same state's, the demands' currents held.
    fn on_upper_branch(&mut self) -> bool {
        let with_power = self.workspace.factors.sign();
        self.held.clone_from(&self.at.current);
        self.linearise_demands(Power::Held);
        self.solve_rest(Power::Held).is_ok() && self.workspace.factors.sign() == with_power
    }
}
