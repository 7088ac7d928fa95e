//! What is left of each colour's light along a strip, by hand and against the currents that flow.

use modest_ohm::{Corner, Plan};

/// By hand, with Vf and Vreg at their largest: green of the 20 mA class is dark up to 2.8 V and full at 3.8 V; a plain
/// strip goes on beyond its rated voltage.
#[test]
fn light_along_a_strip() {
    let text = |volts: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"{volts} ± 0 %\"\nresistance = \"0 Ω\"\n\
             [strip.it]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = \"0 m 4 AWG\"\nlength = \"0.1 m\"\npixels = \"10 /m\"\n\
             copper = \"0.001 mΩ/m\"\n"
        )
    };
    for (volts, light) in [("5 V", [1.0, 1.0, 1.0]), ("3.3 V", [1.0, 0.5, 0.4]), ("2.3 V", [0.5, 0.0, 0.0])] {
        let profile =
            Plan::from_toml(&text(volts)).unwrap().review().solve_profile("it", "worst", Corner::Typical).unwrap();
        for (c, want) in light.into_iter().enumerate() {
            let got = profile.light(0, c).unwrap().get();
            assert!((got - want).abs() < 1e-4, "{volts}, colour {c}: {got}");
        }
        assert_eq!((profile.light(1, 0), profile.light(0, 3)), (None, None));
    }
    // Rated 12 V, three LEDs of 3 V at full current, which conduct from 9 V − 3 · 0.35 V on: a resistor for the other
    // 4.05 V; at 13 V it passes 5.05/4.05 of its current.
    let plain = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"13 V ± 0 %\"\nresistance = \"0 Ω\"\n\
                 [strip.it]\nfrom = \"wall\"\ncable = \"0 m 4 AWG\"\nlength = \"0.1 m\"\nleds = \"30 /m\"\ngroup = 3\nvoltage = \"12 V\"\n\
                 protocol = \"none\"\ncopper = \"0.001 mΩ/m\"\ncolours.white = { current = \"20 mA\", vf = \"9 V\" }\n";
    let profile = Plan::from_toml(plain).unwrap().review().solve_profile("it", "worst", Corner::Typical).unwrap();
    let got = profile.light(0, 0).unwrap().get();
    assert!((got - 5.05 / 4.05).abs() < 1e-4, "{got}");
    assert!(
        (profile[0].current.get() - 0.020 * 5.05 / 4.05).abs() < 1e-6,
        "and so does its current: {}",
        profile[0].current
    );
}

/// Of a strip with a return a colour the share of a colour's light is the share of its current: 24 groups over copper
/// that takes voltage, each colour's return its own.
#[test]
fn light_is_current_where_colours_have_returns() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\n\
                [strip.cove]\nfrom = \"wall\"\ncable = \"1 m 20 AWG\"\nlength = \"1.2 m\"\nleds = \"60 /m\"\ngroup = 3\nvoltage = \"12 V\"\n\
                protocol = \"none\"\ncopper = \"0.3 Ω/m\"\n\
                colours.red = { current = \"20 mA\", vf = \"6 V\" }\ncolours.green = { current = \"15 mA\", vf = \"9 V\" }\n\
                colours.blue = { current = \"10 mA\", vf = \"9.3 V\" }\n";
    let profile = Plan::from_toml(text).unwrap().review().solve_profile("cove", "worst", Corner::Typical).unwrap();
    assert_eq!((profile.len(), profile.colours().len()), (24, 3));
    let rated = [0.020, 0.015, 0.010];
    let mut before = f64::INFINITY;
    for (k, point) in profile.iter().enumerate() {
        let light: Vec<f64> = (0..3).map(|c| profile.light(k, c).unwrap().get()).collect();
        let sum: f64 = light.iter().zip(rated).map(|(share, amps)| share * amps).sum();
        assert!((sum - point.current.get()).abs() < 1e-9, "group {k}: {sum} and {}", point.current);
        // The further from the feed, the less; and green and blue lose more than red, which has voltage to spare.
        assert!(light[0] < before && light[1] < light[0] && light[2] < light[0], "group {k}: {light:?}");
        before = light[0];
    }
}
