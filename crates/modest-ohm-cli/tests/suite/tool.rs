//! What every module needs of the tool: calling it, and reading what comes back.

use std::path::{Path, PathBuf};
use std::process::{Command, Output};

use serde_json::Value;

/// The root of the project, where the shipped plans are.
pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// The tool, to be called from the root.
pub fn command(args: &[&str]) -> Command {
    let mut command = Command::new(env!("CARGO_BIN_EXE_mohm"));
    command.args(args).current_dir(root());
    command
}

pub fn mohm(args: &[&str]) -> Output {
    command(args).output().unwrap()
}

pub fn code(output: &Output) -> i32 {
    output.status.code().unwrap()
}

pub fn out(output: &Output) -> String {
    String::from_utf8(output.stdout.clone()).unwrap()
}

pub fn err(output: &Output) -> String {
    String::from_utf8(output.stderr.clone()).unwrap()
}

/// How it ends, and what it writes on standard output and on standard error.
pub fn code_and_streams(args: &[&str]) -> (i32, String, String) {
    let output = mohm(args);
    (code(&output), out(&output), err(&output))
}

/// How it ends, and what it answers as JSON.
pub fn json_and_code(args: &[&str]) -> (i32, Value) {
    let output = mohm(&[args, &["--format", "json"]].concat());
    let value = serde_json::from_slice(&output.stdout).unwrap_or_else(|e| panic!("{args:?}: {e}\n{}", err(&output)));
    (code(&output), value)
}

/// What it answers as JSON.
pub fn json(args: &[&str]) -> Value {
    json_and_code(args).1
}

/// A number that is as wanted, to a share of it.
pub fn near(value: &Value, want: f64, share: f64) {
    let got = value.as_f64().unwrap_or_else(|| panic!("{value} is no number"));
    assert!((got - want).abs() <= share * want.abs(), "{got} against {want}");
}

/// A plan in a file of its own, which is gone with the folder.
pub fn file(text: &str) -> (tempfile::TempDir, String) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("plan.toml");
    std::fs::write(&path, text).unwrap();
    let path = path.display().to_string();
    (folder, path)
}
