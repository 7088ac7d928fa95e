//! mains-separation, mains-fuse, mains-earth and mains-colours: what a circuit on the mains says of itself.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::mains::{Mains, Region};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Metres};
use crate::tables::wire::WireSize;
use crate::verdict::compare::{at_most, clearly_below, exceeds, is_below};
use crate::verdict::severity::Severity;

/// Between mains and touchable low voltage at 230 V, reinforced (IEC 60664-1, 60335-1, 62368-1), m: what clean and dry
/// air needs, and what damp or a fixed installation needs.
const CLEARANCE_M: (f64, f64) = (0.003, 0.0055);
const CREEPAGE_M: (f64, f64) = (0.005, 0.008);
/// At 120 V so much of it.
const AT_120_V: f64 = 0.6;

pub(crate) fn separation(context: &Context<'_>, sink: &mut Sink) {
    let (wet, region) = (context.plan.policy.wet, context.plan.policy.region);
    let scale = if region == Some(Region::NorthAmerica) { AT_120_V } else { 1.0 };
    for m in context.plan.mains.iter().filter(|m| !m.is_extra_low()) {
        let name = &m.name.text;
        let least_creepage = if wet { CREEPAGE_M.1 } else { CREEPAGE_M.0 };
        let sides = [
            ("clearance", &m.clearance, (CLEARANCE_M.0 * scale, CLEARANCE_M.1 * scale), "through air"),
            ("creepage", &m.creepage, (least_creepage * scale, CREEPAGE_M.1 * scale), "along a surface"),
        ];
        let milder = if wet { Severity::Caution } else { Severity::Advisory };
        let judge =
            |(key, f, (least, better), way): (&'static str, &Option<Figure<Metres>>, (f64, f64), &'static str)| {
                let f = f.clone()?;
                let of = |severity, limit: f64| Some((severity, key, f.clone(), limit, way));
                match f.low.get() {
                    got if is_below(got, least) => of(Severity::Danger, least),
                    got if clearly_below(got, better) => of(milder, better),
                    _ => None,
                }
            };
        let worst = sides.into_iter().filter_map(judge).max_by_key(|(severity, ..)| *severity);
        if let Some((severity, key, f, wanted, way)) = worst {
            let (got, wanted) = (f.low, Metres::new(wanted));
            let reason = match severity {
                Severity::Danger => "reinforced insulation needs",
                _ => "damp, dust or a fixed installation need",
            };
            let where_ = if wet { "in wet rooms" } else { "in dry rooms" };
            sink.find(
                Draft::of(severity, &m.name)
                    .says(format!("`{name}` is {got} {way} from touchable low voltage; {reason} {wanted} {where_}"))
                    .judged(key, got)
                    .at_least("required", wanted, &Origin::Default("IEC 60664-1, reinforced insulation"))
                    .given("measured", got, &f.origin),
            );
        } else if m.clearance.is_none() || m.creepage.is_none() {
            let message = format!(
                "cannot check the insulation between `{name}` and touchable low voltage: no \
                distances given"
            );
            sink.unknown(
                name,
                m.name.span,
                message,
                "measure them and write `clearance = \"8 mm\"`, `creepage = \"10 mm\"`",
            );
        } else {
            sink.pass(name, || "reinforced insulation".into());
        }
    }
}

/// Cords of appliances by the appliance's current (IEC 60335-1, table 11): mm², A, and A where the cord is up to 2 m.
const CORDS: [(f64, f64, f64); 4] = [(0.5, 2.0, 3.0), (0.75, 6.0, 10.0), (1.0, 10.0, 16.0), (1.5, 16.0, 16.0)];
/// North America: AWG and A, two loaded conductors (NEC 400.5).
const CORDS_AWG: [(i32, f64); 3] = [(18, 10.0), (16, 13.0), (14, 18.0)];
const SHORT_M: f64 = 2.0;
/// Thinner than this a cord burns before a 16 A circuit trips: it lets 1.6 .. 8 kA²s through, where 0.75 mm² stands
/// 7.4.
const LEAST_MM2: f64 = 0.5;
const UNFUSED_MM2: f64 = 0.75;
/// A cord gets little warmer by so much more than its rating.
const NEARLY: f64 = 1.1;

/// What a cord of this size and length may feed, A.
fn cord_a(m: &Mains) -> Option<f64> {
    let size = m.size?;
    if let WireSize::Awg(n) = size {
        return CORDS_AWG.iter().rev().find(|(row, _)| n <= *row).map(|(_, a)| *a);
    }
    let short = m.length.as_ref().is_some_and(|l| l.high.get() <= SHORT_M);
    let row = CORDS.iter().rev().find(|(mm2, ..)| *mm2 <= size.area_mm2() * (1.0 + 1e-6))?;
    Some(if short { row.2 } else { row.1 })
}

const CORD: Origin = Origin::Default("IEC 60335-1, table 11; NEC 400.5");

pub(crate) fn fuse(context: &Context<'_>, sink: &mut Sink) {
    let volts = |m: &Mains| m.volts_at(context.plan.policy.region);
    for m in context.plan.mains.iter().filter(|m| !m.is_extra_low()) {
        let name = &m.name.text;
        let load = m.amps_with(&context.plan.mains, &volts).map(Amps::new);
        let own = m.fuse.as_ref().map(|f| f.rating.high);
        if m.size.is_none() {
            let message = format!("cannot check the cord of `{name}`: its size is not given");
            sink.unknown(name, m.name.span, message, "write it: `size = \"0.75 mm²\"`");
            continue;
        }
        let found = cord_a(m).map_or_else(|| thin(m), |may| judge_cord(m, Amps::new(may), load, own));
        match found {
            Some(draft) => sink.find(draft),
            None if load.is_none() && own.is_none() => {
                let message = format!("cannot check the cord of `{name}`: its current is not given");
                sink.unknown(name, m.name.span, message, "write `current`, or `power`, or its `fuse`");
            }
            None => sink.pass(name, || "its cord and its fuse suit it".into()),
        }
    }
}

/// Thinner than any cord of an appliance.
fn thin(m: &Mains) -> Option<Draft> {
    let draft = Draft::danger(&m.name)
        .says(format!(
            "the wires of `{}` are thinner than any mains cord: they burn before the circuit breaker trips",
            m.name.text
        ))
        .given("minimum", crate::quantity::units::SquareMetres::new(LEAST_MM2 * 1e-6), &CORD);
    Some(draft)
}

fn judge_cord(m: &Mains, may: Amps, load: Option<Amps>, own: Option<Amps>) -> Option<Draft> {
    let name = &m.name.text;
    let flows = load.or(own);
    if let Some(flows) = flows.filter(|a| exceeds(a.get(), may.get())) {
        let severity = match load {
            Some(load) if !at_most(load.get(), NEARLY * may.get()) => Severity::Danger,
            _ => Severity::Caution,
        };
        let what = if load.is_some() { "its load draws" } else { "its fuse passes" };
        let draft = Draft::of(severity, &m.name)
            .says(format!("the cord of `{name}` is rated {may}; {what} {flows}"))
            .judged("flows", flows)
            .at_most("cord", may, &CORD);
        return Some(draft);
    }
    if let (Some(load), Some(own)) = (load, own)
        && exceeds(load.get(), own.get())
    {
        let draft = Draft::fault(&m.name)
            .says(format!("`{name}` draws {load}; its {own} fuse blows"))
            .judged("demand", load)
            .at_most("fuse", own, &Origin::Computed);
        return Some(draft);
    }
    if let Some(own) = own.filter(|a| exceeds(a.get(), may.get())) {
        let draft = Draft::caution(&m.name)
            .says(format!("the fuse of `{name}` passes {own}; its cord is rated {may}"))
            .judged("flows", own)
            .at_most("cord", may, &CORD);
        return Some(draft);
    }
    if own.is_some() {
        return None;
    }
    let is_thin = m.size.is_some_and(|s| is_below(s.area_mm2(), UNFUSED_MM2));
    let severity = if is_thin { Severity::Caution } else { Severity::Advisory };
    let draft = Draft::of(severity, &m.name)
        .says(format!(
            "`{name}` has no fuse: its circuit breaker of 16 A or more clears a short circuit, but no \
            overload"
        ))
        .given("cord", may, &CORD);
    Some(draft)
}

pub(crate) fn earth(context: &Context<'_>, sink: &mut Sink) {
    for m in context.plan.mains.iter().filter(|m| !m.is_extra_low()) {
        let name = &m.name.text;
        let (severity, message) = match (m.metal, m.earthed, m.covered) {
            (Some(true), Some(false), _) if !m.class_two => {
                (Severity::Danger, format!("touchable metal on `{name}` is not earthed: a loose wire makes it live"))
            }
            (_, _, Some(false)) => (Severity::Danger, format!("live parts of `{name}` have no cover")),
            (None, ..) | (Some(true), None, _) if !m.class_two => {
                let message = format!(
                    "cannot check `{name}`: whether it has touchable metal, and whether that is \
                    earthed, is not given"
                );
                sink.unknown(
                    name,
                    m.name.span,
                    message,
                    "write `metal = \"no\"`, or `metal = \"yes\"` and `earth = \"yes\"`",
                );
                continue;
            }
            _ => {
                sink.pass(name, || "no metal without earth".into());
                continue;
            }
        };
        sink.find(Draft::of(severity, &m.name).says(message));
    }
}

pub(crate) fn colours(context: &Context<'_>, sink: &mut Sink) {
    let Some(region) = context.plan.policy.region else { return };
    let wanted = region.colours();
    for m in context.plan.mains.iter().filter(|m: &&Mains| !m.colours.is_empty() && !m.is_extra_low()) {
        let name = &m.name.text;
        let mut each = m.colours.iter().zip(wanted).enumerate();
        let Some((_, (got, wanted))) = each.find(|(i, (got, _))| !region.takes(*i, &got.text)) else {
            sink.pass(name, || format!("the colours of {}", region.word()));
            continue;
        };
        sink.find(Draft::caution((name, got.span.unwrap_or(m.name.span))).says(format!(
            "a conductor of `{name}` is {}; {} uses {wanted}: line, neutral and earth, in this order",
            got.text,
            region.word()
        )));
    }
}
