//! What is to be set in the firmware: outputs, firmware limits, layouts, and what differs from what is said to be set.

use crate::derived::context::Context;
use crate::derived::firmware_limit::room_of;
use crate::findings::finding::Finding;
use crate::panel::PanelLayout;
use crate::panel::order::Side;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::plan::strip::panel::Panel;
use crate::quantity::units::{Amps, Fraction, Seconds};
use crate::review::Review;
use crate::topology::data_lines::{Line, lines};
use crate::topology::panel_map::NoPanel;
use crate::verdict::codes;

/// Everything that a plan says the firmware should be set to.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct FirmwareFigures {
    /// Pins that drive pixels, in the order of the plan.
    pub outputs: Vec<OutputFigures>,
    /// Firmware limits, and strips that have none.
    pub firmware_limits: Vec<FirmwareLimitFigures>,
    /// Panels.
    pub layouts: Vec<LayoutFigures>,
    /// Strips of pixels that no pin drives.
    pub undriven: Vec<String>,
    /// Findings of firmware-differs.
    pub differs: Vec<Finding>,
    /// True where the plan says something of what is set, and all of it is as planned.
    pub as_planned: bool,
}

/// One pin and the pixels on it.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct OutputFigures {
    /// The pin as the plan spells it.
    pub pin: String,
    /// Pixels of the whole line.
    pub pixels: usize,
    /// Its strips in the order of the data.
    pub parts: Vec<OutputPart>,
    /// How long a frame takes; `None` where the timing is not known.
    pub frame: Option<Seconds>,
}

/// A strip on a line.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct OutputPart {
    /// The strip.
    pub strip: String,
    /// Its first pixel, counted on the line from 0.
    pub first: usize,
    /// How many it has.
    pub pixels: usize,
    /// The class that it names.
    pub part: Option<String>,
    /// The order in which its data takes the colours, by their initials; `None` where neither plan nor class says it.
    pub order: Option<String>,
    /// Its colours.
    pub colours: Vec<String>,
    /// Bits of a pixel.
    pub bits: usize,
    /// True where a clock goes with the data.
    pub clocked: bool,
    /// The panel that it belongs to.
    pub panel: Option<String>,
}

/// What one firmware limit is, and what it might be.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FirmwareLimitFigures {
    /// The `[firmware-limit.…]`, or the strip; of strips that only together exceed their path the first.
    pub name: String,
    /// The strips that it holds for.
    pub strips: Vec<String>,
    /// Their pixels.
    pub pixels: usize,
    /// What the plan sets; `None` where nothing is set.
    pub set: Option<Amps>,
    /// The share of full light that is left at what is set, or at full white.
    pub brightness: Fraction,
    /// That current shared out over the pixels: what firmware counts of one.
    pub per_pixel: Amps,
    /// Full white, as firmware counts it.
    pub full: Amps,
    /// What the way carries, at most full white; `None` where it is not looked for, or where even the dark is too much.
    pub available: Option<Amps>,
    /// The share of full light that this leaves.
    pub possible: Option<Fraction>,
    /// What meets its limit first, and what it may carry; `None` where the way carries full white.
    pub binding: Option<(String, Amps)>,
}

/// A panel's layout.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct LayoutFigures {
    /// The panel.
    pub panel: String,
    /// How it is built and mounted, seen from the front.
    pub layout: PanelLayout,
    /// Columns and rows of its face, seen from the front; the error says why it has none.
    pub face: Result<(usize, usize), NoPanel>,
    /// Its pixels that lie at top left, top right, bottom left and bottom right, counted from 0.
    pub corners: Option<[usize; 4]>,
    /// Pins that drive it.
    pub pins: Vec<String>,
}

impl Review {
    /// What is to be set in the firmware.
    ///
    /// The largest firmware limit is looked for by solving; in plans of very many strips only for the first ones.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "adapter"
    ///     voltage = "5 V"
    ///     current = "4 A"
    ///     [board.keeper]
    ///     part = "wifi-board-3v3"
    ///     from = "wall"
    ///     [strip.shelf]
    ///     part = "pixel-5v-rgb"
    ///     from = "wall"
    ///     length = "1 m"
    ///     pixels = "60 /m"
    ///     data = { pin = "keeper.io27" }
    ///     firmware-limit = "2 A"
    /// "#).expect("a readable plan");
    /// let figures = plan.review().firmware();
    /// assert_eq!(figures.outputs[0].parts[0].order.as_deref(), Some("grb"));
    /// // (2 A − 60 · 1 mA)/(60 · 60 mA)
    /// assert_eq!(figures.firmware_limits[0].brightness.to_string(), "54 %");
    /// // 80 % of 4 A, less the board's 120 mA.
    /// assert_eq!(figures.firmware_limits[0].available.unwrap().to_string(), "3.05 A");
    /// ```
    #[must_use]
    pub fn firmware(&self) -> FirmwareFigures {
        let plan = &self.plan;
        let lines = lines(plan);
        let driven = |i: &usize| lines.iter().any(|l| l.strips.contains(i));
        let pixels = |i: &usize| !plan.strips[*i].pixel.plain;
        let undriven = (0..plan.strips.len()).filter(|i| pixels(i) && !driven(i)).map(|i| name_of(plan, i));
        FirmwareFigures {
            outputs: lines.iter().map(|l| output(plan, l)).collect(),
            firmware_limits: self.firmware_limits(),
            layouts: plan.panels.iter().map(|p| layout(plan, p, &lines)).collect(),
            undriven: undriven.collect(),
            differs: self.findings.iter().filter(|f| f.code == codes::FIRMWARE_DIFFERS).cloned().collect(),
            as_planned: self.passed().iter().any(|p| p.code == codes::FIRMWARE_DIFFERS),
        }
    }

    fn firmware_limits(&self) -> Vec<FirmwareLimitFigures> {
        let plan = &self.plan;
        let context = self.context();
        let mut groups: Vec<(String, Vec<usize>, Option<Amps>)> = Vec::new();
        for firmware_limit in plan.firmware_limits.iter().filter(|c| c.split.is_empty()) {
            let strips = firmware_limit.strips.iter().map(|(_, i)| *i).collect();
            groups.push((firmware_limit.name.text.clone(), strips, Some(firmware_limit.current.typical)));
        }
        for (i, strip) in plan.strips.iter().enumerate().filter(|(_, s)| !s.pixel.plain) {
            let told = groups.iter().any(|(_, strips, _)| strips.contains(&i));
            if let Some(firmware_limit) = &strip.firmware_limit {
                groups.push((strip.name.text.clone(), vec![i], Some(firmware_limit.typical)));
            } else if !told {
                let cause = context.causes().iter().find(|c| !c.limited && c.strips.contains(&i));
                let strips = cause.map_or_else(|| vec![i], |c| c.strips.clone());
                groups.push((strip.name.text.clone(), strips, None));
            }
        }
        groups.into_iter().map(|(name, strips, set)| firmware_limit(&context, name, &strips, set)).collect()
    }
}

fn name_of(plan: &Plan, strip: usize) -> String {
    plan.strips[strip].name.text.clone()
}

fn output(plan: &Plan, line: &Line) -> OutputFigures {
    let mut first = 0;
    let part = |i: &usize| {
        let strip = &plan.strips[*i];
        let part = part(plan, *i, strip, first);
        first += strip.pixels;
        part
    };
    OutputFigures {
        pin: line.pin.clone(),
        pixels: line.pixels(plan),
        parts: line.strips.iter().map(part).collect(),
        frame: line.frame(plan),
    }
}

fn part(plan: &Plan, i: usize, strip: &Strip, first: usize) -> OutputPart {
    OutputPart {
        strip: strip.name.text.clone(),
        first,
        pixels: strip.pixels,
        part: strip.class.clone(),
        order: strip.order.clone(),
        colours: strip.pixel.colours.iter().map(|c| c.name.clone()).collect(),
        bits: strip.pixel.bits(),
        clocked: strip.pixel.timing.as_ref().is_some_and(|t| t.clocked),
        panel: plan.panels.iter().find(|p| p.strips.iter().any(|(_, s)| *s == i)).map(|p| p.name.text.clone()),
    }
}

fn firmware_limit(context: &Context<'_>, name: String, strips: &[usize], set: Option<Amps>) -> FirmwareLimitFigures {
    let plan = context.plan;
    let dark = plan.nominal_of(strips, Strip::nominal_dark_a);
    let full = plan.nominal_of(strips, Strip::nominal_full_a);
    let light = |a: f64| Fraction::new(if full > dark { ((a - dark) / (full - dark)).clamp(0.0, 1.0) } else { 1.0 });
    let pixels: usize = strips.iter().map(|s| plan.strips[*s].pixels).sum();
    let room = room_of(context, strips);
    let carries = room.as_ref().and_then(|r| r.carries_a);
    let amps = set.map_or(full, |s| s.get().min(full));
    FirmwareLimitFigures {
        name,
        strips: strips.iter().map(|s| name_of(plan, *s)).collect(),
        pixels,
        set,
        brightness: light(amps),
        per_pixel: Amps::new(amps / pixels.max(1) as f64),
        full: Amps::new(full),
        available: carries.map(Amps::new),
        possible: carries.map(light),
        binding: room.and_then(|r| r.binding).map(|(name, usable)| (name, Amps::new(usable))),
    }
}

fn layout(plan: &Plan, panel: &Panel, lines: &[Line]) -> LayoutFigures {
    let map = plan.panel_map(&panel.name.text);
    let strips: Vec<usize> = panel.strips.iter().map(|(_, i)| *i).collect();
    let pins = lines.iter().filter(|l| l.strips.iter().any(|s| strips.contains(s))).map(|l| l.pin.clone()).collect();
    let corners = map.as_ref().ok().and_then(|m| {
        let (right, bottom) = (m.walk.columns - 1, m.walk.rows - 1);
        let at = |x, y| m.walk.pixel_at(x, y);
        Some([at(0, 0)?, at(right, 0)?, at(0, bottom)?, at(right, bottom)?])
    });
    LayoutFigures {
        panel: panel.name.text.clone(),
        layout: panel.layout.seen_from(Side::Front),
        face: map.map(|m| (m.walk.columns, m.walk.rows)),
        corners,
        pins,
    }
}
