//! What to do about a cable and its fuse: the fuse that suits, else the wire, else the pair of both.

use super::start::{AGES, NOTHING};
use crate::derived::context::Context;
use crate::derived::protection::judge::{Guard, Protection};
use crate::network::names::lead_name;
use crate::plan::model::Plan;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::units::{Amps, Celsius};
use crate::tables::fuse::FuseFamily;
use crate::tables::wire::WireSize;
use crate::topology::run::Run;
use crate::verdict::compare::{at_least, at_most, is_below};

/// Load factor of a family in the air of a run.
fn load_factor(context: &Context<'_>, run: Run, family: FuseFamily) -> f64 {
    family.load_factor() * family.warm_share(context.air_c(run))
}

/// The smallest standard fuse for what a run carries and the wires behind it.
fn suiting(context: &Context<'_>, run: Run, family: FuseFamily, wires: &[Amps]) -> crate::size::fuse::FuseSize {
    let load = Amps::new(context.sustained_a(run));
    crate::size::fuse::fuse(load, wires, family, load_factor(context, run, family), family.ampacity_factor())
}

/// The thinnest listed wire of a cable's kind, as that cable is laid, that does.
fn wire_that(plan: &Plan, cable: &Cable, air_c: f64, does: impl Fn(f64) -> bool) -> Option<WireSize> {
    let kind = plan.wire_kind(cable.size);
    let carries = |s: &WireSize| does(cable.ampacity_of(*s, air_c) * cable.parallel as f64);
    kind.listed_like().into_iter().find(carries)
}

/// A fuse at the beginning of a cable that has none, or a cable that needs none.
pub(crate) fn fuse_or_wire(context: &Context<'_>, p: &Protection) -> Vec<String> {
    let family = FuseFamily::Blade;
    let fit = suiting(context, p.run, family, &[Amps::new(p.wire.ampacity_a)]);
    // Between the rows of a strip nothing is fused; what feeds the strip is.
    let of_feeds = match p.run {
        Run::Join(s, _) => {
            let largest = family.ratings().iter().rev().find(|r| at_most(**r, fit.allowed.get()));
            largest.map(|most| (&context.plan.strips[s].name.text, Amps::new(*most)))
        }
        _ => None,
    };
    let first = match (of_feeds, fit.rating) {
        (Some((strip, most)), _) => format!("use a fuse of {most} or less in each feed of `{strip}`"),
        (None, Some(rating)) => format!("put a {rating} blade fuse at its start: `fuse = \"{rating}\"`"),
        (None, None) => no_fuse(context, p, family, fit),
    };
    let size = wire_that(context.plan, &p.cable, context.air_c(p.run), |a| at_least(a, p.long_a));
    let stands = size.map(|s| format!("or use {} or thicker (rated {})", s.name(), Amps::new(p.long_a)));
    std::iter::once(first).chain(stands).collect()
}

/// "No fuse suits this wire", with the wire and the fuse that suit each other.
fn no_fuse(context: &Context<'_>, p: &Protection, family: FuseFamily, fit: crate::size::fuse::FuseSize) -> String {
    let why = if fit.needed > fit.allowed {
        format!("the load needs {} or more, the wire allows {}", fit.needed, fit.allowed)
    } else {
        format!("none is made between {}, needed by its load, and {}, allowed by its wire", fit.needed, fit.allowed)
    };
    let of = |a: f64| suiting(context, p.run, family, &[Amps::new(a)]).rating;
    let air = context.air_c(p.run);
    let wire = wire_that(context.plan, &p.cable, air, |a| of(a).is_some());
    let pair = wire.and_then(|wire| {
        let fuse = of(p.cable.ampacity_of(wire, air) * p.cable.parallel as f64)?;
        Some(format!("use {} with a {fuse} fuse", wire.name()))
    });
    format!("no {} fuse fits: {why}; {}", family.word(), pair.unwrap_or_else(|| "split the branch".into()))
}

/// Another fuse in place of one that is too large for leads behind it.
pub(crate) fn smaller(context: &Context<'_>, fuse: &Fuse, at: Run, leads: &[&Protection]) -> Vec<String> {
    let family = fuse.family;
    let Some(weakest) = leads.iter().min_by(|a, b| a.wire.ampacity_a.total_cmp(&b.wire.ampacity_a)) else {
        return Vec::new();
    };
    let all: Vec<Amps> = context
        .protections()
        .iter()
        .filter(|p| p.guard == Guard::Fuse(at) && (!p.factory || leads.iter().any(|l| l.run == p.run)))
        .map(|p| Amps::new(p.wire.ampacity_a))
        .collect();
    let fit = suiting(context, at, family, &all);
    // Of those that carry the load and suit the wire the smallest to which the starts through it are nothing.
    let survives = |rating: &Amps, share| super::start::survives(context, at, &fuse.rated(*rating), share);
    let suit = |from: Amps| {
        let ratings = family.ratings().iter().map(|r| Amps::new(*r));
        let mut ratings = ratings.filter(move |r| *r >= from && at_most(r.get(), fit.allowed.get()));
        let calm = ratings.clone().find(|r| survives(r, NOTHING));
        calm.or_else(|| ratings.find(|r| survives(r, AGES))).unwrap_or(from)
    };
    match fit.rating.map(suit) {
        Some(rating) => vec![format!("use a {rating} fuse instead: it carries the load and suits the wire")],
        None if weakest.run == at => vec![no_fuse(context, weakest, family, fit)],
        None => {
            let own = suiting(context, weakest.run, FuseFamily::Blade, &[Amps::new(weakest.wire.ampacity_a)]);
            let needs = fuse.rating.high.get() / family.ampacity_factor();
            let thicker = wire_that(context.plan, &weakest.cable, context.air_c(weakest.run), |a| at_least(a, needs));
            let first = match own.rating {
                Some(rating) => format!("give `{}` its own {rating} fuse", name_of(context, weakest.run)),
                None => no_fuse(context, weakest, FuseFamily::Blade, own),
            };
            let second = thicker.map(|size| format!("or use {} or thicker for it", size.name()));
            std::iter::once(first).chain(second).collect()
        }
    }
}

/// A fuse that what surely flows opens.
pub(crate) fn that_opens(context: &Context<'_>, fuse: &Fuse, at: Run, least_a: f64) -> String {
    let needed = context.sustained_a(at) / load_factor(context, at, fuse.family);
    let opens = |rating: &&f64| at_most(**rating * fuse.blows_from(), least_a) && **rating >= needed;
    match fuse.family.ratings().iter().rev().find(opens) {
        Some(rating) => format!("a {} fuse carries the load and blows", Amps::new(*rating)),
        None => "no fuse that carries the load blows: only the source's limit protects".into(),
    }
}

/// The smallest larger fuse that carries the load, and to which starts are no more than a share of what melts it, or at
/// least no more than what ages it; and what leads behind it that are too thin for that fuse then need.
pub(crate) fn larger(context: &Context<'_>, at: Run, fuse: &Fuse, amps: Amps, share: f64) -> String {
    let family = fuse.family;
    let fit = suiting(context, at, family, &[]);
    // What carries the load also has to survive the starts through it.
    let lasts = |rating: &Amps, share| super::start::survives(context, at, &fuse.rated(*rating), share);
    let from = fit.rating.map_or(f64::INFINITY, Amps::get);
    let ratings = family.ratings().iter().filter(|r| at_least(**r, from) && **r > fuse.rating_a());
    let mut ratings = ratings.map(|r| Amps::new(*r));
    let fitting = ratings.clone().find(|r| lasts(r, share)).or_else(|| ratings.find(|r| lasts(r, AGES)));
    let Some(rating) = fitting else {
        return format!(
            "use {} or more; no single {} fuse is made for it: split the branch",
            fit.needed,
            family.word()
        );
    };
    let asks = rating.get() / family.ampacity_factor();
    let behind = context.protections().iter().filter(|p| p.guard == Guard::Fuse(at) && !p.factory);
    let thin = behind.filter(|p| is_below(p.wire.ampacity_a, asks));
    let weakest = thin.min_by(|a, b| a.wire.ampacity_a.total_cmp(&b.wire.ampacity_a));
    let first = format!("use a {rating} fuse: {amps} needs {} or more", fit.needed);
    let Some(p) = weakest else { return first };
    let name = name_of(context, p.run);
    let wire = wire_that(context.plan, &p.cable, context.air_c(p.run), |a| at_least(a, asks));
    let thicker = wire.map_or_else(|| "has to be split".to_owned(), |w| format!("then needs {} or thicker", w.name()));
    let own = if p.run == at { "" } else { ", or its own fuse" };
    format!("{first}; the cable to `{name}` {thicker}{own}")
}

/// The size of a cable in words.
pub(crate) fn size_words(context: &Context<'_>, p: &Protection) -> String {
    let cable = &p.cable;
    let size = cable.size.map_or_else(|| "its wire".to_owned(), WireSize::name);
    let many = if cable.parallel > 1 { format!("{} × {size}", cable.parallel) } else { size };
    let air = context.air_c(p.run);
    if air > 30.0 { format!("{many} at {}", Celsius::new(air)) } else { many }
}

/// The cable's name from its run.
pub(crate) fn name_of<'c>(context: &'c Context<'_>, run: Run) -> &'c str {
    let info = context.layout.conductors.iter().find(|c| c.run == run);
    info.map_or("", |info| lead_name(context.plan, info))
}
