//! How likely it is that a build works, as text.

use std::collections::BTreeMap;

use modest_ohm::odds::{Beyond, LeftOut, Odds, VerdictOdds};
use modest_ohm::{Review, Severity};

use crate::document::entry::Entry;
use crate::document::style::{self, QUIET, SOUND, paint};
use crate::document::wrap::wrap;
use crate::document::{Block, Document};
use crate::first_screen::{counted, title};
use crate::{Input, Layout};

/// The share of builds that work, and of each finding what decides it.
#[must_use]
pub fn odds_text(input: &Input<'_>, review: &Review, odds: &Odds, layout: Layout) -> String {
    let width = layout.width;
    let mut out = title(input, review, width);
    out.push_str(&format!("{}\n", wrap(&headline(odds), width, 0)));
    let mut page = Document::default();
    if !odds.verdicts.is_empty() {
        page.gap();
        page.push(Block::Entries(odds.verdicts.iter().map(|v| entry(review, v)).collect()));
    }
    out.push_str(&page.text(width));
    let foot: Vec<String> = foot(review, odds).iter().map(|line| paint_lines(&wrap(line, width, 0)) + "\n").collect();
    out + &foot.join("\n")
}

fn paint_lines(text: &str) -> String {
    text.lines().map(|line| paint(QUIET, line)).collect::<Vec<_>>().join("\n")
}

/// The plan as a whole.
fn headline(odds: &Odds) -> String {
    let same = |l: &&LeftOut| l.severity == Severity::Fault;
    let dangers = counted(odds.dangers, "danger", "dangers");
    match odds.works {
        _ if odds.dangers > 0 => format!(
            "{} Fix the {dangers} first: no share of builds makes a danger acceptable.",
            paint(style::of(Severity::Danger), "Do not power on.")
        ),
        _ if odds.left_out.iter().any(|l| same(&l)) => {
            format!(
                "{} Its faults do not depend on tolerances alone.",
                paint(style::of(Severity::Fault), "It will not work as planned.")
            )
        }
        _ if odds.verdicts.iter().any(|v| v.endangers) => {
            format!(
                "{} The worst builds are in danger.",
                paint(style::of(Severity::Danger), "Not safe in every build.")
            )
        }
        Some(share) if share.count == share.builds => "No build tried has a fault.".into(),
        Some(share) if share.count == 0 => "Every build tried has a fault.".into(),
        Some(share) => {
            let assumed = odds.verdicts.iter().any(|v| v.assumed);
            let assumed = if assumed { ", if assumed values spread as assumed" } else { "" };
            format!("{} have no fault{assumed}.", share.words())
        }
        None => format!(
            "{} Nothing is found that differs between builds, even at the worst combination of tolerances.",
            paint(SOUND, "Every build works.")
        ),
    }
}

fn entry(review: &Review, v: &VerdictOdds) -> Entry {
    let subjects = || std::iter::once(&v.subject).chain(&v.alike);
    let line = |subject: &String| {
        let own = review.findings().iter().find(|f| f.code == v.code && f.subject == *subject)?;
        Some(review.plan().source().place(own.span?.start).line)
    };
    let mut lines: Vec<usize> = subjects().filter_map(line).collect();
    lines.dedup();
    let about = [v.value.map(|value| value.words()), v.decided_words()];
    Entry {
        number: None,
        severity: v.severity,
        code: v.code,
        subjects: subjects().map(|s| review.in_short(s)).collect(),
        lines,
        headline: v.words(),
        fixes: v.worth_words().iter().map(|w| review.in_short(w)).collect(),
        brief_fix: None,
        tasks: Vec::new(),
        causes: Vec::new(),
        worst: v.severity,
        goes_with: None,
        accepted: None,
        about: review.in_short(&about.into_iter().flatten().collect::<Vec<_>>().join(" · ")),
    }
}

/// What the shares stand for, and what has none.
fn foot(review: &Review, odds: &Odds) -> Vec<String> {
    let mut lines = Vec::new();
    for b in &odds.beyond {
        lines.push(beyond(review, b));
    }
    lines.extend(left_out(review, odds));
    if odds.builds > 0 {
        let assumed = match odds.assumed {
            0 => String::new(),
            n => format!("; the spread of {n} is assumed, not measured"),
        };
        lines.push(format!(
            "{} builds were drawn, each with {} within tolerance{assumed}. A share of builds: in how many of 100 it works. \
            Worst possible: every tolerance at its bad end at once; severities go by it, whatever the share. Worst \
            likely: 99 of 100 builds are better; usual: half of them are. More: mohm about odds",
            odds.builds,
            counted(odds.figures, "value", "values"),
        ));
    }
    lines
}

/// What has no share: each reason once, each check once.
fn left_out(review: &Review, odds: &Odds) -> Vec<String> {
    let mut reasons: BTreeMap<&str, BTreeMap<&str, Vec<String>>> = BTreeMap::new();
    for l in &odds.left_out {
        reasons.entry(l.why).or_default().entry(l.code).or_default().push(review.in_short(&l.subject));
    }
    let check = |(code, subjects): (&&str, &Vec<String>)| match &subjects[..] {
        [first, rest @ ..] if !rest.is_empty() => format!("{code} {first} and {} more", rest.len()),
        all => format!("{code} {}", all.join("")),
    };
    let reason = |(why, checks): (&&str, &BTreeMap<&str, Vec<String>>)| {
        format!("{why}: {}.", checks.iter().map(check).collect::<Vec<_>>().join(", "))
    };
    reasons.iter().rev().map(reason).collect()
}

fn beyond(review: &Review, b: &Beyond) -> String {
    format!(
        "{} builds have {} {} on `{}`, which the review does not show: please report the plan.",
        b.builds,
        b.severity.word(),
        b.code,
        review.in_short(&b.subject)
    )
}
