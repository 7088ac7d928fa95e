//! Data lines: which strips hang one after another on a pin, and how long a frame takes.

use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::quantity::units::Seconds;
use crate::size::firmware::{PixelTiming, frame};

/// A pin and the strips that it drives, in the order of the data.
#[derive(Clone, Debug)]
pub(crate) struct Line {
    pub board: usize,
    /// As the plan spells it: `keeper.io27`.
    pub pin: String,
    pub strips: Vec<usize>,
}

/// The lines of a plan, in its order.
pub(crate) fn lines(plan: &Plan) -> Vec<Line> {
    let mut lines = Vec::new();
    for (i, strip) in plan.strips.iter().enumerate() {
        let Some(pin) = strip.data.as_ref().and_then(|d| d.pin.as_ref()) else { continue };
        let mut strips = vec![i];
        let mut next = 0;
        while let Some(before) = strips.get(next).copied() {
            let after = |s: &Strip| s.data.as_ref().and_then(|d| d.after.as_ref()).is_some_and(|(_, b)| *b == before);
            let behind = plan.strips.iter().enumerate().filter(|(n, s)| after(s) && !strips.contains(n));
            let behind: Vec<usize> = behind.map(|(n, _)| n).collect();
            strips.extend(behind);
            next += 1;
        }
        lines.push(Line { board: pin.at.board, pin: pin.name.text.clone(), strips });
    }
    lines
}

/// What a strip's sheet and colours make of the size of a frame.
pub(crate) fn timing_of(strip: &Strip) -> Option<PixelTiming> {
    let timing = strip.pixel.timing.as_ref()?;
    let base = if timing.clocked { PixelTiming::clocked(timing.bit.typical) } else { PixelTiming::one_wire(1) };
    Some(PixelTiming { bits: strip.pixel.bits(), bit: timing.bit.typical, reset: timing.reset.typical, ..base })
}

impl Line {
    pub fn pixels(&self, plan: &Plan) -> usize {
        self.strips.iter().map(|s| plan.strips[*s].pixels).sum()
    }

    /// The time of a frame: the bits of all its pixels, the longest pause once.
    pub fn frame(&self, plan: &Plan) -> Option<Seconds> {
        let mut time = 0.0;
        let mut pause = 0.0f64;
        for s in &self.strips {
            let timing = timing_of(&plan.strips[*s])?;
            pause = pause.max(timing.reset.get());
            time += frame(PixelTiming { reset: Seconds::new(0.0), ..timing }, plan.strips[*s].pixels).get();
        }
        Some(Seconds::new(time + pause))
    }
}
