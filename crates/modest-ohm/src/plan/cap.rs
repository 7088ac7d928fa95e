//! `[cap.x]`: one firmware cap over several strips. Firmware caps usually hold for a controller's total.

use super::names::Names;
use super::power::Name;
use super::{Plan, Strip};
use crate::quantity::{Amps, Figure, Fraction};
use crate::text::{Named, Need, Problem, Reader, Span};

/// Shares that should make a whole may miss it by this: they are written in round numbers.
const WHOLE: f64 = 0.005;

#[derive(Clone, Debug)]
pub(crate) struct Cap {
    pub name: Name,
    pub current: Figure<Amps>,
    /// Names of strips; indices once names are resolved.
    pub strips: Vec<(Named, usize)>,
    /// What each strip gets of it; empty where one factor scales all of them alike.
    pub split: Vec<(String, Span, Figure<Fraction>)>,
}

pub(crate) fn read_cap(reader: &mut Reader<'_>, name: Name) -> Cap {
    let current = reader.required::<Amps>("current", Need::Positive);
    let strips = reader.texts("strips");
    if !reader.has("strips") {
        reader.missing("strips", "list the strips: `strips = [\"quay\", \"pier\"]`");
    } else if strips.is_empty() {
        let span = reader.own_span("strips");
        let message = format!("{} caps no strip", reader.what());
        reader.problem(Problem::new(span, message, "list the strips: `strips = [\"quay\", \"pier\"]`"));
    }
    for (n, strip) in strips.iter().enumerate() {
        if strips[..n].iter().any(|other| other.text == strip.text) {
            let message = format!("{} lists `{}` twice", reader.what(), strip.text);
            reader.problem(Problem::new(strip.span, message, "list each strip once"));
        }
    }
    let split = read_split(reader, &strips);
    Cap { name, current, strips: strips.into_iter().map(|n| (n, usize::MAX)).collect(), split }
}

/// `split = { quay = "60 %", pier = "40 %" }`: all strips, one whole.
fn read_split(reader: &mut Reader<'_>, strips: &[Named]) -> Vec<(String, Span, Figure<Fraction>)> {
    let Some(mut table) = reader.child("split") else { return Vec::new() };
    let span = table.span;
    let mut split = Vec::new();
    for (key, at) in table.keys() {
        let Some((node, _)) = table.any(&key) else { continue };
        if !strips.iter().any(|s| s.text == key) {
            let message = format!("{} names `{key}`, which is none of its strips", table.what());
            table.problem(Problem::new(at, message, "name the strips that `strips` lists"));
        } else if let Some(f) = crate::text::figure_of_node::<Fraction>(&table, node, &key, Need::Positive) {
            split.push((key, at, f));
        }
    }
    let missing: Vec<&str> =
        strips.iter().filter(|s| !split.iter().any(|(n, ..)| *n == s.text)).map(|s| s.text.as_str()).collect();
    let sum: f64 = split.iter().map(|(_, _, f)| f.typical.get()).sum();
    if !missing.is_empty() {
        let message = format!("{} leaves out {}", table.what(), missing.join(", "));
        reader.problem(Problem::new(span, message, "give every strip its share"));
    } else if (sum - 1.0).abs() > WHOLE {
        let message = format!("the shares of {} make {}", table.what(), Fraction::new(sum));
        reader.problem(Problem::new(span, message, "let them make 100 %"));
    }
    split
}

/// Finds the strips of caps; a share that is given becomes its strip's own cap.
pub(super) fn resolve_caps(plan: &mut Plan, names: &Names, note: &impl Fn(Problem)) {
    let mut capped: Vec<(usize, String)> = Vec::new();
    let mut own = Vec::new();
    for cap in &mut plan.caps {
        for (name, index) in &mut cap.strips {
            let i = match names.thing(name, "strip") {
                Ok(i) => i,
                Err(p) => {
                    note(p);
                    continue;
                }
            };
            *index = i;
            let strip = &plan.strips[i];
            let twice = capped.iter().find(|(other, _)| *other == i).map(|(_, by)| format!("by `{by}`"));
            let twice = twice.or_else(|| strip.cap.as_ref().map(|_| "by its own `firmware-cap`".to_owned()));
            if let Some(by) = twice.filter(|_| !capped.iter().any(|(o, by)| *o == i && *by == cap.name.text)) {
                let message = format!("`{}` is capped twice: by `{}` and {by}", name.text, cap.name.text);
                note(Problem::new(name.span, message, "keep one of them"));
            }
            if strip.pixel.plain {
                let message =
                    format!("`{}` is a plain strip: under PWM it draws its full current while it is on", name.text);
                note(Problem::new(name.span, message, "leave it out, and plan the supply for full current"));
            }
            capped.push((i, cap.name.text.clone()));
            if let Some((_, _, share)) = cap.split.iter().find(|(n, ..)| *n == name.text) {
                let of = |a: Amps| a * share.typical.get();
                let current = &cap.current;
                let amps = Figure {
                    low: of(current.low),
                    typical: of(current.typical),
                    high: of(current.high),
                    origin: current.origin.clone(),
                    bare: current.bare,
                };
                own.push((i, amps));
            }
        }
    }
    let read = |i: usize| plan.strips.get(i).is_some_and(|s| !s.pixel.quiescent.is_stand_in());
    let known = |c: &Cap| c.strips.iter().all(|(_, i)| read(*i)) && !c.current.is_stand_in();
    for cap in plan.caps.iter().filter(|c| known(c)) {
        below_dark(plan, cap, note);
    }
    for (i, amps) in own {
        plan.strips[i].cap = Some(amps);
    }
}

/// No firmware gets below what pixels draw when they are dark.
fn below_dark(plan: &Plan, cap: &Cap, note: &impl Fn(Problem)) {
    let dark = Amps::new(cap.strips.iter().map(|(_, i)| plan.strips[*i].nominal_dark_a()).sum());
    if cap.current.high < dark {
        let message =
            format!("cap `{}` is {}, and its strips draw {dark} when they are dark", cap.name.text, cap.current.high);
        note(Problem::new(cap.name.span, message, "write what the firmware is set to; it has to be above that"));
    }
    for (name, span, share) in &cap.split {
        let Some((_, i)) = cap.strips.iter().find(|(n, _)| n.text == *name) else { continue };
        let (own, dark) = (cap.current.high * share.typical.get(), Amps::new(plan.strips[*i].nominal_dark_a()));
        if cap.current.high >= dark && own < dark {
            let message = format!("`{name}` gets {own} of cap `{}` and draws {dark} when it is dark", cap.name.text);
            note(Problem::new(*span, message, "give it more"));
        }
    }
}

impl Plan {
    /// The cap that a strip shares with others: its index.
    pub(crate) fn shared_cap(&self, strip: usize) -> Option<usize> {
        self.caps.iter().position(|c| c.split.is_empty() && c.strips.iter().any(|(_, i)| *i == strip))
    }

    /// True where some firmware cap bounds a strip.
    pub(crate) fn is_capped(&self, strip: usize) -> bool {
        self.strips[strip].cap.is_some() || self.shared_cap(strip).is_some()
    }

    /// What firmware counts as full white of several strips, A.
    pub(crate) fn nominal_of(&self, strips: &[usize], each: fn(&Strip) -> f64) -> f64 {
        strips.iter().map(|s| each(&self.strips[*s])).sum()
    }
}
