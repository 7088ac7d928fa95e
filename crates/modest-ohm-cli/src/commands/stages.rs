//! `size base`, `gate`, `flyback`, `relay`, `bridge` and `stage`.

use modest_ohm::advise::{DriverRequest, drivers};
use modest_ohm::catalogue::{PartClass, classes};
use modest_ohm::checks::nearest_name;
use modest_ohm::size::{self, BaseNeed, BridgeNeed, CoilNeed, GateNeed, ReleaseNeed, SwitchingNeed, TransistorNeed};
use modest_ohm::units::{Amps, Celsius, Coulombs, Fraction, KelvinsPerWatt, Ohms, Range, Volts};
use modest_ohm_report::{
    BridgeTried, GateAsked, RelayTried, SizeAnswer, size_base, size_bridge, size_driver, size_flyback, size_gate,
    size_relay, size_transistor,
};

use super::problems::Problems;
use crate::args::{SizeBase, SizeBridge, SizeDriver, SizeFlyback, SizeGate, SizeRelay};

/// Collector current over base current where nothing is said: saturated well.
const RATIO: f64 = 10.0;

/// The classes of drivers of a kind.
fn driver_parts(kind: &str) -> Vec<PartClass> {
    classes().into_iter().filter(|c| c.kind == "driver" && c.word("kind") == Some(kind)).collect()
}

/// `size base`.
pub fn base(args: &SizeBase) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let vbe = args.vbe.as_deref().map(|t| problems.volts(t, "VBE", 0.0));
    let (large, small) = vbe.map_or((Volts::new(0.7), Volts::new(0.7)), |v| (v.high, v.low));
    problems.positive(args.vdd, "the pin's supply");
    problems.not_negative(args.pin, "the pin");
    problems.positive(args.recommended, "the pin's rating");
    problems.positive(args.current, "the current");
    problems.not_negative(small, "VBE");
    let ratio = args.ratio.map_or(RATIO, f64::from);
    let choice = problems.values_or(&args.choice, size::Series::E12);
    let supply = args.supply.unwrap_or(Volts::new(12.0));
    problems.positive(supply, "the load's supply");
    if let Some(r) = args.resistor {
        problems.positive(r, "the resistor");
    }
    problems.or(|| ())?;
    if let (Some(resistor), Some(gain)) = (args.resistor, args.gain) {
        let need = TransistorNeed {
            vdd: args.vdd,
            pin: args.pin,
            vbe: large,
            base: resistor,
            current: args.current,
            hfe: f64::from(gain),
            saturation: Volts::new(0.3),
            supply,
            load: Ohms::new((supply.get() / args.current.get()).max(1e-6)),
        };
        return Ok(size_transistor(&need, &size::transistor(&need), args.recommended));
    }
    let need = BaseNeed {
        vdd: args.vdd,
        pin: args.pin,
        vbe: Range::new(small, large),
        current: args.current,
        ratio,
        pin_recommended: args.recommended,
    };
    let sized = size::base(&need, &choice);
    Ok(size_base(&need, &sized))
}

/// A class of MOSFET.
fn fet_of(name: &str) -> Result<PartClass, String> {
    let all: Vec<PartClass> = ["nmos", "pmos", "mosfet-module"].into_iter().flat_map(driver_parts).collect();
    if let Some(class) = all.iter().find(|c| c.name == name) {
        return Ok(class.clone());
    }
    let names = || all.iter().map(|c| c.name.as_str());
    Err(match nearest_name(name, names()) {
        Some(near) => format!("there is no MOSFET `{name}`; did you mean `{near}`?"),
        None => format!("there is no MOSFET `{name}`; parts: {}", names().collect::<Vec<_>>().join(", ")),
    })
}

/// `size gate`.
pub fn gate(args: &SizeGate) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let class = args
        .part
        .as_deref()
        .map(fet_of)
        .and_then(|class| class.map_err(|message| problems.unless(false, || message)).ok());
    let of = |key: &str| class.as_ref().and_then(|c| c.figure::<Volts>(key));
    problems.positive(args.gate_voltage, "the gate voltage");
    problems.positive(args.current, "the current");
    let specified = args.specified.or_else(|| of("rds-on-at").map(|f| f.low));
    let threshold = args.threshold.or_else(|| of("threshold").map(|f| f.high));
    let rating = args.rating.or_else(|| class.as_ref()?.figure::<Amps>("current").map(|f| f.low));
    let resistor = args.resistor.unwrap_or(Ohms::new(140.0));
    problems.not_negative(resistor, "the resistor");
    for (volts, what) in
        [(specified, "the specified voltage"), (threshold, "the threshold"), (args.supply, "the supply")]
    {
        if let Some(volts) = volts {
            problems.positive(volts, what);
        }
    }
    problems.or(|| ())?;
    let specified = specified.unwrap_or(Volts::new(10.0));
    let need = GateNeed { volts: args.gate_voltage, specified, threshold, current: args.current, rating };
    let charge = class.as_ref().and_then(|c| c.figure::<Coulombs>("gate-charge"));
    let edges =
        args.pwm.zip(args.supply).zip(charge.zip(of("plateau"))).and_then(|((pwm, supply), (charge, plateau))| {
            size::switching(&SwitchingNeed {
                gate_volts: args.gate_voltage,
                plateau: plateau.typical,
                gate_charge: charge.high,
                ohms: resistor,
                supply,
                current: args.current,
                pwm,
            })
        });
    let asked = GateAsked { need, stands: of("gate-maximum").map(|f| f.low), pwm: args.pwm, edges };
    Ok(size_gate(&asked, size::gate(&need)))
}

/// `size flyback`.
pub fn flyback(args: &SizeFlyback) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    problems.positive(args.current, "the current");
    problems.positive(args.supply, "the supply");
    if let (Some(l), Some(r)) = (args.inductance, args.resistance) {
        problems.positive(l, "the inductance");
        problems.positive(r, "the resistance");
    }
    if let Some(z) = args.zener {
        problems.positive(z, "the Zener diode");
    }
    let partial_power_down = args.release_at.unwrap_or(Fraction::new(0.1));
    problems.unless((0.0..1.0).contains(&partial_power_down.get()), || {
        format!(
            "--release-at is {partial_power_down}; it \
            must be below 100 %"
        )
    });
    problems.or(|| ())?;
    let class = size::flyback_class(args.current, args.supply, args.pwm);
    let need = |zener: Volts| {
        Some(ReleaseNeed {
            supply: args.supply,
            current: args.current,
            ohms: args.resistance?,
            inductance: args.inductance?,
            path: Volts::new(0.7) + zener,
            partial_power_down,
        })
    };
    let plain = need(Volts::new(0.0)).map(|n| (n, size::release(&n)));
    let zener = args.zener.and_then(|z| need(z).map(|n| (z, size::release(&n))));
    Ok(size_flyback(args.current, args.pwm, class.as_ref(), plain.as_ref(), zener.as_ref()))
}

/// `size relay`.
pub fn relay(args: &SizeRelay) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let rail = problems.volts(&args.rail, "the rail", 0.05);
    let drop = args.drop.unwrap_or(Volts::new(0.2));
    problems.positive(rail.low, "the rail");
    problems.not_negative(drop, "the drop");
    problems.positive(args.current, "the current");
    problems.positive(args.voltage, "the voltage of the load");
    problems.or(|| ())?;
    let warm = args.coil_temperature.unwrap_or(Celsius::new(40.0));
    let gets = Range::new(Volts::new((rail.low.get() - drop.get()).max(0.0)), rail.high);
    let mut tried = Vec::new();
    for class in driver_parts("relay") {
        let (Some(rated), Some(rating)) = (class.figure::<Volts>("coil"), class.figure::<Amps>("current")) else {
            continue;
        };
        let coil = size::coil(&CoilNeed {
            rated: rated.typical,
            coil: gets,
            pull_in: Fraction::new(0.75),
            most: Fraction::new(1.3),
            warm,
        });
        let may = Some(size::contact_dc(rating.low, Volts::new(30.0), args.voltage, args.switches.into()));
        tried.push(RelayTried { class: class.name, coil, may, rating: rating.low });
    }
    Ok(size_relay(args.current, gets, &tried))
}

/// `size bridge`.
pub fn bridge(args: &SizeBridge) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let supply = problems.volts(&args.supply, "the supply", 0.05);
    problems.positive(supply.low, "the supply");
    problems.positive(args.running_current, "the running current");
    problems.unless(args.stall_current.get() >= args.running_current.get(), || {
        format!("the stall current, {}, is below the running current, {}", args.stall_current, args.running_current)
    });
    problems.or(|| ())?;
    let ambient = args.ambient.unwrap_or(Celsius::new(30.0));
    let mut tried = Vec::new();
    for class in driver_parts("bridge") {
        let (Some(range), Some(current)) = (class.figure::<Volts>("voltage"), class.figure::<Amps>("current")) else {
            continue;
        };
        let peak = class.figure::<Amps>("surge-current").map_or(current.low, |f| f.low);
        let zero = |q: Option<f64>| q.unwrap_or(0.0);
        let own = class.figure::<KelvinsPerWatt>("theta-ja").map(|f| f.high.get()).or_else(|| {
            let case = class.figure::<KelvinsPerWatt>("theta-jc")?;
            Some(case.high.get() + class.figure::<KelvinsPerWatt>("heatsink")?.high.get())
        });
        let need = BridgeNeed {
            supply: Range::new(supply.low, supply.high),
            drop: Volts::new(zero(class.figure::<Volts>("drop").map(|f| f.high.get()))),
            drop_ohms: Ohms::new(zero(class.figure::<Ohms>("resistance").map(|f| f.high.get()))),
            range: Range::new(range.low, range.high),
            continuous: current.low,
            peak,
            running: args.running_current,
            stall: args.stall_current,
            reverses: !args.from_rest,
            theta: args.theta_ja.or(own.map(KelvinsPerWatt::new)),
            ambient,
        };
        let limit = class.figure::<Celsius>("junction-max").map_or(Celsius::new(150.0), |f| f.low);
        tried.push(BridgeTried { class: class.name, need, state: size::bridge(&need), limit });
    }
    Ok(size_bridge(args.min_voltage, &tried))
}

/// `size driver`.
pub fn driver(args: &SizeDriver) -> Result<SizeAnswer, String> {
    if let Some(pwm) = args.pwm.filter(|f| f.get() <= 0.0) {
        return Err(format!("the frequency: {pwm} is not above zero"));
    }
    let wish = DriverRequest {
        pwm: args.pwm,
        grounded: args.grounded,
        reversible: args.reversible,
        ..DriverRequest::new(&args.load, &args.rail, &args.board)
    };
    let found = drivers(&wish).map_err(|e| e.to_string())?;
    if let Some(class) = &args.tables
        && !found.offers.iter().any(|o| o.part == *class)
    {
        return Err(match found.rejected.iter().find(|p| p.class == *class) {
            Some(p) => format!("`{class}` is not suitable: {}", p.why),
            None => format!(
                "there is no driver `{class}`; suitable ones: {}",
                found.offers.iter().map(|o| o.part.as_str()).collect::<Vec<_>>().join(", ")
            ),
        });
    }
    Ok(size_driver(&wish, &found, args.tables.as_deref()))
}
