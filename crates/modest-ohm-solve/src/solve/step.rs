//! One Newton step inside a strip, by itself: what the benchmark measures against a bare pass over memory.

use super::ladder::LadderState;
use crate::network::Ladder;

/// A strip with its ends at given voltage.
#[derive(Debug)]
pub(crate) struct Step {
    state: LadderState,
    volts: f64,
}

impl Step {
    pub fn of(ladder: &Ladder, volts: f64) -> Self {
        let mut state = ladder.state();
        state.v.fill(volts);
        Self { state, volts }
    }

    /// Tangents, elimination and substitution from the same start each time.
    pub fn newton(&mut self, ladder: &Ladder) -> f64 {
        let volts = self.volts;
        self.state.linearise(&ladder.law);
        self.state.eliminate(ladder);
        self.state.substitute(|_| volts);
        self.state.next[self.state.next.len() / 2]
    }

    /// Reads and writes each array once.
    pub fn touch(&mut self) -> f64 {
        let s = &mut self.state;
        let arrays = [&mut s.slope, &mut s.offset, &mut s.to_neighbour, &mut s.to_port, &mut s.constant, &mut s.next];
        let mut sum = 0.0;
        for array in arrays {
            for (x, v) in array.iter_mut().zip(&s.v) {
                *x += 1e-30 * v;
            }
            sum += array[array.len() / 2];
        }
        sum
    }
}
