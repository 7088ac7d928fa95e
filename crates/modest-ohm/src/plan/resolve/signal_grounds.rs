//! A signal's lead that has a − beside it, `ground = true`: a conductor between the sender's − and the receiver's.

use crate::plan::driver::Driver;
use crate::plan::kinds::ground::{Ground, GroundKind};
use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::signal_lines::Line;
use crate::plan::model::Plan;
use crate::plan::wiring::cable::{Cable, cable_of};
use crate::plan::wiring::feed::{Feed, NodeRef};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinRef;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Metres, Ohms};
use crate::source::Span;
use crate::tables::wire::WireSize;
use crate::text::Named;

/// What signal cables are mostly made of (typical).
const SIGNAL_WIRE: WireSize = WireSize::Awg(26);
/// A cable of which no length is given, m.
const LENGTH_M: f64 = 0.2;

/// Adds the conductors that signals bring along.
pub(crate) fn signal_grounds(plan: &mut Plan) {
    let mut grounds = Vec::new();
    for strip in &plan.strips {
        let Some(data) = strip.data.as_ref().filter(|d| d.ground && !strip.is_fan()) else { continue };
        let Some(pin) = &data.pin else { continue };
        let to = NodeRef::new(Named { text: format!("{}.start", strip.name.text), span: Some(data.span) });
        // Of data a length is enough; what returns beside it is a wire all the same.
        let sized = data.cable.clone().filter(|c| c.size.is_some() || c.length().is_none());
        let cable = sized.unwrap_or_else(|| lead(data.span, data.cable.as_ref().and_then(|c| c.length().cloned())));
        grounds.extend(ground(plan, &strip.name, pin, to, cable, None));
    }
    for (i, load) in plan.loads.iter().enumerate() {
        let Some(signal) = load.signal.as_ref().filter(|s| s.line.ground) else { continue };
        let Some(pin) = signal.pins.first() else { continue };
        let to = load.feed.from.clone();
        grounds.extend(ground(plan, &load.name, pin, to, of_line(&signal.line), Some(i)));
    }
    for wire in plan.wires.iter().filter(|w| w.line.ground) {
        let Some(to) = wire.to.as_ref().and_then(|to| board_node(plan, to)) else { continue };
        grounds.extend(ground(plan, &wire.name, &wire.pin, to, of_line(&wire.line), None));
    }
    for driver in plan.drivers.iter().filter(|d| d.line.ground) {
        let Some(pin) = driver.channels.iter().find_map(|c| c.pins.first()) else { continue };
        let runs = plan.branches.iter().find(|b| driver.channels.iter().any(|c| b.name.text == c.name));
        let Some(run) = runs else { continue };
        let to = run.feed.back.as_ref().map_or_else(|| run.feed.from.clone(), |b| b.to.clone());
        grounds.extend(ground(plan, &driver.name, pin, to, of_line(&driver.line), None));
    }
    grounds.extend(plan.drivers.iter().filter_map(|d| inside(plan, d)));
    plan.grounds.extend(grounds);
}

/// What a bridge's module has between the − of its motors and that of its logic, Ω (typical of a trace and a leg).
const INSIDE_OHMS: f64 = 0.02;

/// The − of a bridge's motors and that of its logic are one leg of its chip, unless it isolates.
fn inside(plan: &Plan, driver: &Driver) -> Option<Ground> {
    let apart = driver.isolates || !driver.bridge().is_some_and(|b| b.logic_fed);
    let inlet = plan.branches.iter().find(|b| matches!(b.kind, RunKind::Inlet) && is_inlet_of(&b.name.text, driver))?;
    let minus = |feed: &Feed| feed.back.as_ref().map_or_else(|| feed.from.clone(), |b| b.to.clone());
    let logic = &plan.loads.get(driver.load?)?.feed;
    (!apart).then(|| Ground {
        name: Name { text: format!("{}.minus", driver.name.text), span: driver.name.span },
        between: [minus(&inlet.feed), minus(logic)],
        cable: None,
        resistance: Some(Figure::exact(Ohms::new(INSIDE_OHMS), Origin::Default("20 mΩ inside a bridge (typical)"))),
        load: None,
        what: GroundKind::Inside,
    })
}

fn is_inlet_of(run: &str, driver: &Driver) -> bool {
    run.strip_prefix(&driver.name.text) == Some(".motor")
}

fn of_line(line: &Line) -> Cable {
    lead(line.span, line.length.clone())
}

fn lead(span: Span, length: Option<Figure<Metres>>) -> Cable {
    cable_of(
        span,
        length.unwrap_or_else(|| Figure::exact(Metres::new(LENGTH_M), Origin::Default("0.2 m if no length is given"))),
        SIGNAL_WIRE,
    )
}

/// The board that a pin belongs to, as a node.
fn board_node(plan: &Plan, pin: &PinRef) -> Option<NodeRef> {
    let board = pin.name.text.split('.').next()?;
    let known = plan.boards.iter().find(|c| c.name.text == board)?;
    Some(NodeRef::new(Named { text: format!("{board}.{}", known.terminal), span: pin.name.span }))
}

fn ground(plan: &Plan, of: &Name, pin: &PinRef, to: NodeRef, cable: Cable, load: Option<usize>) -> Option<Ground> {
    let from = board_node(plan, pin)?;
    let name = Name { text: format!("{}.signal-ground", of.text), span: of.span };
    Some(Ground { name, between: [from, to], cable: Some(cable), resistance: None, load, what: GroundKind::WithSignal })
}
