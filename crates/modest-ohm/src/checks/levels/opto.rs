//! level-high and level-low of an optocoupler's input: currents, no voltage, and no ground between.

use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::plan::kinds::signal_lines::Opto;
use crate::quantity::units::Amps;
use crate::solved::opto::opto_amps;
use crate::topology::signals::Hop;

pub(crate) fn judge(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>, opto: &Opto, high: bool) {
    let (subject, span) = hop.item(context.plan);
    if opto.indicator.is_none() {
        if high {
            sink.unknown(
                subject,
                span,
                format!(
                    "cannot check the optocoupler of `{subject}`: whether an indicator LED (1.9 V) is in series is \
                    not given"
                ),
                "look at the board, or measure its current: `indicator = \"series\"`, `\"parallel\"` or `\"none\"`",
            );
        }
        return;
    }
    // On while the pin is high, or, from a rail, while it is low.
    let is_on = high == opto.from.is_none();
    let solved = context.outcomes.iter().filter_map(|o| {
        let (least, most) = opto_amps(context.plan, hop, opto, high, o.actual.as_ref().ok()?)?;
        Some((o, if is_on { least } else { most }))
    });
    let worst = solved.reduce(|a, b| if (b.1 < a.1) == is_on { b } else { a });
    let Some((o, value)) = worst else { return };
    let (got, limit) = (Amps::new(value), if is_on { &opto.on } else { &opto.off });
    let wants = if is_on { limit.high } else { limit.low };
    let fine = if is_on { got >= wants } else { got <= wants };
    let pin = if high { "high" } else { "low" };
    if fine {
        sink.pass(subject, || {
            format!("while its pin is {pin}: {got}, {} {wants}", if is_on { "needs" } else { "allowed" })
        });
        return;
    }
    let limit_words = if is_on { format!("needs {wants} to turn on") } else { format!("turns off below {wants}") };
    sink.find(
        Draft::fault((subject, span))
            .at(&Worst::at(o, value))
            .says(format!(
                "while {} is {pin}, {got} flows through the optocoupler of `{subject}`; {limit_words}",
                hop.words(context.plan).0
            ))
            .judged("through", got)
            .limit(if is_on { EvidenceRole::AtLeast } else { EvidenceRole::AtMost }, "limit", wants, &limit.origin),
    );
}
