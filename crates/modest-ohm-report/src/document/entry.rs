//! A finding, or several that are alike, as it is in a list: head, headline, fixes, consequences, and where it is.

use modest_ohm::Severity;

use super::style::{self, QUIET, STRONG, paint};
use super::wrap::{cut, wrap_hanging};

/// What a list says of a finding.
#[derive(Clone, Debug)]
pub(crate) struct Entry {
    /// Its number in the list; `None` for one that stands alone.
    pub number: Option<usize>,
    pub severity: Severity,
    pub code: &'static str,
    /// The parts it is about, in the order of the plan.
    pub subjects: Vec<String>,
    /// Their lines in the plan, without repetition.
    pub lines: Vec<usize>,
    pub headline: String,
    /// Best first.
    pub fixes: Vec<String>,
    /// The best of them without what to write, for where there is little room.
    pub brief_fix: Option<String>,
    /// What has to be done by hand, and what stands in the way, where no fix ends it.
    pub tasks: Vec<String>,
    /// What follows from it: code, parts with their numbers, and how bad that is.
    pub causes: Vec<(&'static str, Vec<String>, Severity)>,
    /// The worst severity of it and of what follows.
    pub worst: Severity,
    /// The entry whose first fix ends this one too.
    pub goes_with: Option<String>,
    /// The reason, where the plan accepts it.
    pub accepted: Option<String>,
    /// Place, worst case and assumptions, for the complete list.
    pub about: String,
}

/// Columns of the heads of one list.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Columns {
    /// Of the whole line.
    pub width: usize,
    pub number: usize,
    pub code: usize,
}

impl Columns {
    pub fn of(entries: &[Entry], width: usize) -> Self {
        let number = entries.iter().filter_map(|e| e.number).max().map_or(0, |n| n.to_string().len() + 1);
        let code = entries.iter().map(|e| e.code.len()).max().unwrap_or(0);
        Self { width, number, code }
    }

    /// Where everything below a head begins.
    fn indent(self) -> usize {
        self.number + 9
    }

    fn room(self) -> usize {
        self.width.saturating_sub(self.number + 9 + self.code + 2)
    }
}

impl Entry {
    /// Everything of it, over as many lines as it takes.
    pub fn full(&self, columns: Columns) -> String {
        let mut out = self.above(columns, usize::MAX);
        for fix in &self.fixes {
            out.push_str(&indented(&format!("→ {fix}"), columns, 2, usize::MAX));
        }
        for task in &self.tasks {
            out.push_str(&indented(&format!("· {task}"), columns, 2, usize::MAX));
        }
        out.push_str(&self.below(columns, usize::MAX));
        if !self.about.is_empty() {
            for line in indented(&self.about, columns, 0, usize::MAX).lines() {
                out.push_str(&format!("{}\n", paint(QUIET, line)));
            }
        }
        out
    }

    /// Its head, headline, best fix and consequences, each in two lines at most.
    pub fn short(&self, columns: Columns) -> String {
        let mut out = self.above(columns, 2);
        let task = || self.tasks.first().map(|task| format!("· {task}"));
        let brief = || self.brief_fix.as_ref().map(|fix| format!("→ {fix}"));
        let fits = |fix: &String| indented(fix, columns, 2, usize::MAX).lines().count() <= 2;
        let whole = self.fixes.first().map(|fix| format!("→ {fix}")).filter(fits);
        if let Some(first) = whole.or_else(brief).or_else(task) {
            out.push_str(&indented(&first, columns, 2, 2));
        }
        out.push_str(&self.below(columns, 2));
        out
    }

    /// Its head and headline on one line.
    pub fn brief(&self, columns: Columns) -> String {
        let named = self.subjects.len() == 1 && self.headline.contains(&format!("`{}`", self.subjects[0]));
        let about =
            if named { self.headline.clone() } else { format!("{}: {}", self.names(columns.room()), self.headline) };
        format!("{}{}\n", self.head(columns), cut(&about, columns.room()))
    }

    fn above(&self, columns: Columns, most: usize) -> String {
        let room = columns.room().saturating_sub(self.place().chars().count() + 2);
        let names = self.names(room);
        let accepted = if self.accepted.is_some() { " (accepted)" } else { "" };
        let head = self.with_place(&format!("{names}{accepted}"), columns);
        format!("{}{head}\n{}", self.head(columns), indented(&self.headline, columns, 0, most))
    }

    fn below(&self, columns: Columns, most: usize) -> String {
        let mut out = String::new();
        if let Some(other) = &self.goes_with {
            out.push_str(&block(&format!("also gone with the first fix of {other}"), columns, (2, 2), most));
        }
        out.push_str(&self.consequences(columns, most));
        if let Some(because) = &self.accepted {
            out.push_str(&indented(&format!("accepted: {}", style::printable(because)), columns, 10, most));
        }
        out
    }

    /// What follows from it, two columns in, below its cause: each code on a line of its own where there is room.
    fn consequences(&self, columns: Columns, most: usize) -> String {
        let count: usize = self.causes.iter().map(|(_, on, _)| on.len()).sum();
        let each = |(code, on, severity): &(&'static str, Vec<String>, Severity)| {
            format!("{} {code} {}", severity.word().to_uppercase(), on.join(", "))
        };
        let all: Vec<String> = self.causes.iter().map(each).collect();
        let head = format!("causes {count}: ");
        let hang = head.chars().count();
        let Some((first, more)) = all.split_first() else { return String::new() };
        if most < usize::MAX {
            return block(&format!("{head}{}", all.join("; ")), columns, (2, hang), most);
        }
        let first = block(&format!("{head}{first}"), columns, (2, hang), most);
        let more = more.iter().map(|one| block(one, columns, (2 + hang, 2), most));
        std::iter::once(first).chain(more).collect()
    }

    fn head(&self, columns: Columns) -> String {
        let number = self.number.map_or_else(String::new, |n| format!("{n:<0$}", columns.number));
        let number = format!("{number:<0$}", columns.number);
        let word = format!("{:<9}", self.severity.word().to_uppercase());
        let code = format!("{:<1$}  ", self.code, columns.code);
        format!("{number}{}{}", paint(style::of(self.severity), &word), paint(QUIET, &code))
    }

    /// A text at the left and the lines of the plan at the right end.
    fn with_place(&self, text: &str, columns: Columns) -> String {
        let (room, place) = (columns.room(), self.place());
        let text = cut(text, room.saturating_sub(place.chars().count() + 2).max(12));
        let gap = room.saturating_sub(text.chars().count() + place.chars().count());
        format!("{}{}{}", paint(STRONG, &text), " ".repeat(gap.max(1)), paint(QUIET, &place)).trim_end().to_owned()
    }

    /// The lines of the plan, in words.
    fn place(&self) -> String {
        match self.lines.as_slice() {
            [] => String::new(),
            [one] => format!("line {one}"),
            several => {
                let numbers: Vec<String> = several.iter().take(3).map(ToString::to_string).collect();
                format!("lines {}{}", numbers.join(", "), if several.len() > 3 { " …" } else { "" })
            }
        }
    }

    /// The parts, as many as fit, and how many they are.
    fn names(&self, room: usize) -> String {
        let mut counted: Vec<(&str, usize)> = Vec::new();
        for name in &self.subjects {
            match counted.iter_mut().find(|(known, _)| known == name) {
                Some((_, n)) => *n += 1,
                None => counted.push((name, 1)),
            }
        }
        let word = |(name, n): &(&str, usize)| if *n > 1 { format!("{name} ({n})") } else { (*name).to_owned() };
        let words: Vec<String> = counted.iter().map(word).collect();
        if self.subjects.len() == 1 {
            return words.join(", ");
        }
        let alike = format!(" ({} alike)", self.subjects.len());
        let room = room.saturating_sub(alike.len());
        let all = words.join(", ");
        if all.chars().count() <= room {
            return all + &alike;
        }
        let last = words.last().cloned().unwrap_or_default();
        let mut shown = String::new();
        for w in &words {
            if shown.chars().count() + w.chars().count() + last.chars().count() + 6 > room {
                break;
            }
            shown.push_str(w);
            shown.push_str(", ");
        }
        format!("{shown}… {last}{alike}")
    }
}

/// A paragraph below a head, in so many lines at most.
fn indented(text: &str, columns: Columns, hang: usize, most: usize) -> String {
    block(text, columns, (0, hang), most)
}

/// A paragraph that stands further in, its later lines by `hang` more.
fn block(text: &str, columns: Columns, (further, hang): (usize, usize), most: usize) -> String {
    let indent = columns.indent() + further;
    let pad = " ".repeat(indent);
    let lines = wrap_hanging(text, columns.width.saturating_sub(indent), hang);
    let mut lines: Vec<String> = lines.lines().map(|l| format!("{pad}{l}")).collect();
    if lines.len() > most {
        lines.truncate(most);
        if let Some(last) = lines.last_mut() {
            *last = cut(&format!("{last} …"), columns.width);
        }
    }
    lines.join("\n") + "\n"
}

/// What to write begins with a capital, as every imperative of a list does.
pub(crate) fn sentence(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}
