//! The voltage at a consumer against its absolute maximum, minimum and recommended range: for two families.

use crate::derived::consumers::{Consumer, Where};
use crate::derived::context::{Context, Worst};
use crate::derived::driver_drop::stage_is_why;
use crate::derived::wrong_rail::{WrongRail, is_apart, wrong_rail};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Ohms, Volts};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::low_logic::on_low_logic;
use crate::verdict::codes;
use crate::verdict::compare::{at_most, clearly_below, clearly_exceeds, exceeds};
use crate::verdict::severity::Severity;

/// Volts up to this share of the highest recommended are advice only.
const NEARLY: f64 = 1.05;

/// Motors, pumps, servos and solenoids have a check of their own for voltage at which they burn or stand still.
pub(crate) fn is_winding(context: &Context<'_>, c: &Consumer<'_>) -> bool {
    matches!(c.at, Where::Load(i) if context.plan.loads[i].is_winding() || context.plan.loads[i].is_motor())
}

/// Which findings of a consumer's voltage is reported.
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

/// The cable of a USB source of which the plan says nothing.
struct AssumedLead<'p> {
    ohms: &'p Figure<Ohms>,
    /// What a usual one leaves more than the worst, V.
    gains_v: f64,
    /// What would tell.
    task: String,
}

fn usb_lead<'p>(context: &Context<'p>, c: &Consumer<'_>, low: &Worst) -> Option<AssumedLead<'p>> {
    let node = &context.plan.nodes[c.root.0];
    let NodeKind::Supply(i) = node.kind else { return None };
    let supply = &context.plan.supplies[i];
    let ohms = &supply.resistance;
    let has_lead = matches!(supply.kind, SupplyKind::Usb | SupplyKind::Negotiated);
    if !has_lead || !matches!(ohms.origin, Origin::Default(_)) {
        return None;
    }
    let amps = context.outcome(low)?.actual.as_ref().ok()?.current_of(node.kind);
    let takes = Volts::new(amps * ohms.high.get());
    let task = format!(
        "the USB cable of `{}` drops up to {takes} at {} (0.25 Ω assumed): use a short, thick one, or measure it and \
        write `cable-resistance = \"0.13 Ω\"`",
        node.name,
        Amps::new(amps)
    );
    Some(AssumedLead { ohms, gains_v: amps * (ohms.high - ohms.typical).get(), task })
}

pub(crate) fn judge(context: &Context<'_>, sink: &mut Sink, c: &Consumer<'_>, which: Which) {
    if c.absolute.is_none() && c.minimum.is_none() && c.recommended.is_none() {
        if which == Which::Worse {
            return;
        }
        sink.unknown(
            &c.name,
            c.declared.span,
            format!("cannot check {} `{}`: its supply voltage range is not given", c.what, c.name),
            match c.at {
                Where::Board(_) => "write the range of its datasheet: `recommended = \"9 V .. 15 V\"`",
                _ => "write its rated voltage: `voltage = \"12 V\"`",
            },
        );
        return;
    }
    if let Some((severity, draft)) = wrong_rail(context.plan, c).and_then(|wrong| on_wrong_rail(context, c, &wrong)) {
        if which.tells(severity) {
            sink.find(if which == Which::Worse { draft.implies(codes::SUPPLY_VOLTAGE, &c.name) } else { draft });
        }
        return;
    }
    // Of a rail whose source has collapsed only the collapse is reported.
    let stands = |o: &Outcome| !o.is_down(c.hangs_on);
    let high = context.worst_actual(stands, |_, s| c.highest_conducting(context.plan, s));
    let low = context.worst_actual(stands, |o, s| c.lowest(o, s).map(|v| -v));
    // What its own stage takes from it is reported of the stage; that its rail could never do, of that.
    let by_stage = matches!(c.at, Where::Load(i) if stage_is_why(context, i) || on_low_logic(context.plan, i));
    let over = high.as_ref().and_then(|high| too_high(context, c, high));
    let under = low.as_ref().filter(|_| !by_stage).and_then(|low| too_low(context, c, low));
    let collapses = context.outcomes.iter().any(|o| o.is_down(c.hangs_on));
    let sound = context.all_actual() && !collapses && over.is_none() && under.is_none() && !by_stage;
    for (_, draft) in over.into_iter().chain(under).filter(|(severity, _)| which.tells(*severity)) {
        sink.find(match which {
            Which::Worse => draft.implies(codes::SUPPLY_VOLTAGE, &c.name),
            Which::All | Which::Milder => draft,
        });
    }
    if let (true, Some(high)) = (sound, high) {
        let bottom = low.map_or(String::new(), |l| format!("{} .. ", Volts::new(-l.value)));
        sink.pass(&c.name, || format!("{bottom}{}", Volts::new(high.value)));
    }
}

/// Whether a consumer is on the wrong rail, and that is what is reported of its voltage.
pub(crate) fn is_on_wrong_rail(context: &Context<'_>, c: &Consumer<'_>) -> bool {
    wrong_rail(context.plan, c).and_then(|wrong| on_wrong_rail(context, c, &wrong)).is_some()
}

/// The one thing to say of a consumer on the wrong rail; `None` while that is dead, or where what lies between brings
/// it the voltage that it is made for.
fn on_wrong_rail(context: &Context<'_>, c: &Consumer<'_>, wrong: &WrongRail) -> Option<(Severity, Draft)> {
    let WrongRail { rated, supplied, is_high } = wrong;
    let range = c.recommended.as_ref()?;
    // The most that it ever gets: too much, or too little even so, whatever else feeds it.
    let most = |s: &Snapshot| if *is_high { c.highest_conducting(context.plan, s) } else { s.volts_at(c.hangs_on) };
    let at = context.worst_actual(|_| true, |_, s| most(s))?;
    let volts = Volts::new(at.value);
    if !is_apart(range, volts) {
        return None;
    }
    let source = &context.plan.nodes[c.root.0].name;
    let over = c.absolute.as_ref().filter(|a| *is_high && exceeds(volts.get(), a.typical.get()));
    let severity = if over.is_some() { Severity::Danger } else { Severity::Fault };
    let stands = over.map_or(String::new(), |a| format!("; absolute maximum {}", a.typical));
    let draft = Draft::of(severity, (&c.name, c.declared.span))
        .at(&at)
        .says(format!("`{}` is a {rated} {}; `{source}` supplies {supplied}{stands}", c.name, c.what))
        .judged("voltage", volts);
    let draft = match (over, is_high) {
        (Some(a), _) => draft.at_most("maximum", a.typical, &a.origin),
        (None, true) => draft.at_most("recommended", range.high, &range.origin),
        (None, false) => draft.at_least("recommended", range.low, &range.origin),
    };
    Some((severity, draft))
}

/// The words, unless the verdict alone counts: variants are judged by the hundred.
fn said(context: &Context<'_>, words: impl FnOnce() -> String) -> String {
    if context.is_read() { words() } else { String::new() }
}

/// More than it stands, or than is recommended.
fn too_high(context: &Context<'_>, c: &Consumer<'_>, high: &Worst) -> Option<(Severity, Draft)> {
    let volts = Volts::new(high.value);
    if let Some(a) = c.absolute.as_ref().filter(|a| exceeds(high.value, a.typical.get())) {
        let draft = Draft::danger((&c.name, c.declared.span))
            .says(said(context, || format!("{} `{}` is at {volts}; absolute maximum {}", c.what, c.name, a.typical)))
            .judged("voltage", volts)
            .at_most("maximum", a.typical, &a.origin);
        return Some((Severity::Danger, draft.at(high)));
    }
    let lasting = high.value * c.lasting.high;
    let volts = Volts::new(lasting);
    let r = c.recommended.as_ref().filter(|r| clearly_exceeds(lasting, r.high.get()))?;
    // A twentieth above a range is what every source's tolerance makes of it.
    let severity = if at_most(lasting, NEARLY * r.high.get()) { Severity::Advisory } else { c.above };
    let draft = Draft::of(severity, (&c.name, c.declared.span))
        .says(said(context, || {
            format!("{} `{}` is at {volts}, above the recommended {} .. {}", c.what, c.name, r.low, r.high)
        }))
        .judged("voltage", volts)
        .at_most("recommended", r.high, &r.origin);
    Some((severity, draft.at(high)))
}

/// Less than it needs to work, or than is recommended; `low` holds the voltage with their sign turned.
fn too_low(context: &Context<'_>, c: &Consumer<'_>, low: &Worst) -> Option<(Severity, Draft)> {
    let volts = Volts::new(-low.value);
    if let Some(m) = c.minimum.as_ref().filter(|m| clearly_below(volts.get(), m.typical.get())) {
        let lead = usb_lead(context, c, low);
        // A verdict that rests on an assumed lead is one step milder where a usual one passes.
        let usual = lead.as_ref().is_some_and(|l| !clearly_below(volts.get() + l.gains_v, m.typical.get()));
        let severity = if usual { Severity::Caution } else { Severity::Fault };
        let mut draft = Draft::of(severity, (&c.name, c.declared.span))
            .says(said(context, || format!("{} `{}` is at {volts}; needs {}", c.what, c.name, m.typical)))
            .judged("voltage", volts)
            .at_least("minimum", m.typical, &m.origin);
        draft = match lead {
            Some(lead) => draft.given("cable_resistance", lead.ohms.high, &lead.ohms.origin).task(lead.task),
            None => draft,
        };
        return Some((severity, draft.at(low)));
    }
    let volts = Volts::new(volts.get() * c.lasting.low);
    let r = c.recommended.as_ref().filter(|r| clearly_below(volts.get(), r.low.get()))?;
    let draft = Draft::caution((&c.name, c.declared.span))
        .says(said(context, || {
            format!("{} `{}` is at {volts}, below the recommended {} .. {}", c.what, c.name, r.low, r.high)
        }))
        .judged("voltage", volts)
        .at_least("recommended", r.low, &r.origin);
    Some((Severity::Caution, draft.at(low)))
}
