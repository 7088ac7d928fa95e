//! fuse-rating: the volts and the current that a fuse has to interrupt.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::names::lead_name;
use crate::network::{ConductorInfo, Run};
use crate::plan::{Fuse, NodeId, Plan};
use crate::protect::{Limit, Way, turned, ways_of};
use crate::quantity::{Amps, Figure, Origin, Quantity, Volts};
use crate::ratings::fuse_of;
use crate::text::Span;

/// A figure of a fuse: what its sheet or its standard says, or what is only typical of its family.
struct Stands<Q> {
    value: Q,
    origin: Origin,
    known: bool,
}

impl<Q: Quantity> Stands<Q> {
    fn of(stated: Option<&Figure<Q>>, (value, standard): (f64, bool)) -> Self {
        match stated {
            Some(f) => Self { value: f.low, origin: f.origin.clone(), known: true },
            None if standard => {
                Self { value: Q::from_si(value), origin: Origin::Default("the standard of its family"), known: true }
            }
            None => Self { value: Q::from_si(value), origin: Origin::Default("typical of its family"), known: false },
        }
    }
}

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let mut seen: Vec<(Run, Span)> = Vec::new();
    let turned = turned(context.plan);
    // A change-over switch has a fuse on each throw.
    for plan in std::iter::once(context.plan).chain(&turned) {
        for info in &context.layout.conductors {
            let Some(fuse) = fuse_of(plan, info.run) else { continue };
            if !seen.contains(&(info.run, fuse.span)) {
                seen.push((info.run, fuse.span));
                judge_fuse(plan, info, fuse, sink);
            }
        }
    }
}

fn judge_fuse(plan: &Plan, info: &ConductorInfo, fuse: &Fuse, sink: &mut Sink) {
    let ways = ways_of(plan, info.run);
    let name = lead_name(plan, info);
    let highest = ways.iter().map(|w| w.gives.volts.high.get()).reduce(f64::max);
    let Some(volts) = highest.map(Volts::new) else { return };
    let stands = Stands::of(fuse.voltage.as_ref(), fuse.family.voltage_v());
    let volts_pass = judge(sink, name, fuse, "volts", volts, &stands);
    let breaks = fuse.family.breaking_a(fuse.body, fuse.rating_a());
    let stands = Stands::of(fuse.breaking.as_ref(), breaks);
    let amps_pass = prospective(&ways, |w| w.most_a(plan, info.run))
        .map(|amps| judge(sink, name, fuse, "prospective", amps, &stands).then_some(amps));
    if let (true, Some(Some(amps))) = (volts_pass, amps_pass) {
        sink.pass(name, format!("{volts}, {amps} into a short, of {}", stands.value));
    }
}

/// What all sources together give into a short right behind the fuse; `None` where that is not known.
fn prospective(ways: &[Way], amps: impl Fn(&Way) -> f64) -> Option<Amps> {
    let mut sources: Vec<NodeId> = Vec::new();
    let mut sum = 0.0;
    for way in ways {
        if way.gives.limit == Limit::Unknown {
            return None;
        }
        if !sources.contains(&way.source) {
            sources.push(way.source);
            sum += amps(way);
        }
    }
    Some(Amps::new(sum))
}

/// True where it stands it.
fn judge<Q: Quantity>(
    sink: &mut Sink,
    name: &str,
    fuse: &Fuse,
    what: &'static str,
    meets: Q,
    stands: &Stands<Q>,
) -> bool {
    if meets.si() <= stands.value.si() * (1.0 + 1e-9) {
        return true;
    }
    let (wanted, key) = if what == "volts" {
        (format!("{meets} across it when it opens"), "voltage")
    } else {
        (format!("{meets} in a short"), "breaking")
    };
    let limit = stands.value;
    if !stands.known {
        sink.unknown(
            name,
            fuse.span,
            format!("the {} of `{name}` meets {wanted}; whether it stands that is not known", fuse.name()),
            &format!("give what its sheet says for direct current: `{key} = \"{meets}\"` in `fuse`"),
        );
        return false;
    }
    let cure = if what == "volts" {
        format!("take one for direct current of {meets} or more")
    } else {
        format!("take one that breaks {meets}: a blade fuse, a ceramic cartridge, or one with a sheet that says so")
    };
    sink.find(Draft {
        severity: Severity::Danger,
        subject: name,
        span: fuse.span,
        at: None,
        message: format!(
            "the {} of `{name}` meets {wanted} and interrupts {limit}: an arc goes on burning",
            fuse.name()
        ),
        cures: vec![cure],
        evidence: vec![
            Evidence::computed(what, meets),
            Evidence::new(if what == "volts" { "voltage" } else { "breaking" }, limit, &stands.origin),
        ],
    });
    false
}
