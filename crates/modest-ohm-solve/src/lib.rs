//! The numerics of Modest Ohm: electrical networks of supplies, wires, converters, loads and LED strips, solved.
//!
//! A [`Network`](network::Network) is vertices, two-terminal elements with their laws, and ladders of pixels. It knows
//! neither names nor plans; the core (`modest-ohm`) builds it from a plan and reads the [`Solution`](solve::Solution)
//! back. All numbers are SI; a current counts positive from `from` to `to` through an element.
//!
//! ```
//! use modest_ohm_solve::network::{Branch, Law, Network};
//! use modest_ohm_solve::solve::{Limits, Workspace, solve};
//! // 12 V, 1 Ω of wire, a load that draws 2 A.
//! let element = |from, to, law| Branch { from, to, law };
//! let net = Network {
//!     vertices: 3,
//!     branches: vec![
//!         element(0, 1, Law::Source { emf: 12.0, ohms: 0.0, limit: f64::INFINITY, sinks: false }),
//!         element(1, 2, Law::Conductor { ohms: 1.0, rise: 0.0, ampacity: f64::INFINITY }),
//!         element(2, 0, Law::ConstantCurrent { amps: 2.0, knee: 1.0 }),
//!     ],
//!     source_minus: vec![0],
//!     supplies: vec![0],
//!     ..Network::default()
//! };
//! let solution = solve(&net, Limits::IN_FORCE, &mut Workspace::default()).unwrap();
//! assert!((solution.potential[2] - 10.0).abs() < 1e-12);
//! ```

#![forbid(unsafe_code)]

pub mod network;
pub mod solve;

pub use network::Groups;
