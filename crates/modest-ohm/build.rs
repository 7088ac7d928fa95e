//! Makes a constant of every check's code, from the file that holds its long text: a code that is misspelt, or that has no
//! long text, does not compile, and nobody keeps a list.

use std::fmt::Write as _;
use std::path::Path;
use std::{env, fs, io};

fn main() -> io::Result<()> {
    println!("cargo::rerun-if-changed=src/about");
    let mut names = Vec::new();
    for entry in fs::read_dir("src/about")? {
        let name = entry?.file_name().to_string_lossy().into_owned();
        names.extend(name.strip_suffix(".md").map(str::to_owned));
    }
    names.sort();
    let mut code = String::new();
    for name in &names {
        let constant = name.to_uppercase().replace('-', "_");
        let text = format!("concat!(env!(\"CARGO_MANIFEST_DIR\"), \"/src/about/{name}.md\")");
        let line =
            format!("pub(crate) const {constant}: Code = Code {{ name: \"{name}\", about: include_str!({text}) }};\n");
        code.push_str(&line);
    }
    write!(
        code,
        "/// Every code, in the order of the alphabet.\n#[cfg(test)]\npub(crate) const ALL: [Code; {}] = [",
        names.len()
    )
    .map_err(io::Error::other)?;
    names.iter().for_each(|name| code.push_str(&format!("{}, ", name.to_uppercase().replace('-', "_"))));
    code.push_str("];\n");
    let out = env::var_os("OUT_DIR").ok_or_else(|| io::Error::other("cargo sets OUT_DIR"))?;
    fs::write(Path::new(&out).join("codes.rs"), code)
}
