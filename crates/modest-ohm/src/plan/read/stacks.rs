//! What a stack joins: its shared supply pins, and the − of both boards.

use crate::plan::kinds::board::Board;
use crate::plan::kinds::link::{Stack, read_stack};
use crate::plan::kinds::run::{Branch, Open, RunKind};
use crate::plan::model::Plan;
use crate::plan::wiring::name::Name;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;

pub(super) fn stack(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let stack = read_stack(reader, name);
    let mut boards = Vec::new();
    for board in [&stack.upper, &stack.host] {
        let found = plan.boards.iter().position(|c| c.name.text == board.text);
        if !board.text.is_empty() && found.is_none() {
            reader.problem(Problem::new(
                board.span.unwrap_or(stack.name.span),
                format!("there is no board `{}`", board.text),
                "a stack names two boards: `[stack.crane-on-keeper]` with `board = \"crane\"`, `on = \"keeper\"`",
            ));
        }
        boards.extend(found);
    }
    let [upper, host] = boards[..] else { return };
    if upper == host {
        reader.problem(Problem::new(
            stack.host.span.unwrap_or(stack.name.span),
            format!("{} plugs `{}` into itself", reader.what(), stack.host.text),
            "name two boards: `board` is the upper one, `on` the one below",
        ));
        return;
    }
    let main = |board: &Named, at: usize| {
        let terminal = plan.boards[at].terminal.clone();
        stack.pin(board, &Named { text: terminal, span: None })
    };
    let grounds = match stack.shares.first() {
        Some(shared) if has(&plan.boards[upper], shared) && has(&plan.boards[host], shared) => {
            [stack.pin(&stack.upper, shared), stack.pin(&stack.host, shared)]
        }
        _ => [main(&stack.upper, upper), main(&stack.host, host)],
    };
    plan.grounds.push(stack.ground(grounds));
    for shared in &stack.shares {
        let (above, below) = (&plan.boards[upper], &plan.boards[host]);
        match (has(above, shared), has(below, shared)) {
            (true, false) if takes(below, shared) => feed(plan, host, &stack, &stack.upper, shared),
            (false, true) if takes(above, shared) => feed(plan, upper, &stack, &stack.host, shared),
            _ => plan.links.push(stack.link(shared)),
        }
    }
    plan.stacks.push(stack);
}

/// Whether a board has a node of this name.
fn has(board: &Board, pin: &Named) -> bool {
    let own = format!("{}.{}", board.name.text, pin.text);
    let output = board.regulator.as_ref().is_some_and(|r| r.output == pin.text);
    board.terminal == pin.text || output || board.runs.iter().any(|r| r.name.text == own)
}

/// Whether it is an input of the board that nothing feeds yet.
fn takes(board: &Board, pin: &Named) -> bool {
    board.unregulated.as_ref().is_some_and(|u| u.terminal == pin.text)
}

/// The input of a board gets its voltage from the other one, over the shared pin.
fn feed(plan: &mut Plan, board: usize, stack: &Stack, from: &Named, shared: &Named) {
    if stack.is_cut(shared) {
        return;
    }
    let board = &mut plan.boards[board];
    board.runs.push(Branch {
        name: Name { text: format!("{}.{}", board.name.text, shared.text), span: board.name.span },
        feed: stack.lead(from, shared),
        open: Open::NOT,
        kind: RunKind::Terminal { board: usize::MAX },
    });
}
