//! Builds as beginners plan them: every mistake is reported, with numbers computed by hand; fixed as the fixes say,
//! nothing is left that is worse than caution.

use crate::common::{evidence, found, review, verdict};
use modest_ohm::{Review, Severity};

/// The build with each mistake's text replaced by its fix.
fn mended(text: &str, mends: &[(&str, &str)]) -> String {
    mends.iter().fold(text.to_owned(), |text, (from, to)| {
        assert!(text.contains(from), "{from} in\n{text}");
        text.replace(from, to)
    })
}

fn tells(review: &Review, all: &[(&str, &str, &str)]) {
    for (code, subject, severity) in all {
        let told: Vec<_> = review.findings().iter().map(|f| (f.code, f.subject.as_str(), f.severity.word())).collect();
        let also = review.findings().iter().flat_map(|f| &f.also).any(|c| c.code == *code && c.subject == *subject);
        assert!(also || verdict(found(review, code, subject)) == *severity, "{code} {subject} {severity}: {told:#?}");
    }
}

/// Nothing worse than caution, and none of these codes at all.
fn silent(text: &str, codes: &[&str]) {
    let review = review(text);
    let bad: Vec<_> = review
        .findings()
        .iter()
        .filter(|f| f.severity >= Severity::Fault || codes.contains(&f.code))
        .map(|f| format!("{} {}: {}", f.code, f.subject, f.message))
        .collect();
    assert!(bad.is_empty(), "{bad:#?}\n{text}");
}

/// Between two numbers computed by hand.
fn within(value: f64, low: f64, high: f64) {
    assert!((low..=high).contains(&value), "{value} not in {low} .. {high}");
}

const VAN_TAP: &str = r#"format = 1
[supply.van]
kind = "vehicle"
system = "12 V"
current = "10 A"
[converter.five]
kind = "buck"
from = "van"
output = "5 V ± 2 %"
current = "3 A"
vehicle-rated = true
[board.brain]
part = "wifi-board-3v3"
from = "five"
[pump.tap]
part = "pump-12v-small"
from = "van"
cable = "2 m 18 AWG"
fuse = "5 A"
driver = "tap-switch"
[driver.tap-switch]
part = "nmos-logic-55v"
pin = "brain.io18"
series = "100 Ω"
"#;

/// A pump in a van: 3.2 V of a pin are no 4.5 V, and its coil has nowhere to go.
#[test]
fn a_tap_in_a_van() {
    let bare = review(VAN_TAP);
    tells(
        &bare,
        &[
            ("flyback-missing", "tap", "danger"),
            ("gate-drive", "tap-switch", "fault"),
            ("gate-floating", "tap-switch", "caution"),
            ("on-time", "tap", "advisory"),
        ],
    );
    // At 16 V its start is 2.4 A · 16/12, less what 4 m of 18 AWG (21 mΩ a metre, cold) and the switch lose.
    let coil = found(&bare, "flyback-missing", "tap").unwrap();
    let resistance = 12.0 / 2.4;
    within(
        evidence(coil, "current"),
        16.0 / (resistance + 4.0 * 0.024 + 0.07),
        16.0 / (resistance + 4.0 * 0.020 + 0.018),
    );
    let (joules, amps) = (evidence(coil, "energy"), evidence(coil, "current"));
    within(joules, 0.99 * 0.5 * 0.002 * amps * amps, 1.01 * 0.5 * 0.002 * amps * amps);
    // A pump for 12 V is made for the 14.8 V of a vehicle that charges.
    assert!(found(&bare, "motor-voltage", "tap").is_none());
    silent(
        &mended(
            VAN_TAP,
            &[
                ("nmos-logic-55v", "nmos-logic-30v"),
                ("series = \"100 Ω\"\n", "series = \"100 Ω\"\npull-down = \"10 kΩ\"\n"),
                (
                    "driver = \"tap-switch\"\n",
                    "driver = \"tap-switch\"\nflyback = \"schottky-1a-40v\"\ndry-running = \"allowed\"\n",
                ),
                ("from = \"van\"\ncable = \"2 m", "from = \"twelve\"\ncable = \"2 m"),
                (
                    "[pump.tap]",
                    "[converter.twelve]\nkind = \"buck-boost\"\nfrom = \"van\"\noutput = \"12 V ± 3 %\"\ncurrent = \"4 A\"\n\
                     input = \"8 V .. 20 V\"\nvehicle-rated = true\n[pump.tap]",
                ),
            ],
        ),
        &["flyback-missing", "motor-voltage", "gate-drive", "gate-floating", "on-time"],
    );
}

const HORN: &str = r#"format = 1
[supply.port]
kind = "usb"
[board.desk]
part = "board-5v-8bit"
from = "port"
[driver.horn]
part = "relay-5v"
from = "desk.d7"
[mains.lamp]
kind = "heater"
power = "60 W"
voltage = "230 V"
through = "horn"
metal = "yes"
earth = "no"
size = "0.75 mm²"
fuse = "10 A"
clearance = "8 mm"
creepage = "10 mm"
"#;

/// A relay on a pin: its coil needs 71 mA where a pin gives 20 mA, and gets too low a voltage behind the pin's
/// resistance.
#[test]
fn a_relay_on_a_pin() {
    let bare = review(HORN);
    tells(
        &bare,
        &[
            ("pin-drives-coil", "horn", "danger"),
            ("relay-coil", "horn", "fault"),
            ("mains-earth", "lamp", "danger"),
            ("mains-fuse", "lamp", "caution"),
        ],
    );
    // 5.25 V over 63 Ω and the least pin, 4.75 V less the cable over 77 Ω and the largest.
    let coil = found(&bare, "pin-drives-coil", "horn").unwrap();
    within(evidence(coil, "current"), 4.4 / (77.0 + 60.0), 5.25 / (63.0 + 20.0));
    // Cords of household appliances carry 6 A at 0.75 mm².
    let fuse = found(&bare, "mains-fuse", "lamp").unwrap();
    within(evidence(fuse, "cord"), 5.999, 6.001);
    within(evidence(fuse, "flows"), 9.999, 10.001);
    let sound = mended(
        HORN,
        &[
            ("from = \"desk.d7\"\n", "from = \"desk.5v\"\ndriver = \"coil\"\nflyback = \"signal-diode-100v\"\n"),
            (
                "[mains.lamp]",
                "[driver.coil]\npart = \"npn-small\"\npin = \"desk.d7\"\nbase-resistor = \"470 Ω\"\n[mains.lamp]",
            ),
            ("earth = \"no\"", "earth = \"yes\""),
            ("fuse = \"10 A\"", "fuse = \"5 A\""),
        ],
    );
    silent(&sound, &["pin-drives-coil", "relay-coil", "mains-fuse", "mains-earth", "flyback-missing", "base-drive"]);
    // Near misses: a fuse of exactly what the cord carries; a base resistor for half of a tenth of the coil's current.
    silent(&sound.replace("fuse = \"5 A\"", "fuse = \"6 A\""), &["mains-fuse"]);
    let weak = review(&sound.replace("470 Ω", "4.7 kΩ"));
    // (4.25 − 0.9)/4.7 kΩ is 0.7 mA, a ninetieth of the coil's current.
    assert_ne!(verdict(found(&weak, "base-drive", "coil")), "pass");
}

const ARM: &str = r#"format = 1
[supply.port]
kind = "usb"
[board.desk]
part = "board-5v-8bit"
from = "port"
[servo.arm]
part = "servo-micro"
count = 4
from = "desk.5v"
cable = "0.3 m 24 AWG"
signal = { pins = ["desk.d3", "desk.d5", "desk.d6", "desk.d9"] }
"#;

/// Four servos on a board's own 5 V: 1 A as they move, 3.2 A as they start together, where a port gives 0.5 A.
#[test]
fn servos_on_a_board() {
    let bare = review(ARM);
    tells(&bare, &[("supply-overloaded", "port", "danger")]);
    let asked = evidence(found(&bare, "supply-overloaded", "port").unwrap(), "demand");
    // Four at 250 mA, and a board of some tens of milliamps.
    within(asked, 1.0, 1.15);
    let sound = mended(
        ARM,
        &[
            ("from = \"desk.5v\"", "from = \"wall\""),
            (
                "[servo.arm]",
                "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V ± 4 %\"\ncurrent = \"4 A\"\n\
                 [ground.tie]\nbetween = [\"wall\", \"port\"]\ncable = \"0.3 m 18 AWG\"\n[servo.arm]",
            ),
        ],
    );
    silent(&sound, &["supply-overloaded", "brown-out", "servo-supply"]);
    // Without the tie their pulses have nothing to count against.
    let apart = review(&sound.replace("[ground.tie]\nbetween = [\"wall\", \"port\"]\ncable = \"0.3 m 18 AWG\"\n", ""));
    assert!(apart.findings().iter().any(|f| f.code == "ground-not-common" && f.severity >= Severity::Fault));
}

const FOUNTAIN: &str = r#"format = 1
[supply.wall]
kind = "adapter"
voltage = "24 V ± 5 %"
current = "3 A"
[converter.five]
kind = "buck"
from = "wall"
output = "5 V ± 2 %"
current = "2 A"
[board.brain]
part = "wifi-board-3v3"
from = "five"
[driver.high]
part = "pmos-30v"
pin = "brain.io25"
[pump.fountain]
voltage = "24 V"
current = "0.4 A"
start = "1 A"
from = "wall"
cable = "2 m 20 AWG"
driver = "high"
dry-running = "allowed"
flyback = "schottky-3a-40v"
[driver.warm]
part = "solid-state-ac"
pin = "brain.io26"
[load.heater]
kind = "heater"
resistance = "48 Ω"
voltage = "24 V"
from = "wall"
cable = "1 m 20 AWG"
driver = "warm"
"#;

/// A P-channel MOSFET on a pin at 24 V never closes and loses its gate; a triac never lets direct current go.
#[test]
fn a_fountain_at_24_v() {
    let bare = review(FOUNTAIN);
    tells(
        &bare,
        &[
            ("gate-overvoltage", "high", "danger"),
            ("gate-drive", "high", "fault"),
            ("solid-state-kind", "warm", "fault"),
            ("level-high", "warm", "fault"),
        ],
    );
    // 24 V + 5 % while the pin is low, where its gate stands 12 V; less 3.4 V or so while it is high.
    let gate = found(&bare, "gate-overvoltage", "high").unwrap();
    within(evidence(gate, "gate"), 25.1, 25.2001);
    within(evidence(gate, "rating"), 11.999, 12.001);
    let sound = mended(
        FOUNTAIN,
        &[
            (
                "part = \"pmos-30v\"\n",
                "part = \"pmos-55v\"\ngate-driver = { part = \"npn-small\", base-resistor = \"10 kΩ\" }\npull-up = \"10 kΩ\"\n\
                 gate-resistor = \"10 kΩ\"\ngate-clamp = \"10 V\"\n",
            ),
            ("part = \"solid-state-ac\"\n", "part = \"mosfet-module-logic\"\n"),
        ],
    );
    silent(&sound, &["gate-overvoltage", "gate-drive", "solid-state-kind", "level-high"]);
}

const PAD: &str = r#"format = 1
[supply.wall]
kind = "bench"
voltage = "12 V"
current = "5 A"
[converter.five]
kind = "buck"
from = "wall"
output = "5 V ± 2 %"
current = "2 A"
[board.desk]
part = "board-5v-8bit"
from = "five"
[driver.rows]
part = "darlington-array"
channels = { 1 = "desk.d2", 2 = "desk.d3" }
[motor.fan]
part = "motor-gear-12v-small"
from = "wall"
cable = "1 m 22 AWG"
driver = "rows.1"
[solenoid.clamp]
part = "solenoid-12v"
from = "wall"
cable = "1 m 22 AWG"
driver = "rows.2"
"#;

/// An array's own diodes lead nowhere until their common is joined to the +; and a motor's start is no running current.
#[test]
fn an_array_without_its_common() {
    let bare = review(PAD);
    tells(
        &bare,
        &[
            ("flyback-missing", "fan", "danger"),
            ("flyback-missing", "clamp", "danger"),
            ("driver-current", "rows.1", "danger"),
        ],
    );
    // 0.9 A at 12 V is 13.3 Ω; behind 1.3 V .. 1.8 V of the pair some 0.75 A start it, where a channel carries 0.5 A.
    let start = found(&bare, "driver-current", "rows.1").unwrap();
    within(evidence(start, "carries"), (11.8 - 2.4) / (12.0 / 0.9 + 0.3), (12.2 - 1.0) / (12.0 / 0.9));
    let joined = PAD.replace("part = \"darlington-array\"\n", "part = \"darlington-array\"\ncommon = \"wall\"\n");
    let review = review(&joined);
    for coil in ["fan", "clamp"] {
        assert_eq!(verdict(found(&review, "flyback-missing", coil)), "pass");
    }
    // The motor on a MOSFET of its own.
    silent(
        &mended(
            &joined,
            &[
                ("driver = \"rows.1\"", "driver = \"own\"\nflyback = \"schottky-1a-40v\""),
                ("channels = { 1 = \"desk.d2\", 2", "channels = { 2"),
                (
                    "[motor.fan]",
                    "[driver.own]\npart = \"nmos-logic-30v\"\npin = \"desk.d2\"\nseries = \"100 Ω\"\npull-down = \"10 kΩ\"\n[motor.fan]",
                ),
            ],
        ),
        &["flyback-missing", "base-drive"],
    );
}
