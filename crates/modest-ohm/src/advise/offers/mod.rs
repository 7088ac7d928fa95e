//! Which stages switch a load from a pin: candidates from the simplest on, each written into a plan of its own, solved
//! and checked; only those of which nothing is found are offered.

pub(crate) mod candidates;
pub(crate) mod rig;

use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Hertz, Volts};
use crate::verdict::codes;
use crate::verdict::severity::Severity;
use candidates::{Candidate, candidates};
use rig::{Rig, rig};

/// A load, the rail that feeds it, and the board whose pin is to switch it.
///
/// ```
/// use modest_ohm::advise::{DriverRequest, drivers};
/// use modest_ohm::units::Volts;
/// let mut wish = DriverRequest::new("pump-12v-small", "12 V ± 5 %", "wifi-board-3v3");
/// let stages = drivers(&wish).unwrap();
/// assert!(stages.offers.iter().any(|o| o.part == "nmos-logic-30v"));
/// wish.grounded = true;
/// let stages = modest_ohm::advise::drivers(&wish).unwrap();
/// assert!(stages.offers.iter().all(|o| o.part != "nmos-logic-30v"));
/// ```
#[derive(Clone, Debug)]
pub struct DriverRequest {
    /// The class of the load, of a kind that has one: motor, pump, solenoid, load.
    pub load: String,
    /// The rail's voltage as a plan writes them: `12 V ± 5 %`.
    pub rail: String,
    /// The class of the board.
    pub board: String,
    /// How often it is to be switched; `None`: occasionally.
    pub pwm: Option<Hertz>,
    /// True where its − is its case.
    pub grounded: bool,
    /// True for a motor that is to turn in both directions.
    pub reversible: bool,
}

impl DriverRequest {
    /// Switched occasionally, on either side, one way.
    #[must_use]
    pub fn new(load: &str, rail: &str, board: &str) -> Self {
        Self {
            load: load.to_owned(),
            rail: rail.to_owned(),
            board: board.to_owned(),
            pwm: None,
            grounded: false,
            reversible: false,
        }
    }
}

/// A stage that works out.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct DriverOffer {
    /// The class of the driver.
    pub part: String,
    /// What it is: `transistor`, `MOSFET` …
    pub kind: &'static str,
    /// Every part that it takes, by class or value.
    pub parts: Vec<String>,
    /// The tables of a plan that it is, the load's `driver` or `from` included.
    pub toml: String,
    /// What the load gets at least while it runs; `None` for one that draws nothing.
    pub leaves: Option<Volts>,
    /// What passed of its heat, in words; empty where nothing is said of it.
    pub heat: String,
    /// Good practice that is left to the maker.
    pub advice: Vec<String>,
}

/// A stage that does not.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct DriverRejected {
    /// The class of the driver.
    pub class: String,
    /// What it is.
    pub kind: &'static str,
    /// Why not, in words with numbers.
    pub why: String,
}

/// What switches a load from a pin, the simplest first; and what does not, with the reason.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct DriverOffers {
    /// Those that work out.
    pub offers: Vec<DriverOffer>,
    /// Those that do not.
    pub rejected: Vec<DriverRejected>,
}

/// Why no stages were tried for a wish, in words.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NoDrivers(String);

impl std::fmt::Display for NoDrivers {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.0)
    }
}

impl std::error::Error for NoDrivers {}

/// Works out which stages switch a load.
///
/// # Errors
/// [`NoDrivers`]: a class that there is none of, or of a kind that needs no stage; voltage that is none.
pub fn drivers(wish: &DriverRequest) -> Result<DriverOffers, NoDrivers> {
    let rig = rig(wish).map_err(NoDrivers)?;
    let mut out = DriverOffers { offers: Vec::new(), rejected: Vec::new() };
    for candidate in candidates(wish, &rig) {
        match candidate {
            Err(passed_over) => out.rejected.push(passed_over),
            Ok(candidate) => match tried(&rig, &candidate) {
                Ok(offer) => out.offers.push(offer),
                Err(why) => {
                    let (class, kind) = (candidate.class.clone(), candidate.kind);
                    out.rejected.push(DriverRejected { class, kind, why });
                }
            },
        }
    }
    Ok(out)
}

/// A candidate in its plan, reviewed: the offer that it makes, or what is found of it.
fn tried(rig: &Rig, candidate: &Candidate) -> Result<DriverOffer, String> {
    let text = rig.plan_with(&candidate.toml);
    let plan = Plan::from_toml(&text).map_err(|e| e.to_string())?;
    let review = plan.review();
    let of_feed = |f: &crate::findings::finding::Finding| {
        crate::checks::registry().iter().any(|c| c.code == f.code && c.is_about_feed)
    };
    let spoils = |f: &&crate::findings::finding::Finding| match f.severity {
        Severity::Advisory => false,
        // A capacitor that the load needs is needed with every stage.
        Severity::Caution => !of_feed(f),
        _ => true,
    };
    let worst = review.findings().iter().find(spoils);
    if let Some(finding) = worst {
        return Err(finding.message.clone());
    }
    let leaves = lowest(&review, &rig.load_name);
    let heat =
        review.passed().iter().find(|p| p.code == codes::DRIVER_HEAT).map_or_else(String::new, |p| p.margin.clone());
    let own = |f: &&crate::findings::finding::Finding| f.severity == Severity::Caution || !of_feed(f);
    Ok(DriverOffer {
        part: candidate.class.clone(),
        kind: candidate.kind,
        parts: candidate.parts.clone(),
        toml: candidate.toml.trim().to_owned(),
        leaves,
        heat,
        advice: review.findings().iter().filter(own).map(|f| f.message.clone()).collect(),
    })
}

/// The lowest voltage of the load while it runs.
fn lowest(review: &crate::review::Review, load: &str) -> Option<Volts> {
    let select = crate::views::select::Select { scenario: Some(Scenario::Worst), ..Default::default() };
    review.loads(&select).into_iter().find(|r| r.row.name == load).map(|r| r.row.voltage)
}

/// The voltage of a text, with the tolerance of an adapter where none is given.
fn rail_of(text: &str) -> Result<Figure<Volts>, String> {
    let figure =
        crate::quantity::parse::parse_figure::<Volts>(text).map_err(|p| format!("{} ({})", p.message, p.help))?;
    if figure.low.get() <= 0.0 {
        return Err(format!("the rail: {} is not above zero", figure.low));
    }
    Ok(figure.with_tolerance(0.05))
}
