//! The margins of an input: what arrives against the thresholds of its pin, every pair of states that belong together.

use super::context::{Context, Worst};
use super::level_margin::{MARGIN_V, Margin};
use crate::plan::kinds::input::{Input, Source as InputSource};
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::threshold::Threshold;
use crate::solved::input_source::{Does, Front, Side, States};
use crate::solved::outcome::Outcome;

/// What the source does while the pin is to be high.
pub(crate) fn while_high(input: &Input) -> Does {
    match &input.source {
        InputSource::Contact { to: None, .. } | InputSource::OpenCollector { .. } => Does::Off,
        InputSource::Contact { to: Some(_), .. } | InputSource::Swing { .. } => Does::On,
    }
}

/// What the source does while the pin is to be low.
pub(crate) fn while_low(input: &Input) -> Does {
    if while_high(input) == Does::On { Does::Off } else { Does::On }
}

pub(crate) fn front<'a>(context: &'a Context<'_>, input: &'a Input) -> Front<'a> {
    Front { plan: context.plan, layout: context.layout, input }
}

/// The states of what drives an input and of the board that reads it that can be together: of one corner where all of
/// it is connected to one rail.
pub(crate) fn pairs<'a>(context: &Context<'a>, front: &Front<'_>) -> Vec<(&'a Outcome, States<'a>)> {
    let mut feeds = front.drivers();
    feeds.extend(context.plan.node_id(NodeKind::BoardInput(front.board())));
    let together = context.together(!front.is_driven_from_elsewhere(), &feeds);
    together.map(|(to, here, there)| (to, States { there, here })).collect()
}

/// The smallest margin of an input against a threshold of its pin; `None` where nothing arrives.
pub(crate) fn smallest(context: &Context<'_>, input: &Input, threshold: &Threshold, high: bool) -> Option<Margin> {
    let front = front(context, input);
    let does = if high { while_high(input) } else { while_low(input) };
    let side = if high { Side::Least } else { Side::Most };
    let mut worst: Option<Margin> = None;
    for (to, states) in pairs(context, &front) {
        let (Some(vdd), Some(arrives)) = (front.vdd(states.here), front.arrives(does, side, states)) else { continue };
        let limit = if high { threshold.surely_high(vdd) } else { threshold.surely_low(vdd) };
        let value = if high { arrives.volts - limit } else { limit - arrives.volts };
        if worst.as_ref().is_none_or(|w| value < w.value - 1e-9) {
            let at = Worst::at(to, value);
            let shift = front.shift(states.there);
            worst = Some(Margin { value, at, level: arrives.volts, threshold: limit, vdd, shift });
        }
    }
    worst
}

/// What is enough: contacts and pulls on one rail move together.
pub(crate) fn enough(context: &Context<'_>, input: &Input) -> f64 {
    if front(context, input).is_driven_from_elsewhere() { MARGIN_V } else { super::level_margin::MARGIN_ONE_RAIL_V }
}
