//! In which state the network is solved: scenario demands, corner, boards at mean or peak.

use crate::plan::{Demand, Load, LoadState, Plan, Setting, States, UserScenario};
use crate::quantity::{Amps, Corner, Figure, Fraction, Origin, Quantity, Role};

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

/// What everything draws in a scenario, before the corner is chosen.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Demands {
    /// Share of full light per strip, before the cap.
    pub light: Vec<Figure<Fraction>>,
    /// Per load, per member.
    pub loads: Vec<Vec<Member>>,
    pub controllers_on: Vec<bool>,
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
    /// The load that surges, in *surge*.
    pub surging: Option<String>,
    pub demands: Demands,
    /// True where what flows flows for long: ratings, heat and wires are judged.
    pub continuous: bool,
    /// True where boards burst.
    pub bursts: bool,
}

fn share(value: f64) -> Figure<Fraction> {
    Figure::exact(Fraction::new(value), Origin::Default("the scenario's light"))
}

impl Demands {
    fn all(plan: &Plan, light: f64, state: impl Fn(&Load) -> LoadState) -> Self {
        Self {
            light: vec![share(light); plan.strips.len()],
            loads: plan.loads.iter().map(|l| vec![Member::State(state(l)); l.count]).collect(),
            controllers_on: vec![true; plan.controllers.len()],
        }
    }

    fn user(plan: &Plan, scenario: &UserScenario) -> Self {
        let mut demands = if scenario.from_typical {
            Self::all(plan, 0.3, |_| LoadState::Typical)
        } else {
            Self::all(plan, 1.0, |_| LoadState::Peak)
        };
        for (name, setting) in &scenario.set {
            demands.apply(plan, &name.text, setting);
        }
        for name in &scenario.off {
            if let Some(i) = plan.controllers.iter().position(|c| c.name.text == name.text) {
                demands.controllers_on[i] = false;
            }
            demands.apply(plan, &name.text, &Setting::Light(share(0.0)));
            demands.apply(plan, &name.text, &Setting::State(LoadState::Off));
        }
        demands
    }

    fn apply(&mut self, plan: &Plan, name: &str, setting: &Setting) {
        for (i, strip) in plan.strips.iter().enumerate() {
            if let (true, Setting::Light(light)) = (strip.name.text == name, setting) {
                self.light[i] = light.clone();
            }
        }
        let member = match setting {
            Setting::Light(_) => return,
            Setting::State(state) => Member::State(*state),
            Setting::Current(amps) => Member::Current(amps.clone()),
        };
        for (i, load) in plan.loads.iter().enumerate() {
            for m in 0..load.count {
                if load.name.text == name || load.member(m) == name {
                    self.loads[i][m] = member.clone();
                }
            }
        }
    }
}

/// All scenarios of a plan: the built-in ones, then the maker's; *surge* once per load that surges.
pub(crate) fn cases(plan: &Plan) -> Vec<Case> {
    let case = |name: &str, demands, continuous, bursts| Case {
        name: name.into(),
        surging: None,
        demands,
        continuous,
        bursts,
    };
    let mut cases = vec![
        case("idle", Demands::all(plan, 0.0, |_| LoadState::Idle), true, false),
        case("typical", Demands::all(plan, 0.3, |_| LoadState::Typical), true, false),
        case("worst", Demands::all(plan, 1.0, |_| LoadState::Peak), true, true),
        case(
            "start",
            Demands::all(plan, 1.0, |l| {
                if l.rests_off {
                    LoadState::Off
                } else if l.demand.has_surge() {
                    LoadState::Surge
                } else {
                    LoadState::Peak
                }
            }),
            false,
            true,
        ),
    ];
    for (i, load) in plan.loads.iter().enumerate().filter(|(_, l)| l.demand.has_surge()) {
        let mut demands = Demands::all(plan, 1.0, |_| LoadState::Peak);
        demands.loads[i].fill(Member::State(LoadState::Surge));
        cases.push(Case {
            name: "surge".into(),
            surging: Some(load.name.text.clone()),
            demands,
            continuous: false,
            bursts: true,
        });
    }
    cases.extend(plan.scenarios.iter().map(|s| case(&s.name.text, Demands::user(plan, s), true, !s.from_typical)));
    cases
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
        Demand::Current(states) => match (figure(states, state), state, &load.voltage) {
            // What starts or stalls is a winding or a cold filament: ohms, rated volts / surge current.
            (Some(f), LoadState::Surge, Some(rated)) => match f.at(corner, Role::Demand).get() {
                0.0 => Draw::Nothing,
                amps => Draw::Ohms(rated.typical.get() / amps),
            },
            (Some(f), ..) => Draw::Amps(f.at(corner, Role::Demand).get()),
            (None, ..) => Draw::Nothing,
        },
        Demand::Power(states) => {
            figure(states, state).map_or(Draw::Nothing, |f| Draw::Watts(f.at(corner, Role::Demand).get()))
        }
        Demand::Resistance(states) => {
            figure(states, state).map_or(Draw::Nothing, |f| Draw::Ohms(f.at(corner, Role::LoadOpposite).get()))
        }
    }
}

fn figure<Q: Quantity>(states: &States<Q>, state: LoadState) -> Option<&Figure<Q>> {
    match state {
        LoadState::Off => None,
        LoadState::Idle => states.idle.as_ref(),
        LoadState::Typical => states.typical.as_ref().or(Some(&states.peak)),
        LoadState::Peak => Some(&states.peak),
        LoadState::Surge => states.surge.as_ref().or(Some(&states.peak)),
    }
}
