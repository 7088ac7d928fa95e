//! A fix: edits of the plan that were tried, and what becomes of the finding.

use crate::edit::Edit;
use crate::edit::path::{Step, push_key, steps_of};
use crate::quantity::format::engineering_of;
use crate::verdict::severity::Severity;

/// A change of the plan that was applied to a copy, read and checked.
///
/// The finding is gone or milder as [`effect`](Self::effect) says, and nothing as bad or worse is found that was not
/// found before.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Fix {
    /// What to do, as an imperative without the edits: `Use a larger converter`.
    pub title: String,
    /// The edits that are it; [`apply`](crate::edit::apply) makes them.
    pub edits: Vec<Edit>,
    /// What becomes of the finding.
    pub effect: Effect,
    /// Other findings that are gone with it: code and part.
    pub gone: Vec<(&'static str, String)>,
    /// What is found then that was not before, milder than the finding but more than advice: how bad, code and part.
    pub brings: Vec<(Severity, &'static str, String)>,
}

/// What a fix does to its finding.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Effect {
    /// The finding is gone; `margin` is what its check says then, where it says something.
    Ends {
        /// How far from the limit, in words: `3.6 A of 5 A`.
        margin: Option<String>,
    },
    /// The finding is left, and milder.
    Helps {
        /// How bad it is then.
        severity: Severity,
        /// The judged number then, in the base unit with its unit, where the finding judges one.
        then: Option<(f64, &'static str)>,
    },
}

impl Fix {
    /// Whether the finding is gone with it.
    #[must_use]
    pub const fn ends(&self) -> bool {
        matches!(self.effect, Effect::Ends { .. })
    }

    /// Whether another finding is gone with it.
    #[must_use]
    pub fn removes(&self, code: &str, subject: &str) -> bool {
        self.gone.iter().any(|(c, s)| *c == code && s == subject)
    }

    /// The whole fix as one sentence without a full stop: what to do, what to write, what becomes of it.
    ///
    /// `Use a supply rated 2 A: current = "2 A" in [supply.wall] (verified: 1.5 A of 2 A)`, with the edits in
    /// backticks.
    #[must_use]
    pub fn text(&self) -> String {
        format!("{}: {} ({})", self.title, self.instruction(), self.outcome())
    }

    /// What to do and what becomes of it, without what to write.
    #[must_use]
    pub fn brief(&self) -> String {
        format!("{} ({})", self.title, self.outcome())
    }

    /// What to write into the plan.
    #[must_use]
    pub fn instruction(&self) -> String {
        let mut tables: Vec<(String, Vec<String>, Vec<String>)> = Vec::new();
        let mut whole: Vec<String> = Vec::new();
        for edit in &self.edits {
            let Some((table, key)) = table_and_key(&edit.path) else { continue };
            match (&key, &edit.value) {
                (None, Some(value)) => {
                    let rows = value.trim().trim_start_matches('{').trim_end_matches('}').trim();
                    whole.push(format!("new table `[{table}]` with `{rows}`"));
                }
                (None, None) => whole.push(format!("delete `[{table}]`")),
                (Some(key), value) => {
                    let at = tables.iter().position(|(known, ..)| *known == table).unwrap_or_else(|| {
                        tables.push((table, Vec::new(), Vec::new()));
                        tables.len() - 1
                    });
                    match value {
                        Some(value) => tables[at].1.push(format!("`{key} = {value}`")),
                        None => tables[at].2.push(format!("`{key}`")),
                    }
                }
            }
        }
        for (table, written, removed) in tables {
            let place = if table.is_empty() { String::new() } else { format!(" in `[{table}]`") };
            whole.push(match (written.is_empty(), removed.is_empty()) {
                (false, true) => format!("{}{place}", listed(&written)),
                (true, _) => format!("delete {}{place}", listed(&removed)),
                (false, false) => format!("{} in place of {}{place}", listed(&written), listed(&removed)),
            });
        }
        whole.join("; ")
    }

    /// What becomes of the finding, and of others.
    #[must_use]
    pub fn outcome(&self) -> String {
        let own = match &self.effect {
            Effect::Ends { margin: Some(margin) } => format!("verified: {margin}"),
            Effect::Ends { margin: None } => "verified".to_owned(),
            Effect::Helps { severity, then } => {
                let then = then.map_or_else(String::new, |(value, unit)| format!(", {}", engineering_of(value, unit)));
                format!("helps, but is not enough: then {} {}{then}", article(severity.word()), severity.word())
            }
        };
        let goes = match self.gone.len() {
            0 => String::new(),
            1 => "; 1 more finding goes".to_owned(),
            n => format!("; {n} more findings go"),
        };
        let brought = |(severity, code, subject): &(Severity, &str, String)| {
            format!("{} {}, {code} on `{subject}`", article(severity.word()), severity.word())
        };
        let brought: Vec<String> = self.brings.iter().map(brought).collect();
        let brings = if brought.is_empty() { String::new() } else { format!("; brings {}", listed(&brought)) };
        format!("{own}{goes}{brings}")
    }
}

pub(super) fn article(word: &str) -> &'static str {
    if word.starts_with(['a', 'u']) { "an" } else { "a" }
}

/// `[kind.name]` and the key in it, as they are written; no key for the table itself.
fn table_and_key(path: &str) -> Option<(String, Option<String>)> {
    let steps = steps_of(path)?;
    let is_table = |steps: &[Step]| matches!(steps, [Step::Key(_), Step::Key(_)]);
    let cut = match steps.as_slice() {
        [_, Step::Index(_), ..] | [_, Step::Key(_), ..] => 2,
        _ => 1,
    };
    let (table, key) = steps.split_at(cut);
    if table.len() == 1 {
        return Some((String::new(), Some(written(table))));
    }
    let name = if is_table(table) || key.is_empty() { written(table) } else { written(&steps[..2]) };
    Some((name, (!key.is_empty()).then(|| written(key))))
}

fn written(steps: &[Step]) -> String {
    let mut text = String::new();
    for step in steps {
        match step {
            Step::Key(key) => {
                if !text.is_empty() {
                    text.push('.');
                }
                push_key(&mut text, key);
            }
            Step::Index(i) => text.push_str(&format!("[{i}]")),
        }
    }
    text
}

/// `a, b and c`.
pub(crate) fn listed(words: &[String]) -> String {
    match words {
        [] => String::new(),
        [one] => one.clone(),
        [most @ .., last] => format!("{} and {last}", most.join(", ")),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn fix(edits: Vec<Edit>) -> Fix {
        Fix {
            title: "Do it".into(),
            edits,
            effect: Effect::Ends { margin: None },
            gone: Vec::new(),
            brings: Vec::new(),
        }
    }

    #[test]
    fn edits_read_as_what_to_write_and_where() {
        let words = |edits: Vec<Edit>| fix(edits).instruction();
        let current = Edit::text("supply.wall.current", "3 A");
        assert_eq!(words(vec![current.clone()]), "`current = \"3 A\"` in `[supply.wall]`");
        let limit = Edit::remove("supply.wall.limit");
        let both = "`current = \"3 A\"` in place of `limit` in `[supply.wall]`";
        assert_eq!(words(vec![current.clone(), limit.clone()]), both);
        assert_eq!(words(vec![limit]), "delete `limit` in `[supply.wall]`");
        assert_eq!(words(vec![Edit::remove("link.bar")]), "delete `[link.bar]`");
        assert_eq!(words(vec![Edit::remove("accept[0]")]), "delete `[accept[0]]`");
        let lift = Edit::set("shifter.lift", "{ part = \"hct-buffer\", from = \"five\" }");
        let through = Edit::text("strip.quay.data.through", "lift");
        assert_eq!(
            words(vec![lift, through]),
            "new table `[shifter.lift]` with `part = \"hct-buffer\", from = \"five\"`; `data.through = \"lift\"` in \
             `[strip.quay]`"
        );
        assert_eq!(words(vec![Edit::text("ambient", "30 °C")]), "`ambient = \"30 °C\"`");
        assert_eq!(
            words(vec![Edit::text("strip.q.inject[0].fuse", "3 A")]),
            "`inject[0].fuse = \"3 A\"` in `[strip.q]`"
        );
    }

    #[test]
    fn the_outcome_says_what_is_left() {
        let mut fix = fix(Vec::new());
        assert_eq!(fix.outcome(), "verified");
        fix.effect = Effect::Ends { margin: Some("3.6 A of 5 A".into()) };
        fix.gone.push(("inrush", "wall".into()));
        assert_eq!(fix.outcome(), "verified: 3.6 A of 5 A; 1 more finding goes");
        fix.brings.push((Severity::Caution, "fuse-missing", "lamp".into()));
        assert!(fix.outcome().ends_with("goes; brings a caution, fuse-missing on `lamp`"), "{}", fix.outcome());
        fix.brings.clear();
        fix.effect = Effect::Helps { severity: Severity::Advisory, then: Some((3.98, "V")) };
        fix.gone.clear();
        assert_eq!(fix.outcome(), "helps, but is not enough: then an advisory, 3.98 V");
    }
}
