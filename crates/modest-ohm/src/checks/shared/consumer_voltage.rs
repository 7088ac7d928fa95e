//! The voltage at a consumer against its absolute maximum, minimum and recommended range: for two families.

use crate::derived::consumers::{Consumer, Where};
use crate::derived::context::{Context, Worst};
use crate::derived::driver_drop::stage_is_why;
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::units::Volts;
use crate::topology::low_logic::on_low_logic;
use crate::verdict::codes;
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

/// Motors, pumps, servos and solenoids have a check of their own for volts at which they burn or stand still.
pub(crate) fn is_winding(context: &Context<'_>, c: &Consumer<'_>) -> bool {
    matches!(c.at, Where::Load(i) if context.plan.loads[i].is_winding() || context.plan.loads[i].is_motor())
}

/// Which findings of a consumer's volts are told.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Which {
    All,
    /// Cautions, what is unknown, and what passes.
    Milder,
    /// Faults and dangers.
    Worse,
}

impl Which {
    fn tells(self, severity: Severity) -> bool {
        match self {
            Which::All => true,
            Which::Milder => severity < Severity::Fault,
            Which::Worse => severity >= Severity::Fault,
        }
    }
}

/// What to do about too few volts: another rail where this one could never do, else less drop.
fn more_volts(context: &Context<'_>, c: &Consumer<'_>, low: &Worst, wanted: Volts) -> String {
    let name = &context.plan.nodes[c.root.0].name;
    if let Some(cure) = context.fed_past(c.root, low) {
        return cure;
    }
    if let Some(pin) = c.pin(context.plan) {
        let lost = "loses volts with every milliampere";
        return format!(
            "the pin {} {lost}: let a transistor switch it, and feed it from `{name}`",
            context.plan.pin_words(pin)
        );
    }
    let best = context.worst_actual(|o| o.case.continuous, |_, s| s.volts_at(c.root));
    match best {
        Some(best) if best.value < wanted.get() => {
            format!("`{name}` gives {} at best: feed it from a rail of {wanted} or more", Volts::new(best.value))
        }
        _ => format!("take a thicker or shorter lead from `{name}`, or raise its volts"),
    }
}

pub(crate) fn judge(context: &Context<'_>, sink: &mut Sink, c: &Consumer<'_>, which: Which) {
    if c.absolute.is_none() && c.minimum.is_none() && c.recommended.is_none() {
        if which == Which::Worse {
            return;
        }
        sink.unknown(
            &c.name,
            c.declared.span,
            format!("{} `{}` does not say which volts it is made for", c.what, c.name),
            "give its rated volts: `voltage = \"12 V\"`",
        );
        return;
    }
    let high = context.worst_actual(|_| true, |_, s| c.highest(s));
    let low = context.worst_actual(|_| true, |o, s| c.lowest(o, s).map(|v| -v));
    let mut sound = context.all_actual();
    let mut report =
        |severity, at: &Worst, volts: f64, limit: Volts, origin: &Origin, words: String, cure: String, name| {
            if !which.tells(severity) {
                return;
            }
            let draft = Draft::of(severity, (&c.name, c.declared.span))
                .at(at)
                .says(format!("{} `{}` gets {}{words}", c.what, c.name, Volts::new(volts)))
                .judged("volts", Volts::new(volts))
                .limit(EvidenceRole::beyond(volts, limit.get()), name, limit, origin)
                .cure(cure);
            sink.find(match which {
                Which::Worse => draft.implies(codes::SUPPLY_VOLTAGE, &c.name),
                Which::All | Which::Milder => draft,
            });
        };
    if let Some(high) = &high {
        let over = |limit: f64| exceeds(high.value, limit);
        if let Some(a) = c.absolute.as_ref().filter(|a| over(a.typical.get())) {
            sound = false;
            let cure = format!("feed it with {} or less", c.recommended.as_ref().map_or(a.typical, |r| r.high));
            report(
                Severity::Danger,
                high,
                high.value,
                a.typical,
                &a.origin,
                format!(" and stands {} at most", a.typical),
                cure,
                "maximum",
            );
        } else if let Some(r) = c.recommended.as_ref().filter(|r| over(r.high.get())) {
            sound = false;
            let words = format!(", above the recommended {} .. {}", r.low, r.high);
            report(
                c.above,
                high,
                high.value,
                r.high,
                &r.origin,
                words,
                "lower the supply's volts".into(),
                "recommended",
            );
        }
    }
    // What its own stage takes from it is told of the stage; that its rail could never do, of that.
    let by_stage = matches!(c.at, Where::Load(i) if stage_is_why(context, i) || on_low_logic(context.plan, i));
    sound &= !by_stage;
    if let Some(low) = low.as_ref().filter(|_| !by_stage) {
        let volts = -low.value;
        let under = |limit: f64| is_below(volts, limit);
        if let Some(m) = c.minimum.as_ref().filter(|m| under(m.typical.get())) {
            sound = false;
            report(
                Severity::Fault,
                low,
                volts,
                m.typical,
                &m.origin,
                format!(" and needs {} to work", m.typical),
                more_volts(context, c, low, m.typical),
                "minimum",
            );
        } else if let Some(r) = c.recommended.as_ref().filter(|r| under(r.low.get())) {
            sound = false;
            let words = format!(", below the recommended {} .. {}", r.low, r.high);
            report(
                Severity::Caution,
                low,
                volts,
                r.low,
                &r.origin,
                words,
                more_volts(context, c, low, r.low),
                "recommended",
            );
        }
    }
    if let (true, Some(high)) = (sound, high) {
        let bottom = low.map_or(String::new(), |l| format!("{} .. ", Volts::new(-l.value)));
        sink.pass(&c.name, format!("{bottom}{}", Volts::new(high.value)));
    }
}
