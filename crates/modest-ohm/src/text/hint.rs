//! What somebody meant who wrote a word that the plan format does not know: its name of today, the everyday word for
//! another table or key, or a slip of the keyboard.

use super::nearest;
use super::renamed::{What, renamed};

/// Everyday words for tables, and what to write.
const TABLES: &[(&[&str], &str)] = &[
    (&["battery", "cell", "pack", "accu"], "a battery is a supply: write `[supply.pack]` with `kind = \"battery\"`"),
    (
        &["adapter", "psu", "power-supply", "power", "usb", "source"],
        "write `[supply.wall]` with `kind = \"adapter\"` (or \"usb\", \"bench\", \"battery\", \"vehicle\")",
    ),
    (
        &["relay"],
        "a relay is a driver: write `[driver.x]` with `part = \"relay-module-5v\"`, and `driver = \"x\"` in its load",
    ),
    (
        &["transistor", "mosfet", "fet", "bridge", "h-bridge", "motor-driver"],
        "it is a driver: write `[driver.x]` with `part` (`mohm catalogue driver` lists them), and `driver = \"x\"` in its load",
    ),
    (
        &["regulator", "buck", "boost", "dc-dc"],
        "it is a converter: write `[converter.x]` with `kind`, `from`, `output` and `current`",
    ),
    (
        &["microcontroller", "mcu", "computer", "module"],
        "it is a board: write `[board.x]` with `part` (`mohm catalogue board` lists them)",
    ),
    (
        &["leds", "pixels", "led-strip", "strips", "pixel"],
        "LEDs on a tape or a string are a strip: write `[strip.x]`; single LEDs are `[led.x]`",
    ),
    (&["lamp", "bulb"], "it is a load: write `[load.x]` with `kind = \"lamp\"`, `voltage` and `current`"),
    (&["fan", "buzzer", "speaker", "camera"], "it is a load: write `[load.x]` with `voltage` and `current`"),
    (&["valve"], "the coil of a valve is a solenoid: write `[solenoid.x]` with `voltage` and `current`"),
    (&["button", "key", "encoder", "potentiometer", "pot"], "it is an input: write `[input.x]` with `pin` and `kind`"),
    (&["fuse"], "a fuse is a key of what it feeds: `fuse = \"5 A\"` beside its `cable`, or in a `[branch.x]`"),
    (&["cable", "cables", "wires", "wiring"], "a cable is a key of what it feeds: `cable = \"1.2 m 18 AWG\"`"),
    (&["resistor"], "a resistor is a key of what it belongs to, such as `series = \"330 Ω\"` or `pull = \"4.7 kΩ\"`"),
    (&["terminal", "splice", "plug", "socket"], "it is a connector: write `[connector.x]`"),
    (
        &["level-shifter", "buffer"],
        "it is a shifter: write `[shifter.x]` with `part` (`mohm catalogue shifter` lists them)",
    ),
    (&["node", "rail", "net"], "name a point that feeds several things with `[branch.x]`"),
];

/// Everyday words for keys, and what to write.
const KEYS: &[(&[&str], &str)] = &[
    (&["color", "colour"], "the colour comes with `part`: `mohm catalogue strip` lists them"),
    (&["type", "model", "class", "chip"], "name the part with `part`; `mohm catalogue` lists them"),
    (&["supply", "source", "power-supply", "psu"], "name what feeds it with `from`"),
    (&["wire", "wires", "gauge"], "write its cable as length and size: `cable = \"1.2 m 18 AWG\"`"),
    (&["amps", "ampere", "amperes", "amperage"], "write `current = \"2 A\"`"),
    (&["volt", "supply-voltage"], "write `voltage = \"5 V\"`"),
    (&["watt", "watts", "wattage"], "write `power = \"24 W\"`"),
    (&["led-count", "number", "quantity"], "a strip has `pixels` or `leds`, other parts `count`"),
    (&["series", "series-resistor", "ballast"], "write its resistor: `resistor = \"470 Ω\"`"),
    (&["protection"], "write `fuse = \"5 A\"`"),
    (&["gpio", "port"], "name its pin with `pin = \"board.io4\"`"),
];

/// What to write instead of a word that is not known here; `known` are the words that are.
pub(crate) fn hint<'a>(what: What, word: &str, known: impl Iterator<Item = &'a str> + Clone) -> Option<String> {
    if let Some(today) = renamed(what, word, |name| known.clone().any(|k| k == name)) {
        return Some(format!("renamed to `{today}`"));
    }
    let everyday = match what {
        What::Table => TABLES,
        What::Key => KEYS,
        What::Word | What::Code => &[],
    };
    let lower = word.to_lowercase();
    // An everyday word helps only where its answer names a key that is known here.
    let fits = |text: &str| {
        what == What::Table
            || known.clone().any(|k| text.contains(&format!("`{k}`")) || text.contains(&format!("`{k} =")))
    };
    if let Some((_, text)) = everyday.iter().find(|(words, text)| words.contains(&lower.as_str()) && fits(text)) {
        return Some((*text).to_owned());
    }
    nearest(word, known).map(|near| format!("did you mean `{near}`?"))
}
