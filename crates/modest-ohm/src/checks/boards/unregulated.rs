//! unregulated-input: solved voltage at a board's unregulated input.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::quantity::units::Volts;
use crate::verdict::compare::{at_most, exceeds, is_below};
use crate::verdict::severity::Severity;

/// Volts up to this share of the highest recommended are advice only.
const NEARLY: f64 = 1.05;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (board, inlets) in context.plan.boards.iter().zip(&context.layout.inlets) {
        let (Some(own), Some((t, _))) = (&board.unregulated, &inlets.unregulated) else { continue };
        let name = format!("{}.{}", board.name.text, own.terminal);
        let across = |s: &crate::solved::outcome::Snapshot| s.volts(*t);
        let Some(high) = context.worst_actual(|_| true, |_, s| across(s)) else { continue };
        let low = context.worst_actual(|_| true, |_, s| across(s).map(|v| -v));
        let (most, least) = (Volts::new(high.value), Volts::new(-low.as_ref().map_or(-high.value, |w| w.value)));
        let mut report = |severity, at, volts: Volts, limit: Volts, origin, words: String| {
            sink.find(
                Draft::of(severity, (&name, board.name.span))
                    .at(at)
                    .says(format!("unregulated input `{name}` is at {volts}{words}"))
                    .judged("voltage", volts)
                    .limit(EvidenceRole::beyond(volts.get(), limit.get()), "limit", limit, origin),
            );
        };
        let range = format!("{} .. {}", own.recommended.low, own.recommended.high);
        if exceeds(most.get(), own.absolute.typical.get()) {
            report(
                Severity::Danger,
                Some(&high),
                most,
                own.absolute.typical,
                &own.absolute.origin,
                format!("; absolute maximum {}", own.absolute.typical),
            );
        } else if exceeds(most.get(), own.recommended.high.get()) {
            // A twentieth is what an adapter's tolerance makes of it; how warm its regulator gets is judged by itself.
            let little = at_most(most.get(), NEARLY * own.recommended.high.get());
            report(
                if little { Severity::Advisory } else { Severity::Caution },
                Some(&high),
                most,
                own.recommended.high,
                &own.recommended.origin,
                format!(", above the recommended {range}: the board's regulator runs hot"),
            );
        } else if is_below(least.get(), own.recommended.low.get()) {
            report(
                Severity::Caution,
                low.as_ref(),
                least,
                own.recommended.low,
                &own.recommended.origin,
                format!(", below the recommended {range}: its regulator cannot hold {}", own.makes.typical),
            );
        } else if context.all_actual() {
            sink.pass(&name, || format!("{least} .. {most} of {range}"));
        }
    }
}
