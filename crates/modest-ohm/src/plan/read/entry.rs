//! From a text or its bytes to a plan, or to all that is wrong with the text.

use std::cell::RefCell;

use super::items::Assembly;
use super::members::Members;
use crate::plan::model::Plan;
use crate::plan::resolve::limits::{too_many, too_much};
use crate::plan::resolve::references::resolve;
use crate::plan::wiring::limits::LARGEST_TEXT_BYTES;
use crate::source::{Source, Span};
use crate::text::kept;
use crate::text::nearest;
use crate::text::problem::{PlanErrors, Problem};
use crate::text::tree::parse_tree;

impl Plan {
    /// Reads a plan's text.
    ///
    /// # Errors
    /// All problems of the text at once, each with its place: syntax first; if that is sound, unknown keys and
    /// names, wrong units, missing figures, circular feeds and returns that lead nowhere.
    pub fn from_toml(text: &str) -> Result<Self, PlanErrors> {
        read_plan(text)
    }

    /// Reads a plan from bytes, such as a file's content.
    ///
    /// # Errors
    /// As [`Plan::from_toml`]; also bytes that are not UTF-8, with the line of the first.
    pub fn from_bytes(bytes: &[u8]) -> Result<Self, PlanErrors> {
        read_bytes(bytes)
    }
}

pub(crate) fn read_bytes(bytes: &[u8]) -> Result<Plan, PlanErrors> {
    too_large(bytes.len())?;
    match std::str::from_utf8(bytes) {
        Ok(text) => read_plan(text),
        Err(e) => {
            let good = String::from_utf8_lossy(&bytes[..e.valid_up_to()]).into_owned();
            let span = Span { start: good.len(), end: good.len() };
            let problem = Problem::new(span, "the text is not UTF-8 from here on", "save the plan as UTF-8");
            Err(PlanErrors::new(vec![problem], Source::new(&good)))
        }
    }
}

fn too_large(bytes: usize) -> Result<(), PlanErrors> {
    if bytes <= LARGEST_TEXT_BYTES {
        return Ok(());
    }
    let message = format!("the plan is {bytes} bytes long; at most {LARGEST_TEXT_BYTES} are read");
    Err(PlanErrors::new(vec![Problem::new(None, message, "a plan is a text of some hundred lines")], Source::new("")))
}

/// What feeds a part, as hints write it.
const EXAMPLE_SOURCE: &str = "`from = \"wall\"`";

pub(crate) fn read_plan(text: &str) -> Result<Plan, PlanErrors> {
    too_large(text.len())?;
    // A byte order mark is no part of the plan.
    let text = text.strip_prefix('\u{feff}').unwrap_or(text);
    let source = Source::new(text);
    let mut root = parse_tree(text).map_err(|problems| PlanErrors::new(problems, source.clone()))?;
    let problems = RefCell::new(Vec::new());
    kept::take(&mut root, &mut problems.borrow_mut());
    let members = Members::expand(root, &problems);
    let assembly = Assembly::new(&members, &problems);
    let mut plan = assembly.assemble(source);
    too_many(&plan, &problems);
    resolve(&mut plan, &problems);
    too_much(&plan, &problems);
    let unread = assembly.unread_names();
    let unsound = assembly.unsound.borrow();
    let unknown = |n: &str| unread.contains(&n) || unsound.contains(n);
    let follows = |p: &Problem| p.undeclared_name().and_then(|n| n.split('.').next()).is_some_and(unknown);
    let mut problems = problems.take();
    problems.retain(|p| !follows(p));
    for problem in &mut problems {
        // What is meant may stand in a table that is not read.
        let meant = problem.undeclared_name().and_then(|name| nearest(name, unread.iter().copied()));
        if let Some(meant) = meant.map(str::to_owned) {
            problem.help = format!("did you mean `{meant}`?");
        }
    }
    // An example is more use with a name of this plan.
    if let Some(supply) = plan.supplies.first().map(|s| &s.name.text) {
        for problem in problems.iter_mut().filter(|p| p.help.contains(EXAMPLE_SOURCE)) {
            problem.help = problem.help.replace(EXAMPLE_SOURCE, &format!("`from = \"{supply}\"`"));
        }
    }
    members.said_once(&mut problems);
    if problems.is_empty() { Ok(plan) } else { Err(PlanErrors::new(problems, plan.source)) }
}
