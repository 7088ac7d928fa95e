//! The panels of a plan: which pixel of which strip is to be seen where.

use std::rc::Rc;

use crate::panel::order::{Along, Rotation};
use crate::panel::pattern::Pattern;
use crate::panel::{LayoutProblem, PanelLayout, Walk};
use crate::plan::model::Plan;
use crate::plan::strip::panel::Panel;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Metres};

/// Labels round: densities closer than this share are one.
const SAME_DENSITY: f64 = 0.01;

/// A panel of a plan, pixel by pixel.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct PanelMap {
    /// Its name.
    pub name: String,
    /// How it is built and mounted.
    pub layout: PanelLayout,
    /// Where its data goes, seen from the front.
    pub walk: Walk,
    /// Its strips in the order of the data.
    pub parts: Vec<PanelPart>,
    /// From one pixel to the next, to the right and downwards; `None` where nothing is said of it.
    pub pitch: Option<(Metres, Metres)>,
}

/// A strip of a panel.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct PanelPart {
    /// The strip.
    pub strip: String,
    /// The first of its pixels, counted on the panel from 0.
    pub first: usize,
    /// How many it has.
    pub pixels: usize,
}

impl PanelMap {
    /// The strip of a pixel, and the pixel counted on that strip from 0.
    #[must_use]
    pub fn on_strip(&self, index: usize) -> Option<(&str, usize)> {
        let part = self.parts.iter().rfind(|p| p.first <= index)?;
        (index - part.first < part.pixels).then(|| (part.strip.as_str(), index - part.first))
    }

    /// The middle of a pixel, from the left and from the top edge of the face as seen from the front; `None` beyond the
    /// last pixel and where the pitch is not known.
    #[must_use]
    pub fn position(&self, index: usize) -> Option<(Metres, Metres)> {
        let ((x, y), (right, down)) = (self.walk.places.get(index)?, self.pitch?);
        Some((right * (*x as f64 + 0.5), down * (*y as f64 + 0.5)))
    }
}

/// Why a panel has no map.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NoPanel {
    /// The plan has no panel of that name; the nearest name.
    Unknown(Option<String>),
    /// Its pixels do not fill its face; the words say how they differ.
    Broken(String),
}

impl std::fmt::Display for NoPanel {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            NoPanel::Unknown(Some(near)) => write!(f, "the plan has no such panel; did you mean `{near}`?"),
            NoPanel::Unknown(None) => write!(f, "the plan has no such panel"),
            NoPanel::Broken(why) => write!(f, "{why}"),
        }
    }
}

impl std::error::Error for NoPanel {}

impl Plan {
    /// Names of all panels.
    #[must_use]
    pub fn panels(&self) -> Vec<&str> {
        self.panels.iter().map(|p| p.name.text.as_str()).collect()
    }

    /// Where the pixels of a panel are to be seen.
    ///
    /// # Errors
    /// [`NoPanel`] where there is none of that name, and where its strips or tiles do not make its face.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "adapter"
    ///     voltage = "5 V"
    ///     current = "4 A"
    ///     [panel.dial]
    ///     part = "panel-5v-rgb-8x8"
    ///     from = "wall"
    ///     entry = "top-left"
    ///     along = "rows"
    ///     turns = "same-way"
    /// "#).expect("a readable plan");
    /// let map = plan.panel_map("dial").expect("a sound panel");
    /// assert_eq!(map.walk.places[9], (1, 1));
    /// assert_eq!(map.on_strip(9), Some(("dial", 9)));
    /// ```
    pub fn panel_map(&self, name: &str) -> Result<PanelMap, NoPanel> {
        let Some(panel) = self.panels.iter().find(|p| p.name.text == name) else {
            let near = crate::text::nearest(name, self.panels());
            return Err(NoPanel::Unknown(near.map(str::to_owned)));
        };
        if let Some(why) = counts_differ(self, panel) {
            return Err(NoPanel::Broken(why));
        }
        let walk = panel.layout.walk().map_err(|p| NoPanel::Broken(problem_in_words(panel, p)))?;
        let mut first = 0;
        let part = |(named, i): &(crate::text::Named, usize)| {
            let part = PanelPart { strip: named.text.clone(), first, pixels: self.strips[*i].pixels };
            first += part.pixels;
            part
        };
        let parts = panel.strips.iter().map(part).collect();
        let pitch = pitch_of(self, panel).map(|(along, across)| {
            let (right, down) = match panel.layout.order.along {
                Along::Rows => (along, across),
                Along::Columns => (across, along),
            };
            match panel.layout.rotated {
                Rotation::None | Rotation::Half => (right, down),
                Rotation::Quarter | Rotation::ThreeQuarters => (down, right),
            }
        });
        Ok(PanelMap { name: name.to_owned(), layout: panel.layout.clone(), walk, parts, pitch })
    }
}

impl Plan {
    /// What the test pattern of a panel draws, as firmware counts it: nominal currents, without sag. `None` where the
    /// panel has no map.
    #[must_use]
    pub fn pattern_current(&self, panel: &str) -> Option<Amps> {
        let map = self.panel_map(panel).ok()?;
        let colours = Pattern::of(map.walk.columns, map.walk.rows).along(&map.walk);
        let mut strips = self.panels.iter().find(|p| p.name.text == panel)?.strips.iter();
        let mut current = 0.0;
        for part in &map.parts {
            let pixel = &self.strips[strips.next()?.1].pixel;
            for shown in colours.iter().skip(part.first).take(part.pixels) {
                let level = |name: &str| match name {
                    "red" => shown.red,
                    "green" => shown.green,
                    "blue" => shown.blue,
                    _ => 0,
                };
                let of = pixel.colours.iter().map(|c| c.current.typical.get() * f64::from(level(&c.name)) / 255.0);
                current += pixel.quiescent.typical.get() + pixel.together(of);
            }
        }
        Some(Amps::new(current))
    }
}

/// How far apart two places of a strip are for a cable that runs beside it.
#[derive(Clone, Debug)]
pub(crate) enum Beside {
    /// Along the strip.
    Along,
    /// Across the face of a panel: the middles of the strip's pixels on it, and how many come on a metre of data.
    Face { middles: Rc<[(f64, f64)]>, per_m: f64 },
}

impl Beside {
    pub fn of(plan: &Plan, strip: usize) -> Self {
        let own = |p: &&Panel| p.strips.iter().any(|(_, i)| *i == strip);
        let map = plan.panels.iter().find(own).and_then(|p| plan.panel_map(&p.name.text).ok());
        let name = &plan.strips[strip].name.text;
        let part = map.as_ref().and_then(|m| m.parts.iter().find(|p| p.strip == *name));
        let (Some(map), Some(part)) = (&map, part) else { return Beside::Along };
        let middle = |k| map.position(k).map(|(x, y)| (x.get(), y.get()));
        let middles: Option<Rc<[(f64, f64)]>> = (part.first..part.first + part.pixels).map(middle).collect();
        let per_m = plan.strips[strip].density.typical.get();
        middles.map_or(Beside::Along, |middles| Beside::Face { middles, per_m })
    }

    /// Between two places, in metres from the strip's start.
    pub fn apart_m(&self, a_m: f64, b_m: f64) -> f64 {
        match self {
            Beside::Along => (a_m - b_m).abs(),
            Beside::Face { middles, per_m } => {
                let last = middles.len().saturating_sub(1);
                let at = |x: f64| middles.get(((x * per_m + 1e-6) as usize).min(last)).copied().unwrap_or_default();
                let (a, b) = (at(a_m), at(b_m));
                (a.0 - b.0).hypot(a.1 - b.1)
            }
        }
    }
}

/// From pixel to pixel along the data and from line to line, as far as said: of strips by their density.
fn pitch_of(plan: &Plan, panel: &Panel) -> Option<(Metres, Metres)> {
    let stated = panel.pitch.as_ref().map(|p: &Figure<Metres>| p.typical);
    let mut densities = panel.strips.iter().map(|(_, i)| &plan.strips[*i]).filter(|s| !s.is_panel);
    let first = densities.next().map(|s| s.density.typical.get());
    // Strips of different density do not lie in one grid of their own.
    let own = first.filter(|d| densities.all(|s| (s.density.typical.get() - d).abs() <= SAME_DENSITY * d));
    let along = stated.or_else(|| own.map(|d| Metres::new(1.0 / d)))?;
    Some((along, panel.line_pitch.as_ref().map_or(along, |p| p.typical)))
}

/// Pixels of its strips, where they are not those of its face.
pub(crate) fn counts_differ(plan: &Plan, panel: &Panel) -> Option<String> {
    let has: usize = panel.strips.iter().map(|(_, i)| plan.strips[*i].pixels).sum();
    let wants = panel.layout.pixels();
    (has != wants).then(|| {
        let tiles = match panel.layout.tile_count() {
            1 => String::new(),
            n => format!(" on {n} tiles"),
        };
        let strips = match panel.strips.as_slice() {
            [(one, _)] => format!("strip `{}` has", one.text),
            _ => "its strips have".to_owned(),
        };
        format!(
            "{strips} {has} pixels; {} columns by {} rows{tiles} need {wants}",
            panel.layout.columns, panel.layout.rows
        )
    })
}

/// A layout that makes no face.
pub(crate) fn problem_in_words(panel: &Panel, problem: LayoutProblem) -> String {
    match problem {
        LayoutProblem::DoesNotFit(tile) => format!(
            "tile {} is upright and tile 1 lies on its side: {} by {} pixels do not fit there",
            tile + 1,
            panel.layout.rows,
            panel.layout.columns
        ),
        LayoutProblem::Size => format!("{} pixels do not fill the panel", panel.layout.pixels()),
    }
}
