//! assumption-decides: assumed figures that, within their spread, decide whether something is found.

use crate::checks::shared::consumer_voltage::is_on_wrong_rail;
use crate::derived::consumers::consumers;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::draft::sentence;
use crate::findings::evidence::{Evidence, EvidenceRole};
use crate::findings::finding::{Consequence, Finding, Passed};
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::figures::End;
use crate::solved::outcome::{Lift, solve_all};
use crate::verdict::codes;
use crate::verdict::severity::Severity;

/// An assumed figure with a spread.
#[derive(Clone, Debug)]
struct Assumed {
    item: String,
    key: String,
    words: String,
    ends: (f64, f64, &'static str),
    origin: Origin,
}

/// Verdicts that one figure decides.
struct Decides {
    on: Assumed,
    /// Code and subject.
    verdicts: Vec<(&'static str, String)>,
}

/// What of the findings would be gone, or milder, with an assumed figure at one end of its spread. A review already
/// takes the bad end of everything; so what it does not find decides on nothing.
pub(crate) fn verdicts_that_depend(context: &Context<'_>, findings: &[Finding]) -> Option<Finding> {
    // On a rail that a part was not made for no figure decides anything.
    let parts = consumers(context.plan, context.layout);
    let wrong: Vec<&str> = parts.iter().filter(|c| is_on_wrong_rail(context, c)).map(|c| c.name.as_str()).collect();
    let of_voltage = [codes::SUPPLY_VOLTAGE.name, codes::MOTOR_VOLTAGE.name];
    let is_rail = |f: &Finding| of_voltage.contains(&f.code) && wrong.contains(&f.subject.as_str());
    let open = findings.iter().filter(|f| f.corner.is_some() && f.severity >= Severity::Caution && !is_rail(f));
    let open = open.flat_map(entries);
    // What solves much of its own is not tried: it would be solved anew for both ends of every figure.
    let tried = |code: &str| matches!(crate::checks::solves(code), Solves::Nothing | Solves::Discharges);
    let open: Vec<_> = open.filter(|(code, ..)| tried(code)).collect();
    if open.is_empty() {
        return None;
    }
    let codes: Vec<&str> = open.iter().map(|(code, ..)| *code).collect();
    let solves = 2 * context.outcomes.len();
    let (mut deciding, mut left_out) = (Vec::new(), 0);
    // A large plan leaves no time for all: the figures of what is found fault with come first.
    let item = |name: &str| name.split(['.', '[']).next().unwrap_or(name).to_owned();
    let subjects: Vec<String> = open.iter().map(|(_, subject, _)| item(subject)).collect();
    let mut figures: Vec<(usize, Assumed)> = assumed(context.plan).into_iter().enumerate().collect();
    figures.sort_by_key(|(_, on)| !subjects.contains(&item(&on.item)));
    for (place, on) in figures {
        if !context.may_try(solves) {
            left_out += 1;
            continue;
        }
        let [low, high] = [End::Low, End::High].map(|end| found(&held(context.plan, &on, end), &codes));
        let gone = |list: &[(&'static str, String, Severity)],
                    (code, subject, severity): &(&'static str, String, Severity)| {
            !list.iter().any(|(c, s, at)| c == code && s == subject && at >= severity)
        };
        let mut verdicts: Vec<(&'static str, String)> = Vec::new();
        for entry in &open {
            if gone(&low, entry) != gone(&high, entry) && !verdicts.iter().any(|v| v.0 == entry.0 && v.1 == entry.1) {
                verdicts.push((entry.0, entry.1.clone()));
            }
        }
        if !verdicts.is_empty() {
            deciding.push((place, Decides { on, verdicts }));
        }
    }
    deciding.sort_by_key(|(place, _)| *place);
    tell(context.plan, deciding.into_iter().map(|(_, decides)| decides).collect(), left_out)
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
fn entries(f: &Finding) -> Vec<(&'static str, String, Severity)> {
    let own = std::iter::once((f.code, f.subject.clone(), f.severity));
    own.chain(f.also.iter().map(|c| (c.code, c.subject.clone(), Severity::Caution))).collect()
}

/// All assumed figures with a spread; equal keys of one item are one.
fn assumed(plan: &Plan) -> Vec<Assumed> {
    let mut all: Vec<Assumed> = Vec::new();
    plan.clone().each_figure(&mut |item, at, figure| {
        // A range in which something works, or that it goes through, is no assumption that a measurement narrows.
        if at.is_range || at.is_state || !figure.origin().is_assumed() || !figure.is_spread() {
            return;
        }
        let key = at.to_string();
        if all.iter().any(|a| a.item == item && a.key == key) {
            return;
        }
        let (item, words) = (item.to_owned(), figure.words());
        all.push(Assumed { item, key, words, ends: figure.ends(), origin: figure.origin().clone() });
    });
    all
}

fn held(plan: &Plan, on: &Assumed, end: End) -> Plan {
    let mut held = plan.clone();
    held.each_figure(&mut |item, at, figure| {
        if item == on.item && figure.origin().is_assumed() && at.to_string() == on.key {
            figure.hold(end);
        }
    });
    held
}

/// What the checks of some codes find in a variant.
fn found(plan: &Plan, codes: &[&str]) -> Vec<(&'static str, String, Severity)> {
    let (layout, outcomes) = solve_all(plan, Lift::None);
    crate::checks::found_in(plan, &layout, &outcomes, codes)
        .into_iter()
        .map(|f| (f.code, f.subject, f.severity))
        .collect()
}

/// The bench measurement that settles a figure.
fn measurement(on: &Assumed) -> String {
    let item = &on.item;
    match on.key.as_str() {
        "current" | "power" => format!("measure the peak current of `{item}` with an ammeter in its positive"),
        "surge" => format!("measure the current of `{item}` at start or stall, at its rated voltage"),
        "idle" | "typical" => format!("measure the current of `{item}` in that state with an ammeter in its positive"),
        "mean" | "peak" | "quiescent" | "own-current" => format!("measure the current that `{item}` draws itself"),
        "copper" => format!(
            "measure the resistance of one metre of the tracks of `{item}`: the voltage along it at a known current"
        ),
        "limit" => format!("load `{item}` until its voltage falls, and read the current there"),
        "efficiency" => format!("measure voltage and current at the input and output of `{item}` under load"),
        "vf" | "usb-diode" => "measure the voltage across the diode at its current".into(),
        "colours.vf" | "colours.vreg" => {
            format!(
                "lower the voltage of a short piece of `{item}`; note where each colour starts to fade and where \
                it goes dark"
            )
        }
        "colours.current" => format!("measure a short piece of `{item}` at full white and divide by its pixels"),
        "regulator.voltage" | "unregulated.makes" | "output" => format!("measure the output of `{item}` under load"),
        "regulator.dropout" | "unregulated.dropout" | "dropout" => {
            format!("lower the input of `{item}` until its output falls, and take the difference")
        }
        "holder" | "resistance" | "esr" => {
            format!(
                "measure the voltage at `{item}` with no load and at a known current; divide the difference by \
                that current"
            )
        }
        "theta-ja" | "regulator.theta-ja" | "unregulated.theta-ja" => {
            format!("measure the temperature of the part in `{item}` under load with a thermocouple")
        }
        _ => format!("take `{}` of `{item}` from its datasheet", on.key),
    }
}

/// Those with one key, one range and one source together: the tracks of twelve equal strips are one figure.
fn alike(deciding: &[Decides]) -> Vec<Vec<&Decides>> {
    let codes = |d: &Decides| d.verdicts.iter().map(|(code, _)| *code).collect::<Vec<_>>();
    let same = |a: &Decides, b: &Decides| a.on.key == b.on.key && a.on.words == b.on.words && codes(a) == codes(b);
    let mut groups: Vec<Vec<&Decides>> = Vec::new();
    for one in deciding {
        match groups.iter_mut().find(|group| same(group[0], one)) {
            Some(group) => group.push(one),
            None => groups.push(vec![one]),
        }
    }
    groups
}

/// `strip-voltage-low of `shelf` on its `copper` (50 mΩ/m .. 160 mΩ/m; pixel-5v-rgb)`.
fn depends(group: &[&Decides]) -> String {
    let first = group[0];
    let item = &first.on.item;
    let more = if group.len() > 1 { format!(" and {} alike", group.len() - 1) } else { String::new() };
    let verdict = |(code, subject): &(&'static str, String)| match subject == item {
        true => (*code).to_owned(),
        false => format!("{code} of `{subject}`"),
    };
    let verdicts: Vec<String> = first.verdicts.iter().map(verdict).collect();
    let why = match &first.on.origin {
        Origin::Catalogue { part, .. } => format!("; {part}"),
        Origin::Default(why) => format!("; {why}"),
        _ => String::new(),
    };
    format!("{} on `{}` of `{item}`{more} ({}{why})", verdicts.join(", "), first.on.key, first.on.words)
}

fn tell(plan: &Plan, deciding: Vec<Decides>, left_out: usize) -> Option<Finding> {
    let first = deciding.first()?;
    let groups = alike(&deciding);
    let each: Vec<String> = groups.iter().map(|group| depends(group)).collect();
    let head = if deciding.len() == 1 { "this depends on an assumed value" } else { "these depend on assumed values" };
    let more = if left_out > 0 {
        format!("; {left_out} more assumed values not varied (plan too large)")
    } else {
        String::new()
    };
    let also = |item: &str| Consequence {
        code: codes::ASSUMPTION_DECIDES.name,
        subject: item.to_owned(),
        severity: Severity::Advisory,
    };
    let measure = |group: &Vec<&Decides>| {
        let on = &group[0].on;
        sentence(&format!("{}, and write `{}`", measurement(on), on.key))
    };
    let cures: Vec<String> = groups.iter().map(measure).collect();
    Some(Finding {
        code: codes::ASSUMPTION_DECIDES.name,
        severity: Severity::Advisory,
        subject: first.on.item.clone(),
        scenario: None,
        corner: None,
        mix: None,
        message: format!("{head}: {}{more}", each.join("; ")),
        cures,
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
        also: deciding.iter().skip(1).map(|h| also(&h.on.item)).collect(),
        accepted: None,
    })
}
