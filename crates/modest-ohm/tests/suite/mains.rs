//! Circuits on the mains against a truth table of the electrical reference: 1500 thrown circuits, every verdict
//! computed here a second time.

use crate::common::{Dice, evidence, found, near, review, verdict};

/// A board, and a relay for the mains whose coil a MOSFET switches.
fn rig(region: Option<&str>, relay: &str) -> String {
    let policy = region.map_or(String::new(), |r| format!("[policy]\nregion = \"{r}\"\n"));
    format!(
        "format = 1\n{policy}[supply.logic]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"5 A\"\n\
         [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"logic\"\n\
         [driver.coil]\npart = \"nmos-logic-30v\"\npin = \"keeper.io32\"\npull-down = \"10 kΩ\"\n\
         [driver.horn]\nkind = \"relay\"\nfrom = \"logic\"\ndriver = \"coil\"\nflyback = \"rectifier-1a\"\ncoil = \"5 V\"\n\
         coil-resistance = \"70 Ω\"\n{relay}"
    )
}

/// What closing does to a contact within its rating: it closes on 2.5 times that for motors, on three times for others,
/// and on 1.5 times up to 2 A; electronics by 0.017 A²s a watt against a tenth of a second at its rating.
fn closes(is: Option<&str>, amps: f64, volts: f64, rating: f64) -> &'static str {
    let makes = match is {
        _ if rating <= 2.0 => 1.5,
        Some("motor") => 2.5,
        _ => 3.0,
    } * rating;
    let start = match is {
        Some("motor") => 6.0,
        Some("lamp") => 12.0,
        Some("electronics") => {
            return match 0.017 * volts * amps / (0.1 * rating * rating) {
                share if share > 1.0 => "caution",
                share if share > 0.5 => "advisory",
                _ => "pass",
            };
        }
        _ => 1.0,
    };
    if start * amps > makes { "caution" } else { "pass" }
}

/// What a cord carries (electrical reference, 11).
fn cord(mm2: f64) -> Option<f64> {
    match mm2 {
        a if a < 0.5 => None,
        a if a < 0.75 => Some(2.0),
        a if a < 1.0 => Some(6.0),
        a if a < 1.5 => Some(10.0),
        _ => Some(16.0),
    }
}

#[derive(Default)]
struct Count {
    bad: usize,
    good: usize,
    unknown: usize,
}

impl Count {
    fn of(&mut self, verdict: &str) {
        match verdict {
            "pass" => self.good += 1,
            "unknown" => self.unknown += 1,
            _ => self.bad += 1,
        }
    }

    /// A table of which one side never came up proves nothing.
    fn all_sides(&self, least: usize) {
        assert!(
            self.bad >= least && self.good >= least && self.unknown >= least,
            "{} {} {}",
            self.bad,
            self.good,
            self.unknown
        );
    }
}

/// The contacts in a chain: what flows, by its own figure or by power and voltage, of what is left of their rating.
#[test]
fn contacts_by_the_table() {
    let (mut dice, mut count) = (Dice(11), Count::default());
    for round in 0..500 {
        let rating = dice.chance(0.9).then(|| dice.log(2.0, 16.0));
        let stands = dice.chance(0.9).then(|| dice.pick(&[125.0, 250.0]));
        let mut relay = String::new();
        relay.extend(rating.map(|a| format!("current = \"{a} A\"\n")));
        relay.extend(stands.map(|v| format!("ac-voltage = \"{v} V\"\n")));
        let region = dice.pick(&[None, Some("iec"), Some("north-america")]);
        let own = dice.chance(0.4).then(|| dice.pick(&[100.0, 120.0, 230.0, 240.0]));
        let is = dice.pick(&[None, Some("motor"), Some("coil"), Some("lamp"), Some("electronics"), Some("heater")]);
        let power = dice.chance(0.5).then(|| dice.log(20.0, 3000.0));
        let current = (power.is_none() && dice.chance(0.85)).then(|| dice.log(0.1, 16.0));
        let mut mains = String::from("[mains.bell]\nthrough = \"horn\"\n");
        mains.extend(own.map(|v| format!("voltage = \"{v} V ± 0 %\"\n")));
        mains.extend(is.map(|w| format!("kind = \"{w}\"\n")));
        mains.extend(power.map(|w| format!("power = \"{w} W ± 0 %\"\n")));
        mains.extend(current.map(|a| format!("current = \"{a} A ± 0 %\"\n")));
        let text = format!("{}{mains}", rig(region, &relay));

        let volts = own.or(region.map(|r| if r == "iec" { 230.0 } else { 120.0 }));
        let amps = current.or(power.zip(volts).map(|(w, v)| w / v));
        let expected = match (amps, volts, rating, stands) {
            (None, ..) | (_, None, ..) | (_, _, None, _) => "unknown",
            (_, Some(v), _, Some(s)) if s < v => "danger",
            (.., None) => "unknown",
            (Some(a), _, Some(r), _) if a > r => "danger",
            (Some(a), Some(v), Some(r), _) => closes(is, a, v, r),
        };
        let review = review(&text);
        let finding = found(&review, "mains-contact", "bell");
        assert_eq!(verdict(finding), expected, "{round}: {amps:?} {volts:?}\n{text}");
        if let (Some(f), Some(a), "danger") = (finding, amps, expected)
            && f.evidence.iter().any(|e| e.name == "switches")
        {
            assert!(near(evidence(f, "switches"), a));
            assert!(near(evidence(f, "rating"), rating.unwrap()));
        }
        count.of(expected);
    }
    count.all_sides(60);
}

/// Fuses against cords, distances against reinforced insulation, metal against earth.
#[test]
fn what_a_circuit_says_of_itself() {
    let mut dice = Dice(23);
    let (mut fuses, mut gaps, mut earths) = (Count::default(), Count::default(), Count::default());
    for round in 0..1000 {
        let size = dice.chance(0.85).then(|| dice.pick(&[0.34, 0.5, 0.75, 1.0, 1.5, 2.5]));
        let fuse = dice.chance(0.8).then(|| dice.pick(&[1.0, 3.0, 3.15, 5.0, 6.0, 6.3, 10.0, 13.0, 16.0]));
        let clearance = dice.chance(0.8).then(|| dice.pick(&[2.0, 4.0, 5.6, 8.0, 9.0]));
        let creepage = dice.chance(0.8).then(|| dice.pick(&[4.0, 7.9, 8.0, 10.0, 12.0]));
        let metal = dice.pick(&[None, Some("yes"), Some("no")]);
        let earth = dice.pick(&[None, Some("yes"), Some("no")]);
        let cover = dice.pick(&[None, Some("yes"), Some("no")]);
        let mut text = rig(None, "current = \"10 A\"\nac-voltage = \"250 V\"\n");
        text += "[mains.bell]\nthrough = \"horn\"\nvoltage = \"230 V\"\ncurrent = \"0.5 A\"\n";
        text.extend(size.map(|s| format!("size = \"{s} mm²\"\n")));
        text.extend(fuse.map(|a| format!("fuse = \"{a} A\"\n")));
        text.extend(clearance.map(|m| format!("clearance = \"{m} mm ± 0 %\"\n")));
        text.extend(creepage.map(|m| format!("creepage = \"{m} mm ± 0 %\"\n")));
        text.extend(metal.map(|w| format!("metal = \"{w}\"\n")));
        text.extend(earth.map(|w| format!("earth = \"{w}\"\n")));
        text.extend(cover.map(|w| format!("cover = \"{w}\"\n")));
        let review = review(&text);

        // Half an ampere is no cord's concern; a fuse beyond the cord's amperes protects a short only, as the circuit's
        // does.
        let by_fuse = match size.map(|s| (s, cord(s))) {
            None => "unknown",
            Some((_, None)) => "danger",
            Some((_, Some(may))) if fuse.is_some_and(|own| own > may) => "caution",
            Some((s, _)) if fuse.is_none() => {
                if s < 0.75 {
                    "caution"
                } else {
                    "advisory"
                }
            }
            Some(_) => "pass",
        };
        assert_eq!(verdict(found(&review, "mains-fuse", "bell")), by_fuse, "{round}\n{text}");
        fuses.of(by_fuse);

        // What is too near is so whatever the other is; where one is not given nothing has passed. In dry rooms 3 mm
        // and 5 mm are needed, and 5.5 mm and 8 mm where it is damp or fixed.
        let below =
            |air: f64, surface: f64| clearance.is_some_and(|m| m < air) || creepage.is_some_and(|m| m < surface);
        let by_gap = match (clearance, creepage) {
            _ if below(3.0, 5.0) => "danger",
            _ if below(5.5, 8.0) => "advisory",
            (Some(_), Some(_)) => "pass",
            _ => "unknown",
        };
        assert_eq!(verdict(found(&review, "mains-separation", "bell")), by_gap, "{round}\n{text}");
        gaps.of(by_gap);

        let by_earth = match (metal, earth, cover) {
            (Some("yes"), Some("no"), _) | (_, _, Some("no")) => "danger",
            (None, ..) | (Some("yes"), None, _) => "unknown",
            _ => "pass",
        };
        assert_eq!(verdict(found(&review, "mains-earth", "bell")), by_earth, "{round}\n{text}");
        earths.of(by_earth);
    }
    for count in [fuses, gaps, earths] {
        count.all_sides(100);
    }
}

/// Off, all of a circuit whose neutral is broken is live, whatever else it says.
#[test]
fn the_line_is_what_is_broken() {
    for (breaks, expected) in [("line", "pass"), ("neutral", "danger")] {
        let relay = "current = \"10 A\"\nac-voltage = \"250 V\"\n";
        let text = format!(
            "{}[mains.bell]\nthrough = \"horn\"\nvoltage = \"230 V\"\ncurrent = \"0.5 A\"\nbreaks = \"{breaks}\"\n",
            rig(Some("iec"), relay)
        );
        let review = review(&text);
        let told = review.findings().iter().any(|f| f.code == "mains-contact" && f.message.contains("break neutral"));
        assert_eq!(told, expected == "danger", "{breaks}");
    }
}

/// Colours by region (electrical reference, 11), however they are written; and what else stands for the same conductor.
#[test]
fn colours_by_region() {
    let of = |region: &str, colours: [&str; 3]| {
        let relay = "current = \"10 A\"\nac-voltage = \"250 V\"\n";
        let text = format!(
            "{}[mains.bell]\nthrough = \"horn\"\ncurrent = \"0.5 A\"\ncolours = {colours:?}\n",
            rig(Some(region), relay)
        );
        verdict(found(&review(&text), "mains-colours", "bell"))
    };
    let sound = [
        ("iec", ["brown", "blue", "green-yellow"]),
        ("iec", ["Brown", "Blue", "yellow/green"]),
        ("iec", ["black", "blue", "green and yellow"]),
        ("north-america", ["black", "white", "green"]),
        ("north-america", ["red", "White", "green-yellow"]),
    ];
    for (region, colours) in sound {
        assert_eq!(of(region, colours), "pass", "{region} {colours:?}");
    }
    let wrong = [
        ("iec", ["black", "white", "green"]),
        ("iec", ["blue", "brown", "green-yellow"]),
        ("iec", ["brown", "blue", "green"]),
        ("north-america", ["brown", "blue", "green-yellow"]),
        ("north-america", ["white", "black", "green"]),
        ("north-america", ["black", "white", "yellow"]),
    ];
    for (region, colours) in wrong {
        assert_eq!(of(region, colours), "caution", "{region} {colours:?}");
    }
}

/// A circuit that feeds others carries their current too; what it feeds has to be there, be another one, and be known.
#[test]
fn what_a_circuit_feeds() {
    let two = |feeds: &str, lamp: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"1 A\"\n\
             [mains.strip]\ncurrent = \"4 A ± 0 %\"\nsize = \"0.75 mm²\"\nfuse = \"16 A\"\nfeeds = [{feeds}]\n\
             [mains.lamp]\n{lamp}size = \"0.75 mm²\"\nfuse = \"2 A\"\n"
        )
    };
    let fuse = |text: &str| verdict(found(&review(text), "mains-fuse", "strip")).to_owned();
    // 4 A + 2.8 A through a cord for 6 A; without the other 4 A, and a fuse beyond the cord.
    assert_eq!(fuse(&two("\"lamp\"", "current = \"2.8 A ± 0 %\"\n")), "danger");
    assert_eq!(fuse(&two("", "current = \"2.8 A ± 0 %\"\n")), "caution");
    // What the lamp takes is not known, and neither is what its cord carries: the fuse counts, beyond the cord.
    assert_eq!(fuse(&two("\"lamp\"", "")), "caution");
    for (feeds, words) in [("\"lmap\"", "there is no mains circuit `lmap`"), ("\"strip\"", "feeds itself")] {
        let errors = modest_ohm::Plan::from_toml(&two(feeds, "current = \"1 A\"\n")).map(|_| ()).unwrap_err();
        assert!(errors.problems.iter().any(|p| p.message.contains(words)), "{errors}");
    }
}
