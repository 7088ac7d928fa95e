//! What happens when a load with a coil is turned off: through which path, for how long, with how much energy.

use crate::derived::flyback_path::path_of;
use crate::network::layout::DemandAt;
use crate::network::state::Member;
use crate::plan::driver::DriverKind;
use crate::plan::kinds::flyback::Flyback;
use crate::plan::kinds::load::Load;
use crate::plan::kinds::scenario::LoadState;
use crate::quantity::units::{Amps, Fraction, Henries, Joules, Ohms, Volts};
use crate::review::Review;
use crate::size::release::{Release, ReleaseNeed, avalanche, release};
use crate::solved::drivers::channel::{Channel, channels};
use crate::verdict::compare::{at_least, exceeds};

/// A coil turns off at a share of its current (electrical reference, "Letting go of a coil": 10 .. 30 %); the least is
/// the slowest.
const LETS_GO: f64 = 0.10;

/// What diodes that are built in drop (typical), V.
const BUILT_IN_V: f64 = 1.0;

/// A coil that is turned off.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct ReleaseRow {
    /// The load, or the relay whose coil it is.
    pub name: String,
    /// The channel that lets it go.
    pub channel: String,
    /// Where its current goes, in words.
    pub path: String,
    /// What was computed with; `None` where the inductance is not given.
    pub need: Option<ReleaseNeed>,
    /// What follows; `None` where the inductance is not given, or nothing shows a path.
    pub release: Option<Release>,
    /// With no path: what goes into the switch as it breaks down, and at which voltage; `None` where it has a path or
    /// its rating is not given.
    pub breaks_down: Option<(Joules, Volts)>,
    /// What the switch stands; `None`: not given, or a contact.
    pub max: Option<Volts>,
}

impl Review {
    /// Every coil that a channel turns off, in the order of the plan's drivers.
    #[must_use]
    pub fn releases(&self) -> Vec<ReleaseRow> {
        let all = channels(&self.plan).into_iter();
        all.flat_map(|c| {
            let loads: Vec<usize> =
                self.plan.loads_behind(c.run).filter(|i| self.plan.loads[*i].is_winding()).collect();
            loads.into_iter().map(move |i| self.release_row(&c, i))
        })
        .collect()
    }

    fn release_row(&self, channel: &Channel<'_>, index: usize) -> ReleaseRow {
        let load = &self.plan.loads[index];
        let path = path_of(channel, load);
        // A contact never breaks down.
        let stands = channel.driver.voltage.as_ref().filter(|_| !channel.driver.kind.is_contact()).map(|v| v.low);
        let need = self.need(channel, index, load);
        let volts = path.and_then(|p| path_v(p, need.map_or(0.0, |n| n.supply.get())));
        let need = need.map(|n| ReleaseNeed { path: Volts::new(volts.unwrap_or(0.0)), ..n });
        let release = need.filter(|_| volts.is_some()).map(|need| release(&need));
        let breaks_down = match (volts, need, stands) {
            (None, Some(need), Some(v)) => {
                avalanche(need.inductance, need.current, need.supply, v).map(|energy| (energy, v))
            }
            _ => None,
        };
        ReleaseRow {
            name: load.name.text.clone(),
            channel: channel.name().to_owned(),
            path: words(path, channel.driver.kind),
            need,
            release,
            breaks_down,
            max: stands,
        }
    }

    /// The state in which its current is largest while it runs: it is turned off then.
    fn need(&self, channel: &Channel<'_>, index: usize, load: &Load) -> Option<ReleaseNeed> {
        let inductance = load.inductance.as_ref()?.high;
        let running = |m: &Member| !matches!(m, Member::State(LoadState::Surge | LoadState::Off | LoadState::Idle));
        let mut most: Option<(f64, f64, f64)> = None;
        for o in self.outcomes.iter().filter(|o| o.case.continuous && o.case.demands.loads[index].iter().any(running)) {
            let Ok(s) = o.actual.as_ref() else { continue };
            let Some(DemandAt { at: t, branch }) = self.layout.loads[index].first() else { continue };
            let (amps, volts) = (s.amps(*branch), s.solution.across(t.plus, t.minus));
            let Some(supply) = channel.holds_v(s) else { continue };
            // Of equal currents that at the higher supply: its switch sees more.
            let larger = |m: (f64, f64, f64)| exceeds(amps, m.0) || (at_least(amps, m.0) && supply > m.2);
            if amps > 1e-9 && most.is_none_or(larger) {
                most = Some((amps, volts, supply));
            }
        }
        let (amps, volts, supply) = most?;
        Some(ReleaseNeed {
            supply: Volts::new(supply),
            current: Amps::new(amps),
            ohms: Ohms::new(volts / amps),
            inductance: Henries::new(inductance.get()),
            path: Volts::new(0.0),
            partial_power_down: Fraction::new(LETS_GO),
        })
    }
}

/// What a path drops; `None` where there is none, or none whose voltage is known.
fn path_v(path: &Flyback, supply: f64) -> Option<f64> {
    match path {
        Flyback::BuiltIn => Some(BUILT_IN_V),
        // Across the switch a clamp takes what is above the supply.
        Flyback::Diode(d) if d.at_switch => Some((d.zener.as_ref()?.typical.get() - supply).max(0.0)),
        Flyback::Diode(d) => Some(d.vf.typical.get() + d.zener.as_ref().map_or(0.0, |z| z.typical.get())),
        Flyback::Nothing | Flyback::Snubber | Flyback::Varistor => None,
    }
}

fn words(path: Option<&Flyback>, kind: DriverKind) -> String {
    match path {
        Some(Flyback::BuiltIn) => "through built-in diodes".into(),
        Some(Flyback::Snubber) => "into a snubber".into(),
        Some(Flyback::Varistor) => "into a varistor".into(),
        Some(Flyback::Diode(d)) => {
            let class = d.class.as_deref().map_or_else(|| "a diode".to_owned(), |c| format!("`{c}`"));
            match (&d.zener, d.at_switch) {
                (Some(z), true) => format!("into a clamp of {} at the switch", z.typical),
                (Some(z), false) => format!("through {class} and {} of a Zener diode across it", z.typical),
                (None, _) => format!("through {class} across it"),
            }
        }
        _ if kind.is_contact() => "into the arc of the contact".into(),
        _ => "no path: the switch breaks down".into(),
    }
}
