//! The data cables on the way to a strip: what drives each, how long it is, what is in series.

use crate::plan::kinds::shifter::DataLead;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::plan::strip::data::Data;
use crate::plan::wiring::through::Stage;
use crate::quantity::figure::Figure;
use crate::quantity::units::Ohms;

/// What drives a data cable.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Driver {
    Pin,
    /// The last pixel of a strip.
    Pixel,
    /// A shifter or the far end of a pair; of a shifter its index.
    Buffer(Option<usize>),
}

/// One data lead on the way to a strip.
#[derive(Clone, Debug)]
pub(crate) struct Leg<'p> {
    pub from: String,
    pub to: String,
    pub driver: Driver,
    /// `None` where nothing is said.
    pub length_m: Option<f64>,
    pub series: Option<&'p Figure<Ohms>>,
}

/// The data cables on the way to a strip, in the order of the data; without what lies inside pairs.
pub(crate) fn legs<'p>(plan: &'p Plan, strip: &'p Strip, data: &'p Data) -> Vec<Leg<'p>> {
    let (mut driver, mut from) = match (&data.pin, &data.after) {
        (Some(pin), _) => (Driver::Pin, pin.name.text.clone()),
        (None, Some((before, _))) => (Driver::Pixel, format!("{}.end", before.text)),
        (None, None) => return Vec::new(),
    };
    let mut legs = Vec::new();
    for (name, stage) in &data.through {
        let (input, next): (&DataLead, Driver) = match stage {
            Stage::Shifter(s) => (&plan.shifters[*s].input, Driver::Buffer(Some(*s))),
            Stage::Pair(p) => (&plan.shifters[plan.pairs[*p].near].input, Driver::Buffer(None)),
        };
        let length_m = input.length.as_ref().map(|l| l.high.get());
        let to = name.text.clone();
        legs.push(Leg { from, to: to.clone(), driver, length_m, series: input.series.as_ref() });
        (driver, from) = (next, to);
    }
    let length_m = data.cable.as_ref().and_then(crate::plan::wiring::cable::Cable::longest_m);
    legs.push(Leg { from, to: strip.name.text.clone(), driver, length_m, series: data.series.as_ref() });
    legs
}
