//! Modest Ohm works out the supply side of LED strips, motors, pumps and servos from a written plan, and checks it.
//!
//! # A plan, and what is wrong with it
//!
//! A plan is a text. [`Plan::from_toml`] reads one and reports everything that it cannot mean at once;
//! [`Plan::builder`] writes one in code, which is read in the same way. [`Plan::review`] solves it in every
//! [`Scenario`] and at every [`Corner`] of its tolerances, and checks it: each [`Finding`] has a stable code, a
//! [`Severity`], the part it is about, and the numbers that were compared.
//!
//! ```
//! use modest_ohm::{Plan, Severity};
//!
//! let plan = Plan::from_toml(r#"
//! format = 1
//! title = "Night light"
//!
//! [supply.wall]
//! kind = "adapter"
//! voltage = "12 V"
//! current = "1 A"
//!
//! [load.lamp]
//! from = "wall"
//! cable = "2 m 20 AWG"
//! fuse = "2 A"
//! current = "1.5 A"
//! voltage = "12 V"
//! "#)?;
//! let review = plan.review();
//! let worst = &review.findings()[0];
//! assert_eq!((worst.code, worst.severity, worst.subject.as_str()), ("supply-overloaded", Severity::Danger, "wall"));
//! let (asked, rating) = worst.comparison().expect("a current against a rating");
//! assert_eq!((asked.value, rating.value), (1.5, 1.0));
//! # Ok::<(), modest_ohm::PlanErrors>(())
//! ```
//!
//! # The numbers
//!
//! Rows of tables come from a review too, chosen by [`Select`]: voltages and currents of rails, leads, strips and
//! loads, what the pins do, what the firmware needs to know, and the trace of any one number. They are in [`views`].
//!
//! ```
//! use modest_ohm::units::Volts;
//! use modest_ohm::{Plan, Scenario, Select};
//!
//! # let plan = Plan::from_toml("format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n[load.lamp]\nfrom = \"wall\"\ncable = \"1 m 20 AWG\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n")?;
//! let worst = Select { scenario: Some(Scenario::Worst), ..Select::default() };
//! for row in plan.review().loads(&worst) {
//!     println!("{}: {} in {}, at the {} corner", row.row.name, row.row.voltage, row.scenario, row.corner);
//!     assert!(row.row.voltage < Volts::new(12.0), "its lead takes some");
//! }
//! # Ok::<(), modest_ohm::PlanErrors>(())
//! ```
//!
//! # One question, without a plan
//!
//! [`size`] answers single questions as pure functions; the checks ask the same ones. [`units`] has the quantities.
//!
//! ```
//! use modest_ohm::size::{Series, Values, bus_speed, next_larger};
//! use modest_ohm::units::{Farads, Ohms};
//!
//! assert_eq!(next_larger(Ohms::new(150.0), Series::E6), Some(Ohms::new(150.0)));
//! // Edges of 0.847·R·C = 254 ns; a bus at 400 kHz allows 300 ns.
//! assert_eq!(bus_speed(Ohms::new(1500.0), Farads::new(200e-12)).get(), 400e3);
//! ```
//!
//! # What to build
//!
//! [`advise`] tries: where to feed a strip ([`Plan::feed_plan`]), which pins to use ([`Plan::assign_pins`]), which
//! stage switches a load ([`advise::drivers`]). Each candidate is a plan that has passed every check.
//!
//! # Where things are
//!
//! | module | what is in it |
//! |---|---|
//! | [`plan`] | writing plans in code, and the places in a text |
//! | [`findings`], [`checks`] | what a check is and finds; the list of all checks |
//! | [`review`], [`views`] | what follows from a solved plan, as rows, trees and traces |
//! | [`advise`] | searches by trial |
//! | [`fixes`] | changes of a plan that were tried and end what was found |
//! | [`edit`] | changes of a plan's text that keep the rest of it |
//! | [`size`], [`panel`] | single questions and geometry, without a plan |
//! | [`catalogue`], [`tables`] | generic parts and standard sizes |
//! | [`units`] | quantities, figures with their spread and origin |

#![forbid(unsafe_code)]

pub mod advise;
pub mod catalogue;
pub mod checks;
pub(crate) mod derived;
pub mod edit;
pub mod findings;
pub mod fixes;
pub(crate) mod network;
pub mod odds;
pub mod panel;
pub mod plan;
pub(crate) mod quantity;
pub mod review;
pub mod size;
pub(crate) mod solved;
pub(crate) mod source;
pub mod tables;
pub(crate) mod text;
pub(crate) mod topology;
pub(crate) mod verdict;
pub mod views;

/// Quantities with their units, figures with spread and origin, and how both are read and printed.
pub mod units {
    pub use crate::quantity::figure::{Figure, NoCorner, Origin, Role};
    pub use crate::quantity::format::{duration, engineering, engineering_of};
    pub use crate::quantity::parse::{ParseProblem, parse_figure, parse_quantity};
    pub use crate::quantity::range::{Nominal, Range};
    pub use crate::quantity::units::{
        AmpHours, Amps, AmpsPerMetre, Bytes, Celsius, Coulombs, Farads, Fraction, Henries, Hertz, Joules,
        KelvinsPerWatt, Metres, Ohms, OhmsPerMetre, PerMetre, Quantity, Seconds, SquareMetres, Volts, Watts,
        WattsPerMetre,
    };
}

pub use crate::findings::finding::Finding;
pub use crate::plan::kinds::scenario::Scenario;
pub use crate::plan::model::Plan;
pub use crate::quantity::figure::Corner;
pub use crate::review::Review;
pub use crate::text::problem::{PlanErrors, Problem};
pub use crate::verdict::severity::Severity;
pub use crate::views::select::Select;

/// README's program is compiled with the other examples.
#[cfg(doctest)]
#[doc = include_str!("../../../README.md")]
struct Readme;
