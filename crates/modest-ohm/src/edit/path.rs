//! Paths into a TOML text: `strip.quay.inject[0].cable`.

use std::fmt::Write;

/// One step of a path.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) enum Step {
    Key(String),
    Index(usize),
}

/// The steps of a path; `None` for what is no path.
pub(crate) fn steps_of(path: &str) -> Option<Vec<Step>> {
    let mut steps = Vec::new();
    let mut rest = path;
    loop {
        let (key, after) = key_of(rest)?;
        steps.push(Step::Key(key));
        rest = after;
        while let Some(inner) = rest.strip_prefix('[') {
            let (digits, after) = inner.split_once(']')?;
            let is_plain = !digits.is_empty() && digits.bytes().all(|b| b.is_ascii_digit());
            steps.push(Step::Index(digits.parse().ok().filter(|_| is_plain)?));
            rest = after;
        }
        if rest.is_empty() {
            return Some(steps);
        }
        rest = rest.strip_prefix('.')?;
    }
}

/// The first key of a path, and what follows.
fn key_of(path: &str) -> Option<(String, &str)> {
    if let Some(quote @ ('"' | '\'')) = path.chars().next() {
        let mut escaped = false;
        let mut closes = |(_, c): &(usize, char)| {
            let ends = *c == quote && !escaped;
            escaped = quote == '"' && *c == '\\' && !escaped;
            ends
        };
        let end = path.char_indices().skip(1).find(&mut closes)?.0 + 1;
        let (quoted, rest) = path.split_at(end);
        let key: toml_edit::Key = quoted.parse().ok()?;
        return Some((key.get().to_owned(), rest));
    }
    let end = path.find(|c: char| !is_bare(c)).unwrap_or(path.len());
    let (key, rest) = path.split_at(end);
    (!key.is_empty()).then(|| (key.to_owned(), rest))
}

fn is_bare(c: char) -> bool {
    c.is_ascii_alphanumeric() || matches!(c, '-' | '_')
}

/// A path with a key behind it.
pub(crate) fn join(path: &str, key: &str) -> String {
    let mut joined = path.to_owned();
    if !path.is_empty() {
        joined.push('.');
    }
    push_key(&mut joined, key);
    joined
}

/// A key as it is written: bare where it can be.
pub(crate) fn push_key(text: &mut String, key: &str) {
    if !key.is_empty() && key.chars().all(is_bare) {
        text.push_str(key);
    } else {
        // Quoted and escaped by the crate.
        let _ = write!(text, "{}", toml_edit::Value::from(key).to_string().trim());
    }
}

/// A path with an index behind it.
pub(crate) fn item(path: &str, index: usize) -> String {
    format!("{path}[{index}]")
}
