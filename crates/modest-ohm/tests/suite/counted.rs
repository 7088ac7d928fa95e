//! `count`: one table for several items says what their tables one by one would say.

use crate::bad_input::{WALL, line, problems};
use modest_ohm::{Plan, Select};

/// Every node with its voltage and demand in every scenario and corner, by name.
fn numbers(text: &str) -> Vec<String> {
    let review = Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
    let select = Select { all_corners: true, ..Select::default() };
    let mut rows: Vec<String> = review
        .nodes(&select)
        .iter()
        .map(|r| format!("{} {:?} {:?} {:?} {:?}", r.row.name, r.scenario, r.corner, r.row.voltage, r.row.demand))
        .collect();
    rows.sort();
    let found = review.findings().iter().map(|f| format!("{} {:?} {}", f.code, f.severity, f.message));
    rows.extend(found);
    rows
}

const HEAD: &str = "format = 1\n[supply.pit]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"10 A\"\n\
    [board.usher]\npart = \"wifi-board-3v3\"\nusb = \"always\"\n[ground.tie]\nbetween = [\"pit\", \"usher.5v\"]\n";

/// The same with the tables written out; names with a point are replaced in both, since a plan may not write them.
fn same(counted: &str, tables: &[String]) {
    let rows = |text: &str| {
        let text = format!("{HEAD}{text}");
        let plain = |row: String| row.replace("line.", "line-").replace("tap.", "tap-").replace("key.", "key-");
        let mut rows: Vec<String> = numbers(&text).into_iter().map(plain).collect();
        rows.sort();
        rows
    };
    assert_eq!(rows(counted), rows(&tables.concat()));
}

#[test]
fn strips_that_differ_in_cable_and_pin() {
    let own = |i: usize, metres: &str, pin: &str| {
        format!(
            "[strip.line-{i}]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"pit\"\ncable = \"{metres} 18 AWG\"\n\
             length = \"2.5 m\"\npixels = \"20 /m\"\ndata = {{ pin = \"usher.{pin}\", cable = \"0.3 m\" }}\n"
        )
    };
    same(
        "[strip.line]\ncount = 3\npart = \"pixel-12v-rgb-threes\"\nfrom = \"pit\"\n\
         cable = [\"1 m 18 AWG\", \"2 m 18 AWG\", \"3 m 18 AWG\"]\nlength = \"2.5 m\"\npixels = \"20 /m\"\n\
         data = { pin = [\"usher.io16\", \"usher.io17\", \"usher.io18\"], cable = \"0.3 m\" }\n\
         [firmware-limit.all]\nstrips = [\"line\"]\ncurrent = \"2 A\"\n[scenario.dusk]\nset = { line = \"20 %\" }\n",
        &[
            own(1, "1 m", "io16"),
            own(2, "2 m", "io17"),
            own(3, "3 m", "io18"),
            "[firmware-limit.all]\nstrips = [\"line-1\", \"line-2\", \"line-3\"]\ncurrent = \"2 A\"\n[scenario.dusk]\n\
             set = { line-1 = \"20 %\", line-2 = \"20 %\", line-3 = \"20 %\" }\n"
                .to_owned(),
        ],
    );
}

#[test]
fn drivers_and_their_loads_and_inputs() {
    let own = |i: usize, pin: &str, key: &str| {
        format!(
            "[driver.tap-{i}]\npart = \"nmos-logic-30v\"\npin = \"usher.{pin}\"\npull-down = \"10 kΩ\"\n\
             [load.lamp{i}]\nfrom = \"pit\"\ncable = \"1 m 20 AWG\"\nfuse = \"2 A\"\nvoltage = \"12 V\"\n\
             current = \"1 A\"\nkind = \"lamp\"\ndriver = \"tap-{i}\"\n\
             [input.key-{i}]\npin = \"usher.{key}\"\nkind = \"contact\"\npull = \"internal\"\n"
        )
    };
    let lamp = |i: usize| {
        format!(
            "[load.lamp{i}]\nfrom = \"pit\"\ncable = \"1 m 20 AWG\"\nfuse = \"2 A\"\nvoltage = \"12 V\"\n\
             current = \"1 A\"\nkind = \"lamp\"\ndriver = \"tap.{i}\"\n"
        )
    };
    same(
        &format!(
            "[driver.tap]\ncount = 2\npart = \"nmos-logic-30v\"\npin = [\"usher.io16\", \"usher.io17\"]\n\
             pull-down = \"10 kΩ\"\n{}{}[input.key]\ncount = 2\npin = [\"usher.io25\", \"usher.io26\"]\n\
             kind = \"contact\"\npull = \"internal\"\n",
            lamp(1),
            lamp(2)
        ),
        &[own(1, "io16", "io25"), own(2, "io17", "io26")],
    );
}

#[test]
fn mistakes_are_reported_once() {
    let strip = |more: &str| {
        format!(
            "[strip.line]\ncount = 3\npart = \"pixel-5v-rgb\"\nlength = \"1 m\"\npixels = \"30 /m\"\nfrom = \"wall\"\n{more}\n"
        )
    };
    problems(
        &format!("{WALL}{}", strip("cable = «\"1 m 99 AWG\"»").replace("«\"1 m 99 AWG\"»", "\"1 m «99 AWG»\"")),
        &["AWG"],
    );
    line(&strip("«colour» = \"red\""), &["unknown key `colour`"]);
    line(
        &strip("cable = «[\"1 m 18 AWG\", \"2 m 18 AWG\"]»"),
        &["lists 2 values for 3 members|write one value for all, or 3"],
    );
    // One that is wrong in its own value is reported by itself.
    line(&strip("cable = [\"1 m 18 AWG\", \"2 m «99 AWG»\", \"3 m 18 AWG\"]"), &["line.2"]);
    for count in ["0", "501", "1.5", "\"3\""] {
        let text = strip("").replace("count = 3", &format!("count = «{count}»"));
        line(&text, &["not a whole number from 1 to 500"]);
    }
    line("[strip.«\"line.1\"»]\npart = \"pixel-5v-rgb\"", &["not a valid name"]);
}

/// What is accepted of the table is accepted of each member; so is what `check` prints under the strip's name. A number
/// at the end of another name is no member.
#[test]
fn accepted_for_all_members() {
    let text = |on: &str| {
        format!(
            "{HEAD}[strip.line]\npart = \"pixel-12v-rgb-threes\"\ncount = 3\nfrom = \"pit\"\ncable = \"1 m 26 AWG\"\n\
             length = \"5 m\"\nleds = \"60 /m\"\n[[accept]]\ncode = \"wire-overloaded\"\non = \"{on}\"\n\
             because = \"for the length of a rehearsal\"\n"
        )
    };
    let open = |on: &str| {
        let review = Plan::from_toml(&text(on)).unwrap_or_else(|e| panic!("{e}")).review();
        let of = |code: &str| review.findings().iter().filter(|f| f.code == code && f.accepted.is_none()).count();
        (of("wire-overloaded"), of("acceptance-stale"))
    };
    assert_eq!(open("line"), (0, 0));
    assert_eq!(open("line.2"), (2, 0));
    assert_eq!(open("lin"), (3, 1));
}
