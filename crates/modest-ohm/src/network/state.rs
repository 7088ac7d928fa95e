//! In which state the network is solved: scenario demands, corner, boards at mean or peak.

use crate::plan::kinds::load::{Demand, Load};
use crate::plan::kinds::run::Open;
use crate::plan::kinds::scenario::{LoadState, Scenario};
use crate::plan::model::Plan;
use crate::quantity::figure::{Corner, Figure, Origin, Role};
use crate::quantity::units::{Amps, Fraction};

/// What boards draw: their mean (heat, ratings) or their bursts (voltage, source limits).
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
    /// Share of full light per strip and colour, before the firmware limit; of a plain strip the share of the time that
    /// it is on.
    pub light: Vec<Vec<Figure<Fraction>>>,
    /// Per load, per member.
    pub loads: Vec<Vec<Member>>,
    pub controllers_on: Vec<bool>,
    pub supplies_on: Vec<bool>,
    /// Per run: what is open, and which feed a change-over switch stands on.
    pub runs: Vec<(Open, usize)>,
    /// Per board: a computer is plugged in.
    pub plugged: Vec<bool>,
}

impl Demands {
    /// True where a strip shows any light.
    pub fn lights(&self, strip: usize) -> bool {
        self.light[strip].iter().any(|l| l.high.get() > 0.0)
    }

    /// The states that the PWM of plain strips goes through, each with its share of the time: all of them begin a
    /// period together, as the timers of one board do, and end it one after the other. The first has all of them on.
    /// Empty where no plain strip is dimmed.
    pub fn pulses(&self, plan: &Plan) -> Vec<(f64, Demands)> {
        let plain = || (0..plan.strips.len()).filter(|i| plan.strips[*i].pixel.plain);
        let duty = |l: &Figure<Fraction>| l.typical.get();
        let mut ends: Vec<f64> = plain().flat_map(|i| self.light[i].iter().map(duty)).filter(|d| *d > 0.0).collect();
        ends.sort_by(f64::total_cmp);
        ends.dedup();
        if ends.iter().all(|d| *d >= 1.0) {
            return Vec::new();
        }
        let mut states = Vec::with_capacity(ends.len() + 1);
        let mut from = 0.0;
        for end in ends.into_iter().chain([1.0]) {
            if end > from {
                let mut demands = self.clone();
                for i in plain() {
                    for light in demands.light[i].iter_mut().filter(|l| duty(l) < end) {
                        *light = Figure::exact(Fraction::new(0.0), Origin::Computed);
                    }
                }
                states.push((end - from, demands));
                from = end;
            }
        }
        states
    }

    /// The same light on every colour of a strip.
    pub fn set_light(&mut self, strip: usize, light: &Figure<Fraction>) {
        self.light[strip].fill(light.clone());
    }
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
    pub scenario: Scenario,
    /// What surges, in *surge*; the board that is plugged into a computer, in *programming*.
    pub surging: Option<String>,
    pub demands: Demands,
    /// True where what flows flows continuously: ratings, heat and wires are judged.
    pub continuous: bool,
    /// True where boards burst.
    pub bursts: bool,
    /// True where a board is plugged into a computer for a while: judged by the checks that are about that.
    pub programming: bool,
}

/// The level of each colour of every strip: the scenario's light, then the firmware limit. One factor scales all levels
/// of a firmware limit's strips until their nominal currents meet it, as firmware counts (electrical reference,
/// "Demand").
pub(crate) fn levels(plan: &Plan, state: &State<'_>) -> Vec<Vec<f64>> {
    let factors: Vec<f64> = plan
        .firmware_limits
        .iter()
        .map(|firmware_limit| {
            factor(
                plan,
                state,
                &firmware_limit.current,
                &firmware_limit.strips.iter().map(|(_, i)| *i).collect::<Vec<_>>(),
            )
        })
        .collect();
    let mut shared: Vec<f64> = vec![1.0; plan.strips.len()];
    for (firmware_limit, factor) in plan.firmware_limits.iter().zip(&factors).filter(|(c, _)| c.split.is_empty()) {
        firmware_limit.strips.iter().for_each(|(_, i)| shared[*i] = *factor);
    }
    let level = |i: usize| {
        let own = plan.strips[i]
            .firmware_limit
            .as_ref()
            .map_or(1.0, |firmware_limit| factor(plan, state, firmware_limit, &[i]));
        wanted(state, i).map(|l| l * own.min(shared[i])).collect()
    };
    (0..plan.strips.len()).map(level).collect()
}

fn wanted<'a>(state: &'a State<'_>, strip: usize) -> impl Iterator<Item = f64> + 'a {
    state.demands.light[strip].iter().map(|l| l.at(state.corner, Role::Demand).get())
}

/// What a firmware limit makes of the levels of its strips.
fn factor(plan: &Plan, state: &State<'_>, firmware_limit: &Figure<Amps>, strips: &[usize]) -> f64 {
    let bright = |s: &usize| -> f64 {
        let pixel = &plan.strips[*s].pixel;
        let each = pixel.colours.iter().zip(wanted(state, *s)).map(|(c, l)| l * c.current.typical.get());
        plan.strips[*s].pixels as f64 * pixel.together(each)
    };
    let dark: f64 = strips.iter().map(|s| plan.strips[*s].nominal_dark_a()).sum();
    let bright: f64 = strips.iter().map(bright).sum();
    let left = (firmware_limit.at(state.corner, Role::Demand).get() - dark).max(0.0);
    if bright > left { left / bright } else { 1.0 }
}

/// A load member's law figures in a corner.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Draw {
    Nothing,
    Amps(f64),
    Watts(f64),
    Ohms(f64),
    /// Volts up to which nothing flows, and resistance beyond.
    Leds(f64, f64),
}

pub(crate) fn draw(load: &Load, member: &Member, corner: Corner) -> Draw {
    let state = match member {
        Member::Current(amps) => return Draw::Amps(amps.at(corner, Role::Demand).get()),
        Member::State(LoadState::Off) => return Draw::Nothing,
        Member::State(state) => *state,
    };
    match &load.demand {
        Demand::Current(states) => match (states.of(state), state, &load.voltage) {
            // What starts or stalls is a coil or a cold filament: resistance, rated voltage / surge current.
            (Some(f), LoadState::Surge, Some(rated)) => match f.at(corner, Role::Demand).get() {
                0.0 => Draw::Nothing,
                amps => match load.limits.bound.and_then(|b| b.holds(amps, rated.typical, corner)) {
                    Some(limit) => Draw::Amps(limit),
                    None => Draw::Ohms(rated.typical.get() / amps),
                },
            },
            (Some(f), ..) => Draw::Amps(f.at(corner, Role::Demand).get()),
            (None, ..) => Draw::Nothing,
        },
        Demand::Power(states) => {
            states.of(state).map_or(Draw::Nothing, |f| Draw::Watts(f.at(corner, Role::Demand).get()))
        }
        Demand::Leds(_) if state == LoadState::Idle => Draw::Nothing,
        Demand::Leds(leds) => {
            let diode = leds.diode.as_ref().map_or(0.0, |d| d.at(corner, Role::Resistance).get());
            let vf = leds.vf.at(corner, Role::LoadOpposite).get();
            Draw::Leds(vf + diode, leds.ohms.at(corner, Role::LoadOpposite).get())
        }
        Demand::Resistance(states) => {
            states.of(state).map_or(Draw::Nothing, |f| Draw::Ohms(f.at(corner, Role::LoadOpposite).get()))
        }
    }
}
