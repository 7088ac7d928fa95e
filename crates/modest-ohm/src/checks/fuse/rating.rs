//! fuse-rating: the voltage and the current that a fuse has to interrupt.

use std::collections::BTreeSet;

use crate::derived::context::Context;
use crate::derived::protection::judge::turned;
use crate::derived::protection::paths::{Direction, Limit, ways_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::layout::ConductorInfo;
use crate::network::names::lead_name;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Quantity, Volts};
use crate::source::Span;
use crate::topology::conductors::fuse_of;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// A figure of a fuse: what its datasheet or its standard says, or what is only typical of its family.
struct Stands {
    value: f64,
    origin: Origin,
    known: bool,
}

impl Stands {
    fn of<Q: Quantity>(stated: Option<&Figure<Q>>, (value, standard): (f64, bool)) -> Self {
        match stated {
            Some(f) => Self { value: f.low.si(), origin: f.origin.clone(), known: true },
            None if standard => Self { value, origin: Origin::Default("the standard of its family"), known: true },
            None => Self { value, origin: Origin::Default("typical of its family"), known: false },
        }
    }
}

/// What all sources together give into a short circuit right behind the fuse; `None` where that is not known.
fn prospective(ways: &[Direction], amps: impl Fn(&Direction) -> f64) -> Option<Amps> {
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

/// A fuse that does not stand what it meets, or of which that is not known.
struct Trouble {
    name: String,
    span: Span,
    fuse: String,
    source: NodeId,
    what: What,
    meets: f64,
    stands: f64,
    origin: Origin,
    known: bool,
}

/// Half as much again as it is rated for is what fuses are seldom tested for, and mostly survive (our own figure).
const NEARLY: f64 = 1.5;

/// What a fuse meets when it opens.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum What {
    Volts,
    Current,
}

impl What {
    fn value(self, si: f64) -> String {
        match self {
            What::Volts => Volts::new(si).to_string(),
            What::Current => Amps::new(si).to_string(),
        }
    }
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let mut seen: BTreeSet<(String, usize)> = BTreeSet::new();
    let mut troubles: Vec<Trouble> = Vec::new();
    let turned = turned(context.plan);
    // A change-over switch has a fuse on each throw.
    for plan in std::iter::once(context.plan).chain(&turned) {
        for info in &context.layout.conductors {
            let Some(fuse) = fuse_of(plan, info.run) else { continue };
            let name = lead_name(plan, info);
            if seen.insert((name.to_owned(), fuse.span.start)) {
                troubles.extend(judge_fuse(plan, info, name, fuse, sink));
            }
        }
    }
    // Of one source and one want all fuses are listed together.
    while let Some(first) = troubles.first() {
        let cause = (first.source, first.what, first.known);
        let (mut group, others): (Vec<_>, Vec<_>) =
            troubles.into_iter().partition(|t| (t.source, t.what, t.known) == cause);
        troubles = others;
        group.sort_by(|a, b| (b.meets / b.stands).total_cmp(&(a.meets / a.stands)));
        group.iter().for_each(|t| tell(sink, t, &group[0].name));
    }
}

fn judge_fuse(plan: &Plan, info: &ConductorInfo, name: &str, fuse: &Fuse, sink: &mut Sink) -> Vec<Trouble> {
    let ways = ways_of(plan, info.run);
    let highest = ways.iter().map(|w| w.gives.volts.high.get()).reduce(f64::max);
    let (Some(volts), Some(way)) = (highest, ways.first()) else { return Vec::new() };
    let amps = prospective(&ways, |w| w.most_through(plan, info.run)).map(Amps::get);
    let breaks = fuse.family.breaking_a(fuse.body, fuse.rating_a());
    let asked = [
        (What::Volts, Some(volts), Stands::of(fuse.voltage.as_ref(), fuse.family.voltage_v())),
        (What::Current, amps, Stands::of(fuse.breaking.as_ref(), breaks)),
    ];
    let mut troubles = Vec::new();
    for (what, meets, stands) in asked {
        let Some(meets) = meets.filter(|m| exceeds(*m, stands.value)) else { continue };
        let Stands { value, origin, known } = stands;
        let (name, fuse_name) = (name.to_owned(), fuse.name());
        let source = way.source;
        let (span, stands) = (fuse.span, value);
        let fuse = fuse_name;
        troubles.push(Trouble { name, span, fuse, source, what, meets, stands, origin, known });
    }
    if let (true, Some(amps)) = (troubles.is_empty(), amps) {
        sink.pass(name, || format!("{}, {} into a short circuit", Volts::new(volts), Amps::new(amps)));
    }
    troubles
}

/// One fuse, listed with others of the same source that lack the same.
fn tell(sink: &mut Sink, t: &Trouble, cause: &str) {
    let (meets, limit) = (t.what.value(t.meets), t.what.value(t.stands));
    let (wanted, key) = match t.what {
        What::Volts => (format!("{meets} across it when it blows"), "voltage"),
        What::Current => (format!("{meets} short-circuit current"), "breaking"),
    };
    let (severity, message) = if t.known {
        let message = format!(
            "the {} of `{}` may have to interrupt {wanted}; rated {limit}: the arc may not extinguish",
            t.fuse, t.name
        );
        let little = t.what == What::Current && at_most(t.meets, NEARLY * t.stands);
        (if little { Severity::Caution } else { Severity::Danger }, message)
    } else {
        let message = format!("cannot check the {} of `{}` ({wanted}): its DC rating is not given", t.fuse, t.name);
        (Severity::Unknown, message)
    };
    let ask = format!("write the datasheet value for DC: `{key} = \"{meets}\"` in `fuse`");
    let draft = Draft::of(severity, (&t.name, t.span)).says(message).tasks((!t.known).then_some(ask));
    let draft = match t.what {
        What::Volts => draft.judged("voltage", Volts::new(t.meets)).at_most("rating", Volts::new(t.stands), &t.origin),
        What::Current => {
            draft.judged("prospective", Amps::new(t.meets)).at_most("rating", Amps::new(t.stands), &t.origin)
        }
    };
    sink.find(draft.listed_with(cause));
}
