//! mains-contact: the contacts in a mains circuit, one after another.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Nature;
use crate::plan::kinds::mains::Mains;
use crate::plan::model::Plan;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction, Volts};
use crate::size::relay::{ContactLoad, contact_makes};
use crate::source::Span;
use crate::text::Named;
use crate::verdict::compare::{at_most, is_below};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for m in &context.plan.mains {
        neutral(sink, m);
        chain(context.plan, sink, m);
    }
}

/// A contact in neutral leaves all behind it live.
fn neutral(sink: &mut Sink, m: &Mains) {
    if m.breaks_line != Some(false) || m.through.is_empty() || m.is_extra_low() {
        return;
    }
    sink.find(
        Draft::danger(&m.name)
            .says(format!("the contacts of `{}` break neutral: while off, everything in it is live", m.name.text)),
    );
}

fn kind(nature: Option<Nature>) -> ContactLoad {
    match nature {
        Some(Nature::Motor) => ContactLoad::Motor,
        Some(Nature::Coil) => ContactLoad::Coil,
        Some(Nature::Lamp) => ContactLoad::Lamp,
        Some(Nature::Electronics | Nature::Servo) => ContactLoad::Capacitive,
        _ => ContactLoad::Resistive,
    }
}

/// What charging the rectifiers of mains electronics takes, A²s a watt (typical 0.008 .. 0.03).
const RECTIFIER_A2S: f64 = 0.017;
/// What a contact withstands without welding: a tenth of a second at its rating (typical).
const WELDS_S: f64 = 0.1;

fn chain(plan: &Plan, sink: &mut Sink, m: &Mains) {
    let name = &m.name.text;
    let region = plan.policy.region;
    let volts = m.volts_at(region);
    let Some(amps) = m.amps_with(&plan.mains, &|m| m.volts_at(region)) else {
        if !m.through.is_empty() {
            let message = format!("cannot check the contacts that switch `{name}`: its current is not given");
            sink.unknown(
                name,
                m.name.span,
                message,
                "write `current`, or `power` and the voltage (`voltage`, or `region` in `[policy]`)",
            );
        }
        return;
    };
    for through in &m.through {
        contact(plan, sink, m, through, (volts, amps));
    }
}

/// One contact in the way of the mains.
fn contact(plan: &Plan, sink: &mut Sink, m: &Mains, through: &Named, (volts, amps): (Option<f64>, f64)) {
    let name = &m.name.text;
    let span = through.span.unwrap_or(m.name.span);
    let driver = plan.driver_of(&through.text).map(|(driver, _)| &plan.drivers[driver]);
    let switch = plan.branches.iter().filter(|b| b.name.text == through.text).find_map(|b| b.switch());
    let rating = driver.and_then(|d| d.current.as_ref()).or(switch.and_then(|s| s.rating.as_ref()));
    let stands = driver.and_then(|d| d.relay()).and_then(|r| r.ac_volts.as_ref());
    let (Some(rating), Some(volts)) = (rating, volts) else {
        let what = if rating.is_none() { "its rating" } else { "the mains voltage" };
        let message =
            format!("cannot check contact `{}` ({} of `{name}`): {what} is not given", through.text, Amps::new(amps));
        sink.unknown(name, span, message, "write `current` of the contact, and `voltage` or `region`");
        return;
    };
    if let Some(draft) = too_high(m, through, span, stands, Volts::new(volts)) {
        sink.find(draft);
        return;
    }
    if driver.is_some() && stands.is_none() {
        let message = format!("cannot check `{}`: its AC voltage rating is not given", through.text);
        sink.unknown(name, span, message, "write `ac-voltage` from the datasheet of the relay, or set `part`");
        return;
    }
    let carries = Amps::new(amps);
    if at_most(carries.get(), rating.low.get()) {
        closes(sink, m, through, span, rating, (volts, amps));
        return;
    }
    sink.find(
        Draft::danger((name, span))
            .says(format!("contact `{}` switches {carries} of `{name}`; rated {}", through.text, rating.low))
            .judged("switches", carries)
            .at_most("rating", rating.low, &rating.origin),
    );
}

/// More voltage than it is made for.
fn too_high(m: &Mains, through: &Named, span: Span, stands: Option<&Figure<Volts>>, volts: Volts) -> Option<Draft> {
    let stands = stands.filter(|s| is_below(s.low.get(), volts.get()))?;
    let draft = Draft::danger((&m.name.text, span))
        .says(format!(
            "contact `{}` is rated {} AC and switches {volts} of `{}`",
            through.text, stands.low, m.name.text
        ))
        .judged("voltage", volts)
        .at_most("rating", stands.low, &stands.origin);
    Some(draft)
}

/// What it closes on, within its rating.
fn closes(sink: &mut Sink, m: &Mains, through: &Named, span: Span, rating: &Figure<Amps>, (volts, amps): (f64, f64)) {
    let (name, carries) = (&m.name.text, Amps::new(amps));
    let load = kind(m.nature);
    if load == ContactLoad::Capacitive {
        charges(sink, m, (name, span), &through.text, rating, volts * amps);
        return;
    }
    let start = match load {
        ContactLoad::Motor => INDUCTION_START,
        other => other.start(),
    };
    let (closes, makes) = (Amps::new(start * amps), contact_makes(rating.low, None, load, true));
    if at_most(closes.get(), makes.get()) {
        sink.pass(name, || {
            format!("`{}` switches {carries} of {}, closes on {closes} of {makes}", through.text, rating.low)
        });
        return;
    }
    sink.find(
        Draft::caution((name, span))
            .says(format!(
                "contact `{}` closes on about {closes} of `{name}`; rated {makes}: it wears quickly",
                through.text
            ))
            .judged("closes_on", closes)
            .at_most("making_current", makes, &Origin::Default("2.5 or 3 times the rating (typical of contacts)"))
            .given("rating", rating.low, &rating.origin),
    );
}

/// An induction motor takes so many times its running current as it starts (typical 5 .. 8).
const INDUCTION_START: f64 = 6.0;

/// Rectifiers that charge: by I²t, and never more than a caution, for nothing of it is stated.
fn charges(
    sink: &mut Sink,
    m: &Mains,
    subject: (&String, crate::source::Span),
    through: &str,
    rating: &Figure<Amps>,
    watts: f64,
) {
    let share = RECTIFIER_A2S * watts / (WELDS_S * rating.low.get().powi(2));
    let severity = if share > 1.0 {
        Severity::Caution
    } else if share > 0.5 {
        Severity::Advisory
    } else {
        sink.pass(subject.0, || {
            format!("`{through}` is rated for the charging of its rectifiers, {}", Fraction::new(share))
        });
        return;
    };
    sink.find(
        Draft::of(severity, subject)
            .says(format!(
                "when `{through}` closes, the rectifiers of `{}` draw about {} of what welds a contact rated {}",
                m.name.text,
                Fraction::new(share),
                rating.low
            ))
            .judged("charging", Fraction::new(share))
            .at_most("welds", Fraction::new(1.0), &Origin::Default("a tenth of a second at its rating (typical)")),
    );
}
