//! Rails made from rails that meet at their ends, at random, against what can be written down in closed form: which of
//! two joined outputs gives, and what the stages before them carry.

use modest_ohm::{Corner, Plan, Review, Select};
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_125) }
}

fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(300)
}

/// Wanted current and voltage of a node in *worst*, typical.
fn at(r: &Review, node: &str) -> (f64, f64) {
    let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
    let rows = r.nodes(&select);
    let row = &rows.iter().find(|x| x.row.name == node).unwrap().row;
    (row.demand.unwrap().get(), row.voltage.unwrap().get())
}

/// Two sources of voltage joined by a resistance, each with a load: what each gives, and the voltage at both.
fn shared((va, ia): (f64, f64), (vb, ib): (f64, f64), ohms: f64) -> [(f64, f64); 2] {
    let across = (va - vb) / ohms;
    if across > ib {
        [(ia + ib, va), (0.0, va - ohms * ib)]
    } else if -across > ia {
        [(0.0, vb - ohms * ia), (ia + ib, vb)]
    } else {
        [(ia + across, va), (ib - across, vb)]
    }
}

fn close(got: f64, want: f64, what: &str, text: &str) -> Result<(), TestCaseError> {
    // What is written as 0 Ω has a nanoohm, a few 1e-7 of a link of 5 mΩ.
    prop_assert!((got - want).abs() <= 2e-6 * want.abs().max(1.0), "{what}: {got} against {want}\n{text}");
    Ok(())
}

const IDEAL: &str = "cable = { feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"50 A\" }";

fn load(name: &str, from: &str, amps: f64) -> String {
    format!("[load.{name}]\nfrom = \"{from}\"\n{IDEAL}\ncurrent = \"{amps} A\"\nvoltage = \"5 V\"\nknee = \"0.5 V\"\n")
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(), failure_persistence: None, rng_seed: seed(), ..ProptestConfig::default() })]

    /// A buck that feeds a buck and a linear regulator, whose outputs a link joins.
    #[test]
    fn a_switching_and_a_linear_output_meet(
        volts in 9.0f64..24.0,
        (vb, vl) in (4.5f64..5.5, 4.5f64..5.5),
        (ib, il) in (0.0f64..1.5, 0.0f64..1.5),
        ohms in 0.005f64..1.0,
        efficiency in 0.7f64..0.99,
    ) {
        let text = format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"30 V ± 0 %\"\n\
             [converter.first]\nkind = \"buck\"\nfrom = \"wall\"\n{IDEAL}\noutput = \"{volts} V\"\nresistance = \"0 Ω\"\nefficiency = \"{efficiency}\"\ninput = \"1 V .. 40 V\"\n\
             [converter.buck]\nkind = \"buck\"\nfrom = \"first\"\n{IDEAL}\noutput = \"{vb} V\"\nresistance = \"0 Ω\"\nefficiency = \"{efficiency}\"\nquiescent = \"50 mW\"\ndropout = \"0.1 V\"\n\
             [converter.linear]\nkind = \"linear\"\nfrom = \"first\"\n{IDEAL}\noutput = \"{vl} V\"\nresistance = \"0 Ω\"\nown-current = \"5 mA\"\ndropout = \"0.5 V\"\n\
             [link.meet]\nbetween = [\"buck\", \"linear\"]\nresistance = \"{ohms} Ω\"\n{}{}",
            load("a", "buck", ib),
            load("b", "linear", il),
        ).replace(&format!("efficiency = \"{efficiency}\""), &format!("efficiency = \"{} %\"", efficiency * 100.0));
        let r = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
        let [(ab, ub), (al, ul)] = shared((vb, ib), (vl, il), ohms);
        // The link's ends are joined to nodes over nothing; equal voltage within a nanovolt have no one answer.
        prop_assume!((vb - vl).abs() > 1e-6);
        let (gb, gvb) = at(&r, "buck");
        let (gl, gvl) = at(&r, "linear");
        close(gb, ab, "the buck gives", &text)?;
        close(gl, al, "the linear regulator gives", &text)?;
        close(gvb, ub, "voltage of the buck", &text)?;
        close(gvl, ul, "voltage of the linear regulator", &text)?;
        let first = (vb * ab / efficiency + 0.05) / volts + al + 0.005;
        close(at(&r, "first").0, first, "the first stage gives", &text)?;
        close(at(&r, "wall").0, (volts * first / efficiency + 0.05) / 30.0, "the supply gives", &text)?;
        prop_assert!(!r.findings().iter().any(|f| f.code == "feed-collapses"), "{text}");
    }

    /// Two supplies over diodes, a third rail behind both: the higher one gives, or both within the diodes' resistance.
    #[test]
    fn two_sources_over_diodes(
        (va, vb) in (10.0f64..14.0, 10.0f64..14.0),
        (fa, fb) in (0.1f64..0.9, 0.1f64..0.9),
        (ra, rb) in (0.01f64..0.5, 0.01f64..0.5),
        amps in 0.05f64..3.0,
        watts in 0.5f64..8.0,
    ) {
        let diode = |name: &str, from: &str, vf: f64, ohms: f64| {
            format!("[diode.{name}]\nfrom = \"{from}\"\n{IDEAL}\nvf = \"{vf} V\"\nresistance = \"{ohms} Ω\"\ncurrent = \"50 A\"\n")
        };
        let text = format!(
            "format = 1\n[supply.left]\nkind = \"bench\"\nvoltage = \"{va} V ± 0 %\"\n[supply.right]\nkind = \"bench\"\nvoltage = \"{vb} V ± 0 %\"\n\
             [ground.tie]\nbetween = [\"left\", \"right\"]\nresistance = \"0 Ω\"\n{}{}[link.meet]\nbetween = [\"near\", \"far\"]\nresistance = \"0 Ω\"\n\
             [converter.five]\nkind = \"buck\"\nfrom = \"near\"\n{IDEAL}\noutput = \"5 V\"\nresistance = \"0 Ω\"\nefficiency = \"80 %\"\nquiescent = \"0 W\"\n{}{}",
            diode("near", "left", fa, ra),
            diode("far", "right", fb, rb),
            load("lamp", "far", amps),
            load("motor", "five", watts / 5.0),
        );
        let r = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
        // The rail's voltage by bisection: what the diodes give falls with them, what is drawn of the power rises as
        // they fall.
        let gives = |v: f64| ((va - fa - v) / ra).max(0.0) + ((vb - fb - v) / rb).max(0.0);
        let draws = |v: f64| amps + watts / 0.8 / v;
        let (mut low, mut high) = (6.0, 14.0);
        while high - low > 1e-12 {
            let middle = 0.5 * (low + high);
            if gives(middle) > draws(middle) { low = middle } else { high = middle }
        }
        prop_assume!(low > 6.5);
        let rail = low;
        close(at(&r, "near").1, rail, "voltage of the rail", &text)?;
        close(at(&r, "far").1, rail, "voltage of the rail's other end", &text)?;
        close(at(&r, "left").0, ((va - fa - rail) / ra).max(0.0), "the left one gives", &text)?;
        close(at(&r, "right").0, ((vb - fb - rail) / rb).max(0.0), "the right one gives", &text)?;
    }
}
