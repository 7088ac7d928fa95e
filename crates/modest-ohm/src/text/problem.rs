//! What is wrong with a plan's text: every problem with its place, all of them at once.

use std::fmt;

use crate::source::{Source, Span};

/// One mistake in the text.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Problem {
    /// The characters at fault; `None` where something is missing altogether.
    pub span: Option<Span>,
    /// What was found.
    pub message: String,
    /// What to write instead; may be empty.
    pub help: String,
    /// A second place that belongs to it, such as the first of two equal names.
    pub related: Option<(Span, String)>,
    /// What only some problems have.
    more: Option<Box<More>>,
}

/// What only some problems have.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
struct More {
    known: Vec<&'static str>,
    undeclared: Option<String>,
}

impl Problem {
    pub(crate) fn new(span: impl Into<Option<Span>>, message: impl Into<String>, help: impl Into<String>) -> Self {
        Self { span: span.into(), message: message.into(), help: help.into(), related: None, more: None }
    }

    /// A name that nothing in the plan declares.
    pub(crate) fn undeclared(name: &crate::text::Named, what: &str, help: impl Into<String>) -> Self {
        let message = format!("there is no {what} `{}`", name.text);
        let more = More { undeclared: Some(name.text.clone()), ..More::default() };
        Self { more: Some(Box::new(more)), ..Self::new(name.span, message, help) }
    }

    /// The name that is not declared, where that is the problem: it may follow from a table that could not be read.
    pub(crate) fn undeclared_name(&self) -> Option<&str> {
        self.more.as_ref()?.undeclared.as_deref()
    }

    pub(crate) fn with_known(mut self, known: Vec<&'static str>) -> Self {
        self.more.get_or_insert_default().known = known;
        self
    }

    /// The keys that may stand at this place, where an unknown one does; for editors that complete them. Else empty.
    #[must_use]
    pub fn known(&self) -> &[&'static str] {
        self.more.as_ref().map_or(&[], |more| more.known.as_slice())
    }

    pub(crate) fn with_related(mut self, span: Option<Span>, label: impl Into<String>) -> Self {
        self.related = span.map(|s| (s, label.into()));
        self
    }
}

/// All problems of a plan that could not be read, in the order of the text.
#[derive(Clone, Debug)]
pub struct PlanErrors {
    /// The problems; never empty.
    pub problems: Vec<Problem>,
    /// The text they speak of.
    pub source: Source,
}

impl PlanErrors {
    pub(crate) fn new(mut problems: Vec<Problem>, source: Source) -> Self {
        // A place outside of the text is none: nobody can be shown it.
        let is_in = |s: &Span| source.text().get(s.start..s.end).is_some();
        for problem in &mut problems {
            problem.span = problem.span.filter(is_in);
            problem.related = problem.related.take().filter(|(s, _)| is_in(s));
        }
        problems.sort_by_key(|p| p.span.map_or((usize::MAX, 0), |s| (s.start, s.end)));
        problems.dedup();
        Self { problems, source }
    }
}

impl fmt::Display for PlanErrors {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (i, problem) in self.problems.iter().enumerate() {
            if i > 0 {
                writeln!(f)?;
            }
            if let Some(span) = problem.span {
                let place = self.source.place(span.start);
                write!(f, "{}:{}: ", place.line, place.column)?;
            }
            write!(f, "{}", problem.message)?;
            if !problem.help.is_empty() {
                write!(f, " ({})", problem.help)?;
            }
        }
        Ok(())
    }
}

impl std::error::Error for PlanErrors {}
