use super::*;

const TEXT: &str = "\
# The night light.
format = 1

[supply.wall]          # on the shelf
kind = \"adapter\"
voltage = '5 V'        # label

  [strip.halo]
  part = \"pixel\"  # reel
  from = {node=\"wall\", cable = \"1 m 18 AWG\" }
  inject = [ { at = \"start\" }, { at = \"end\" } ] # both

# the end
[[accept]]
code = \"unused\"
";

fn edited(edits: &[Edit]) -> String {
    apply(TEXT, edits).unwrap()
}

#[test]
fn a_value_is_replaced_in_its_place() {
    assert_eq!(edited(&[Edit::text("supply.wall.voltage", "6 V")]), TEXT.replace("'5 V'", "\"6 V\""));
    let cable = Edit::text("strip.halo.from.cable", "1 m 16 AWG");
    assert_eq!(edited(&[cable]), TEXT.replace("18 AWG", "16 AWG"));
    let end = Edit::text("strip.halo.inject[1].at", "middle");
    assert_eq!(edited(&[end]), TEXT.replace("\"end\"", "\"middle\""));
    assert_eq!(edited(&[Edit::text("accept[0].code", "inrush")]), TEXT.replace("unused", "inrush"));
    assert_eq!(edited(&[]), TEXT);
}

#[test]
fn a_new_key_is_the_last_of_its_table_and_indented_like_it() {
    let current = edited(&[Edit::text("supply.wall.current", "3 A")]);
    assert_eq!(current, TEXT.replace("# label\n", "# label\ncurrent = \"3 A\"\n"));
    let limit = edited(&[Edit::text("strip.halo.firmware-limit", "1 A")]);
    assert_eq!(limit, TEXT.replace("# both\n", "# both\n  firmware-limit = \"1 A\"\n"));
    let fuse = edited(&[Edit::text("strip.halo.inject[0].fuse", "2 A")]);
    assert_eq!(fuse, TEXT.replace("at = \"start\" }", "at = \"start\", fuse = \"2 A\" }"));
}

#[test]
fn a_new_table_has_its_own_heading() {
    let lift = Edit::set("shifter.lift", "{ part = \"hct-buffer\", from = \"wall\" }");
    let text = edited(&[lift, Edit::text("strip.halo.data.through", "lift")]);
    assert!(text.contains("\n[shifter.lift]\npart = \"hct-buffer\"\nfrom = \"wall\"\n"), "{text}");
    assert!(text.contains("\n[strip.halo.data]\nthrough = \"lift\"\n"), "{text}");
    let left = text.lines().filter(|line| TEXT.contains(line)).count();
    assert!(left >= TEXT.lines().count(), "{text}");
    let second = edited(&[Edit::set("supply.two", "{ kind = \"bench\" }")]);
    let at = |words: &str| second.find(words).unwrap();
    assert!(at("[supply.two]") > at("# label") && at("[supply.two]") < at("[strip.halo]"), "{second}");
}

#[test]
fn what_is_removed_goes_with_its_line() {
    let text = edited(&[Edit::remove("strip.halo.part")]);
    assert_eq!(text, TEXT.replace("  part = \"pixel\"  # reel\n", ""));
    assert!(!edited(&[Edit::remove("strip.halo")]).contains("inject"));
    assert_eq!(edited(&[Edit::remove("strip.halo.inject[1]")]).matches("{ at =").count(), 1);
    assert!(!edited(&[Edit::remove("accept[0]")]).contains("unused"));
}

#[test]
fn line_ends_and_the_byte_order_mark_are_kept() {
    let returns = format!("\u{feff}{}", TEXT.replace('\n', "\r\n"));
    let larger = apply(&returns, &[Edit::text("supply.wall.voltage", "6 V")]).unwrap();
    assert_eq!(larger, returns.replace("'5 V'", "\"6 V\""));
    let added = apply(&returns, &[Edit::text("supply.wall.current", "3 A")]).unwrap();
    assert_eq!(added, returns.replace("# label\r\n", "# label\r\ncurrent = \"3 A\"\r\n"));
    // One line of another kind keeps its end.
    let mixed = returns.replace("kind = \"adapter\"\r\n", "kind = \"adapter\"\n");
    let larger = apply(&mixed, &[Edit::text("supply.wall.voltage", "6 V")]).unwrap();
    assert_eq!(larger, mixed.replace("'5 V'", "\"6 V\""));
}

#[test]
fn what_cannot_be_edited_is_an_error() {
    let path = |p: &str| apply(TEXT, &[Edit::text(p, "1 A")]);
    for p in ["", ".", "a..b", "supply.wall.", "supply.wall[0].a", "format.a", "strip.halo.inject[7].at", "a[", "a[x]"]
    {
        assert_eq!(path(p), Err(EditError::Path(p.into())), "{p}");
    }
    assert_eq!(apply(TEXT, &[Edit::remove("supply.none")]), Err(EditError::Path("supply.none".into())));
    assert_eq!(apply(TEXT, &[Edit::set("a.b", "1 A")]), Err(EditError::Value("1 A".into())));
    assert!(matches!(apply("a = ", &[]), Err(EditError::Text(_))));
}

#[test]
fn names_that_are_no_bare_keys_are_quoted() {
    use super::path::{Step, item, join, steps_of};
    let path = item(&join(&join("strip", "über den [Türen] \"x\""), "inject"), 2);
    assert_eq!(path, "strip.'über den [Türen] \"x\"'.inject[2]");
    assert_eq!(steps_of(&path).map(|s| s.len()), Some(4));
    assert_eq!(steps_of("a.\"b \\\" c\".d"), Some(["a", "b \" c", "d"].map(|k| Step::Key(k.into())).into()));
    let text = apply("", &[Edit::set(join("a", "b c"), "1")]).unwrap();
    assert_eq!(apply(&text, &[Edit::set(join("a", "b c"), "2")]).unwrap(), text.replace('1', "2"));
}

/// Every text of a key in every plan is replaced, and a key added to every table: the expected text is made by hand, on
/// the lines.
#[test]
fn the_plans_of_the_tests_keep_every_other_byte() {
    let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut folders = vec![root.join("tests/plans"), root.join("tests/sound"), root.join("../../plans")];
    let (mut replaced, mut added) = (0, 0);
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if entry.is_dir() {
                folders.push(entry);
            } else if entry.extension().is_some_and(|e| e == "toml") {
                let text = std::fs::read_to_string(&entry).unwrap();
                let (r, a) = edits_by_line(&text);
                (replaced, added) = (replaced + r, added + a);
            }
        }
    }
    assert!(replaced > 6_000 && added > 2_500, "{replaced} replaced, {added} added");
}

fn edits_by_line(text: &str) -> (usize, usize) {
    let lines: Vec<&str> = text.split_inclusive('\n').collect();
    let (mut replaced, mut added) = (0, 0);
    let mut table = String::new();
    for (i, line) in lines.iter().enumerate() {
        if let Some(heading) = line.strip_prefix('[').and_then(|l| l.split_once(']')).map(|(h, _)| h) {
            table = if heading.starts_with('[') { String::new() } else { heading.to_owned() };
        }
        // A plain text on a line of its own, with what follows it.
        let plain = line.split_once(" = \"").and_then(|(key, rest)| Some((key, rest.split_once('"')?.0)));
        let Some((key, value)) = plain.filter(|(key, _)| !table.is_empty() && !key.contains([' ', '#'])) else {
            continue;
        };
        let edited = apply(text, &[Edit::text(format!("{table}.{key}"), "some other text")]).unwrap();
        let expected =
            [lines[..i].concat(), line.replacen(value, "some other text", 1), lines[i + 1..].concat()].concat();
        assert_eq!(edited, expected, "{table}.{key}");
        replaced += 1;
        // After the last key of a table without tables below comes the new one.
        let mut below = lines[i + 1..].iter().filter(|next| !next.trim().is_empty() && !next.starts_with('#'));
        let is_last = below.next().is_none_or(|next| next.starts_with('['));
        let has_more = text.contains(&format!("[{table}."));
        if is_last && line.ends_with('\n') && !has_more {
            let edited = apply(text, &[Edit::set(format!("{table}.new-key"), "true")]).unwrap();
            let expected = [lines[..=i].concat(), "new-key = true\n".to_owned(), lines[i + 1..].concat()].concat();
            assert_eq!(edited, expected, "{table}");
            added += 1;
        }
    }
    (replaced, added)
}
