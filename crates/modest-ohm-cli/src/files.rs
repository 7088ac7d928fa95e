//! Files are written whole or not at all, and never over something unless told to.

use std::io::Write;
use std::path::Path;

/// Writes a file.
///
/// # Errors
/// What to tell the user: it is there already, or cannot be written.
pub fn write(file: &Path, bytes: &[u8], force: bool) -> Result<(), String> {
    attempt(file, bytes, force).map_err(|e| {
        if e.kind() == std::io::ErrorKind::AlreadyExists {
            format!("{} is there already; --force replaces it", file.display())
        } else {
            format!("{}: cannot be written: {e}", file.display())
        }
    })
}

fn attempt(file: &Path, bytes: &[u8], force: bool) -> std::io::Result<()> {
    let folder = file.parent().filter(|p| !p.as_os_str().is_empty()).unwrap_or_else(|| Path::new("."));
    let mut temporary = tempfile::Builder::new().prefix(".mohm-").tempfile_in(folder)?;
    temporary.write_all(bytes)?;
    temporary.as_file().sync_all()?;
    let kept = if force { temporary.persist(file) } else { temporary.persist_noclobber(file) };
    kept.map_err(|e| e.error)?;
    // A temporary file is private; this is a file like any other.
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        std::fs::set_permissions(file, std::fs::Permissions::from_mode(0o644))?;
    }
    Ok(())
}
