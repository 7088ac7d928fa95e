//! Leads of a plan written in code, as the text a maker would write.

use super::drafts::{quoted, written};
use crate::quantity::units::{Metres, Ohms};

/// A cable of two conductors.
///
/// ```
/// use modest_ohm::plan::Lead;
/// use modest_ohm::units::{Metres, Ohms};
/// let _ = Lead::awg(Metres::new(1.2), 16);
/// let _ = Lead::mm2(Metres::new(1.2), 0.75);
/// let _ = Lead::measured(Ohms::new(0.042), Ohms::new(0.055));
/// let _ = Lead::awg(Metres::new(1.2), 20).parallel(2).bundle(3).through("barrel-2mm1").ends("ferrule", "crimped");
/// ```
#[derive(Clone, Debug)]
pub struct Lead {
    /// `"1.2 m 16 AWG"`, where a short form says it.
    short: Option<String>,
    /// What stands in its table.
    keys: Vec<String>,
    connectors: Vec<String>,
}

impl Lead {
    /// Length (one way) and AWG size.
    #[must_use]
    pub fn awg(length: Metres, size: i32) -> Self {
        Self::of_size(length, &format!("{size} AWG"))
    }

    /// Length (one way) and cross-section in mm².
    #[must_use]
    pub fn mm2(length: Metres, area_mm2: f64) -> Self {
        Self::of_size(length, &format!("{area_mm2} mm²"))
    }

    fn of_size(length: Metres, size: &str) -> Self {
        Self {
            short: Some(format!("\"{} m {size}\"", length.get())),
            keys: vec![format!("length = {}", written(length)), format!("size = {}", quoted(size))],
            connectors: Vec::new(),
        }
    }

    /// Measured resistance of each conductor.
    #[must_use]
    pub fn measured(feed: Ohms, back: Ohms) -> Self {
        let keys = vec![format!("feed = {}", written(feed)), format!("return = {}", written(back))];
        Self { short: None, keys, connectors: Vec::new() }
    }

    /// So many wires side by side for each conductor.
    #[must_use]
    pub fn parallel(self, wires: usize) -> Self {
        self.key("parallel", &wires.to_string())
    }

    /// So many such cables lie together, this one included.
    #[must_use]
    pub fn bundle(self, cables: usize) -> Self {
        self.key("bundle", &cables.to_string())
    }

    /// It passes a connector of a class on its way.
    #[must_use]
    pub fn through(mut self, connector: &str) -> Self {
        self.short = None;
        self.connectors.push(quoted(connector));
        self
    }

    /// How its ends are made, the source's first.
    #[must_use]
    pub fn ends(self, source: &str, load: &str) -> Self {
        self.key("ends", &format!("[{}, {}]", quoted(source), quoted(load)))
    }

    /// Any other key of a cable, with its TOML value.
    #[must_use]
    pub fn key(mut self, key: &str, toml: &str) -> Self {
        self.short = None;
        self.keys.push(format!("{key} = {toml}"));
        self
    }

    /// As a plan would write it.
    pub(crate) fn to_toml(&self) -> String {
        if let Some(short) = &self.short {
            return short.clone();
        }
        let mut keys = self.keys.clone();
        if !self.connectors.is_empty() {
            keys.push(format!("connectors = [{}]", self.connectors.join(", ")));
        }
        format!("{{ {} }}", keys.join(", "))
    }
}
