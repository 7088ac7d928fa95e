//! Mistakes in boards, their terminals and their ports.

use crate::bad_input::line;

#[test]
fn boards_and_their_terminals() {
    let board = "mean = \"50 mA\"\n";
    line(&format!("[board.«keeper»]\n{board}"), &["`from` is missing|usb = \"always\""]);
    // The terminal of another board does not feed this one.
    line(
        &format!("[board.«keeper»]\n{board}[board.helper]\n{board}from = {{ usb = \"wall\" }}"),
        &["`from` is missing|usb = \"always\""],
    );
    line(
        &format!("[board.keeper]\n{board}from = {{ 5v = \"wall\", «vim» = \"wall\" }}"),
        &["unknown feed terminal `vim`|5v, usb"],
    );
    line(
        &format!("[board.keeper]\n{board}from = \"wall\"\nports = {{ out = {{ count = 2, section = «\"big\"» }} }}"),
        &["no section `big`"],
    );
    line(
        &format!("[board.keeper]\n{board}from = \"wall\"\n[scenario.s]\nplugged = [«\"kepper\"»]"),
        &["did you mean `keeper`?"],
    );
    // What is fed wrongly is not blamed for having no feed as well.
    line(
        &format!("[board.keeper]\n{board}from = {{ «node» = \"wall\", «cable» = \"1 m 18 AWG\" }}"),
        &["unknown feed terminal `node`|belongs inside a terminal", "unknown feed terminal `cable`"],
    );
    line(&format!("[board.keeper]\n{board}from = «{{}}»"), &["is empty|write which node feeds it"]);
    line("[switch.main]\nfrom = «{}»", &["is empty"]);
    line(
        "[switch.main]\nfrom = \"wall\"\n[scenario.s]\nset = { main = «\"half\"» }",
        &["cannot be set like this|\"closed\""],
    );
    line(
        "[converter.c]\nkind = \"boost\"\nfrom = \"wall\"\noutput = \"12 V\"\nbare = «true»",
        &["has no `label-current`"],
    );
}
