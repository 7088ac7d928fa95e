//! In which state the network is solved: scenario demands, corner, boards at mean or peak.

use crate::plan::{Demand, Load, LoadState, Open, Plan};
use crate::quantity::{Amps, Corner, Figure, Fraction, Role};

/// What boards draw: their mean (heat, ratings) or their bursts (volts, source limits).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Boards {
    Mean,
    Peak,
}

/// One state of the whole plan.
#[derive(Clone, Copy, Debug)]
pub(crate) struct State<'a> {
    pub corner: Corner,
    pub boards: Boards,
    pub demands: &'a Demands,
}

/// What everything draws in a scenario, and what is switched how, before the corner is chosen.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Demands {
    /// Share of full light per strip, before the cap.
    pub light: Vec<Figure<Fraction>>,
    /// Per load, per member.
    pub loads: Vec<Vec<Member>>,
    pub controllers_on: Vec<bool>,
    pub supplies_on: Vec<bool>,
    /// Per run: what is open, and which feed a change-over switch stands on.
    pub runs: Vec<(Open, usize)>,
    /// Per controller: a computer is plugged in.
    pub plugged: Vec<bool>,
}

/// What one member of a load does.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Member {
    State(LoadState),
    Current(Figure<Amps>),
}

/// A scenario to be solved.
#[derive(Clone, Debug)]
pub(crate) struct Case {
    pub name: String,
    /// What surges, in *surge*; the board that is plugged into a computer, in *programming*.
    pub surging: Option<String>,
    pub demands: Demands,
    /// True where what flows flows for long: ratings, heat and wires are judged.
    pub continuous: bool,
    /// True where boards burst.
    pub bursts: bool,
    /// True where a board is plugged into a computer for a while: judged by the checks that are about that.
    pub programming: bool,
}

/// The level of every colour of a strip: the scenario's light, then the cap.
pub(crate) fn level(plan: &Plan, strip: usize, state: &State<'_>) -> f64 {
    let light = state.demands.light[strip].at(state.corner, Role::Demand).get();
    let strip = &plan.strips[strip];
    let Some(cap) = &strip.cap else { return light };
    let (dark, full) = (strip.nominal_dark_a(), strip.nominal_full_a());
    // Firmware counts nominal currents: n·Iq + level·n·ΣI = cap.
    let allowed = if full > dark { (cap.at(state.corner, Role::Demand).get() - dark) / (full - dark) } else { 1.0 };
    light.min(allowed.max(0.0))
}

/// A load member's law figures in a corner.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Draw {
    Nothing,
    Amps(f64),
    Watts(f64),
    Ohms(f64),
}

pub(crate) fn draw(load: &Load, member: &Member, corner: Corner) -> Draw {
    let state = match member {
        Member::Current(amps) => return Draw::Amps(amps.at(corner, Role::Demand).get()),
        Member::State(LoadState::Off) => return Draw::Nothing,
        Member::State(state) => *state,
    };
    match &load.demand {
        Demand::Current(states) => match (states.of(state), state, &load.voltage) {
            // What starts or stalls is a winding or a cold filament: ohms, rated volts / surge current.
            (Some(f), LoadState::Surge, Some(rated)) => match f.at(corner, Role::Demand).get() {
                0.0 => Draw::Nothing,
                amps => Draw::Ohms(rated.typical.get() / amps),
            },
            (Some(f), ..) => Draw::Amps(f.at(corner, Role::Demand).get()),
            (None, ..) => Draw::Nothing,
        },
        Demand::Power(states) => {
            states.of(state).map_or(Draw::Nothing, |f| Draw::Watts(f.at(corner, Role::Demand).get()))
        }
        Demand::Resistance(states) => {
            states.of(state).map_or(Draw::Nothing, |f| Draw::Ohms(f.at(corner, Role::LoadOpposite).get()))
        }
    }
}
