//! `new`: a commented plan to start from.

use std::io::{BufRead, IsTerminal};

use crate::args::New;
use crate::shipped::starters::{STARTERS, Starter};
use crate::{files, output};

/// Runs `new`.
pub fn run(args: &New) -> u8 {
    let chosen = args.like.as_deref().and_then(|word| STARTERS.iter().find(|s| s.name == word));
    let Some(starter) = chosen.or_else(asked) else {
        output::message("nothing written: choose one with `--like`");
        return output::UNREADABLE;
    };
    match files::write(&args.file, starter.text.as_bytes(), args.force) {
        Ok(()) => {
            let file = args.file.display();
            output::message(&format!("wrote {file}; edit it, then: mohm check {file}"));
            output::FINE
        }
        Err(message) => {
            output::message(&message);
            output::UNREADABLE
        }
    }
}

/// What somebody at a terminal chooses; the first for a script. `None` for an answer that is none of them.
fn asked() -> Option<&'static Starter> {
    if !(std::io::stdin().is_terminal() && std::io::stderr().is_terminal()) {
        return STARTERS.first();
    }
    for (i, starter) in STARTERS.iter().enumerate() {
        output::message(&format!("{}  {:<8} {}", i + 1, starter.name, starter.title()));
    }
    output::message(&format!("Which is most like yours? A number or a word, or Enter for `{}`:", STARTERS[0].name));
    let mut answer = String::new();
    std::io::stdin().lock().read_line(&mut answer).ok()?;
    let answer = answer.trim();
    if answer.is_empty() {
        return STARTERS.first();
    }
    let by_number = answer.parse::<usize>().ok().and_then(|n| STARTERS.get(n.checked_sub(1)?));
    by_number.or_else(|| STARTERS.iter().find(|s| s.name == answer))
}
