//! Small networks against closed forms and hand calculation.

use super::run::Run;
use super::{Limits, SolveError, Workspace, largest_scale, solve, solve_pixels};
use crate::network::{Branch, Clamp, Ladder, Law, Network, PixelLaw, Port};

/// A source, a cable of `ohms`, a demand.
fn one(emf: f64, limit: f64, ohms: f64, demand: Law) -> Network {
    let source = Law::Source { emf, ohms: 0.0, limit, sinks: false };
    let lead = Law::Conductor { ohms, rise: 0.0, ampacity: f64::INFINITY };
    Network {
        vertices: 3,
        branches: vec![
            Branch { from: 0, to: 1, law: source },
            Branch { from: 1, to: 2, law: lead },
            Branch { from: 2, to: 0, law: demand },
        ],
        ladders: Vec::new(),
        strips: Vec::new(),
        source_minus: vec![0],
        supplies: vec![0],
    }
}

/// P/V on the upper branch: V = (E + √(E² − 4·R·P))/2, and none beyond E²/(4·R).
#[test]
fn constant_power_takes_the_upper_branch() {
    let (e, r) = (12.0, 1.5);
    let most = e * e / (4.0 * r);
    for share in [0.01, 0.3, 0.9, 0.999, 0.999_999] {
        let watts = share * most;
        let net = one(e, f64::INFINITY, r, Law::ConstantPower { watts });
        let v = solve(&net, Limits::IN_FORCE, &mut Workspace::default()).unwrap().potential[2];
        let want = 0.5 * (e + (e * e - 4.0 * r * watts).sqrt());
        assert!((v - want).abs() < 1e-6 * want, "{share}: {v} against {want}");
    }
    for share in [1.000_01, 1.01, 2.0, 1e6] {
        let net = one(e, f64::INFINITY, r, Law::ConstantPower { watts: share * most });
        let error = solve(&net, Limits::IN_FORCE, &mut Workspace::default()).err();
        assert_eq!(error, Some(SolveError::Collapsed), "{share}");
    }
}

/// A start near the lower solution, V = (E − √(E² − 4·R·P))/2, leads there, and it is not taken for one.
#[test]
fn the_lower_branch_is_known_for_what_it_is() {
    let (e, r, watts) = (12.0, 1.5, 20.0);
    let net = one(e, f64::INFINITY, r, Law::ConstantPower { watts });
    let mut workspace = Workspace::default();
    let mut run = Run::new(&net, true, &mut workspace);
    run.solve_at(1.0).unwrap();
    let upper = run.at.potential[2];
    let lower = 0.5 * (e - (e * e - 4.0 * r * watts).sqrt());
    run.at.potential[2] = lower + 0.05;
    run.at.current[2] = watts / (lower + 0.05);
    run.at.current[1] = run.at.current[2];
    assert_eq!(run.come_down(1.0), Err(SolveError::Collapsed));
    assert!((run.at.potential[2] - lower).abs() < 1e-6, "{} against {lower}", run.at.potential[2]);
    // And from above it comes down to the upper one.
    run.at.potential[2] = e;
    assert_eq!(run.come_down(1.0), Ok(()));
    assert!((run.at.potential[2] - upper).abs() < 1e-9);
}

/// The largest scale: the closed form, the floor of a minimum above half the voltage, and V·I of a limited source.
#[test]
fn largest_scales_by_closed_form() {
    let (e, r) = (12.0, 1.5);
    let net = one(e, f64::INFINITY, r, Law::ConstantPower { watts: 1.0 });
    let scale = |net: &Network, minimums: &[(usize, f64)]| {
        largest_scale(net, minimums, 1000.0, &mut Workspace::default()).unwrap().0
    };
    let near = |got: f64, want: f64| assert!((got - want).abs() < 1e-5 * want, "{got} against {want}");
    near(scale(&net, &[]), e * e / (4.0 * r));
    near(scale(&net, &[(2, 9.0)]), 9.0 * (e - 9.0) / r);
    // A minimum below half the voltage changes nothing.
    near(scale(&net, &[(2, 3.0)]), e * e / (4.0 * r));
    let limited = one(e, 2.0, r, Law::ConstantPower { watts: 1.0 });
    near(scale(&limited, &[]), 2.0 * (e - 2.0 * r));
}

/// A conductor that warms: R·(1 + rise·(i/a)²)·i, the cubic solved by hand for i = a/2.
#[test]
fn a_lead_warms_with_its_current() {
    let (ohms, rise, ampacity) = (0.5, 0.16, 10.0);
    let amps = 5.0;
    let demand = Law::ConstantCurrent { amps, knee: 1.0 };
    let mut net = one(12.0, f64::INFINITY, ohms, demand);
    net.branches[1].law = Law::Conductor { ohms, rise, ampacity };
    let s = solve(&net, Limits::IN_FORCE, &mut Workspace::default()).unwrap();
    assert!((s.drop_of(&net, 1) - 0.5 * (1.0 + 0.16 * 0.25) * 5.0).abs() < 1e-12);
    // Beyond its ampacity it is as warm as its insulation may be, and no warmer.
    let amps = 15.0;
    net.branches[2].law = Law::ConstantCurrent { amps, knee: 1.0 };
    let s = solve(&net, Limits::IN_FORCE, &mut Workspace::default()).unwrap();
    assert!((s.drop_of(&net, 1) - 0.5 * 1.16 * 15.0).abs() < 1e-12);
}

/// Copper alone, two pixels that always draw 1 A, unequal feed and return: by Ohm's law on paper.
#[test]
fn two_pixels_by_hand() {
    let law = PixelLaw { clamps: vec![Clamp { amps: 1.0, start_v: 0.0, slope: 100.0 }] };
    let ladder = Ladder {
        pixels: 2,
        per_m: 2.0,
        first_m: 0.0,
        feed_ohm_per_m: 0.3,
        return_ohm_per_m: 0.1,
        law,
        ports: vec![Port { at_m: 0.0, plus: 1, minus: 0 }],
    };
    let source = Law::Source { emf: 5.0, ohms: 0.0, limit: f64::INFINITY, sinks: false };
    let net = Network {
        vertices: 2,
        branches: vec![Branch { from: 0, to: 1, law: source }],
        ladders: vec![ladder],
        strips: Vec::new(),
        source_minus: vec![0],
        supplies: vec![0],
    };
    let s = solve_pixels(&net, Limits::IN_FORCE, &mut Workspace::default()).unwrap();
    let l = &s.ladders[0];
    // 0.25 m at 2 A, then 0.5 m at 1 A, over 0.4 Ω/m; the return alone lifts the − by 0.1 Ω/m.
    for (got, want) in [
        (l.v[0], 5.0 - 0.2),
        (l.v[1], 5.0 - 0.2 - 0.2),
        (l.minus_first, 0.05),
        (l.minus_last, 0.05 + 0.05),
        (l.copper_w, 4.0 * 0.4 * 0.25 + 1.0 * 0.4 * 0.5),
        (l.copper_max_feed_a, 2.0),
        (l.pixel_w, 4.8 + 4.6),
    ] {
        assert!((got - want).abs() < 1e-12, "{got} against {want}");
    }
    assert_eq!((l.lowest.1, l.below_full), (1, 0));
    assert!((l.ports[0].feed_a - 2.0).abs() < 1e-12 && (l.ports[0].return_a + 2.0).abs() < 1e-12);
}

/// 12 V over a joint of 1 nΩ, 0.1 Ω, a load, 0.4 Ω drawn against the current, and 0.2 Ω back, with a second load on the
/// vertex behind the joint: i = 12/(R + 0.7), and each potential by hand.
#[test]
fn elements_in_series_have_one_current() {
    let wire = |ohms| Law::Conductor { ohms, rise: 0.0, ampacity: f64::INFINITY };
    let branch = |from, to, law| Branch { from, to, law };
    let source = Law::Source { emf: 12.0, ohms: 0.0, limit: f64::INFINITY, sinks: false };
    for ohms in [1e-3, 5.3, 1e6] {
        let net = Network {
            vertices: 6,
            branches: vec![
                branch(0, 1, source.clone()),
                branch(1, 2, wire(1e-9)),
                branch(2, 3, wire(0.1)),
                branch(3, 4, Law::Resistive { siemens: 1.0 / ohms }),
                // Its current counts the other way.
                branch(5, 4, wire(0.4)),
                branch(5, 0, wire(0.2)),
                branch(2, 0, Law::ConstantCurrent { amps: 1.0, knee: 1.0 }),
            ],
            source_minus: vec![0],
            supplies: vec![0],
            ..Network::default()
        };
        let mut workspace = Workspace::default();
        assert_eq!(Run::new(&net, true, &mut workspace).chains.len(), 1);
        let s = solve(&net, Limits::IN_FORCE, &mut workspace).unwrap();
        let i = 12.0 / (ohms + 0.7);
        let potentials = [0.0, 12.0, 12.0, 12.0 - 0.1 * i, 0.6 * i, 0.2 * i];
        for (v, (got, want)) in s.potential.iter().zip(potentials).enumerate() {
            assert!((got - want).abs() < 1e-7, "{ohms} Ω, vertex {v}: {got} V, by hand {want} V");
        }
        for (b, (got, want)) in s.current.iter().zip([i + 1.0, i + 1.0, i, i, -i, i, 1.0]).enumerate() {
            assert!((got - want).abs() < 1e-7 * (1.0 + want.abs()), "{ohms} Ω, branch {b}: {got} A, by hand {want} A");
        }
        let (left, excused) = s.imbalance(&net);
        assert!(left <= excused, "{left} A of {excused} A");
    }
}
