//! mains-contact: the contacts in a mains circuit, one after another.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::Nature;
use crate::plan::kinds::mains::Mains;
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::size::relay::{ContactLoad, contact_share};
use crate::text::Named;
use crate::verdict::compare::{at_most, is_below};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for m in &context.plan.mains {
        neutral(sink, m);
        chain(context.plan, sink, m);
    }
}

/// A contact in neutral leaves all behind it live.
fn neutral(sink: &mut Sink, m: &Mains) {
    if m.breaks_line != Some(false) || m.through.is_empty() {
        return;
    }
    sink.find(
        Draft::danger(&m.name)
            .says(format!("the contacts of `{}` break neutral: off, all of it is live", m.name.text))
            .cure("break the line conductor: `breaks = \"line\"`"),
    );
}

fn share(nature: Option<Nature>) -> f64 {
    let load = match nature {
        Some(Nature::Motor) => ContactLoad::Motor,
        Some(Nature::Coil) => ContactLoad::Coil,
        Some(Nature::Lamp) => ContactLoad::Lamp,
        Some(Nature::Electronics | Nature::Servo) => ContactLoad::Capacitive,
        _ => ContactLoad::Resistive,
    };
    contact_share(load, true).get()
}

fn chain(plan: &Plan, sink: &mut Sink, m: &Mains) {
    let name = &m.name.text;
    let volts = m.volts.as_ref().map(|v| v.high.get()).or_else(|| plan.policy.region.map(|r| r.volts()));
    let current = m.current.as_ref().map(|c| c.high.get());
    let of_power = m.power.as_ref().zip(volts).map(|(p, v)| p.high.get() / v.max(1.0));
    let Some(amps) = current.or(of_power) else {
        if !m.through.is_empty() {
            let message = format!("what flows in `{name}` is not given; whether its contacts switch it is not known");
            sink.unknown(
                name,
                m.name.span,
                message,
                "give `current`, or `power` and the volts (`volts`, or `region` in `[policy]`)",
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
    let driver = plan.drivers.iter().find(|d| through.text.split('.').next() == Some(&d.name.text));
    let switch = plan.branches.iter().filter(|b| b.name.text == through.text).find_map(|b| b.switch());
    let rating = driver.and_then(|d| d.current.as_ref()).or(switch.and_then(|s| s.rating.as_ref()));
    let stands = driver.and_then(|d| d.relay()).and_then(|r| r.ac_volts.as_ref());
    let (Some(rating), Some(volts)) = (rating, volts) else {
        let what = if rating.is_none() { "its rating" } else { "the mains' volts" };
        let message = format!(
            "whether the contact `{}` switches {} of `{name}` is not known: {what} is not given",
            through.text,
            Amps::new(amps)
        );
        sink.unknown(name, span, message, "give `current` of the contact, and `volts` or `region`");
        return;
    };
    if let Some(stands) = stands.filter(|s| is_below(s.low.get(), volts)) {
        sink.find(
            Draft::danger((name, span))
                .says(format!(
                    "the contact `{}` is made for {} AC and switches {} in `{name}`",
                    through.text,
                    stands.low,
                    Volts::new(volts)
                ))
                .judged("volts", Volts::new(volts))
                .at_most("stands", stands.low, &stands.origin)
                .cure("take a relay for the mains"),
        );
        return;
    }
    if driver.is_some() && stands.is_none() {
        let message = format!("whether `{}` is made for the mains is not given", through.text);
        sink.unknown(name, span, message, "give `ac-volts` of the relay from its sheet, or name its class");
        return;
    }
    let may = Amps::new(rating.low.get() * share(m.nature));
    let carries = Amps::new(amps);
    if at_most(carries.get(), may.get()) {
        sink.pass(name, format!("`{}` switches {carries} of {may}", through.text));
        return;
    }
    sink.find(
        Draft::danger((name, span))
            .says(format!(
                "the contact `{}` switches {carries} in `{name}`, and of its {} {may} are left for this load",
                through.text, rating.low
            ))
            .judged("switches", carries)
            .at_most(
                "may",
                may,
                &Origin::Default("30 % for a motor or coil, 15 % for a lamp, 10 % for what charges capacitors"),
            )
            .given("rating", rating.low, &rating.origin)
            .cure(format!("take a contact for {} or more", Amps::new(amps / share(m.nature)))),
    );
}
