//! assumption-decides: assumed figures that, within their spread, decide whether something is found.

use modest_ohm_solve::solve::Workspace;
use rayon::prelude::*;

use super::depends::{Depends, Entry};
use super::measurement::measurement;
use super::mixed::Combination;
use super::standing::Place;
use crate::checks;
use crate::checks::shared::consumer_voltage::is_on_wrong_rail;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::draft::sentence;
use crate::findings::evidence::{Evidence, EvidenceRole};
use crate::findings::finding::{Consequence, Finding, Passed};
use crate::plan::model::Plan;
use crate::plan::model::movable::Movable;
use crate::quantity::figure::{Corner, Origin};
use crate::solved::mixed::Search;
use crate::solved::outcome::Lift;
use crate::verdict::codes;
use crate::verdict::severity::Severity;

/// Parts of one code that are named, at most.
const MOST_SUBJECTS: usize = 3;

/// Verdicts that one figure decides.
struct Decides<'a> {
    on: &'a Movable,
    /// Code and subject.
    verdicts: Vec<(&'static str, String)>,
}

/// What of the findings would be gone, or milder, with an assumed figure at one end of its spread. A review already
/// takes the bad end of everything; so what it does not find decides on nothing.
pub(crate) fn verdicts_that_depend(
    context: &Context<'_>,
    findings: &[Finding],
    movables: &[Movable],
    search: &mut Search<'_>,
    mixes: Vec<Combination<'_>>,
) -> Option<Finding> {
    let open = open_entries(context, findings);
    let (mut decided, left_out) = decided(context, &open, movables, search, mixes);
    decided.sort_by_key(|(m, _)| *m);
    let deciding = decided.into_iter().map(|(m, entries)| decides(&movables[m], &entries, &open)).collect();
    tell(context.plan, deciding, left_out)
}

/// The findings that a figure may decide, and what stands under them.
pub(super) fn open_entries(context: &Context<'_>, findings: &[Finding]) -> Vec<Entry> {
    // On a rail that a part was not made for no figure decides anything.
    let wrong: Vec<&str> =
        context.consumers().iter().filter(|c| is_on_wrong_rail(context, c)).map(|c| c.name.as_str()).collect();
    let of_voltage = [codes::SUPPLY_VOLTAGE.name, codes::MOTOR_VOLTAGE.name];
    let is_rail = |f: &Finding| of_voltage.contains(&f.code) && wrong.contains(&f.subject.as_str());
    let solved = findings.iter().filter(|f| f.corner.is_some() && f.severity >= Severity::Caution && !is_rail(f));
    // What solves much of its own is not tried: it would be solved anew for both ends of every figure.
    let tried = |code: &str| matches!(checks::solves(code), Solves::Nothing | Solves::Discharges);
    solved.flat_map(entries).filter(|(code, ..)| tried(code)).collect()
}

/// Per figure the entries that it decides; and how many figures there was no time for.
pub(super) fn decided(
    context: &Context<'_>,
    open: &[Entry],
    movables: &[Movable],
    search: &mut Search<'_>,
    mixes: Vec<Combination<'_>>,
) -> (Vec<(usize, Vec<usize>)>, usize) {
    let assumed = |m: &Movable| m.origin.is_assumed() && !m.is_state;
    let figures: Vec<usize> = (0..movables.len()).filter(|m| assumed(&movables[*m])).collect();
    if open.is_empty() || figures.is_empty() {
        return (Vec::new(), 0);
    }
    let mut depends = Depends::new(context, movables, open);
    let mut places: Vec<Place> = Vec::new();
    for o in context.all_outcomes().filter(|o| o.corner != Corner::Typical) {
        places.push(Place::of(context, o));
    }
    let mut workspace = Workspace::default();
    for mix in mixes {
        let here = mix.outcome.in_variant(&mix.held, Lift::None, &mut workspace).0;
        places.push(Place::apart(context, mix.held, &here, mix.ends));
    }
    let (judge, plan) = (depends.judge, context.plan);
    places.par_iter_mut().for_each(|place| place.entries = judge.standing(place.plan(plan), place));
    places.retain(|p| !p.entries.is_empty());
    for place in &mut places {
        let all = search.ends(place.outcomes[0].corner);
        place.ends.resize(all.len(), None);
        // What a combination does not need may move what it is held against.
        place.ends.iter_mut().zip(all).for_each(|(own, all)| *own = own.or(all));
    }
    let mut decided = depends.decided(&places, &figures);
    // What stands in no corner by itself: whole discharges, and verdicts by nominal values.
    let apart: Vec<usize> = (0..open.len()).filter(|e| !places.iter().any(|p| p.entries.contains(e))).collect();
    let left_out = depends.decided_as_a_whole(&apart, &figures, &mut decided);
    (decided, left_out)
}

/// A figure with the verdicts that it decides, each once; of several items with one cause those of the first.
fn decides<'a>(on: &'a Movable, entries: &[usize], open: &[Entry]) -> Decides<'a> {
    let mut verdicts: Vec<(&'static str, String)> = Vec::new();
    for entry in entries {
        let (code, subject, _) = &open[*entry];
        let is_another = on.items[1..].contains(subject);
        let known = |v: &&(&'static str, String)| v.0 == *code && (v.1 == *subject || is_another);
        if !verdicts.iter().any(|v| known(&v)) {
            verdicts.push((code, subject.clone()));
        }
    }
    Decides { on, verdicts }
}

/// What to say where no verdict decides.
pub(crate) fn nothing_depends(plan: &Plan) -> Option<Passed> {
    let subject = plan.supplies.first()?.name.text.clone();
    Some(Passed {
        code: codes::ASSUMPTION_DECIDES.name,
        subject,
        margin: "no verdict depends on an assumed value".into(),
    })
}

/// A finding and what stands under it; what stands under it has at most its severity, and counts as a caution.
fn entries(f: &Finding) -> Vec<Entry> {
    let own = std::iter::once((f.code, f.subject.clone(), f.severity));
    own.chain(f.also.iter().map(|c| (c.code, c.subject.clone(), Severity::Caution))).collect()
}

/// Those with one key, one range and one source together: the tracks of twelve equal strips are one figure.
fn alike<'d>(deciding: &'d [Decides<'d>]) -> Vec<Vec<&'d Decides<'d>>> {
    let codes = |d: &Decides<'_>| d.verdicts.iter().map(|(code, _)| *code).collect::<Vec<_>>();
    let same =
        |a: &Decides<'_>, b: &Decides<'_>| a.on.key == b.on.key && a.on.words == b.on.words && codes(a) == codes(b);
    let mut groups: Vec<Vec<&Decides<'_>>> = Vec::new();
    for one in deciding {
        match groups.iter_mut().find(|group| same(group[0], one)) {
            Some(group) => group.push(one),
            None => groups.push(vec![one]),
        }
    }
    groups
}

/// `strip-voltage-low of `shelf` on its `copper` (50 mΩ/m .. 160 mΩ/m; pixel-5v-rgb)`.
fn depends(group: &[&Decides<'_>]) -> String {
    let first = group[0];
    let item = &first.on.item;
    let items: usize = group.iter().map(|d| d.on.items.len()).sum();
    let more = if items > 1 { format!(" and {} alike", items - 1) } else { String::new() };
    // One code once, with its subjects.
    let mut codes: Vec<(&str, Vec<&str>)> = Vec::new();
    for (code, subject) in &first.verdicts {
        match codes.iter_mut().find(|(known, _)| known == code) {
            Some((_, subjects)) => subjects.push(subject),
            None => codes.push((code, vec![subject])),
        }
    }
    let verdict = |(code, subjects): &(&str, Vec<&str>)| {
        if subjects == &[item.as_str()] {
            return (*code).to_owned();
        }
        let named: Vec<String> = subjects.iter().take(MOST_SUBJECTS).map(|s| format!("`{s}`")).collect();
        let more = match subjects.len().saturating_sub(MOST_SUBJECTS) {
            0 => String::new(),
            n => format!(" and {n} more"),
        };
        format!("{code} of {}{more}", named.join(", "))
    };
    let verdicts: Vec<String> = codes.iter().map(verdict).collect();
    let why = match &first.on.origin {
        Origin::Catalogue { part, .. } => format!("; {part}"),
        Origin::Default(why) => format!("; {why}"),
        _ => String::new(),
    };
    format!("{} on `{}` of `{item}`{more} ({}{why})", verdicts.join(", "), first.on.key, first.on.words)
}

fn tell(plan: &Plan, deciding: Vec<Decides<'_>>, left_out: usize) -> Option<Finding> {
    let first = deciding.first()?;
    let groups = alike(&deciding);
    let each: Vec<String> = groups.iter().map(|group| depends(group)).collect();
    let head = if deciding.len() == 1 { "this depends on an assumed value" } else { "these depend on assumed values" };
    let more = if left_out > 0 {
        format!("; {left_out} more assumed values not varied (plan too large)")
    } else {
        String::new()
    };
    let also = |item: &str| Consequence::without_number(codes::ASSUMPTION_DECIDES.name, item, Severity::Advisory);
    let measure = |group: &Vec<&Decides<'_>>| {
        let on = &group[0].on;
        sentence(&format!("{}, and write `{}`", measurement(on), on.key))
    };
    let tasks: Vec<String> = groups.iter().map(measure).collect();
    Some(Finding {
        code: codes::ASSUMPTION_DECIDES.name,
        severity: Severity::Advisory,
        subject: first.on.item.clone(),
        scenario: None,
        corner: None,
        mix: None,
        message: format!("{head}: {}{more}", each.join("; ")),
        tasks,
        fixes: Vec::new(),
        obstacle: None,
        span: plan.declared(&first.on.item).or_else(|| plan.supplies.first().map(|s| s.name.span)),
        evidence: [("low", first.on.ends.0), ("high", first.on.ends.1)]
            .map(|(name, value)| Evidence {
                name,
                role: EvidenceRole::Context,
                value,
                unit: first.on.ends.2,
                origin: first.on.origin.clone(),
            })
            .into(),
        also: deciding.iter().flat_map(|d| &d.on.items).skip(1).map(|item| also(item)).collect(),
        goes_with: None,
        listed_with: None,
        accepted: None,
    })
}
