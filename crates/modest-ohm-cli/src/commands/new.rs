//! `new`: a commented plan, written whole or not at all, never over something.

use std::io::Write;
use std::path::Path;

use crate::args::New;
use crate::{output, plans};

/// Runs `new`.
pub fn run(args: &New) -> u8 {
    match write(&args.file, args.force) {
        Ok(()) => {
            let file = args.file.display();
            output::message(&format!("wrote {file}; edit it, then: mohm check {file}"));
            output::FINE
        }
        Err(e) if e.kind() == std::io::ErrorKind::AlreadyExists => {
            output::message(&format!("{} is there already; --force replaces it", args.file.display()));
            output::UNREADABLE
        }
        Err(e) => {
            output::message(&format!("{}: cannot be written: {e}", args.file.display()));
            output::UNREADABLE
        }
    }
}

fn write(file: &Path, force: bool) -> std::io::Result<()> {
    let folder = file.parent().filter(|p| !p.as_os_str().is_empty()).unwrap_or_else(|| Path::new("."));
    let mut temporary = tempfile::Builder::new().prefix(".mohm-").tempfile_in(folder)?;
    temporary.write_all(plans::TEMPLATE.as_bytes())?;
    temporary.as_file().sync_all()?;
    let kept = if force { temporary.persist(file) } else { temporary.persist_noclobber(file) };
    kept.map_err(|e| e.error)?;
    // A temporary file is private; a plan is a file like any other.
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        std::fs::set_permissions(file, std::fs::Permissions::from_mode(0o644))?;
    }
    Ok(())
}
