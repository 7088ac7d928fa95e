//! polarity-unprotected: a source that a hand can connect the wrong way round, and nothing that stops it.

use super::transient::hanging_on;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::supply::SupplyKind;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, supply) in plan.supplies.iter().enumerate() {
        if !matches!(supply.kind, SupplyKind::Battery | SupplyKind::Vehicle { .. }) {
            continue;
        }
        let name = &supply.name.text;
        let open: Vec<String> =
            hanging_on(plan, i).into_iter().filter(|h| h.electronic && !h.diode).map(|h| h.name).collect();
        if supply.keyed || open.is_empty() {
            let why = if supply.keyed { "its plug is keyed" } else { "a diode or MOSFET blocks it" };
            sink.pass(name, || why.into());
            continue;
        }
        let names = open.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ");
        sink.find(
            Draft::advisory(&supply.name)
                .says(format!("reverse polarity at the {} `{name}` would destroy {names}", supply.kind.word())),
        );
    }
}
