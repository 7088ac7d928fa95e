//! `fix`: what it shows, what it asks, and what becomes of the file.

use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};

use crate::tool::{code, err, json, mohm, out, root};

/// One thing wrong, with comments and an order that are to stay.
const LAMP: &str = "# Over the bench.\nformat = 1\n\n[load.lamp]     # the lamp comes first\nfrom = \"wall\"\n\
    cable = '1 m 20 AWG' # red and black\ncurrent = \"1.5 A\"\nvoltage = \"12 V\"\n\n[supply.wall]\nkind = \"adapter\"\n\
    voltage = \"12 V\"\n  current   =   \"1 A\"   # its label\n# the end\n";

struct Bench {
    folder: tempfile::TempDir,
}

impl Bench {
    fn new(text: &str) -> Self {
        let bench = Self { folder: tempfile::tempdir().unwrap() };
        std::fs::write(bench.plan(), text).unwrap();
        bench
    }

    fn plan(&self) -> PathBuf {
        self.folder.path().join("lamp.toml")
    }

    fn text(&self) -> String {
        std::fs::read_to_string(self.plan()).unwrap()
    }

    fn fix(&self, args: &[&str]) -> Output {
        let plan = self.plan();
        let mut all = vec!["fix", plan.to_str().unwrap()];
        all.extend(args);
        mohm(&all)
    }

    /// Nothing but the plan: no temporary file is left.
    fn is_tidy(&self) -> bool {
        std::fs::read_dir(self.folder.path()).unwrap().count() == 1
    }
}

#[test]
fn nothing_is_written_without_consent() {
    let bench = Bench::new(LAMP);
    let refused = bench.fix(&[]);
    assert_eq!((code(&refused), bench.text().as_str()), (2, LAMP));
    assert!(err(&refused).contains("--yes writes without asking"), "{}", err(&refused));
    let shown = out(&refused);
    for words in
        ["Use a supply rated 2 A", "verified: 1.5 A of 2 A", "-   current   =   \"1 A\"", "+   current   =   \"2 A\""]
    {
        assert!(shown.contains(words), "{words}: {shown}");
    }
    let dry = bench.fix(&["--dry-run"]);
    assert_eq!((code(&dry), out(&dry), bench.text().as_str()), (0, shown, LAMP));
}

#[test]
fn the_rest_of_the_file_stays_byte_for_byte() {
    let bench = Bench::new(LAMP);
    let written = bench.fix(&["--yes"]);
    assert_eq!(code(&written), 0, "{}", err(&written));
    assert_eq!(bench.text(), LAMP.replace("\"1 A\"", "\"2 A\""));
    assert!(bench.is_tidy());
    assert!(out(&mohm(&["check", bench.plan().to_str().unwrap()])).contains("no findings"));
    // Line ends and the byte order mark are the file's own.
    let dos = Bench::new(&format!("\u{feff}{}", LAMP.replace('\n', "\r\n")));
    assert_eq!(code(&dos.fix(&["--yes"])), 0);
    assert_eq!(dos.text(), format!("\u{feff}{}", LAMP.replace('\n', "\r\n")).replace("\"1 A\"", "\"2 A\""));
}

#[test]
fn a_finding_and_its_fix_can_be_chosen() {
    let bench = Bench::new(&LAMP.replace("20 AWG", "28 AWG"));
    let by_code = bench.fix(&["voltage-drop", "--dry-run"]);
    assert!(
        out(&by_code).contains("+ cable = '1 m 2") || out(&by_code).contains("+ cable = \"1 m 2"),
        "{}",
        out(&by_code)
    );
    assert_eq!(out(&bench.fix(&["99", "--dry-run"])), "");
    let none = bench.fix(&["99"]);
    assert_eq!(code(&none), 2);
    assert!(err(&none).contains("there is no finding `99`; this plan has findings 1 to"), "{}", err(&none));
    let third = bench.fix(&["supply-overloaded", "--choice", "3"]);
    assert_eq!(code(&third), 2);
    assert!(err(&third).contains("fixes"), "{}", err(&third));
    assert_eq!(code(&mohm(&["fix", "-"])), 2);
}

#[test]
fn the_first_draft_ends_without_findings() {
    let bench = Bench::new(&std::fs::read_to_string(root().join("plans/harbour-first-draft.toml")).unwrap());
    let before = bench.text();
    let written = bench.fix(&["--all", "--yes"]);
    assert_eq!(code(&written), 0, "{}", err(&written));
    assert!(out(&written).contains("Then: no findings"), "{}", out(&written));
    let check = json(&["check", bench.plan().to_str().unwrap()]);
    assert_eq!(check["findings"].as_array().unwrap().len(), 0);
    // Every comment is still there.
    let after = bench.text();
    for comment in before.lines().filter_map(|line| line.split_once('#')).map(|(_, comment)| comment) {
        assert!(after.contains(comment), "{comment}");
    }
    let again = bench.fix(&["--all", "--yes"]);
    assert_eq!((code(&again), bench.text()), (0, after));
}

#[test]
fn what_is_to_be_kept_is_kept() {
    let bench = Bench::new(LAMP);
    let named = bench.fix(&["--all", "--yes", "--keep", "wall"]);
    assert_eq!((code(&named), bench.text().as_str()), (0, LAMP), "{}", out(&named));
    assert!(out(&named).contains("What might end it is to be kept: `wall`"), "{}", out(&named));
    let unknown = bench.fix(&["--all", "--keep", "wal"]);
    assert_eq!(code(&unknown), 2);
    assert!(err(&unknown).contains("did you mean `wall`?"), "{}", err(&unknown));
    let said = LAMP.replace("[supply.wall]\n", "[supply.wall]\nkeep = true\n");
    let bench = Bench::new(&said);
    bench.fix(&["--all", "--yes"]);
    assert_eq!(bench.text(), said);
    let wrong = Bench::new(&LAMP.replace("[supply.wall]\n", "[supply.wall]\nkeep = \"yes\"\n"));
    assert!(err(&wrong.fix(&["--all"])).contains("Write `keep = true`"));
}

#[cfg(unix)]
#[test]
fn links_and_permissions_stay() {
    use std::os::unix::fs::PermissionsExt;
    let bench = Bench::new(LAMP);
    let elsewhere = tempfile::tempdir().unwrap();
    let link = elsewhere.path().join("link.toml");
    std::os::unix::fs::symlink(bench.plan(), &link).unwrap();
    std::fs::set_permissions(bench.plan(), std::fs::Permissions::from_mode(0o640)).unwrap();
    assert_eq!(code(&mohm(&["fix", "--yes", link.to_str().unwrap()])), 0);
    assert!(std::fs::symlink_metadata(&link).unwrap().file_type().is_symlink());
    assert_ne!(bench.text(), LAMP);
    assert_eq!(std::fs::metadata(bench.plan()).unwrap().permissions().mode() & 0o777, 0o640);
    assert!(bench.is_tidy());
}

/// A disk that is full, as a limit on the size of files; a reader that has gone away; a folder that takes no file.
#[cfg(unix)]
#[test]
fn what_cannot_be_written_leaves_the_old_file() {
    use std::os::unix::fs::PermissionsExt;
    let shell = |line: &str| {
        let line = line.replace("mohm", env!("CARGO_BIN_EXE_mohm"));
        Command::new("sh").args(["-c", &line]).output().unwrap()
    };
    let bench = Bench::new(LAMP);
    let plan = bench.plan().display().to_string();
    let full = shell(&format!("trap '' XFSZ; ulimit -f 0; mohm fix --yes {plan}"));
    assert_eq!((code(&full), bench.text().as_str()), (2, LAMP), "{}", err(&full));
    assert!(err(&full).contains("it is as it was"), "{}", err(&full));
    assert!(bench.is_tidy());
    if Path::new("/dev/full").exists() {
        let lost = shell(&format!("mohm fix --yes {plan} > /dev/full"));
        assert_eq!((code(&lost), bench.text().as_str()), (2, LAMP));
        assert!(err(&lost).contains("nothing written"), "{}", err(&lost));
    }
    std::fs::set_permissions(bench.folder.path(), std::fs::Permissions::from_mode(0o555)).unwrap();
    let is_closed = std::fs::write(bench.folder.path().join("probe"), "").is_err();
    let closed = is_closed.then(|| bench.fix(&["--yes"]));
    std::fs::set_permissions(bench.folder.path(), std::fs::Permissions::from_mode(0o755)).unwrap();
    // To the system's administrator no folder is closed.
    if let Some(closed) = closed {
        assert_eq!((code(&closed), bench.text().as_str()), (2, LAMP));
    }
}

/// Whatever the moment at which it is killed, the file is the old one or the new one.
#[test]
fn a_killed_process_leaves_a_whole_file() {
    let bench = Bench::new(LAMP);
    let plan = bench.plan();
    let new = LAMP.replace("\"1 A\"", "\"2 A\"");
    let mut seen = [false; 2];
    for delay in 0..60 {
        std::fs::write(&plan, LAMP).unwrap();
        let mut child = Command::new(env!("CARGO_BIN_EXE_mohm"))
            .args(["fix", "--yes"])
            .arg(&plan)
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        std::thread::sleep(std::time::Duration::from_micros(delay * 1_500));
        let _ = child.kill();
        child.wait().unwrap();
        let text = bench.text();
        assert!(text == LAMP || text == new, "{text}");
        seen[usize::from(text == new)] = true;
    }
    assert!(seen[0], "killed too late to see the old file");
}
