//! mains-input: the voltage that a supply takes, against those of the region.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::supply::SupplyKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::Volts;
use crate::verdict::compare::{at_least, at_most};

/// The mains may differ so much from their nominal voltage (IEC 60038).
const TOLERANCE: f64 = 0.10;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let Some(region) = context.plan.policy.region else { return };
    let (low, high) = (region.volts() * (1.0 - TOLERANCE), region.volts() * (1.0 + TOLERANCE));
    let on_mains = |k: SupplyKind| matches!(k, SupplyKind::Adapter | SupplyKind::MainsConverter | SupplyKind::Bench);
    for s in context.plan.supplies.iter().filter(|s| on_mains(s.kind)) {
        let name = &s.name.text;
        let Some(input) = &s.input else {
            // What has a plug of the region is made for it; what is wired is not, by itself.
            if s.kind == SupplyKind::MainsConverter {
                let message = format!(
                    "cannot check `{name}`: its mains voltage is not given; here it is {}",
                    Volts::new(region.volts())
                );
                sink.unknown(name, s.name.span, message, "read its label and write `input = \"100 V .. 240 V\"`");
            }
            continue;
        };
        // A label's nominal range has the mains' tolerance as well.
        let (least, most) = (input.low.get() * (1.0 - TOLERANCE), input.high.get() * (1.0 + TOLERANCE));
        if at_most(least, low) && at_least(most, high) {
            sink.pass(name, || format!("rated {} .. {}", input.low, input.high));
            continue;
        }
        sink.find(
            Draft::danger(&s.name)
                .says(format!(
                    "`{name}` is rated {} .. {}; the mains voltage here is {}",
                    input.low,
                    input.high,
                    Volts::new(region.volts())
                ))
                .judged_as_given("mains", Volts::new(region.volts()), &Origin::Default("the policy's region"))
                .given("rated_voltage", input.high, &input.origin),
        );
    }
}
