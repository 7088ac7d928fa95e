//! Where to feed a strip: the fewest feed points, and for a number of them the best places.

use modest_ohm_solve::network::{Branch, Clamp, Ladder, Law, Network, PixelLaw, Port};
use modest_ohm_solve::solve::{Limits, Solution, Workspace, solve_pixels};

use super::placing::{Gaps, Placed, best, is_exhaustive};
use crate::quantity::units::{Amps, Metres, Ohms, OhmsPerMetre, PerMetre, Volts};

/// One colour of a pixel at its level: no current up to `vf`, `current` from `vreg` on.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PixelColour {
    /// Its current at the level that it is shown at.
    pub current: Amps,
    /// Where its current begins.
    pub vf: Volts,
    /// Where it is reached.
    pub vreg: Volts,
}

/// A strip by its figures.
#[derive(Clone, Debug, PartialEq)]
pub struct InjectionStrip {
    /// How many pixels.
    pub pixels: usize,
    /// Pixels per metre; pixel k stands at (k + 0.5)/density from the start.
    pub density: PerMetre,
    /// Copper of its feed.
    pub copper_feed: OhmsPerMetre,
    /// Copper of its return.
    pub copper_return: OhmsPerMetre,
    /// What a dark pixel draws.
    pub quiescent: Amps,
    /// The voltage from which it draws that.
    pub quiescent_knee: Volts,
    /// Its colours.
    pub colours: Vec<PixelColour>,
}

/// The cables of feed points: each its own, from the source.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct InjectionCable {
    /// Metres that every cable has, one way.
    pub fixed: Metres,
    /// Further metres for each metre between the feed point and where the source sits: 0 where all cables are alike, 1
    /// where they run along the strip.
    pub per_metre: f64,
    /// Where along the strip the source sits.
    pub source_at: Metres,
    /// The feed conductor.
    pub feed: OhmsPerMetre,
    /// The return conductor.
    pub back: OhmsPerMetre,
}

impl InjectionCable {
    /// Its length to a feed point.
    #[must_use]
    pub fn length(&self, at: Metres) -> Metres {
        self.fixed + Metres::new((at - self.source_at).get().abs()) * self.per_metre
    }
}

/// What is to be fed, from what, over what.
#[derive(Clone, Debug, PartialEq)]
pub struct InjectionNeed {
    /// The source's voltage.
    pub source: Volts,
    /// Its resistance.
    pub resistance: Ohms,
    /// The strip.
    pub strip: InjectionStrip,
    /// The cables.
    pub lead: InjectionCable,
    /// Where it may be fed: its pads.
    pub grid: Vec<Metres>,
    /// What every pixel has to get.
    pub limit: Volts,
    /// At most so many feed points.
    pub most: usize,
}

/// The best places for a number of feed points.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct InjectionSet {
    /// Where, from the start of the strip.
    pub at: Vec<Metres>,
    /// What flows into each feed point.
    pub currents: Vec<Amps>,
    /// The lowest pixel.
    pub lowest: Volts,
    /// All leads together, one way.
    pub cable: Metres,
    /// True where every set of this size was tried; false where the places were found by moving them.
    pub tried_all: bool,
    /// Where all were tried: how many sets lie within 0.1 µV of the best, the mirrored one counted.
    pub equals: usize,
    /// Where all were tried: how many sets keep every pixel at the limit.
    pub pass: usize,
}

/// What the search for feed points found.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct InjectionPlaces {
    /// One feed point, two, and so on, up to the first number that suffices, or the most that were asked for.
    pub sets: Vec<InjectionSet>,
    /// The fewest with every pixel at the limit or above; `None` where not even the most suffice.
    pub fewest: Option<usize>,
}

/// The fewest feed points that keep every pixel at a limit, each number at its best places.
///
/// Best is the highest lowest pixel; of sets within 0.1 µV the one with the least cable, then the first along the
/// strip. Sets that are few are all tried; of more, see [`InjectionSet::tried_all`].
///
/// ```
/// use modest_ohm::size::{self, InjectionCable, InjectionNeed, InjectionStrip, PixelColour};
/// use modest_ohm::units::{Amps, Metres, Ohms, OhmsPerMetre, PerMetre, Volts};
/// let white = PixelColour { current: Amps::new(0.06), vf: Volts::new(2.7), vreg: Volts::new(3.7) };
/// let need = InjectionNeed {
///     source: Volts::new(5.0),
///     resistance: Ohms::new(0.005),
///     strip: InjectionStrip {
///         pixels: 60,
///         density: PerMetre::new(60.0),
///         copper_feed: OhmsPerMetre::new(0.1),
///         copper_return: OhmsPerMetre::new(0.1),
///         quiescent: Amps::new(0.001),
///         quiescent_knee: Volts::new(1.5),
///         colours: vec![white],
///     },
///     lead: InjectionCable {
///         fixed: Metres::new(0.5),
///         per_metre: 0.0,
///         source_at: Metres::new(0.0),
///         feed: OhmsPerMetre::new(0.021),
///         back: OhmsPerMetre::new(0.021),
///     },
///     grid: vec![Metres::new(0.0), Metres::new(0.5), Metres::new(1.0)],
///     limit: Volts::new(4.7),
///     most: 3,
/// };
/// let places = size::injection(&need);
/// // From the middle: 1.8 A each way over 0.25 m of 0.2 Ω/m on the mean, and what the lead loses.
/// assert_eq!(places.fewest, Some(1));
/// assert_eq!(places.sets[0].at, [Metres::new(0.5)]);
/// ```
#[must_use]
pub fn injection(need: &InjectionNeed) -> InjectionPlaces {
    let mut grid: Vec<f64> = need.grid.iter().map(|x| x.get()).filter(|x| x.is_finite() && *x >= 0.0).collect();
    grid.sort_by(f64::total_cmp);
    grid.dedup();
    let mut trial = Trial::new(need, grid);
    let (mut sets, mut fewest) = (Vec::new(), None);
    for count in 1..=need.most.min(trial.grid.len()) {
        let all = is_exhaustive(trial.grid.len(), count, need.strip.pixels);
        let fewer: Option<Vec<usize>> = sets.last().map(|s: &InjectionSet| trial.places_of(&s.at));
        let Some(set) = trial.best(count, all, fewer.as_deref()) else { continue };
        let does = set.lowest.get() >= need.limit.get() * (1.0 - 1e-12);
        sets.push(set);
        if does {
            fewest = Some(count);
            break;
        }
    }
    InjectionPlaces { sets, fewest }
}

/// As [`injection`], for one number of feed points; `tried_all` says whether every set is tried or places are moved.
#[doc(hidden)]
#[must_use]
pub fn injection_of(need: &InjectionNeed, count: usize, tried_all: bool) -> Option<InjectionSet> {
    let mut trial = Trial::new(need, need.grid.iter().map(|x| x.get()).collect());
    trial.best(count, tried_all, None)
}

/// The strip on its source, solved for one set of feed points after the other.
struct Trial<'a> {
    need: &'a InjectionNeed,
    grid: Vec<f64>,
    law: PixelLaw,
    workspace: Workspace,
}

impl<'a> Trial<'a> {
    fn new(need: &'a InjectionNeed, grid: Vec<f64>) -> Self {
        let strip = &need.strip;
        let knee = strip.quiescent_knee.get().max(1e-6);
        let mut clamps = vec![Clamp { amps: strip.quiescent.get(), start_v: 0.0, slope: 1.0 / knee }];
        clamps.extend(strip.colours.iter().map(|c| Clamp {
            amps: c.current.get(),
            start_v: c.vf.get(),
            slope: 1.0 / (c.vreg - c.vf).get().max(1e-6),
        }));
        Self { need, grid, law: PixelLaw { clamps }, workspace: Workspace::default() }
    }

    fn best(&mut self, count: usize, all: bool, fewer: Option<&[usize]>) -> Option<InjectionSet> {
        let need = self.need;
        let (grid, lead) = (self.grid.clone(), need.lead);
        let cable = |at: &[usize]| at.iter().map(|i| lead.length(Metres::new(grid[*i])).get()).sum::<f64>();
        let placed = best(self.grid.len(), count, all, need.limit.get(), fewer, &mut |at| self.gaps(at), &cable)?;
        let places: Vec<f64> = placed.at.iter().map(|i| self.grid[*i]).collect();
        let solution = self.solved(&places)?;
        let Placed { lowest_v, cable_m, equals, pass, .. } = placed;
        Some(InjectionSet {
            currents: solution.ladders[0].ports.iter().map(|p| Amps::new(p.feed_a)).collect(),
            at: places.into_iter().map(Metres::new).collect(),
            lowest: Volts::new(lowest_v),
            cable: Metres::new(cable_m),
            tried_all: all,
            equals,
            pass,
        })
    }

    /// Where on the grid feed points stand.
    fn places_of(&self, at: &[Metres]) -> Vec<usize> {
        at.iter().filter_map(|x| self.grid.iter().position(|g| (g - x.get()).abs() < 1e-12)).collect()
    }

    fn gaps(&mut self, at: &[usize]) -> Gaps {
        let places: Vec<f64> = at.iter().map(|i| self.grid[*i]).collect();
        let density = self.need.strip.density.get();
        Some(gaps_of(&self.solved(&places)?.ladders[0].v, &places, density))
    }

    fn solved(&mut self, places: &[f64]) -> Option<Solution> {
        let need = self.need;
        // 0 is the source's −, 1 its +; each feed point has a pair of its own.
        let source =
            Law::Source { emf: need.source.get(), ohms: need.resistance.get(), limit: f64::INFINITY, sinks: true };
        let mut branches = vec![Branch { from: 0, to: 1, law: source }];
        let mut ports = Vec::with_capacity(places.len());
        for (n, x) in places.iter().enumerate() {
            let length = need.lead.length(Metres::new(*x));
            let (plus, minus) = (2 + 2 * n, 3 + 2 * n);
            let conductor = |r: OhmsPerMetre| Law::Conductor {
                ohms: (r * length).get().max(1e-9),
                rise: 0.0,
                ampacity: f64::INFINITY,
            };
            branches.push(Branch { from: 1, to: plus, law: conductor(need.lead.feed) });
            branches.push(Branch { from: 0, to: minus, law: conductor(need.lead.back) });
            ports.push(Port { at_m: *x, plus, minus });
        }
        let strip = &need.strip;
        let net = Network {
            vertices: 2 + 2 * places.len(),
            branches,
            ladders: vec![Ladder {
                pixels: strip.pixels,
                per_m: strip.density.get(),
                first_m: 0.0,
                feed_ohm_per_m: strip.copper_feed.get().max(1e-9),
                return_ohm_per_m: strip.copper_return.get().max(1e-9),
                law: self.law.clone(),
                ports,
            }],
            strips: Vec::new(),
            source_minus: vec![0],
            supplies: vec![0],
        };
        solve_pixels(&net, Limits::LIFTED, &mut self.workspace).ok()
    }
}

/// The lowest pixel beyond the first feed point, between each two, and beyond the last.
pub(crate) fn gaps_of(volts: &[f64], places: &[f64], density: f64) -> Vec<f64> {
    let mut gaps = vec![f64::INFINITY; places.len() + 1];
    let mut gap = 0;
    for (k, v) in volts.iter().enumerate() {
        let x = (k as f64 + 0.5) / density;
        while gap < places.len() && places[gap] <= x {
            gap += 1;
        }
        gaps[gap] = gaps[gap].min(*v);
    }
    gaps
}
