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
