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
    format!("{}: rated {}; drops {}{share}; runs at {}", c.size, c.ampacity, c.drop, c.temperature)
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
    let asked = [
        (true, sizes.load),
        (need.limit.is_some(), sizes.limit),
        (need.for_protection.is_some(), sizes.for_protection),
    ];
    let found = asked.iter().all(|(asked, answer)| !asked || answer.is_some());
    let thickest = asked
        .iter()
        .filter_map(|(_, c)| c.as_ref())
        .max_by(|a, b| a.size.area_mm2().total_cmp(&b.size.area_mm2()))
        .filter(|_| found);
    let none = || "no listed size is enough: split the branch, or use several wires in parallel".to_owned();
    let answer = |c: Option<WireChoice>| c.map_or_else(none, |c| choice_words(need, &c));
    let mut lines = vec![thickest.map_or_else(none, |c| format!("use {} or thicker", c.size))];
    let drop = need.drop.map_or(String::new(), |(volts, share)| format!(", drop at most {share} of {volts}"));
    lines.push(format!("for the load of {}{drop}: {}", need.load, answer(sizes.load)));
    if let Some(limit) = need.limit {
        lines.push(format!("for the {limit} limit of the port or device: {}", answer(sizes.limit)));
    }
    match (need.for_protection, fuse) {
        (Some(stands), Some((rating, family))) => lines.push(format!(
            "for the {rating} {} fuse, which needs a wire rated {stands}: {}",
            family.word(),
            answer(sizes.for_protection)
        )),
        (Some(stands), None) => {
            lines.push(format!(
                "for the {stands} that the source can feed into a short circuit: {}",
                answer(sizes.for_protection)
            ));
        }
        _ => lines.push("protection not checked: give `--fuse`, or without a fuse `--source-limit`".into()),
    }
    let numbers = json!({
        "load": choice_shape(sizes.load.as_ref()),
        "limit": choice_shape(sizes.limit.as_ref()),
        "for_protection": choice_shape(sizes.for_protection.as_ref()),
        "choice": thickest.map(|c| c.size.to_string()),
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
    let weakest = weakest.map_or(String::new(), |(size, amps)| format!("{size} is rated {amps} and "));
    let first = match fit.rating {
        Some(rating) => format!("use a {rating} {word} fuse"),
        None if fit.needed > fit.allowed => {
            format!(
                "no {word} fuse fits: the load needs more than the wire allows; `size wire-and-fuse` chooses a \
                thicker wire"
            )
        }
        None => format!("no {word} fuse is made between the two; `size wire-and-fuse` chooses a thicker wire"),
    };
    let mut lines = vec![
        first,
        format!(
            "{load} continuous needs {} or more: good for {} of its rating",
            fit.needed,
            percent(family.load_factor())
        ),
        format!("{weakest}allows {} or less: {} of its ampacity", fit.allowed, percent(family.ampacity_factor())),
    ];
    let acts = far.zip(fit.rating).map(|(far, rating)| {
        let (opens, quick) = (family.blows_from() * rating.get(), family.clears_from() * rating.get());
        let flows = far.flows;
        let word = if flows.get() >= quick * (1.0 - 1e-12) {
            "blows it quickly"
        } else if flows.get() >= opens * (1.0 - 1e-12) {
            "blows it within minutes"
        } else {
            "does not blow it"
        };
        let why = if far.limited { ", limited by the source" } else { "" };
        lines.push(format!(
            "a short circuit at the far end draws {flows}{why}: it {word} (blows from {}, quickly from {})",
            Amps::new(opens),
            Amps::new(quick)
        ));
        (opens, quick)
    });
    let numbers = json!({
        "needed_a": number(fit.needed),
        "allowed_a": number(fit.allowed),
        "rating_a": fit.rating.and_then(number),
        "min_fault_a": far.and_then(|f| number(f.flows)),
        "blows_a": acts.map(|(opens, _)| opens),
        "clears_a": acts.map(|(_, quick)| quick),
    });
    SizeAnswer::new(lines, numbers, fit.rating.is_some())
}

fn percent(share: f64) -> String {
    modest_ohm::units::Fraction::new(share).to_string()
}

/// `size wire-and-fuse`: the thinnest wire that has a fuse.
#[must_use]
pub fn size_wire_and_fuse(need: &WireNeed, family: FuseFamily, pair: Option<&Pair>) -> SizeAnswer {
    let word = family.word();
    let lines = match pair {
        Some(p) => vec![
            format!("use {} with a {} {word} fuse", p.wire.size, p.fuse),
            choice_words(need, &p.wire),
            format!(
                "the load needs a fuse of {}, this wire allows {}",
                p.needed,
                Amps::new(p.wire.ampacity.get() * family.ampacity_factor())
            ),
        ],
        None => vec![
            format!("no listed wire has a {word} fuse for this"),
            format!("{} over {}: split the branch, shorten it, or use a higher voltage", need.load, need.length),
        ],
    };
    let numbers = json!({
        "wire": choice_shape(pair.map(|p| &p.wire)),
        "rating_a": pair.and_then(|p| number(p.fuse)),
        "needed_a": pair.and_then(|p| number(p.needed)),
    });
    SizeAnswer::new(lines, numbers, pair.is_some())
}
