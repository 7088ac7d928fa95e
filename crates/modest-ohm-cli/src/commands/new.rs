//! `new`: a commented plan to start from.

use crate::args::New;
use crate::{files, output, plans};

/// Runs `new`.
pub fn run(args: &New) -> u8 {
    match files::write(&args.file, plans::TEMPLATE.as_bytes(), args.force) {
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
