//! `size`: single questions without a plan.

use modest_ohm::size::{self, BatteryNeed, CELLS, RegulatorNeed};
use modest_ohm::{Celsius, Figure, Fraction, KelvinsPerWatt, Ohms, Seconds, Volts, parse_figure};
use modest_ohm_report::{Offered, SizeAnswer, size_battery, size_capacitor, size_regulator, size_supply};

use crate::args::{Follows, Format, Size, SizeBattery, SizeCapacitor, SizeRegulator, SizeSupply};
use crate::output;

/// Runs `size`.
pub fn run(question: &Size) -> u8 {
    let (answer, format) = match question {
        Size::Supply(args) => (supply(args), args.format),
        Size::Regulator(args) => (regulator(args), args.format),
        Size::Battery(args) => (battery(args), args.format),
        Size::Capacitor(args) => (capacitor(args), args.format),
    };
    match answer {
        Ok(answer) => {
            output::result(&if format == Format::Json { answer.json() } else { answer.text() });
            if answer.found { output::FINE } else { output::FOUND }
        }
        Err(message) => {
            output::message(&message);
            output::UNREADABLE
        }
    }
}

/// A share below the whole.
fn share(value: Option<Fraction>) -> Result<Fraction, String> {
    let share = value.unwrap_or(Fraction::new(0.2));
    if share.get() < 0.0 || share.get() >= 1.0 {
        return Err(format!("the headroom is {share}; it has to be below 100 %"));
    }
    Ok(share)
}

/// Volts as a range, above zero.
fn range(text: &str, what: &str) -> Result<(Volts, Volts), String> {
    let figure: Figure<Volts> = parse_figure(text).map_err(|p| format!("{what}: {} ({})", p.message, p.help))?;
    if figure.low.get() <= 0.0 {
        return Err(format!("{what} is {}; it has to be above zero", figure.low));
    }
    Ok((figure.low, figure.high))
}

fn supply(args: &SizeSupply) -> Result<SizeAnswer, String> {
    let headroom = share(args.headroom)?;
    if args.volts.get() <= 0.0 || args.loads.iter().any(|a| a.get() < 0.0) {
        return Err("volts have to be above zero, currents zero or more".into());
    }
    let size = size::supply(args.volts, &args.loads, headroom);
    let offered = args.offers.map(|watts| {
        let list = size::profiles_of_power(watts);
        let near = (args.volts * 0.95, args.volts * 1.05);
        let fitting =
            |marked| size::profiles(&list, near, args.volts * size.wanted, Some(size.wanted), headroom, marked);
        let (fits, marked) = (fitting(args.marked_cable), fitting(true));
        Offered { with_marked_lead: marked.first().copied(), fitting: fits, listed: list }
    });
    Ok(size_supply(args.volts, &size, headroom, offered.as_ref()))
}

fn regulator(args: &SizeRegulator) -> Result<SizeAnswer, String> {
    let need = RegulatorNeed {
        input: range(&args.input, "the input")?,
        output: args.output,
        current: args.current,
        ambient: args.ambient.unwrap_or(Celsius::new(25.0)),
        dropout: args.dropout.unwrap_or(Volts::new(2.0)),
        theta: args.theta.unwrap_or(KelvinsPerWatt::new(62.0)),
        limit: Celsius::new(125.0),
        efficiency: Fraction::new(0.85),
    };
    if need.output.get() <= 0.0 || need.current.get() < 0.0 {
        return Err("the output has to be above zero, the current zero or more".into());
    }
    Ok(size_regulator(&need, &size::regulator(&need)))
}

fn battery(args: &SizeBattery) -> Result<SizeAnswer, String> {
    let volts = range(&args.volts, "the volts")?;
    if volts.0 >= volts.1 {
        return Err(format!(
            "a battery's volts fall: write a range, from the least that works to the most, `{} .. …`",
            volts.0
        ));
    }
    let need = BatteryNeed { power: args.power, volts, time: args.lasts, cell_ah: args.cell_charge.map(|q| q.get()) };
    if need.power.get() <= 0.0 || args.cell_charge.is_some_and(|q| q.get() <= 0.0) {
        return Err("power and charge have to be above zero".into());
    }
    let cells: Vec<&str> = match &args.cell {
        Some(cell) if CELLS.contains(&cell.as_str()) => vec![cell],
        Some(cell) => return Err(format!("there is no cell `{cell}`; write one of: {}", CELLS.join(", "))),
        None => CELLS.to_vec(),
    };
    let packs: Vec<_> = cells.into_iter().map(|cell| (cell.to_owned(), size::battery(cell, &need))).collect();
    Ok(size_battery(&need, &packs))
}

fn capacitor(args: &SizeCapacitor) -> Result<SizeAnswer, String> {
    let delay = args.delay.unwrap_or(Seconds::new(match args.source {
        Follows::Adapter => 500e-6,
        Follows::Converter => 50e-6,
    }));
    let esr = args.esr.unwrap_or(Ohms::new(0.05));
    if args.step.get() <= 0.0 || args.dip.get() <= 0.0 {
        return Err("step and dip have to be above zero".into());
    }
    let size = size::bulk_capacitor(args.step, delay, args.dip, esr);
    Ok(size_capacitor(args.step, delay, args.dip, esr, size.as_ref()))
}
