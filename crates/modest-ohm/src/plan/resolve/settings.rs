//! What a scenario may set: light of strips, states of loads, positions of switches.

use crate::plan::kinds::scenario::Setting;
use crate::plan::model::Plan;

/// What to write instead, where a setting does not suit what it is for.
pub(crate) fn cannot_be_set(plan: &Plan, name: &str, setting: &Setting) -> Option<String> {
    if let Some(strip) = plan.strips.iter().find(|s| s.name.text == name) {
        let known: Vec<&str> = strip.pixel.colours.iter().map(|c| c.name.as_str()).collect();
        return match setting {
            Setting::Light(_) => None,
            Setting::Colours(set) => {
                // Of a class that is not known the colours are not either.
                let unknown = set.iter().find(|(c, _)| !known.is_empty() && !known.contains(&c.text.as_str()))?;
                Some(format!("it has no colour `{}`; its colours: {}", unknown.0.text, known.join(", ")))
            }
            _ => Some("write a share of full white, `\"25 %\"`, or one per colour, `{ red = \"25 %\" }`".to_owned()),
        };
    }
    if let Some(switch) = plan.branches.iter().filter(|b| b.name.text == name).find_map(|b| b.switch()) {
        let positions: Vec<&str> = switch.throws.iter().map(|(n, _)| n.as_str()).collect();
        return match setting {
            Setting::Closed(_) => None,
            Setting::Position(at) if positions.contains(&at.text.as_str()) => None,
            _ if positions.is_empty() => Some("write `\"open\"` or `\"closed\"`".into()),
            _ => Some(format!("write `\"open\"`, `\"closed\"` or a position: {}", positions.join(", "))),
        };
    }
    let fits = matches!(setting, Setting::State(_) | Setting::Current(_));
    (!fits).then(|| "write a state or a current, `\"idle\"` or `\"0.2 A\"`".to_owned())
}
