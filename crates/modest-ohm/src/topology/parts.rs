//! The parts of a plan with what they are connected to, and what their supply withstands.

use crate::plan::driver::DriverKind;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;

/// A part with what it is connected to and what it withstands.
pub(crate) struct Part<'p> {
    pub name: &'p Name,
    pub from: NodeId,
    pub electronic: bool,
    pub rated: bool,
    pub behind_load: bool,
    pub stands: Option<f64>,
}

impl<'p> Part<'p> {
    fn electronic(name: &'p Name, from: NodeId, stands: Option<Figure<Volts>>) -> Self {
        let stands = stands.map(|v| v.typical.get());
        Self { name, from, electronic: true, rated: false, behind_load: false, stands }
    }
}

/// Every part that has a supply, once a feed; plain loads included.
pub(crate) fn parts(plan: &Plan) -> Vec<Part<'_>> {
    let mut parts: Vec<Part<'_>> = Vec::new();
    for c in &plan.converters {
        let part = Part::electronic(&c.name, c.feed.from.id, Some(c.input_maximum()));
        parts.push(Part { rated: c.vehicle_rated, ..part });
    }
    for c in &plan.boards {
        parts.extend(c.feed.iter().map(|f| Part::electronic(&c.name, f.from.id, c.absolute.clone())));
    }
    for b in plan.branches.iter().filter(|b| matches!(b.kind, RunKind::Terminal { .. }) && !b.open.any()) {
        let board = if let RunKind::Terminal { board } = b.kind { plan.boards.get(board) } else { None };
        let own = board.filter(|c| c.is_unregulated(&b.name.text)).and_then(|c| c.unregulated.as_ref());
        parts.push(Part::electronic(&b.name, b.feed.from.id, own.map(|u| u.absolute.clone())));
    }
    for s in &plan.strips {
        let of = |from| Part::electronic(&s.name, from, s.pixel.absolute_maximum());
        parts.extend(s.injections.iter().map(|q| of(q.feed.from.id)));
    }
    parts.extend(plan.shifters.iter().map(|s| Part::electronic(&s.name, s.feed.from.id, s.absolute.clone())));
    for l in &plan.loads {
        let part = Part::electronic(&l.name, l.feed.from.id, l.absolute_maximum());
        parts.push(Part { electronic: is_electronic(l), ..part });
    }
    parts.extend(stages(plan));
    parts
}

/// Electronics, servos, and what keeps its power; not lamps, heaters, motors, horns, nor LEDs behind their resistors.
fn is_electronic(load: &Load) -> bool {
    match load.nature {
        Some(Nature::Electronics | Nature::Servo) => true,
        Some(Nature::Led) => load.recommended.is_some(),
        Some(Nature::Motor | Nature::Coil | Nature::Lamp | Nature::Heater) => false,
        None => load.regulated,
    }
}

/// Semiconductors hold the rail off while they are open; contacts stand a pulse.
fn stages(plan: &Plan) -> impl Iterator<Item = Part<'_>> {
    plan.branches.iter().enumerate().filter_map(|(run, branch)| {
        let (driver, _) = plan.stage_of_run(run)?;
        if driver.kind.is_contact() {
            return None;
        }
        let part = Part::electronic(&driver.name, branch.feed.from.id, None);
        let stands = driver.voltage.as_ref().map(|v| if driver.kind == DriverKind::Bridge { v.high } else { v.low });
        Some(Part { stands: stands.map(|v| v.get()), behind_load: driver.bridge().is_none(), ..part })
    })
}
