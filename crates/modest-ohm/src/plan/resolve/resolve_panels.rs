//! Finds the strips of panels.

use super::names::Names;
use crate::plan::model::Plan;
use crate::text::problem::Problem;

/// Finds the strips of panels; a strip's pixels can be in one panel only.
pub(crate) fn resolve_panels(plan: &mut Plan, names: &Names, note: &impl Fn(Problem)) {
    let mut taken: Vec<(usize, String)> = Vec::new();
    for panel in &mut plan.panels {
        for (name, index) in &mut panel.strips {
            let i = match names.thing(name, "strip") {
                Ok(i) => i,
                Err(p) => {
                    note(p);
                    continue;
                }
            };
            *index = i;
            if let Some((_, by)) = taken.iter().find(|(other, _)| *other == i) {
                let message = if *by == panel.name.text {
                    format!("panel `{by}` lists `{}` twice", name.text)
                } else {
                    format!("`{}` is part of two panels: `{by}` and `{}`", name.text, panel.name.text)
                };
                note(Problem::new(name.span, message, "list each strip once"));
            }
            if plan.strips[i].pixel.plain {
                let message = format!("`{}` is a plain strip, which has no data input", name.text);
                note(Problem::new(name.span, message, "list strips of pixels"));
            }
            taken.push((i, panel.name.text.clone()));
        }
    }
}
