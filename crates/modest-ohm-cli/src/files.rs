//! Files are written whole or not at all, and never over something unless told to.

use std::io::Write;
use std::path::Path;

use modest_ohm::size::StockRow;

/// Writes a file.
///
/// # Errors
/// What to tell the user: it is there already, or cannot be written.
pub fn write(file: &Path, bytes: &[u8], force: bool) -> Result<(), String> {
    attempt(file, bytes, force).map_err(|e| {
        if e.kind() == std::io::ErrorKind::AlreadyExists {
            format!("{} exists; --force replaces it", file.display())
        } else {
            format!("{}: {}", file.display(), why(&e, "written"))
        }
    })
}

/// Why a file cannot be read or written, without the number that the system gives its errors.
pub fn why(e: &std::io::Error, done: &str) -> String {
    match e.kind() {
        std::io::ErrorKind::NotFound if done == "read" => "there is no such file".into(),
        std::io::ErrorKind::NotFound => "there is no such folder".into(),
        std::io::ErrorKind::PermissionDenied => format!("cannot be {done}: you have no permission"),
        std::io::ErrorKind::IsADirectory => "is a folder; name a file in it".into(),
        _ => {
            let text = e.to_string();
            format!("cannot be {done}: {}", text.split(" (os error").next().unwrap_or(&text))
        }
    }
}

/// Lists above this size are no drawer's.
const LARGEST_LIST: u64 = 4 * 1024 * 1024;

/// The rows of a CSV file; separated by semicolons where its first line has some and no comma.
///
/// # Errors
/// What to tell the user: it cannot be read, or is no CSV.
pub fn rows(file: &Path) -> Result<Vec<StockRow>, String> {
    let size = std::fs::metadata(file).map_err(|e| why(&e, "read"))?.len();
    if size > LARGEST_LIST {
        return Err(format!("is {size} bytes long; at most {LARGEST_LIST} are read"));
    }
    let bytes = std::fs::read(file).map_err(|e| why(&e, "read"))?;
    let text = String::from_utf8(bytes).map_err(|_| "is not UTF-8: save it as UTF-8".to_owned())?;
    let text = text.strip_prefix('\u{feff}').unwrap_or(&text);
    let first = text.lines().next().unwrap_or_default();
    let delimiter = if first.contains(';') && !first.contains(',') { b';' } else { b',' };
    let mut reader =
        csv::ReaderBuilder::new().has_headers(false).flexible(true).delimiter(delimiter).from_reader(text.as_bytes());
    let row = |r: Result<csv::StringRecord, csv::Error>| {
        let line = |r: &csv::StringRecord| r.position().map_or(0, |p| p.line() as usize);
        r.map(|r| StockRow { line: line(&r), cells: r.iter().map(str::to_owned).collect() })
            .map_err(|e| format!("is not CSV: {e}"))
    };
    reader.records().map(row).collect()
}

/// Replaces a file by its new content, whole or not at all: through a temporary file in the same folder, with the same
/// permissions. Of a symbolic link the file that it points to is replaced. `before` is what was read; a file that has
/// changed since is left alone.
///
/// # Errors
/// What to tell the user: it has changed, or cannot be written. The old content is still there.
pub fn replace(file: &Path, before: &[u8], after: &[u8]) -> Result<(), String> {
    let shown = file.display();
    let attempt = || -> std::io::Result<bool> {
        let target = std::fs::canonicalize(file)?;
        let folder = target.parent().unwrap_or_else(|| Path::new("/"));
        let permissions = std::fs::metadata(&target)?.permissions();
        // A file that is not to be written is not to be replaced either.
        std::fs::OpenOptions::new().write(true).open(&target)?;
        let mut temporary = tempfile::Builder::new().prefix(".mohm-").tempfile_in(folder)?;
        temporary.write_all(after)?;
        temporary.as_file().set_permissions(permissions)?;
        temporary.as_file().sync_all()?;
        if std::fs::read(&target)? != before {
            return Ok(false);
        }
        temporary.persist(&target).map_err(|e| e.error)?;
        Ok(true)
    };
    match attempt() {
        Ok(true) => Ok(()),
        Ok(false) => Err(format!("{shown} has changed since it was read; nothing written")),
        Err(e) => Err(format!("{shown}: {}; it is as it was", why(&e, "written"))),
    }
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_file_that_has_changed_since_it_was_read_is_left_alone() {
        let folder = tempfile::tempdir().expect("a folder");
        let file = folder.path().join("plan.toml");
        std::fs::write(&file, "format = 1\n# by hand\n").expect("a file");
        let refused = replace(&file, b"format = 1\n", b"format = 1\ntitle = \"x\"\n");
        assert!(refused.as_ref().is_err_and(|why| why.contains("has changed since it was read")), "{refused:?}");
        assert_eq!(std::fs::read(&file).expect("the file"), b"format = 1\n# by hand\n");
        assert_eq!(std::fs::read_dir(folder.path()).expect("the folder").count(), 1, "a temporary file is left");
        assert_eq!(replace(&file, b"format = 1\n# by hand\n", b"format = 1\n"), Ok(()));
        assert_eq!(std::fs::read(&file).expect("the file"), b"format = 1\n");
        let missing = replace(&folder.path().join("none.toml"), b"", b"");
        assert!(missing.is_err_and(|why| why.contains("it is as it was")));
    }
}
