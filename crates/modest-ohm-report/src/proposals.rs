//! What to do about a finding, as JSON.

use modest_ohm::Finding;
use modest_ohm::findings::Fix;
use serde::Serialize;

/// What to do: `verified` where its edits were applied to a copy of the plan, and that was checked.
#[derive(Serialize)]
pub(crate) struct ProposalShape<'a> {
    /// `fix`, or `task`: something to do that is no edit of the plan.
    pub kind: &'static str,
    pub text: String,
    pub edits: Vec<EditShape<'a>>,
    pub verified: bool,
    /// Whether the finding is gone with it; of a fix.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ends: Option<bool>,
    /// What is found then that was not before, and is milder.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub brings: Vec<BroughtShape<'a>>,
}

#[derive(Serialize)]
pub(crate) struct EditShape<'a> {
    pub path: &'a str,
    /// TOML text; null removes.
    pub value: Option<&'a str>,
}

#[derive(Serialize)]
pub(crate) struct BroughtShape<'a> {
    pub code: &'a str,
    pub severity: &'a str,
    pub subject: &'a str,
}

/// Fixes, each of which was tried; then tasks, which are no edits.
pub(crate) fn proposals(f: &Finding) -> Vec<ProposalShape<'_>> {
    let task = |text: &String| ProposalShape {
        kind: "task",
        text: text.clone(),
        edits: Vec::new(),
        verified: false,
        ends: None,
        brings: Vec::new(),
    };
    f.fixes.iter().map(proposal).chain(f.tasks.iter().map(task)).collect()
}

fn proposal(fix: &Fix) -> ProposalShape<'_> {
    ProposalShape {
        kind: "fix",
        text: fix.text(),
        edits: fix.edits.iter().map(|e| EditShape { path: &e.path, value: e.value.as_deref() }).collect(),
        verified: true,
        ends: Some(fix.ends()),
        brings: fix
            .brings
            .iter()
            .map(|(severity, code, subject)| BroughtShape { code, severity: severity.word(), subject })
            .collect(),
    }
}
