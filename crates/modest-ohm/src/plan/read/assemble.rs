//! The plan put together from its tables.

use super::items::{Assembly, table_words};
use super::kinds::KINDS;
use crate::plan::kinds::battery::chill;
use crate::plan::kinds::run::{Branch, RunKind};
use crate::plan::kinds::scenario::{Policy, read_policy};
use crate::plan::model::Plan;
use crate::plan::resolve::driver_runs::stage_runs;
use crate::plan::resolve::signal_grounds::signal_grounds;
use crate::plan::strip::default_ambient;
use crate::quantity::units::Celsius;
use crate::source::{Source, Span};
use crate::text::problem::Problem;
use crate::text::reader::{Layer, Need, Reader};

impl Assembly<'_> {
    pub(crate) fn assemble(&self, source: Source) -> Plan {
        let whole = Span { start: 0, end: 0 };
        let mut top =
            Reader::new(vec![Layer { table: self.root, class: None }], "the plan".into(), whole, self.problems);
        self.check_format(&mut top);
        let title = top.text("title");
        let ambient = top.figure::<Celsius>("ambient", Need::Any).unwrap_or_else(default_ambient);
        let policy = top.child("policy").map_or_else(Policy::default, |mut inner| {
            let policy = read_policy(&mut inner);
            inner.finish();
            policy
        });
        let parts = self.names("part");
        let mut plan = Plan { title, ambient, policy, accepts: self.accepts().into(), ..Plan::empty(source) };
        for kind in KINDS {
            self.items(kind, &mut plan);
        }
        for supply in &mut plan.supplies {
            chill(supply, &plan.ambient);
        }
        board_runs(&mut plan);
        stage_runs(&mut plan, &|p| self.note(p));
        signal_grounds(&mut plan);
        let used = self.used_parts.borrow().clone();
        let unused = parts.into_iter().filter(|(n, _, _)| !used.contains(&n.text)).map(|(n, _, _)| n);
        plan.unused_parts = unused.collect::<Vec<_>>().into();
        for part in &plan.unused_parts {
            self.check_unused_part(part);
        }
        for word in table_words() {
            let _ = top.has(word);
        }
        self.unknown_kinds();
        // A table that could not be read may be the supply.
        if plan.supplies.is_empty() && self.root.get("supply").is_none() && self.unread_names().is_empty() {
            self.note(Problem::new(
                None,
                "the plan has no supply",
                "write `[supply.wall]` with `kind`, `voltage` and `current`",
            ));
        }
        plan
    }
}

/// The further terminals and ports of boards become runs of the plan.
fn board_runs(plan: &mut Plan) {
    let mut runs: Vec<Branch> = Vec::new();
    for (i, board) in plan.boards.iter_mut().enumerate() {
        for mut run in std::mem::take(&mut board.runs) {
            match &mut run.kind {
                RunKind::Terminal { board } => *board = i,
                RunKind::Port(port) => port.board = i,
                _ => {}
            }
            runs.push(run);
        }
    }
    plan.branches.extend(runs);
}
