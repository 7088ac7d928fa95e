//! mains-separation, mains-fuse, mains-earth and mains-colours: what a circuit on the mains says of itself.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::mains::Mains;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Metres};
use crate::tables::wire::WireSize;
use crate::verdict::compare::is_below;
use crate::verdict::severity::Severity;

/// Between mains and touchable low voltage, reinforced (typical practice, covers IEC 62368-1 and 60664-1), m.
const CLEARANCE_M: f64 = 0.006;
const CREEPAGE_M: f64 = 0.008;
/// What a household circuit lets flow for ever, where nothing is between (typical), A.
const CIRCUIT_A: f64 = 16.0;
/// Cords of household appliances (after VDE 0298-4): mm² and A.
const CORDS: [(f64, f64); 4] = [(0.5, 3.0), (0.75, 6.0), (1.0, 10.0), (1.5, 16.0)];

pub(crate) fn separation(context: &Context<'_>, sink: &mut Sink) {
    for m in &context.plan.mains {
        let name = &m.name.text;
        let sides = [
            ("clearance", &m.clearance, CLEARANCE_M, "through air"),
            ("creepage", &m.creepage, CREEPAGE_M, "along a surface"),
        ];
        let short = sides.iter().filter_map(|(key, f, least, way)| {
            let f: &Figure<Metres> = f.as_ref()?;
            is_below(f.low.get(), *least).then_some((*key, f, *least, *way))
        });
        let worst = short.min_by(|a, b| (a.1.low.get() / a.2).total_cmp(&(b.1.low.get() / b.2)));
        if let Some((key, f, least, way)) = worst {
            let (got, wanted) = (f.low, Metres::new(least));
            sink.find(
                Draft::danger(&m.name)
                    .says(format!(
                        "`{name}` comes within {got} {way} of low voltage that can be touched; reinforced \
                         insulation wants {wanted}"
                    ))
                    .given(key, got, &f.origin)
                    .given("wanted", wanted, &Origin::Default("6 mm of clearance, 8 mm of creepage (typical practice)"))
                    .cure("move them apart, put a slot or a wall between, or take a relay that is made for it"),
            );
        } else if m.clearance.is_none() || m.creepage.is_none() {
            let message = format!("how far `{name}` is kept from low voltage that can be touched is not given");
            sink.unknown(
                name,
                m.name.span,
                message,
                "measure it and write it: `clearance = \"8 mm\"`, `creepage = \"10 mm\"`",
            );
        } else {
            sink.pass(name, "reinforced insulation".into());
        }
    }
}

fn cord_a(size: WireSize) -> Option<f64> {
    CORDS.iter().rev().find(|(mm2, _)| *mm2 <= size.area_mm2() * (1.0 + 1e-6)).map(|(_, a)| *a)
}

pub(crate) fn fuse(context: &Context<'_>, sink: &mut Sink) {
    for m in &context.plan.mains {
        let name = &m.name.text;
        let Some(may) = m.size.and_then(cord_a) else {
            let message = format!(
                "the size of the wires of `{name}` is not given, or less than 0.5 mm²; what its fuse \
                 has to be is not known"
            );
            sink.unknown(name, m.name.span, message, "write it: `size = \"0.75 mm²\"`");
            continue;
        };
        let flows = m.fuse.as_ref().map_or(CIRCUIT_A, |f| f.high.get());
        let (may, flows) = (Amps::new(may), Amps::new(flows));
        if flows <= may {
            sink.pass(name, format!("{flows} of {may}"));
            continue;
        }
        let what = if m.fuse.is_some() {
            format!("its fuse lets {flows} flow")
        } else {
            format!("it has no fuse, and its circuit lets {flows} flow")
        };
        sink.find(
            Draft::danger(&m.name)
                .says(format!("the wires of `{name}` carry {may}, and {what}"))
                .judged("flows", flows)
                .at_most("ampacity", may, &Origin::Default("cords of household appliances (after VDE 0298-4)"))
                .cure(format!("put a fuse of {may} or less in its line conductor, before anything else")),
        );
    }
}

pub(crate) fn earth(context: &Context<'_>, sink: &mut Sink) {
    for m in &context.plan.mains {
        let name = &m.name.text;
        let (severity, message, cure) = match (m.metal, m.earthed, m.covered) {
            (Some(true), Some(false), _) => (
                Severity::Danger,
                format!("metal on `{name}` can be touched and has no earth: a wire that comes loose makes it live"),
                "join it to earth, screwed, with a tooth washer; or take a housing of plastic",
            ),
            (_, _, Some(false)) => (
                Severity::Danger,
                format!("live parts of `{name}` have no cover"),
                "put everything on the mains into a housing that takes a tool to open",
            ),
            (None, ..) | (Some(true), None, _) => {
                let message = format!("whether metal on `{name}` can be touched, and has an earth, is not given");
                sink.unknown(
                    name,
                    m.name.span,
                    message,
                    "write it: `metal = \"no\"`, or `metal = \"yes\"` and `earth = \"yes\"`",
                );
                continue;
            }
            _ => {
                sink.pass(name, "no metal without earth".into());
                continue;
            }
        };
        sink.find(Draft::of(severity, &m.name).says(message).cure(cure));
    }
}

pub(crate) fn colours(context: &Context<'_>, sink: &mut Sink) {
    let Some(region) = context.plan.policy.region else { return };
    let wanted = region.colours();
    for m in context.plan.mains.iter().filter(|m: &&Mains| !m.colours.is_empty()) {
        let name = &m.name.text;
        let mut each = m.colours.iter().zip(wanted).enumerate();
        let Some((_, (got, wanted))) = each.find(|(i, (got, _))| !region.takes(*i, &got.text)) else {
            sink.pass(name, format!("the colours of {}", region.word()));
            continue;
        };
        sink.find(
            Draft::caution((name, got.span.unwrap_or(m.name.span)))
                .says(format!(
                    "a conductor of `{name}` is {} where {} has {wanted}: line, neutral and earth in this order",
                    got.text,
                    region.word()
                ))
                .cure(format!(
                    "take a cord of {}, {}, {}",
                    region.colours()[0],
                    region.colours()[1],
                    region.colours()[2]
                )),
        );
    }
}
