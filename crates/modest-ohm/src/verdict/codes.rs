//! The codes of the checks, each a constant with its long text; `build.rs` makes them of the files in `about/`.

/// The code of a check.
#[derive(Clone, Copy)]
pub(crate) struct Code {
    /// As it is written: `supply-overloaded`.
    pub name: &'static str,
    /// Its long text, in Markdown.
    pub about: &'static str,
}

impl PartialEq for Code {
    fn eq(&self, other: &Self) -> bool {
        self.name == other.name
    }
}

impl PartialEq<Code> for &str {
    fn eq(&self, other: &Code) -> bool {
        *self == other.name
    }
}

include!(concat!(env!("OUT_DIR"), "/codes.rs"));
