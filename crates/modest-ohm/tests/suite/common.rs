//! What several tests share: dice, findings by name.

use modest_ohm::{Finding, Plan, Review};

/// A multiplicative generator, as good as the tests need.
pub struct Dice(pub u64);

impl Dice {
    pub fn roll(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(0xda94_2042_e4dd_58b5);
        (self.0 >> 40) as f64 / (1u64 << 24) as f64
    }

    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.roll()
    }

    /// Evenly on a logarithmic scale, of three digits.
    pub fn log(&mut self, low: f64, high: f64) -> f64 {
        format!("{:.2e}", self.between(low.ln(), high.ln()).exp()).parse().unwrap()
    }

    pub fn within(&mut self, from: usize, below: usize) -> usize {
        from + ((self.roll() * (below - from) as f64) as usize).min(below - from - 1)
    }

    pub fn chance(&mut self, share: f64) -> bool {
        self.roll() < share
    }

    pub fn end(&mut self) -> f64 {
        if self.roll() < 0.5 { -1.0 } else { 1.0 }
    }

    pub fn pick<T: Copy>(&mut self, of: &[T]) -> T {
        of[self.within(0, of.len())]
    }
}

pub fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

pub fn found<'r>(review: &'r Review, code: &str, subject: &str) -> Option<&'r Finding> {
    review.findings().iter().find(|f| f.code == code && f.subject == subject)
}

pub fn evidence(f: &Finding, name: &str) -> f64 {
    f.evidence.iter().find(|e| e.name == name).unwrap_or_else(|| panic!("{name} in {f:?}")).value
}

/// Whether a finding names a part of the plan; names stand in marks of code in every sentence.
pub fn names(f: &Finding, part: &str) -> bool {
    f.message.contains(&format!("`{part}`"))
}

/// The verdict of a finding, or `pass`; `unknown` where it could not be reported.
pub fn verdict(f: Option<&Finding>) -> &'static str {
    f.map_or("pass", |f| f.severity.word())
}

pub fn near(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-6 * a.abs().max(b.abs()).max(1e-9)
}
