//! `size`: single questions without a plan.

use modest_ohm::size::{self, BatteryNeed, CELLS, RegulatorNeed};
use modest_ohm::units::{Amps, Celsius, Fraction, KelvinsPerWatt, Ohms, Seconds, Volts};
use modest_ohm_report::{Offered, SizeAnswer, size_battery, size_capacitor, size_regulator, size_supply};

use crate::args::{Follows, Format, Size, SizeBattery, SizeCapacitor, SizeRegulator, SizeSupply};
use crate::commands::feeds::{self, Failed};
use crate::commands::problems::Problems;
use crate::commands::{leads, signals, stages};
use crate::output;

/// Runs `size`.
pub fn run(question: &Size) -> u8 {
    let (answer, format) = match question {
        Size::Supply(args) => (supply(args), args.format),
        Size::Regulator(args) => (regulator(args), args.format),
        Size::Battery(args) => (battery(args), args.format),
        Size::Capacitor(args) => (capacitor(args), args.format),
        Size::Wire(args) => (leads::wire(args), args.format),
        Size::Fuse(args) => (leads::fuse(args), args.format),
        Size::WireAndFuse(args) => (leads::pair(args), args.format),
        Size::FirmwareLimit(args) => (feeds::firmware_limit(args), args.format),
        Size::Frames(args) => (feeds::frames(args), args.format),
        Size::Led(args) => (signals::led(args), args.format),
        Size::Divider(args) => (signals::divider(args), args.format),
        Size::Pull(args) => (signals::pull(args), args.format),
        Size::Level(args) => (signals::level(args), args.format),
        Size::Base(args) => (stages::base(args), args.format),
        Size::Gate(args) => (stages::gate(args), args.format),
        Size::Flyback(args) => (stages::flyback(args), args.format),
        Size::Relay(args) => (stages::relay(args), args.format),
        Size::Bridge(args) => (stages::bridge(args), args.format),
        Size::Driver(args) => (stages::driver(args), args.format),
        Size::Injection(args) => match feeds::injection(args) {
            Ok(answer) => (Ok(answer), args.format),
            Err(Failed::Message(message)) => (Err(message), args.format),
            Err(Failed::Shown(code)) => return code,
        },
    };
    match answer {
        Ok(answer) => {
            output::result(&if format == Format::Json { answer.json() } else { answer.text(output::layout().width) });
            if answer.found { output::FINE } else { output::FOUND }
        }
        Err(message) => {
            output::message(&message);
            output::UNREADABLE
        }
    }
}

fn supply(args: &SizeSupply) -> Result<SizeAnswer, String> {
    let headroom = args.headroom.unwrap_or(Fraction::new(0.2));
    let mut problems = Problems::default();
    problems
        .unless((0.0..1.0).contains(&headroom.get()), || format!("the headroom is {headroom}; it must be below 100 %"));
    problems.unless(args.voltage.get() > 0.0, || format!("the rail: {} is not above zero", args.voltage));
    for amps in &args.loads {
        problems.unless(amps.get() >= 0.0, || format!("a load: {amps} is below zero"));
    }
    problems.or(|| {
        let size = size::supply(args.voltage, &args.loads, headroom);
        let offered = args.source_power.map(|watts| {
            let list = size::profiles_of_power(watts);
            let near = (args.voltage * 0.95, args.voltage * 1.05);
            let fitting =
                |marked| size::profiles(&list, near, args.voltage * size.demand, Some(size.demand), headroom, marked);
            let (fits, marked) = (fitting(args.marked_cable), fitting(true));
            Offered { with_marked_lead: marked.first().copied(), fitting: fits, listed: list }
        });
        size_supply(args.voltage, &size, headroom, offered.as_ref())
    })
}

fn regulator(args: &SizeRegulator) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let need = RegulatorNeed {
        input: problems.range(&args.input, "the input"),
        output: args.output,
        current: args.current,
        own: args.own_current.unwrap_or(Amps::new(0.005)),
        ambient: args.ambient.unwrap_or(Celsius::new(25.0)),
        dropout: args.dropout.unwrap_or(Volts::new(2.0)),
        theta: args.theta_ja.unwrap_or(KelvinsPerWatt::new(62.0)),
        limit: Celsius::new(125.0),
        efficiency: Fraction::new(0.85),
    };
    problems.unless(need.output.get() > 0.0, || format!("the output: {} is not above zero", need.output));
    problems.unless(need.current.get() >= 0.0, || format!("the current: {} is below zero", need.current));
    problems.unless(need.own.get() >= 0.0, || format!("its own current: {} is below zero", need.own));
    problems.unless(need.dropout.get() >= 0.0, || format!("the dropout: {} is below zero", need.dropout));
    problems.or(|| size_regulator(&need, &size::regulator(&need)))
}

fn battery(args: &SizeBattery) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let need = BatteryNeed {
        power: args.power,
        volts: problems.range(&args.voltage, "the voltage"),
        time: args.runtime,
        cell_ah: args.cell_charge.map(|q| q.get()),
    };
    problems.unless(need.volts.low < need.volts.high, || {
        format!(
            "the voltage: a battery's falls; write a range from the lowest to the highest voltage that works, `{} .. \
            …`",
            need.volts.low
        )
    });
    problems.unless(need.power.get() > 0.0, || format!("the power: {} is not above zero", need.power));
    problems.unless(args.cell_charge.is_none_or(|q| q.get() > 0.0), || "the charge of a cell is not above zero".into());
    let known = args.cell.as_ref().is_none_or(|cell| CELLS.contains(&cell.as_str()));
    problems.unless(known, || {
        let cell = args.cell.as_deref().unwrap_or_default();
        format!("there is no cell `{cell}`; write one of: {}", CELLS.join(", "))
    });
    problems.or(|| {
        let cells = args.cell.as_deref().map_or_else(|| CELLS.to_vec(), |cell| vec![cell]);
        let packs: Vec<_> = cells.into_iter().map(|cell| (cell.to_owned(), size::battery(cell, &need))).collect();
        size_battery(&need, &packs)
    })
}

fn capacitor(args: &SizeCapacitor) -> Result<SizeAnswer, String> {
    let delay = args.delay.unwrap_or(Seconds::new(match args.source {
        Follows::Adapter => 500e-6,
        Follows::Converter => 50e-6,
    }));
    let esr = args.esr.unwrap_or(Ohms::new(0.05));
    let mut problems = Problems::default();
    problems.unless(args.step.get() > 0.0, || format!("the step: {} is not above zero", args.step));
    problems.unless(args.dip.get() > 0.0, || format!("the dip: {} is not above zero", args.dip));
    problems.or(|| {
        let size = size::bulk_capacitor(args.step, delay, args.dip, esr);
        size_capacitor(args.step, delay, args.dip, esr, size.as_ref())
    })
}
