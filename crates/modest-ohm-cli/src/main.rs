//! `mohm`: reads a plan, reviews it, says what it found.

#![forbid(unsafe_code)]

mod args;
mod commands;
mod files;
mod output;
mod plans;
mod shipped;

use std::process::ExitCode;

use clap::Parser;
use clap::error::{ContextKind, ContextValue};

/// A review makes and drops many small vectors: with the system's allocator a fifth of its time goes there.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
    let args = match args::Args::try_parse() {
        Ok(args) => args,
        Err(e) => {
            // Help and version are answers, all else is a call that cannot be read.
            let code = if e.use_stderr() { output::UNREADABLE } else { output::FINE };
            if e.use_stderr() {
                let _ = e.print();
                // Whoever names a plan and no command wants it checked.
                let word = e.get(ContextKind::InvalidSubcommand);
                if let Some(ContextValue::String(word)) =
                    word.filter(|w| matches!(w, ContextValue::String(w) if w.ends_with(".toml")))
                {
                    output::message(&format!("To check a plan: mohm check {word}"));
                }
            } else {
                output::result(&e.render().ansi().to_string());
            }
            return ExitCode::from(code);
        }
    };
    ExitCode::from(commands::run(args.command))
}
