//! The scenarios of a plan: the built-in ones, then the maker's.

use super::state::{Case, Demands, Member};
use crate::plan::kinds::board::UsbUse;
use crate::plan::kinds::group::GroupKind;
use crate::plan::kinds::load::{Demand, Load, Nature};
use crate::plan::kinds::run::Open;
use crate::plan::kinds::scenario::{LoadState, Scenario, Setting, UserScenario};
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction};

/// All scenarios of a plan: the built-in ones, then the maker's; *surge* once for what surges together; at the end
/// those in which a board is plugged into a computer.
pub(crate) fn cases(plan: &Plan) -> Vec<Case> {
    let case = |scenario: Scenario, demands, continuous, bursts| Case {
        scenario,
        surging: None,
        demands,
        continuous,
        bursts,
        programming: false,
    };
    let mut cases = vec![
        case(Scenario::Idle, Demands::all(plan, 0.0, |_| LoadState::Idle), true, false),
        case(Scenario::Typical, Demands::running(plan, 0.3, LoadState::Typical), true, false),
        case(Scenario::Worst, Demands::running(plan, 1.0, LoadState::Peak), true, true),
        case(Scenario::Start, Demands::start(plan), false, true),
    ];
    // Every smaller member of a group that excludes itself, in its turn: its own cable and stage carry it.
    for group in plan.groups.iter().filter(|g| g.how == GroupKind::Exclusive) {
        for (name, member) in &group.members {
            let demands = Demands::with_member(plan, *member);
            if demands != cases[2].demands && !cases.iter().skip(4).any(|c| c.demands == demands) {
                cases.push(Case { surging: Some(name.text.clone()), ..case(Scenario::Worst, demands, true, true) });
            }
        }
    }
    for (name, members) in units(plan) {
        let demands = Demands::surge(plan, &members);
        cases.push(Case { surging: Some(name), ..case(Scenario::Surge, demands, false, true) });
    }
    cases.extend(
        plan.scenarios
            .iter()
            .map(|s| case(Scenario::Own(s.name.text.clone()), Demands::user(plan, s), true, !s.from_typical)),
    );
    cases.extend(Demands::all_at_once(plan).map(|demands| case(Scenario::AllAtOnce, demands, false, true)));
    for (i, board) in plan.boards.iter().enumerate().filter(|(_, c)| c.usb.when == UsbUse::Sometimes) {
        let mut demands = Demands::running(plan, 1.0, LoadState::Peak);
        demands.plugged[i] = true;
        let programming = |scenario, demands| Case {
            surging: Some(board.name.text.clone()),
            programming: true,
            ..case(scenario, demands, true, true)
        };
        cases.push(programming(Scenario::Programming, demands.clone()));
        for (on, supply) in demands.supplies_on.iter_mut().zip(&plan.supplies) {
            *on = supply.kind == SupplyKind::Usb;
        }
        cases.push(programming(Scenario::ProgrammingAlone, demands));
    }
    cases
}

/// So many servos of a plan are held at once, at most; the others move (our own figure).
const HELD_SERVOS: usize = 2;

fn share(value: f64) -> Figure<Fraction> {
    Figure::exact(Fraction::new(value), Origin::Default("the scenario's light"))
}

/// What surges at the same time: groups that start together, then every other load that surges.
fn units(plan: &Plan) -> Vec<(String, Vec<usize>)> {
    let surges = |i: &usize| plan.loads[*i].demand.has_surge();
    let mut units: Vec<(String, Vec<usize>)> = Vec::new();
    for group in plan.groups.iter().filter(|g| g.how == GroupKind::Together) {
        let members: Vec<usize> = group.members.iter().map(|(_, i)| *i).filter(surges).collect();
        if !members.is_empty() {
            units.push((group.name.text.clone(), members));
        }
    }
    // What is connected to one channel, or on channels that one pin drives, starts at the same moment by its wiring.
    for members in wired_together(plan) {
        let members: Vec<usize> = members.into_iter().filter(surges).collect();
        let known = units.iter().any(|(_, own)| members.iter().all(|m| own.contains(m)));
        if members.len() > 1 && !known {
            units.push((plan.loads[members[0]].name.text.clone(), members));
        }
    }
    for i in (0..plan.loads.len()).filter(surges) {
        if !units.iter().any(|(_, members)| members.contains(&i)) {
            units.push((plan.loads[i].name.text.clone(), vec![i]));
        }
    }
    units
}

/// Loads by what switches them: a channel, or a pin that drives several.
fn wired_together(plan: &Plan) -> Vec<Vec<usize>> {
    /// A pin, as board and name; the run of a channel; the loads behind it.
    type Unit<'p> = (Option<(usize, &'p str)>, usize, Vec<usize>);
    let mut by_switch: Vec<Unit<'_>> = Vec::new();
    for (d, driver) in plan.drivers.iter().enumerate().filter(|(_, d)| d.bridge().is_none()) {
        for (run, at) in plan.runs_of(d) {
            let pin = driver.channels.get(at.channel).and_then(|c| c.pins.first());
            let pin = pin.filter(|p| !p.at.is_open()).map(|p| (p.at.board, p.at.pin.as_str()));
            let loads: Vec<usize> = plan.loads_behind(run).collect();
            match by_switch.iter_mut().find(|(known, own, _)| *own == run || (pin.is_some() && *known == pin)) {
                Some((.., members)) => members.extend(loads),
                None => by_switch.push((pin, run, loads)),
            }
        }
    }
    by_switch.into_iter().map(|(.., members)| members).collect()
}

/// What a load takes in a state at its rated voltage, else at those of its rail: to tell which of several is the
/// largest.
fn nominal_watts(plan: &Plan, load: &Load, state: LoadState) -> f64 {
    let rail = || match plan.nodes[plan.root(load.feed.from.id).0].kind {
        NodeKind::Supply(i) => plan.supplies[i].voltage.typical.get(),
        NodeKind::Converter(i) => plan.converters[i].output.typical.get(),
        _ => 5.0,
    };
    let volts = load.voltage.as_ref().map_or_else(rail, |v| v.typical.get());
    let each = match &load.demand {
        Demand::Current(s) => s.of(state).map_or(0.0, |f| f.high.get() * volts),
        Demand::Power(s) => s.of(state).map_or(0.0, |f| f.high.get()),
        Demand::Resistance(s) => s.of(state).map_or(0.0, |f| volts * volts / f.low.get().max(1e-9)),
        Demand::Leds(_) if matches!(state, LoadState::Off | LoadState::Idle) => 0.0,
        Demand::Leds(d) => volts * (volts - d.vf.low.get()).max(0.0) / d.ohms.low.get().max(1e-9),
    };
    each * load.count as f64
}

impl Demands {
    fn all(plan: &Plan, light: f64, state: impl Fn(&Load) -> LoadState) -> Self {
        Self {
            light: plan.strips.iter().map(|s| vec![share(light); s.pixel.colours.len()]).collect(),
            loads: plan.loads.iter().map(|l| vec![Member::State(state(l)); l.count]).collect(),
            controllers_on: vec![true; plan.boards.len()],
            supplies_on: vec![true; plan.supplies.len()],
            runs: plan.branches.iter().map(|b| (b.open, b.switch().map_or(0, |s| s.position))).collect(),
            plugged: plan.boards.iter().map(|c| c.usb.when == UsbUse::Always).collect(),
        }
    }

    /// Everything in a state; of a group that excludes itself only the largest.
    fn running(plan: &Plan, light: f64, state: LoadState) -> Self {
        let mut demands = Self::all(plan, light, |_| state);
        demands.exclude(plan, |i| nominal_watts(plan, &plan.loads[i], state));
        demands
    }

    /// What surges does, unless it rests off.
    fn start(plan: &Plan) -> Self {
        let state = |l: &Load| {
            if l.rests_off {
                LoadState::Off
            } else if l.demand.has_surge() {
                LoadState::Surge
            } else {
                LoadState::Peak
            }
        };
        let mut demands = Self::all(plan, 1.0, state);
        demands.exclude(plan, |i| nominal_watts(plan, &plan.loads[i], state(&plan.loads[i])));
        demands
    }

    /// All at their peak, of the groups that `member` belongs to only it.
    fn with_member(plan: &Plan, member: usize) -> Self {
        let mut demands = Self::all(plan, 1.0, |_| LoadState::Peak);
        let size = |i: usize| nominal_watts(plan, &plan.loads[i], LoadState::Peak);
        demands.exclude(plan, |i| if i == member { f64::MAX } else { size(i) });
        demands
    }

    /// What `at-power-on = "off"` hides from *start*: motors and pumps start, of the servos the two largest are held
    /// and the others take half of that, coils and lamps are on; `None` where nothing rests off. What a group keeps
    /// apart stays apart.
    fn all_at_once(plan: &Plan) -> Option<Self> {
        let hidden = |l: &Load| l.rests_off && (l.demand.has_surge() || l.is_winding());
        if !plan.loads.iter().any(hidden) {
            return None;
        }
        let state = |l: &Load| if l.demand.has_surge() { LoadState::Surge } else { LoadState::Peak };
        let mut demands = Self::all(plan, 1.0, state);
        demands.exclude(plan, |i| nominal_watts(plan, &plan.loads[i], state(&plan.loads[i])));
        let stall = |l: &Load| match &l.demand {
            Demand::Current(s) if l.nature == Some(Nature::Servo) => s.surge.clone(),
            _ => None,
        };
        let mut servos: Vec<(usize, usize, Figure<Amps>)> = Vec::new();
        for (i, load) in plan.loads.iter().enumerate() {
            servos.extend(stall(load).into_iter().flat_map(|a| (0..load.count).map(move |m| (i, m, a.clone()))));
        }
        servos.sort_by(|a, b| b.2.high.get().total_cmp(&a.2.high.get()));
        for (i, m, amps) in servos.into_iter().skip(HELD_SERVOS) {
            demands.loads[i][m] = Member::Current(amps.scaled(0.5));
        }
        Some(demands)
    }

    /// All at their peak, `members` surging and what they exclude off; of one load's servos two are held, and the
    /// others take half of that.
    fn surge(plan: &Plan, members: &[usize]) -> Self {
        let mut demands = Self::all(plan, 1.0, |_| LoadState::Peak);
        for m in members {
            demands.loads[*m].fill(Member::State(LoadState::Surge));
            // Of many servos alike never all are held at once.
            let load = &plan.loads[*m];
            if let (Some(Nature::Servo), Demand::Current(states)) = (load.nature, &load.demand)
                && let Some(held) = &states.surge
            {
                let others = demands.loads[*m].iter_mut().skip(HELD_SERVOS);
                others.for_each(|other| *other = Member::Current(held.scaled(0.5)));
            }
        }
        demands.exclude(plan, |i| {
            let surging = if members.contains(&i) { f64::MAX } else { 0.0 };
            surging.max(nominal_watts(plan, &plan.loads[i], LoadState::Peak))
        });
        demands
    }

    /// Of every group that excludes itself only the member of the largest size stays on.
    fn exclude(&mut self, plan: &Plan, size: impl Fn(usize) -> f64) {
        for group in plan.groups.iter().filter(|g| g.how == GroupKind::Exclusive) {
            let members = group.members.iter().map(|(_, i)| *i);
            let largest = members.clone().reduce(|a, b| if size(b) > size(a) { b } else { a });
            for m in members.filter(|m| Some(*m) != largest) {
                self.loads[m].fill(Member::State(LoadState::Off));
            }
        }
    }

    fn user(plan: &Plan, scenario: &UserScenario) -> Self {
        let mut demands = if scenario.from_typical {
            Self::running(plan, 0.3, LoadState::Typical)
        } else {
            Self::running(plan, 1.0, LoadState::Peak)
        };
        for (name, setting) in &scenario.set {
            demands.apply(plan, &name.text, setting);
        }
        for name in &scenario.off {
            if let Some(i) = plan.boards.iter().position(|c| c.name.text == name.text) {
                demands.controllers_on[i] = false;
            }
            if let Some(i) = plan.supplies.iter().position(|s| s.name.text == name.text) {
                demands.supplies_on[i] = false;
            }
            demands.apply(plan, &name.text, &Setting::Light(share(0.0)));
            demands.apply(plan, &name.text, &Setting::State(LoadState::Off));
            demands.apply(plan, &name.text, &Setting::Closed(false));
        }
        for name in &scenario.plugged {
            if let Some(i) = plan.boards.iter().position(|c| c.name.text == name.text) {
                demands.plugged[i] = true;
            }
        }
        demands
    }

    fn apply(&mut self, plan: &Plan, name: &str, setting: &Setting) {
        for (i, strip) in plan.strips.iter().enumerate() {
            if strip.name.text != name {
                continue;
            }
            match setting {
                Setting::Light(light) => self.set_light(i, light),
                Setting::Colours(colours) => {
                    // A colour that is not named is dark.
                    let light = |name: &str| colours.iter().find(|(c, _)| c.text == name).map(|(_, f)| f.clone());
                    let each = strip.pixel.colours.iter().map(|c| light(&c.name).unwrap_or_else(|| share(0.0)));
                    self.light[i] = each.collect();
                }
                _ => {}
            }
        }
        for (i, run) in plan.branches.iter().enumerate().filter(|(_, b)| b.name.text == name) {
            let Some(switch) = run.switch() else { continue };
            match setting {
                Setting::Closed(closed) => self.runs[i].0 = if *closed { Open::NOT } else { switch.breaks },
                Setting::Position(at) => {
                    self.runs[i].1 = switch.throws.iter().position(|(n, _)| *n == at.text).unwrap_or(switch.position);
                }
                _ => {}
            }
        }
        let member = match setting {
            Setting::State(state) => Member::State(*state),
            Setting::Current(amps) => Member::Current(amps.clone()),
            _ => return,
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
