//! The text of a plan and the map from byte offsets to lines and columns.

/// A byte range of the plan's text.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Span {
    /// First byte.
    pub start: usize,
    /// One past the last byte.
    pub end: usize,
}

/// A place in the text as people count: both numbers start at 1, columns count characters.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Place {
    /// Line, from 1.
    pub line: usize,
    /// Column in characters, from 1.
    pub column: usize,
}

/// A plan's text.
#[derive(Clone, Debug, Default)]
pub struct Source {
    text: String,
    line_starts: Vec<usize>,
}

impl Source {
    /// Keeps the text and notes where its lines start.
    #[must_use]
    pub fn new(text: &str) -> Self {
        let line_starts = std::iter::once(0)
            .chain(text.bytes().enumerate().filter(|(_, b)| *b == b'\n').map(|(i, _)| i + 1))
            .collect();
        Self { text: text.to_owned(), line_starts }
    }

    /// The whole text.
    #[must_use]
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The words a span covers; empty for a span outside the text.
    #[must_use]
    pub fn slice(&self, span: Span) -> &str {
        self.text.get(span.start..span.end).unwrap_or("")
    }

    /// Line and column of a byte offset; an offset beyond the end is the end.
    ///
    /// ```
    /// use modest_ohm::plan::Source;
    /// let source = Source::new("a = 1\nµΩ = 2");
    /// let place = source.place(source.text().find('=').unwrap() + 9);
    /// assert_eq!(place.line, 2);
    /// ```
    #[must_use]
    pub fn place(&self, offset: usize) -> Place {
        let offset = offset.min(self.text.len());
        let line = self.line_starts.partition_point(|start| *start <= offset).max(1);
        let start = self.line_starts.get(line - 1).copied().unwrap_or(0);
        let column = self.text.get(start..offset).map_or(1, |s| s.chars().count() + 1);
        Place { line, column }
    }
}
