//! Batteries: cells in series and parallel, their holder, how far down they are used.

use super::supply::{Supply, SupplyKind, bare, finish};
use crate::plan::wiring::name::{Name, read_share};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{AmpHours, Amps, Fraction, Ohms, Seconds, Volts};
use crate::tables::cell::{Cell, CellCurrent, CellFigures, HOLDER_OHMS};
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// What a battery is made of.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Battery {
    /// `None` for a battery stated by its volts: its discharge is then not known.
    pub cell: Option<Cell>,
    pub series: usize,
    pub parallel: usize,
    /// Springs and leads, a cell.
    pub holder: Figure<Ohms>,
    /// Of the pack, as its label says.
    pub capacity: Option<Figure<AmpHours>>,
    /// How far down it has to work: the corner *low* stands there.
    pub until: Figure<Fraction>,
    /// What switches it off before it is ruined.
    pub cut_off: Option<Figure<Volts>>,
    /// The time it should last, and the scenario in which it should.
    pub runtime: Option<Figure<Seconds>>,
    pub runtime_in: Option<Named>,
}

impl Battery {
    /// EMF and resistance of the pack at a charge from 0 to 1; `None` where the cell is not known.
    pub fn at_charge(&self, charge: f64) -> Option<(Volts, Ohms)> {
        let figures = self.cell?.figures();
        let ohms = figures.ohms(charge) + self.holder.typical.get();
        let (s, p) = (self.series as f64, self.parallel as f64);
        Some((Volts::new(s * figures.emf_v(charge)), Ohms::new(ohms * s / p)))
    }

    /// Ah of the pack at a mean current of the pack: as its label says, else by the cell's class.
    pub fn charge_ah(&self, amps: f64) -> Option<f64> {
        let p = self.parallel as f64;
        let figures = self.cell.map(Cell::figures);
        match &self.capacity {
            // A label counts at a small current; it falls with the current as the class's charge does.
            Some(label) => Some(label.typical.get() * figures.map_or(1.0, |f| f.charge_share(amps / p))),
            None => figures?.charge_ah(amps / p).map(|ah| ah * p),
        }
    }
}

pub(crate) fn read_battery(reader: &mut Reader<'_>, name: Name) -> Supply {
    let cell = reader.choice("cell", &Cell::NAMES);
    let mut count = |key| if reader.has(key) { reader.whole(key, 1..=1000) } else { None }.unwrap_or(1);
    let (series, parallel) = (count("series"), count("parallel"));
    let holder = reader.figure::<Ohms>("holder", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Ohms::new(HOLDER_OHMS[0]),
        typical: Ohms::new(HOLDER_OHMS[1]),
        high: Ohms::new(HOLDER_OHMS[2]),
        origin: Origin::Default("holder springs and leads have 30 mΩ .. 100 mΩ a cell (typical)"),
        bare: false,
    });
    let capacity = reader.figure::<AmpHours>("capacity", Need::Positive);
    let until = read_share(reader, "until").unwrap_or_else(|| {
        Figure::exact(Fraction::new(0.25), Origin::Default("a battery has to work down to a quarter of its charge"))
    });
    let on_charger = reader.flag("charger", false);
    let cut_off = reader.figure::<Volts>("cut-off", Need::Positive);
    let runtime = reader.figure::<Seconds>("runtime", Need::Positive);
    let runtime_in = reader.text("runtime-in");
    let stated_v = reader.figure::<Volts>("voltage", Need::Positive);
    let stated_r = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let stated_a = reader.figure::<Amps>("current", Need::Positive);
    if cell.is_none() && stated_v.is_none() && !reader.has("cell") {
        let cells: Vec<&str> = Cell::NAMES.iter().map(|(n, _)| *n).collect();
        reader.missing("cell", &format!("write one of: {}; or the pack's `voltage`", cells.join(", ")));
    }
    for key in ["series", "parallel", "holder", "until", "charger"] {
        if let (None, true, Some(span)) = (cell, reader.has(key), reader.own_span(key)) {
            reader.problem(Problem::new(
                span,
                format!("`{key}` of {} goes with a `cell`, which is not given", reader.what()),
                "name the cell, or state the pack by `voltage` and `resistance` alone",
            ));
        }
    }
    let battery = Battery { cell, series, parallel, holder, capacity, until, cut_off, runtime, runtime_in };
    let figures = cell.map(Cell::figures);
    let voltage = stated_v.or_else(|| volts(&battery, &figures?, on_charger)).unwrap_or_else(Figure::stand_in);
    let resistance = stated_r.or_else(|| ohms(&battery, &figures?)).unwrap_or_else(|| {
        Figure::exact(Ohms::new(0.0), Origin::Default("a battery whose resistance is not given is taken as stiff"))
    });
    let current = stated_a.or_else(|| amps(&battery, &figures?));
    finish(reader, Supply { battery: Some(battery), ..bare(name, SupplyKind::Battery, voltage, resistance, current) })
}

/// *low* where it has to work down to, *typical* half full, *high* and *hot* full, or on its charger.
fn volts(b: &Battery, cell: &CellFigures, on_charger: bool) -> Option<Figure<Volts>> {
    let emf = |charge| b.at_charge(charge).map(|(v, _)| v);
    Some(Figure {
        low: emf(b.until.typical.get())?,
        typical: emf(0.5f64.max(b.until.typical.get()))?,
        high: Volts::new(cell.highest_v(on_charger) * b.series as f64),
        origin: Origin::Default("EMF of the cell by its charge: full, half, and as far down as it is used (typical)"),
        bare: false,
    })
}

fn ohms(b: &Battery, cell: &CellFigures) -> Option<Figure<Ohms>> {
    let of =
        |charge: f64, holder: Ohms| Ohms::new((cell.ohms(charge) + holder.get()) * b.series as f64 / b.parallel as f64);
    let until = b.until.typical.get();
    Some(Figure {
        low: of(1.0, b.holder.low),
        typical: of(0.5f64.max(until), b.holder.typical),
        high: of(until, b.holder.high),
        origin: Origin::Default("resistance of the cells by their charge and of their holder (typical)"),
        bare: false,
    })
}

fn amps(b: &Battery, cell: &CellFigures) -> Option<Figure<Amps>> {
    let amps = match cell.current {
        CellCurrent::Amps(a) => a * b.parallel as f64,
        CellCurrent::TimesCharge(times) => {
            let label = b.capacity.as_ref().map(|c| c.low.get());
            times * label.or_else(|| Some(cell.label_ah()? * b.parallel as f64))?
        }
    };
    Some(Figure::exact(Amps::new(amps), Origin::Default("what a cell of this class gives continuously (typical)")))
}
