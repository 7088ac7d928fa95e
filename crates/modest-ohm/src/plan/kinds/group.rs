//! `[group.x]`: loads that start together, or never run together.

use crate::plan::wiring::name::Name;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Group {
    pub name: Name,
    /// Names of loads; indices once names are resolved.
    pub members: Vec<(Named, usize)>,
    pub how: GroupKind,
    /// True where wiring keeps its members apart, not firmware.
    pub by_wiring: bool,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum GroupKind {
    /// They start, and surge, at the same time.
    Together,
    /// Never two of them at the same time.
    Exclusive,
}

pub(crate) fn read_group(reader: &mut Reader<'_>, name: Name) -> Group {
    let how = reader.choice("kind", &[("together", GroupKind::Together), ("exclusive", GroupKind::Exclusive)]);
    if !reader.has("kind") {
        reader.missing("kind", "write `kind = \"together\"` or `kind = \"exclusive\"`");
    }
    let by_wiring = reader.choice("by", &[("wiring", true), ("firmware", false)]).unwrap_or(false);
    let members = reader.texts("members");
    if !reader.has("members") {
        reader.missing("members", "list the loads: `members = [\"gate\", \"pump\"]`");
    } else if members.len() < 2 {
        let span = reader.own_span("members");
        reader.problem(Problem::new(
            span,
            format!("{} has one member", reader.what()),
            "list two or more loads; the members of a `count` start together without a group",
        ));
    }
    let members = members.into_iter().map(|n| (n, usize::MAX)).collect();
    Group { name, members, how: how.unwrap_or(GroupKind::Together), by_wiring }
}
