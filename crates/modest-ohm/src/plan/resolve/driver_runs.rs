//! Every channel that something is connected to becomes a run of the plan: between the node and the load, a node
//! itself.

use crate::plan::driver::{Driver, DriverKind};
use crate::plan::kinds::load_kind::LoadKind;
use crate::plan::kinds::run::{Branch, Open, RunKind};
use crate::plan::model::Plan;
use crate::plan::wiring::driven::{Contacts, Driven, StageRun};
use crate::plan::wiring::feed::{Feed, NodeRef};
use crate::plan::wiring::name::Name;
use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::{Named, nearest};

/// What names a channel.
struct Use<'a> {
    by: &'a Named,
    contacts: Contacts,
    what: String,
    span: Span,
}

/// Lets loads and strips hang on the channels that they name.
pub(crate) fn stage_runs(plan: &mut Plan, note: &dyn Fn(Problem)) {
    bridges(plan);
    // The first that names a channel says where it is fed from; all that share it have to hang on the same node.
    for i in 0..plan.loads.len() {
        let Some(driven) = plan.loads[i].driven.clone() else { continue };
        let load = &plan.loads[i];
        let of = Use {
            by: &driven.by,
            contacts: driven.contacts,
            what: format!("{} `{}`", load.kind.word(), load.name.text),
            span: load.name.span,
        };
        let mut feed = load.feed.clone();
        if let Some(at) = on_channel(plan, note, &of, &mut feed) {
            let rests = plan.drivers[at.driver].rests_off == Some(true) && driven.contacts == Contacts::Open;
            let load = &mut plan.loads[i];
            load.feed = feed;
            load.rests_off |= rests;
            load.driven = Some(crate::plan::wiring::driven::Driven { at: Some((at.driver, at.channel)), ..driven });
        }
    }
    for i in 0..plan.strips.len() {
        strip(plan, i, note);
    }
    for (at, driver) in plan.drivers.iter_mut().enumerate() {
        driver.load = plan.loads.iter().position(|l| l.kind == LoadKind::Driver && l.name.text == driver.name.text);
        let _ = at;
    }
}

/// A bridge's outputs know their driver.
fn bridges(plan: &mut Plan) {
    for run in &mut plan.branches {
        let RunKind::Stage(at) = &mut run.kind else { continue };
        let own = |d: &Driver| d.channels.iter().any(|c| c.name == run.name.text);
        at.driver = plan.drivers.iter().position(own).unwrap_or(usize::MAX);
    }
}

/// The returns of a strip's colours, or all of a strip with one.
fn strip(plan: &mut Plan, i: usize, note: &dyn Fn(Problem)) {
    whole(plan, i, note);
    let strip = &plan.strips[i];
    let (is_fan, span, name) = (strip.is_fan(), strip.name.span, strip.name.text.clone());
    for n in 0..strip.switched.len() {
        let switched = &plan.strips[i].switched[n];
        let by = switched.by.clone();
        let known = plan.driver_of(&by.text).is_some();
        // What is given with its resistance need not be shown.
        if !known && switched.stated {
            continue;
        }
        let what = format!("strip `{name}`");
        let of = Use { by: &by, contacts: Contacts::Open, what, span };
        if is_fan {
            let Some(first) = plan.strips[i].injections.first() else { continue };
            let mut feed = Feed { cable: None, fuse: None, ..first.feed.clone() };
            if on_channel(plan, note, &of, &mut feed).is_some() {
                plan.strips[i].switched[n].node = Some(feed.from);
            }
        } else {
            for q in 0..plan.strips[i].injections.len() {
                let mut feed = plan.strips[i].injections[q].feed.clone();
                if on_channel(plan, note, &of, &mut feed).is_some() {
                    plan.strips[i].injections[q].feed = feed;
                }
            }
        }
    }
}

/// A strip that a driver switches as a whole, at all its feed points.
fn whole(plan: &mut Plan, i: usize, note: &dyn Fn(Problem)) {
    let strip = &plan.strips[i];
    let Some(driven) = strip.driven.clone() else { return };
    let what = format!("{} `{}`", strip.word(), strip.name.text);
    let of = Use { by: &driven.by, contacts: driven.contacts, what, span: strip.name.span };
    for q in 0..plan.strips[i].injections.len() {
        let mut feed = plan.strips[i].injections[q].feed.clone();
        let Some(at) = on_channel(plan, note, &of, &mut feed) else { return };
        let strip = &mut plan.strips[i];
        strip.injections[q].feed = feed;
        strip.driven = Some(Driven { at: Some((at.driver, at.channel)), ..driven.clone() });
    }
}

/// Finds the channel that something names, makes it a run if it is none yet, and lets the feed come from it.
fn on_channel(plan: &mut Plan, note: &dyn Fn(Problem), of: &Use<'_>, feed: &mut Feed) -> Option<StageRun> {
    let (driver, channel) = find(plan, note, of)?;
    let at = StageRun { driver, channel, contacts: of.contacts };
    let own = &plan.drivers[driver];
    if of.contacts == Contacts::Closed && !own.kind.is_contact() {
        note(Problem::new(
            of.by.span,
            format!("{} names the normally closed contact of `{}`, which has none", of.what, own.name.text),
            "only relays have a normally closed contact",
        ));
        return None;
    }
    let closed = if of.contacts == Contacts::Closed { ".nc" } else { "" };
    let name = format!("{}{closed}", own.channels[channel].name);
    let known = plan.branches.iter().find(|b| matches!(&b.kind, RunKind::Stage(s) if *s == at));
    if let Some(run) = known {
        let (a, b) = (&run.feed.from.name.text, &feed.from.name.text);
        if a != b {
            note(
                Problem::new(
                    feed.from.name.span.or(Some(of.span)),
                    format!("{} is fed from `{b}` behind `{name}`, which also switches loads on `{a}`", of.what),
                    "one switch, one rail: give it a channel of its own",
                )
                .with_related(run.feed.from.name.span, "the first load on it"),
            );
            return None;
        }
    } else {
        let run = new_run(plan, note, of, feed, at, &name)?;
        plan.branches.push(run);
    }
    feed.from = NodeRef::new(Named { text: name, span: of.by.span });
    Some(at)
}

/// The run that a channel is, between the node of its driver and its load.
fn new_run(
    plan: &Plan,
    note: &dyn Fn(Problem),
    of: &Use<'_>,
    feed: &mut Feed,
    at: StageRun,
    name: &str,
) -> Option<Branch> {
    let own = &plan.drivers[at.driver];
    // A driver's own cable lies between the node and the stage; it names the node it is wired to at most once.
    let own_feed = own.feed.clone();
    let from = feed.from.clone();
    if let Some(stated) = own_feed.as_ref().filter(|f| f.from.name.text != from.name.text) {
        note(
            Problem::new(
                from.name.span.or(Some(of.span)),
                format!(
                    "{} is fed from `{}`, and its switch `{name}` from `{}`",
                    of.what, from.name.text, stated.from.name.text
                ),
                "the switch is between the node and the load: name the same node in both",
            )
            .with_related(stated.from.name.span, "the switch's node"),
        );
        return None;
    }
    let low_side = own.side == crate::plan::wiring::driven::Side::Low && own.kind != DriverKind::Bridge;
    // What comes back through the switch goes back where the load's return was to go.
    let back = if low_side { feed.back.take() } else { None };
    let run_feed = Feed {
        from,
        cable: own_feed.as_ref().and_then(|f| f.cable.clone()),
        back: own_feed.as_ref().and_then(|f| f.back.clone()).or(back),
        fuse: own_feed.and_then(|f| f.fuse),
    };
    Some(Branch {
        name: Name { text: name.to_owned(), span: own.span_of(at.channel) },
        feed: run_feed,
        open: Open::NOT,
        kind: RunKind::Stage(at),
    })
}

/// Driver and channel of a name: `tide-switch`, `array.3`.
fn find(plan: &Plan, note: &dyn Fn(Problem), of: &Use<'_>) -> Option<(usize, usize)> {
    let Some((driver, rest)) = plan.driver_of(&of.by.text) else {
        let name = of.by.text.split('.').next().unwrap_or_default();
        let all = plan.drivers.iter().map(|d| d.name.text.as_str());
        let help = match nearest(name, all.clone()) {
            Some(near) => format!("did you mean `{near}`?"),
            None if plan.drivers.is_empty() => format!("write `[driver.{name}]` with its `kind`"),
            None => format!("drivers of this plan: {}", all.collect::<Vec<_>>().join(", ")),
        };
        note(Problem::new(of.by.span, format!("there is no driver `{name}`"), help));
        return None;
    };
    let own = &plan.drivers[driver];
    let name = &own.name.text;
    if own.kind == DriverKind::Bridge {
        note(Problem::new(
            of.by.span,
            format!("`{name}` is a bridge, which feeds its load itself"),
            format!("write `from = \"{}\"` instead of `driver`", own.channels[0].name),
        ));
        return None;
    }
    let channels: Vec<&str> = own.channels.iter().map(|c| c.name.as_str()).collect();
    let found = match rest {
        None if own.channels.len() == 1 => Some(0),
        None => None,
        Some(_) => own.channels.iter().position(|c| c.name == of.by.text && !c.only),
    };
    if found.is_none() {
        let help = if own.channels.len() == 1 {
            format!("write `driver = \"{}\"`, or give it channels: `channels = {{ 1 = \"keeper.io21\" }}`", channels[0])
        } else {
            format!("its channels: {}", channels.join(", "))
        };
        note(Problem::new(of.by.span, format!("{} names an unknown channel of `{name}`", of.what), help));
    }
    Some((driver, found?))
}
