//! pin-drives-coil: what has a coil or a cold filament does not belong on a pin.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::{Evidence, EvidenceRole};
use crate::findings::sink::Sink;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::model::Plan;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::units::Amps;
use crate::verdict::codes;

/// Motors, coils and lamps on pins.
pub(crate) fn coils(plan: &Plan) -> impl Iterator<Item = (usize, &Load)> {
    let is_coil = |l: &Load| matches!(l.nature, Some(Nature::Motor | Nature::Coil | Nature::Lamp));
    plan.loads.iter().enumerate().filter(move |(_, l)| is_coil(l) && l.feed.pins() != (None, None))
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, load) in plan.loads.iter().enumerate() {
        let (out, into) = load.feed.pins();
        let Some(pin) = out.or(into) else { continue };
        judge(context, sink, plan, i, load, pin);
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, plan: &Plan, index: usize, load: &Load, pin: &PinAt) {
    let board = &plan.boards[pin.board];
    let name = &load.name.text;
    let words = plan.pin_words(pin);
    let span = load.feed.from.name.span.unwrap_or(load.name.span);
    let why = match load.nature {
        Some(Nature::Motor | Nature::Coil) => "at turn-off its stored energy goes into the pin",
        Some(Nature::Lamp) => "when cold it draws ten times its current",
        Some(Nature::Heater | Nature::Electronics | Nature::Led | Nature::Servo) => {
            sink.pass(name, || "not a motor, coil or lamp".into());
            return;
        }
        None => {
            sink.unknown(
                name,
                span,
                format!("cannot check `{name}` on pin {words}: its kind (motor, coil or lamp) is not given"),
                "write its kind: `kind = \"electronics\"`",
            );
            return;
        }
    };
    let amps = context.worst_sustained(|s| s.current_into(index));
    let limit = board.pins.limits(pin.index, out_of(load)).0;
    let amps = Amps::new(amps.map_or(0.0, |w| w.value));
    let over = limit.is_some_and(|l| amps > l.low);
    // What makes it a danger is the coil; the limit of the pin is one only where the current is beyond it.
    let role = if over { EvidenceRole::AtMost } else { EvidenceRole::Context };
    let stands = limit.map_or(String::new(), |l| format!(", a pin is rated {}", l.low));
    let draft = Draft::danger((name, span))
        .says(format!(
            "{} `{name}` is connected to pin {words}: {amps}{stands}, and {why}",
            load.nature.map_or("load", Nature::word)
        ))
        .judged("current", amps)
        .facts(limit.map(|l| Evidence::limit(role, "recommended", l.low, &l.origin)));
    sink.find(if over {
        draft.implies(codes::PIN_OVERLOADED, &format!("{}.{}", board.name.text, pin.pin))
    } else {
        draft
    });
}

/// True where the current flows into the pin.
fn out_of(load: &Load) -> bool {
    load.feed.pins().0.is_none()
}
