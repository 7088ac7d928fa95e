//! What to do about a finding, as JSON.

use modest_ohm::Finding;
use modest_ohm::findings::Fix;
use serde::Serialize;

/// What to do: `verified` where its edits were applied to a copy of the plan, and that was checked.
#[derive(Serialize)]
pub(crate) struct ProposalShape<'a> {
    pub text: String,
    pub edits: Vec<EditShape<'a>>,
    pub verified: bool,
    /// Whether the finding is gone with it; of what was tried.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ends: Option<bool>,
}

#[derive(Serialize)]
pub(crate) struct EditShape<'a> {
    pub path: &'a str,
    /// TOML text; null removes.
    pub value: Option<&'a str>,
}

/// Fixes that were tried, then what else can be done, where no fix ends the finding.
pub(crate) fn proposals(f: &Finding) -> Vec<ProposalShape<'_>> {
    let tried = f.fixes.iter().map(|fix| ProposalShape {
        text: fix.text(),
        edits: fix.edits.iter().map(|e| EditShape { path: &e.path, value: e.value.as_deref() }).collect(),
        verified: true,
        ends: Some(fix.ends()),
    });
    let others: &[String] = if f.fixes.iter().any(Fix::ends) { &[] } else { &f.cures };
    let other = |text: &String| ProposalShape { text: text.clone(), edits: Vec::new(), verified: false, ends: None };
    tried.chain(others.iter().map(other)).collect()
}
