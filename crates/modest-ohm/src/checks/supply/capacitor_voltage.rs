//! capacitor-voltage: the highest lasting voltage across a capacitor against what it is rated for.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::units::Volts;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// A little above its rating an electrolytic capacitor leaks and ages; beyond this it bursts (typical of formed
/// aluminium).
const BURSTS: f64 = 1.1;
/// Practice leaves a tenth.
const NEAR: f64 = 0.9;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for capacitor in &context.plan.capacitors {
        let Some(rated) = &capacitor.voltage else { continue };
        let highest = context.worst_actual(|o| o.case.continuous, |_, s| s.volts_at(capacitor.across.id));
        let Some(worst) = highest else { continue };
        let (name, volts) = (&capacitor.name.text, Volts::new(worst.value));
        let (severity, limit) = match rated.low.get() {
            most if exceeds(volts.get(), BURSTS * most) => (Severity::Danger, most),
            most if exceeds(volts.get(), most) => (Severity::Caution, most),
            most if exceeds(volts.get(), NEAR * most) => (Severity::Advisory, NEAR * most),
            _ => {
                if context.all_actual() {
                    sink.pass(name, || format!("{volts} of {}", rated.low));
                }
                continue;
            }
        };
        let does = match severity {
            Severity::Danger => ": an electrolytic capacitor bursts",
            Severity::Caution => ": it leaks and ages",
            _ => ", with no margin",
        };
        sink.find(
            Draft::of(severity, &capacitor.name)
                .at(&worst)
                .says(format!("`{name}` is rated {}; it is at {volts}{does}", rated.low))
                .judged("voltage", volts)
                .at_most("rated", Volts::new(limit), &rated.origin),
        );
    }
}
