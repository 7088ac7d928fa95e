//! Answers about leads: which wire, which fuse, which pair of both.

use modest_ohm::size::{FuseSize, Pair, WireChoice, WireNeed, WireSizes};
use modest_ohm::tables::{FuseFamily, WireSize};
use modest_ohm::units::Amps;
use serde_json::{Value, json};

use crate::json::number;
use crate::size::SizeAnswer;

fn choice_words(need: &WireNeed, c: &WireChoice) -> String {
    let share = need.drop.map_or(String::new(), |(volts, _)| {
        format!(" ({})", modest_ohm::units::Fraction::new(c.drop.get() / volts.get()))
    });
    format!("{}: carries {}, loses {}{share} and gets {} warm today", c.size, c.ampacity, c.drop, c.temperature)
}

fn choice_shape(c: Option<&WireChoice>) -> Value {
    c.map_or(Value::Null, |c| {
        json!({
            "size": c.size.to_string(),
            "ampacity_a": number(c.ampacity),
            "drop_v": number(c.drop),
            "temperature_c": number(c.temperature),
        })
    })
}

/// `size wire`: three questions, kept apart; the thickest of the answers does all.
#[must_use]
pub fn size_wire(need: &WireNeed, sizes: &WireSizes, fuse: Option<(Amps, FuseFamily)>) -> SizeAnswer {
    let asked = [(true, sizes.load), (need.limit.is_some(), sizes.limit), (need.stands.is_some(), sizes.stands)];
    let found = asked.iter().all(|(asked, answer)| !asked || answer.is_some());
    let thickest = asked
        .iter()
        .filter_map(|(_, c)| c.as_ref())
        .max_by(|a, b| a.size.area_mm2().total_cmp(&b.size.area_mm2()))
        .filter(|_| found);
    let none = || "no listed size does: split the run, or take several wires side by side".to_owned();
    let answer = |c: Option<WireChoice>| c.map_or_else(none, |c| choice_words(need, &c));
    let mut lines = vec![thickest.map_or_else(none, |c| format!("take {} or thicker", c.size))];
    let drop = need.drop.map_or(String::new(), |(volts, share)| format!(", losing {share} of {volts} at most"));
    lines.push(format!("for today's {}{drop}: {}", need.load, answer(sizes.load)));
    if let Some(limit) = need.limit {
        lines.push(format!("for the {limit} that the port or the device may carry: {}", answer(sizes.limit)));
    }
    match (need.stands, fuse) {
        (Some(stands), Some((rating, family))) => lines.push(format!(
            "behind a {rating} {} fuse, which asks for {stands} of wire: {}",
            family.word(),
            answer(sizes.stands)
        )),
        (Some(stands), None) => {
            lines.push(format!("for the {stands} that the source may give into a short: {}", answer(sizes.stands)));
        }
        _ => lines.push("what protects it was not asked: `--fuse`, or without one `--source-limit`".into()),
    }
    let numbers = json!({
        "load": choice_shape(sizes.load.as_ref()),
        "limit": choice_shape(sizes.limit.as_ref()),
        "stands": choice_shape(sizes.stands.as_ref()),
        "take": thickest.map(|c| c.size.to_string()),
    });
    SizeAnswer::new(lines, numbers, found)
}

/// A short at the far end.
#[derive(Clone, Copy, Debug)]
pub struct FarEnd {
    /// What flows.
    pub flows: Amps,
    /// True where the source holds it down to that.
    pub limited: bool,
}

/// `size fuse`: between what the load needs and what the wires allow.
#[must_use]
pub fn size_fuse(
    load: Amps,
    wires: &[(WireSize, Amps)],
    family: FuseFamily,
    fit: &FuseSize,
    far: Option<FarEnd>,
) -> SizeAnswer {
    let word = family.word();
    let weakest = wires.iter().min_by(|a, b| a.1.get().total_cmp(&b.1.get()));
    let weakest = weakest.map_or(String::new(), |(size, amps)| format!("{size} carries {amps} and "));
    let first = match fit.rating {
        Some(rating) => format!("take a {rating} {word} fuse"),
        None if fit.needed > fit.allowed => {
            format!(
                "no {word} fuse suits: the load needs more than the wire allows; thicker wire, `size pair` says which"
            )
        }
        None => format!("no {word} fuse is made between the two; thicker wire, `size pair` says which"),
    };
    let mut lines = vec![
        first,
        format!(
            "{load} for long need {} or more: it carries {} of its rating",
            fit.needed,
            percent(family.load_factor())
        ),
        format!("{weakest}allows {} or less: {} of the ampacity", fit.allowed, percent(family.ampacity_factor())),
    ];
    let acts = far.zip(fit.rating).map(|(far, rating)| {
        let (opens, quick) = (family.opens_from() * rating.get(), family.clears_from() * rating.get());
        let flows = far.flows;
        let word = if flows.get() >= quick * (1.0 - 1e-12) {
            "clears it quickly"
        } else if flows.get() >= opens * (1.0 - 1e-12) {
            "opens it, within minutes"
        } else {
            "leaves it whole"
        };
        let why = if far.limited { ", where the source limits itself" } else { "" };
        lines.push(format!(
            "a short at the far end takes {flows}{why}: it {word} (it opens from {}, quickly from {})",
            Amps::new(opens),
            Amps::new(quick)
        ));
        (opens, quick)
    });
    let numbers = json!({
        "needed_a": number(fit.needed),
        "allowed_a": number(fit.allowed),
        "rating_a": fit.rating.and_then(number),
        "short_a": far.and_then(|f| number(f.flows)),
        "opens_a": acts.map(|(opens, _)| opens),
        "clears_a": acts.map(|(_, quick)| quick),
    });
    SizeAnswer::new(lines, numbers, fit.rating.is_some())
}

fn percent(share: f64) -> String {
    modest_ohm::units::Fraction::new(share).to_string()
}

/// `size pair`: the thinnest wire that has a fuse.
#[must_use]
pub fn size_pair(need: &WireNeed, family: FuseFamily, pair: Option<&Pair>) -> SizeAnswer {
    let word = family.word();
    let lines = match pair {
        Some(p) => vec![
            format!("take {} with a {} {word} fuse", p.wire.size, p.fuse),
            choice_words(need, &p.wire),
            format!(
                "the load needs {} of fuse, and this wire allows {}",
                p.needed,
                Amps::new(p.wire.ampacity.get() * family.ampacity_factor())
            ),
        ],
        None => vec![
            format!("no listed wire has a {word} fuse for this"),
            format!("{} over {}: split the run, shorten it, or take higher volts", need.load, need.length),
        ],
    };
    let numbers = json!({
        "wire": choice_shape(pair.map(|p| &p.wire)),
        "rating_a": pair.and_then(|p| number(p.fuse)),
        "needed_a": pair.and_then(|p| number(p.needed)),
    });
    SizeAnswer::new(lines, numbers, pair.is_some())
}
