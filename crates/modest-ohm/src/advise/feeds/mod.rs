//! Where to feed a strip of a plan: the fewest feed points that keep every pixel at a limit, at their best places, with
//! the wire and fuse of each; and what else would do, side by side.
//!
//! Every set is solved in the whole network of the plan, with what else is connected to it, in the state in which the
//! strip is lowest; what is found is then solved in all lasting scenarios and corners, with the fuses that it needs in
//! line.

pub(crate) mod alternatives;
pub(crate) mod trial;
pub(crate) mod verdict;

use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::quantity::figure::Corner;
use crate::quantity::units::{Amps, Fraction, Metres, Volts, WattsPerMetre};
use crate::size::placing::{best as best_places, is_exhaustive};
use crate::tables::fuse::FuseFamily;
use crate::tables::wire::WireSize;
use alternatives::FeedAlternative;
use trial::{Found, Trial, TriedLead};
use verdict::FeedVerdict;

/// Without another wish at most so many feed points are tried.
const MOST: usize = 8;

/// What a maker wishes of the feed points; what is not said comes from the plan.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct FeedRequest {
    /// What every pixel has to get; the datasheet's lowest voltage where nothing is said, else the working voltage.
    pub limit: Option<Volts>,
    /// The size of the cables; as the plan's first feed point has it, else 18 AWG, or 0.75 mm²
    /// where the plan is metric.
    pub size: Option<WireSize>,
    /// At most so many feed points; 8 where nothing is said.
    pub most: Option<usize>,
}

/// Why there is nothing to plan.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum NoFeedPlan {
    /// The plan has no strip of that name.
    NoStrip(String),
    /// Its + is cut, or it is fed from several nodes: each piece has a source of its own.
    InPieces(String),
    /// It says neither sheet voltage nor working voltage, and no limit is required.
    NoLimit(String),
    /// Nothing feeds it, or its feed collapses.
    NotFed(String),
}

impl std::fmt::Display for NoFeedPlan {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::NoStrip(name) => write!(f, "the plan has no strip `{name}`"),
            Self::InPieces(name) => {
                write!(f, "`{name}` is fed from several nodes, or its positive is cut: plan each piece separately")
            }
            Self::NoLimit(name) => {
                write!(
                    f,
                    "strip `{name}` has neither `recommended` nor `minimum`: write the voltage that every \
                    pixel needs"
                )
            }
            Self::NotFed(name) => {
                write!(f, "strip `{name}` has no voltage to plan with: nothing feeds it, or its supply collapses")
            }
        }
    }
}

impl std::error::Error for NoFeedPlan {}

/// One feed point and its cable.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FeedCable {
    /// From the start of the strip.
    pub at: Metres,
    /// The same in words: of a panel a place on a tile.
    pub place: String,
    /// One way.
    pub length: Metres,
    /// Its size.
    pub size: WireSize,
    /// The largest current continuously, all corners.
    pub current: Amps,
    /// A blade fuse that carries it and protects the cable; `None` where no standard rating does both.
    pub fuse: Option<Amps>,
}

/// The best places for a number of feed points.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FeedOption {
    /// In order of position.
    pub cables: Vec<FeedCable>,
    /// The lowest pixel in all lasting scenarios and corners.
    pub lowest: Volts,
    /// Where that is.
    pub scenario: Scenario,
    /// The corner.
    pub corner: Corner,
    /// How much weaker the colour that suffers most is at the lowest pixel, every figure at its worst.
    pub shift: Fraction,
    /// The same at nominal figures.
    pub shift_nominal: Fraction,
    /// The most heat in the copper of the strip.
    pub copper: WattsPerMetre,
    /// Whether it suffices.
    pub verdict: FeedVerdict,
    /// True where every set of this size on the grid was tried.
    pub tried_all: bool,
}

/// Whose limit every pixel has to keep.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum FeedLimit {
    /// The wish's.
    Requested,
    /// The lowest voltage that the datasheet of its pixels allows.
    Recommended,
    /// The voltage from which its pixels work.
    Minimum,
}

impl FeedLimit {
    /// In one word, as in JSON: `requested`, `recommended`, `minimum`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Requested => "requested",
            Self::Recommended => "recommended",
            Self::Minimum => "minimum",
        }
    }
}

/// What was found for a strip.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FeedPlan {
    /// The strip.
    pub strip: String,
    /// What it is made of: `pixel`, or `group` of a plain strip.
    pub unit: &'static str,
    /// What every one of them has to get.
    pub limit: Volts,
    /// Whose limit that is.
    pub limit_of: FeedLimit,
    /// The firmware limit that was taken as set, because full white exceeds the way; `None` where the plan stands as it
    /// is.
    pub with_limit: Option<Amps>,
    /// Places on the strip that were considered.
    pub places: usize,
    /// One feed point, two, and so on, up to the first number that does.
    pub options: Vec<FeedOption>,
    /// The fewest that do.
    pub fewest: Option<usize>,
    /// Other ways, side by side, the plan as it is first.
    pub alternatives: Vec<FeedAlternative>,
}

impl Plan {
    /// Plans the feed points of a strip.
    ///
    /// Places are the strip's cut marks, or the beginning and the end of each tile of a panel. The cables run along the
    /// strip, or across the face of a panel, from where the plan's first feed point is: as long as that one's, and
    /// longer by the distance from it.
    ///
    /// # Errors
    /// [`NoFeedPlan`]: no such strip, one that is fed in pieces, or one of which too little is known.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// use modest_ohm::advise::FeedRequest;
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "adapter"
    ///     voltage = "5 V"
    ///     current = "10 A"
    ///     [strip.quay]
    ///     part = "pixel-5v-rgb-12ma"
    ///     from = "wall"
    ///     cable = "0.4 m 18 AWG"
    ///     length = "2 m"
    ///     pixels = "60 /m"
    /// "#).unwrap();
    /// let feeds = plan.feed_plan("quay", &FeedRequest::default()).unwrap();
    /// assert_eq!(feeds.limit.to_string(), "4.5 V");
    /// // Each further feed point lifts the lowest pixel, until it gets what the sheet wants.
    /// assert!(feeds.options.windows(2).all(|o| o[0].lowest < o[1].lowest && !o[0].verdict.does()));
    /// assert!(feeds.options.last().is_some_and(|o| o.verdict.does()));
    /// ```
    pub fn feed_plan(&self, strip: &str, wish: &FeedRequest) -> Result<FeedPlan, NoFeedPlan> {
        self.planned_feeds(strip, wish, true)
    }

    /// The same, without what else would help: what a fix needs.
    pub(crate) fn feed_options(&self, strip: &str) -> Result<FeedPlan, NoFeedPlan> {
        self.planned_feeds(strip, &FeedRequest::default(), false)
    }

    fn planned_feeds(&self, strip: &str, wish: &FeedRequest, whole: bool) -> Result<FeedPlan, NoFeedPlan> {
        let name = || strip.to_owned();
        let Some(i) = self.strips.iter().position(|s| s.name.text == strip) else {
            return Err(NoFeedPlan::NoStrip(name()));
        };
        let own = &self.strips[i];
        let several = own.injections.windows(2).any(|q| q[0].feed.from.id != q[1].feed.from.id);
        if several || !own.cuts.is_empty() {
            return Err(NoFeedPlan::InPieces(name()));
        }
        let (limit, limit_of) = limit_of(own, wish).ok_or_else(|| NoFeedPlan::NoLimit(name()))?;
        let size = wish.size.unwrap_or_else(|| trial::planned_size(own).unwrap_or_else(|| self.wire_for_pads(None)));
        let mut trial = Trial::new(self, i, size).ok_or_else(|| NoFeedPlan::NotFed(name()))?;
        let (mut options, mut fewest) = (Vec::new(), None);
        for count in 1..=wish.most.unwrap_or(MOST).min(trial.grid.len()) {
            let Some(option) = trial.option(count, limit) else { continue };
            let does = option.verdict.does();
            options.push(option);
            if does {
                fewest = Some(count);
                break;
            }
        }
        if options.is_empty() {
            return Err(NoFeedPlan::NotFed(name()));
        }
        let places = trial.grid.len();
        let alternatives = if whole { alternatives::alternatives(&mut trial, limit) } else { Vec::new() };
        Ok(FeedPlan {
            strip: name(),
            unit: own.unit(),
            limit,
            limit_of,
            with_limit: trial.with_limit,
            places,
            options,
            fewest,
            alternatives,
        })
    }
}

fn limit_of(strip: &Strip, wish: &FeedRequest) -> Option<(Volts, FeedLimit)> {
    let sheet = strip.pixel.sheet.as_ref().map(|f| (f.low, FeedLimit::Recommended));
    let works = strip.pixel.works.as_ref().map(|f| (f.typical, FeedLimit::Minimum));
    wish.limit.map(|v| (v, FeedLimit::Requested)).or(sheet).or(works)
}

impl Trial<'_> {
    /// The best places for a number of feed points.
    fn option(&mut self, count: usize, limit: Volts) -> Option<FeedOption> {
        let (grid, pixels) = (self.grid.clone(), self.pixels());
        let all = is_exhaustive(grid.len(), count, pixels);
        let lead = self.lead.clone();
        let cable = |at: &[usize]| at.iter().map(|i| lead.length_m(grid[*i])).sum::<f64>();
        let fewer = std::mem::take(&mut self.fewer);
        let fewer = (!fewer.is_empty()).then_some(fewer.as_slice());
        let placed = best_places(grid.len(), count, all, limit.get(), fewer, &mut |at| self.gaps(at), &cable)?;
        self.fewer.clone_from(&placed.at);
        let places: Vec<f64> = placed.at.iter().map(|i| grid[*i]).collect();
        self.judged(&places, limit, all)
    }

    /// A set of feed points in all lasting scenarios and corners; its cables as thick as their current needs, with the
    /// fuse of each in line.
    fn judged(&mut self, places: &[f64], limit: Volts, tried_all: bool) -> Option<FeedOption> {
        let (tried, found) = self.fused(places)?;
        let leads = places.iter().zip(&tried).zip(&found.currents).map(|((x, lead), amps)| FeedCable {
            at: Metres::new(*x),
            place: self.plan.strips[self.strip].place_in_words(*x),
            length: Metres::new(self.lead.length_m(*x)),
            size: lead.size,
            current: Amps::new(*amps),
            fuse: lead.fuse,
        });
        Some(FeedOption {
            cables: leads.collect(),
            lowest: Volts::new(found.lowest_v),
            scenario: found.scenario.clone(),
            corner: found.corner,
            shift: Fraction::new(found.shift),
            shift_nominal: Fraction::new(found.shift_nominal),
            copper: WattsPerMetre::new(found.copper_w_per_m),
            verdict: FeedVerdict::of(&self.plan.strips[self.strip], &found, limit),
            tried_all,
        })
    }

    /// The cables of a set as thick as their current needs, each with its fuse, and what that gives.
    fn fused(&mut self, places: &[f64]) -> Option<(Vec<TriedLead>, Found)> {
        let bare = vec![TriedLead::bare(self.size); places.len()];
        let ambient = self.plan.warmest_c();
        let first = self.solve_all(places, &bare)?;
        let tried: Vec<TriedLead> = first.currents.iter().map(|a| self.carrying(Amps::new(*a), ambient)).collect();
        let found = if tried == bare { first } else { self.solve_all(places, &tried)? };
        Some((tried, found))
    }

    /// The required size, or the next thicker one that carries the current and takes a fuse that does, with that fuse.
    fn carrying(&self, amps: Amps, ambient: f64) -> TriedLead {
        let listed = self.size.listed_like();
        let from = listed.iter().position(|s| *s == self.size).unwrap_or(0);
        let family = FuseFamily::Blade;
        let fused = |size: &WireSize| {
            let ampacity = Amps::new(self.cable(0.0, *size).ampacity(ambient)?);
            let fuse =
                crate::size::fuse::fuse(amps, &[ampacity], family, family.load_factor(), family.ampacity_factor());
            (ampacity >= amps).then_some(TriedLead { size: *size, fuse: Some(fuse.rating?) })
        };
        listed[from..].iter().find_map(fused).unwrap_or(TriedLead::bare(self.size))
    }
}
