//! A strip pixel by pixel: voltage, current, and what of each colour's light is left.

use crate::plan::kinds::scenario::Scenario;
use modest_ohm_solve::network::Network;
use modest_ohm_solve::solve::{Limits, Solution, Workspace, solve_pixels};

use super::rows::is_of;
use super::select::Row;
use super::shapes::{ProfilePoint, StripRow};
use crate::network::build::build;
use crate::network::state::{Boards, State};
use crate::plan::strip::Strip;
use crate::quantity::figure::Corner;
use crate::quantity::units::{Amps, Fraction, Metres, Volts};
use crate::review::Review;
use crate::solved::colour_shift::{light_at, light_range};
use crate::solved::outcome::Outcome;

/// Every pixel (or group) of a strip in one solved state, in order from its start.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct StripProfile {
    points: Vec<ProfilePoint>,
    colours: Vec<ColourRange>,
    /// Of a strip with a return a colour: the voltage of each colour, per colour and group; else its pixels' voltage
    /// holds.
    own_volts: Vec<Vec<f64>>,
}

/// A colour of a strip: dark up to `dark_to`, full at `full_at`, with Vf and Vreg at their largest.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct ColourRange {
    /// Its name.
    pub name: String,
    /// Up to this voltage across the pixel it gives no light.
    pub dark_to: Volts,
    /// From this voltage on it gives all its light; of a plain strip, at these, and more beyond.
    pub full_at: Volts,
    /// True of pixels, which regulate: no more light beyond.
    pub regulated: bool,
}

impl ColourRange {
    /// The share of its full light at some volts.
    #[must_use]
    pub fn light(&self, volts: Volts) -> Fraction {
        Fraction::new(light_at(volts.get(), (self.dark_to, self.full_at), !self.regulated))
    }
}

impl StripProfile {
    /// Its colours.
    #[must_use]
    pub fn colours(&self) -> &[ColourRange] {
        &self.colours
    }

    /// What of its full light a colour gives at a pixel when it is on; `None` beyond the last pixel or colour.
    #[must_use]
    pub fn light(&self, pixel: usize, colour: usize) -> Option<Fraction> {
        let range = self.colours.get(colour)?;
        let volts = match self.own_volts.get(colour) {
            Some(own) => Volts::new(*own.get(pixel)?),
            None => self.points.get(pixel)?.voltage,
        };
        Some(range.light(volts))
    }
}

impl std::ops::Deref for StripProfile {
    type Target = [ProfilePoint];

    fn deref(&self) -> &[ProfilePoint] {
        &self.points
    }
}

impl Review {
    /// Every pixel of a strip in one scenario and corner, solved again for it; `None` for an unknown strip or scenario
    /// and where there is no solution. A scenario that has several members (*surge*) gives its first.
    ///
    /// ```
    /// use modest_ohm::{Corner, Plan};
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "bench"
    ///     voltage = "5 V ± 0 %"
    ///     resistance = "0 Ω"
    ///     [strip.shelf]
    ///     part = "pixel-5v-rgb"
    ///     from = "wall"
    ///     length = "2 m"
    ///     pixels = "60 /m"
    /// "#).expect("a readable plan");
    /// let profile = plan.review().solve_profile("shelf", "worst", Corner::Typical).expect("it has a solution");
    /// // Blue needs the most volts: at the end it is weaker than red.
    /// let last = profile.len() - 1;
    /// assert_eq!(profile.colours()[0].name, "red");
    /// assert!(profile.light(last, 2).unwrap() < profile.light(last, 0).unwrap());
    /// ```
    #[must_use]
    pub fn solve_profile(&self, strip: &str, scenario: impl Into<Scenario>, corner: Corner) -> Option<StripProfile> {
        let scenario = scenario.into();
        let i = self.plan.strips.iter().position(|s| s.name.text == strip)?;
        let outcome = self.outcomes.iter().find(|o| o.case.scenario == scenario && o.corner == corner)?;
        let (net, solution) = self.solved_again(outcome)?;
        profile(&net, &solution, i, &self.plan.strips[i])
    }

    /// As [`solve_profile`](Self::solve_profile), for rows that [`strips`](Self::strips) gave: one profile a row, in
    /// their order. Rows of one scenario and corner are solved together.
    #[must_use]
    pub fn solve_profiles(&self, rows: &[Row<StripRow>]) -> Vec<Option<StripProfile>> {
        let mut profiles = vec![None; rows.len()];
        for outcome in &self.outcomes {
            let mut wanted = rows.iter().enumerate().filter(|(_, r)| is_of(r, outcome)).peekable();
            if wanted.peek().is_none() {
                continue;
            }
            let Some((net, solution)) = self.solved_again(outcome) else { continue };
            for (n, row) in wanted {
                let strip = self.plan.strips.iter().position(|s| s.name.text == row.row.name);
                profiles[n] = strip.and_then(|i| profile(&net, &solution, i, &self.plan.strips[i]));
            }
        }
        profiles
    }

    /// An outcome's network and its solution with every pixel.
    fn solved_again(&self, outcome: &Outcome) -> Option<(Network, Solution)> {
        let boards = if outcome.case.bursts { Boards::Peak } else { Boards::Mean };
        let (net, _) = build(&self.plan, &State { corner: outcome.corner, boards, demands: &outcome.case.demands });
        let solution = solve_pixels(&net, Limits::IN_FORCE, &mut Workspace::default()).ok()?;
        Some((net, solution))
    }
}

fn profile(net: &Network, solution: &Solution, i: usize, strip: &Strip) -> Option<StripProfile> {
    let solved = solution.strips.get(i).filter(|l| l.alive)?;
    let own = &net.strips[i];
    let amps = |k: usize, v: f64| match (&own.fan, own.sections.first()) {
        (Some(fan), _) => fan.strings.iter().map(|s| solution.current[s[k]]).sum(),
        (None, Some(section)) => net.ladders[section.ladder].law.current(v),
        (None, None) => 0.0,
    };
    let point = |(k, v): (usize, &f64)| ProfilePoint {
        position: Metres::new((k as f64 + 0.5) / own.per_m),
        voltage: Volts::new(*v),
        current: Amps::new(amps(k, *v)),
    };
    let across = |fan: &modest_ohm_solve::network::Fan, c: usize| {
        fan.plus.iter().zip(&fan.minus[c]).map(|(p, m)| solution.across(*p, *m)).collect::<Vec<f64>>()
    };
    let own_volts = own.fan.iter().flat_map(|fan| (0..fan.minus.len()).map(|c| across(fan, c))).collect();
    Some(StripProfile { points: solved.v.iter().enumerate().map(point).collect(), colours: ranges(strip), own_volts })
}

/// What the colours of a strip need, as the check of sagging judges them: Vf and Vreg at their largest.
fn ranges(strip: &Strip) -> Vec<ColourRange> {
    let range = |c: &crate::plan::strip::pixel::Colour| {
        let (dark_to, full_at) = light_range(strip, c);
        ColourRange { name: c.name.clone(), dark_to, full_at, regulated: !strip.pixel.plain }
    };
    strip.pixel.colours.iter().map(range).collect()
}
