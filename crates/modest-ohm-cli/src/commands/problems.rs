//! What is wrong with a question, collected so that all of it is reported at once.

use modest_ohm::units::{Range, Volts, parse_figure};

/// What is wrong with the question, all at once.
#[derive(Default)]
pub(super) struct Problems(Vec<String>);

impl Problems {
    pub(super) fn unless(&mut self, sound: bool, message: impl FnOnce() -> String) {
        if !sound {
            self.0.push(message());
        }
    }

    /// Volts as a range, above zero.
    pub(super) fn range(&mut self, text: &str, what: &str) -> Range<Volts> {
        match parse_figure::<Volts>(text) {
            Err(p) => self.0.push(format!("{what}: {} ({})", p.message, p.help)),
            Ok(figure) if figure.low.get() <= 0.0 => {
                self.0.push(format!("{what}: {} is not above zero", figure.low));
            }
            Ok(figure) => return Range::new(figure.low, figure.high),
        }
        Range::new(Volts::new(1.0), Volts::new(2.0))
    }

    pub(super) fn or<T>(self, answer: impl FnOnce() -> T) -> Result<T, String> {
        if self.0.is_empty() { Ok(answer()) } else { Err(self.0.join("\n")) }
    }
}
