//! Batteries: cells in series and parallel, their holder, how far down they are used.

use super::supply::{Supply, SupplyKind, bare, finish};
use crate::plan::wiring::name::{Name, read_share};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{AmpHours, Amps, Celsius, Fraction, Ohms, Seconds, Volts};
use crate::source::Span;
use crate::tables::cell::{COLDEST_C, Cell, CellCurrent, CellFigures, HOLDER_18650_OHMS, HOLDER_OHMS, Spread};
use crate::text::Named;
use crate::text::order::at_most;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// What a battery is made of.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Battery {
    /// `None` for a battery stated by its voltage: its discharge is then not known.
    pub cell: Option<Cell>,
    pub series: usize,
    pub parallel: usize,
    /// Springs of a holder, or links from cell to cell, a cell.
    pub holder: Figure<Ohms>,
    /// What the springs of its holder carry, where it lies in one.
    #[figures(key = "holder-current")]
    pub springs: Option<Figure<Amps>>,
    /// Leads and protection board, of the pack.
    #[figures(key = "protection.resistance")]
    pub pack_ohms: Figure<Ohms>,
    /// The resistance of its cells against that at 25 °C, in the warmest, usual and coldest air.
    pub cold: [f64; 3],
    /// The board that disconnects it.
    #[figures(flat)]
    pub protection: Option<Protection>,
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

/// A board that disconnects a pack beyond a current.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Protection {
    pub span: Span,
    /// Above it, for longer than the delay, it opens.
    #[figures(key = "protection.current")]
    pub current: Figure<Amps>,
    #[figures(key = "protection.delay")]
    pub delay: Figure<Seconds>,
}

impl Battery {
    /// Its cell, of the size that the pack's capacity makes it.
    pub fn figures(&self) -> Option<CellFigures> {
        Some(self.cell?.figures_of(self.cell_ah()))
    }

    /// Ah of one cell as the label says.
    fn cell_ah(&self) -> Option<f64> {
        self.capacity.as_ref().map(|c| c.typical.get() / self.parallel as f64)
    }

    /// Resistance of the pack at a charge from 0 to 1, Ω.
    fn ohms_at(&self, charge: f64, spread: Spread) -> Option<f64> {
        let of = |f: &Figure<Ohms>| spread.of([f.low, f.typical, f.high]).get();
        let cold = spread.of(self.cold);
        let cell = cold * self.figures()?.ohms(charge, self.cell_ah(), spread) + of(&self.holder);
        Some(cell * self.series as f64 / self.parallel as f64 + of(&self.pack_ohms))
    }

    /// EMF and resistance of the pack at a charge from 0 to 1; `None` where the cell is not known.
    pub fn at_charge(&self, charge: f64) -> Option<(Volts, Ohms)> {
        let emf = self.series as f64 * self.figures()?.emf_v(charge);
        Some((Volts::new(emf), Ohms::new(self.ohms_at(charge, Spread::Typical)?)))
    }

    /// True where the air gets colder than the figures of its class go.
    pub fn is_below_its_figures(&self, air_c: f64) -> bool {
        self.cell.is_some() && air_c < COLDEST_C - 1e-9
    }

    /// The resistance that its cells usually have half full; `None` where no capacity says how large they are.
    pub fn usual_ohms(&self) -> Option<Ohms> {
        self.capacity.as_ref()?;
        Some(Ohms::new(self.ohms_at(0.5, Spread::Typical)?))
    }

    /// EMF and resistance of the full pack in a short circuit: the resistance of its first milliseconds.
    pub fn in_short(&self) -> Option<(f64, f64)> {
        let figures = self.figures()?;
        let emf = self.series as f64 * figures.emf_v(1.0);
        // The warmest: that is the largest current.
        let [warmest, usual, _] = self.cold;
        let cells = figures.ohms(0.5, self.cell_ah(), Spread::Typical) * self.series as f64 / self.parallel as f64;
        let ohms = self.ohms_at(0.5, Spread::Typical)? - (usual - warmest) * cells;
        Some((emf, figures.short_share() * ohms))
    }

    /// Ah of the pack at a mean current of the pack: as its label says, else by the cell's class.
    pub fn charge_ah(&self, amps: f64) -> Option<f64> {
        let p = self.parallel as f64;
        match self.figures() {
            Some(figures) => figures.charge_ah(self.cell_ah(), amps / p).map(|ah| ah * p),
            None => self.capacity.as_ref().map(|c| c.typical.get()),
        }
    }

    /// What its cells give before they are damaged, A; `None` where no capacity says how large they are.
    pub fn damaging_a(&self) -> Option<f64> {
        Some(self.of_cells(self.figures()?.current.1)?.get())
    }

    fn of_cells(&self, current: CellCurrent) -> Option<Amps> {
        let label = self.capacity.as_ref().map(|c| c.low.get());
        Some(Amps::new(match current {
            CellCurrent::Amps(a) => a * self.parallel as f64,
            CellCurrent::TimesCharge(times) => {
                times * label.or_else(|| Some(self.figures()?.label_ah()? * self.parallel as f64))?
            }
        }))
    }
}

pub(crate) fn read_battery(reader: &mut Reader<'_>, name: Name) -> Supply {
    let cell = reader.choice("cell", &Cell::NAMES);
    let mut count = |key| if reader.has(key) { reader.whole(key, 1..=1000) } else { None }.unwrap_or(1);
    let (series, parallel) = (count("series"), count("parallel"));
    let capacity = reader.figure::<AmpHours>("capacity", Need::Positive);
    let cell_ah = capacity.as_ref().map(|c| c.typical.get() / parallel as f64);
    let stated_holder = reader.figure::<Ohms>("holder", Need::NotNegative);
    let mounted = reader.choice("mounted", &[("holder", true), ("welded", false)]);
    let springs = read_springs(reader, cell, cell_ah, (series, parallel), mounted);
    let holder = stated_holder.unwrap_or_else(|| links(cell, cell_ah, (series, parallel), mounted));
    let until = read_share(reader, "reserve").unwrap_or_else(|| {
        Figure::exact(Fraction::new(0.25), Origin::Default("the reserve is a quarter of the charge"))
    });
    let on_charger = reader.flag("charger", false);
    let cut_off = reader.figure::<Volts>("cut-off", Need::Positive);
    let runtime = reader.figure::<Seconds>("runtime", Need::Positive);
    let runtime_in = reader.text("runtime-in");
    let stated_v = reader.figure::<Volts>("voltage", Need::Positive);
    let stated_r = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let stated_a = reader.figure::<Amps>("current", Need::Positive);
    if !reader.has("cell") {
        without_cell(reader, stated_v.is_some());
    }
    let usual = cell.map_or([0.0; 3], |c| c.figures_of(cell_ah).pack_ohms);
    let board = read_protection(reader);
    let pack_ohms = board.ohms.unwrap_or_else(|| spread(usual, "cables and protection board of the pack (typical)"));
    let cut_off = cut_off.or(board.cut_off);
    let highest = cell.map(|c| Volts::new(c.figures_of(cell_ah).highest_v(on_charger) * series as f64));
    at_most(
        reader,
        ("cut-off", cut_off.as_ref().map(|v| v.low)),
        ("series", highest),
        "the pack never reaches that voltage",
    );
    let battery = Battery {
        cell,
        series,
        parallel,
        holder,
        springs,
        pack_ohms,
        cold: [1.0; 3],
        protection: board.protection,
        capacity,
        until,
        cut_off,
        runtime,
        runtime_in,
    };
    let voltage = stated_v.or_else(|| volts(&battery, on_charger)).unwrap_or_else(Figure::stand_in);
    let resistance = stated_r.or_else(|| ohms(&battery)).unwrap_or_else(|| {
        Figure::exact(Ohms::new(0.0), Origin::Default("a battery without a stated resistance is taken as ideal"))
    });
    let current = stated_a.or_else(|| amps(&battery));
    finish(reader, Supply { battery: Some(battery), ..bare(name, SupplyKind::Battery, voltage, resistance, current) })
}

/// A pack without `cell` needs its voltage, and has no use for the keys that describe cells.
fn without_cell(reader: &mut Reader<'_>, has_voltage: bool) {
    if !has_voltage {
        let cells: Vec<&str> = Cell::NAMES.iter().map(|(n, _)| *n).collect();
        reader.missing("cell", &format!("write one of: {}; or the pack's `voltage`", cells.join(", ")));
    }
    for key in ["series", "parallel", "holder", "holder-current", "mounted", "reserve", "charger"] {
        if let (true, Some(span)) = (reader.has(key), reader.own_span(key)) {
            reader.problem(Problem::new(
                span,
                format!("`{key}` of {} needs a `cell`", reader.what()),
                "name the cell, or describe the pack by `voltage` and `resistance` alone",
            ));
        }
    }
}

/// The resistance of a pack's cells in the air of the plan; a stated resistance stands as it is.
pub(crate) fn chill(supply: &mut Supply, ambient: &Figure<Celsius>) {
    let Some(battery) = supply.battery.as_mut() else { return };
    let Some(cell) = battery.cell else { return };
    battery.cold = [ambient.high, ambient.typical, ambient.low].map(|air| cell.cold_factor(air.get()));
    if supply.resistance.origin.is_assumed() {
        supply.resistance = ohms(battery).unwrap_or_else(|| supply.resistance.clone());
    }
}

/// *low* where it has to work down to, *typical* half full, *high* and *hot* full, or on its charger.
fn volts(b: &Battery, on_charger: bool) -> Option<Figure<Volts>> {
    let cell = b.figures()?;
    let emf = |charge| b.at_charge(charge).map(|(v, _)| v);
    Some(Figure {
        low: emf(b.until.typical.get())?,
        typical: emf(0.5f64.max(b.until.typical.get()))?,
        high: Volts::new(cell.highest_v(on_charger) * b.series as f64),
        origin: Origin::Default("open-circuit voltage of the cell by charge: full, half, reserve (typical)"),
        bare: false,
    })
}

fn ohms(b: &Battery) -> Option<Figure<Ohms>> {
    let until = b.until.typical.get();
    Some(Figure {
        low: Ohms::new(b.ohms_at(1.0, Spread::Least)?),
        typical: Ohms::new(b.ohms_at(0.5f64.max(until), Spread::Typical)?),
        high: Ohms::new(b.ohms_at(until, Spread::Most)?),
        origin: Origin::Default("resistance of the cells by size and charge, connections included (typical)"),
        bare: false,
    })
}

fn amps(b: &Battery) -> Option<Figure<Amps>> {
    let amps = b.of_cells(b.figures()?.current.0)?;
    Some(Figure::exact(amps, Origin::Default("continuous current of this cell type (typical)")))
}

fn spread(ohms: [f64; 3], why: &'static str) -> Figure<Ohms> {
    let [low, typical, high] = ohms.map(Ohms::new);
    Figure { low, typical, high, origin: Origin::Default(why), bare: false }
}

/// Above this a round cell is welded or bolted into a pack, Ah.
const HOLDER_UP_TO_AH: f64 = 5.0;

/// What joins the cells: springs where round cells usually lie in a holder, else links.
fn links(
    cell: Option<Cell>,
    cell_ah: Option<f64>,
    (series, parallel): (usize, usize),
    in_holder: Option<bool>,
) -> Figure<Ohms> {
    let Some(cell) = cell else { return spread([0.0; 3], "a pack described by its voltage") };
    let figures = cell.figures_of(cell_ah);
    let usually = is_single_round(cell, cell_ah, (series, parallel));
    let round = matches!(cell, Cell::LiIon18650 | Cell::LiIonPower | Cell::LiIon21700);
    let springs = if round { HOLDER_18650_OHMS } else { HOLDER_OHMS };
    match in_holder {
        Some(true) => spread(springs, "springs of a holder, per cell (typical)"),
        Some(false) if figures.links == HOLDER_OHMS => {
            spread([0.001, 0.002, 0.004], "links from cell to cell (typical)")
        }
        None if usually => spread(springs, "springs of a holder, per cell (typical)"),
        _ => spread(figures.links, "connections between the cells, per cell (typical)"),
    }
}

/// True for a single round lithium cell, which usually lies in a holder.
fn is_single_round(cell: Cell, cell_ah: Option<f64>, (series, parallel): (usize, usize)) -> bool {
    let round = matches!(cell, Cell::LiIon18650 | Cell::LiIonPower);
    round && series == 1 && parallel <= 2 && cell_ah.is_none_or(|ah| ah <= HOLDER_UP_TO_AH)
}

/// What the springs of a holder carry: those of AA cells 2 A, of an 18650 3 A as wire and 5 A as leaves (typical).
fn read_springs(
    reader: &mut Reader<'_>,
    cell: Option<Cell>,
    cell_ah: Option<f64>,
    count: (usize, usize),
    mounted: Option<bool>,
) -> Option<Figure<Amps>> {
    let stated = reader.figure::<Amps>("holder-current", Need::Positive);
    let (cell, figures) = (cell?, cell?.figures_of(cell_ah));
    let round = matches!(cell, Cell::LiIon18650 | Cell::LiIonPower | Cell::LiIon21700);
    let in_springs = mounted.unwrap_or(figures.links == HOLDER_OHMS || is_single_round(cell, cell_ah, count));
    let (low, high, why) = match cell {
        _ if round => {
            (3.0, 5.0, "the contacts of a holder for round cells are rated 3 A as springs, 5 A as leaves (typical)")
        }
        Cell::AlkalineAa | Cell::NimhAa => (2.0, 2.0, "the springs of a holder for AA cells are rated 2 A (typical)"),
        _ => return stated,
    };
    let usual = Figure {
        low: Amps::new(low),
        typical: Amps::new(low),
        high: Amps::new(high),
        origin: Origin::Default(why),
        bare: false,
    };
    stated.or(in_springs.then_some(usual))
}

/// What `protection` says: the board, its resistance, and where it cuts off.
#[derive(Default, Figures)]
struct CellBoard {
    protection: Option<Protection>,
    ohms: Option<Figure<Ohms>>,
    cut_off: Option<Figure<Volts>>,
}

/// `protection = { current = "12 A", delay = "10 ms", cut-off = "9 V", resistance = "12 mΩ" }`.
fn read_protection(reader: &mut Reader<'_>) -> CellBoard {
    let span = reader.own_span("protection").unwrap_or(reader.span);
    let Some(mut inner) = reader.child("protection") else { return CellBoard::default() };
    let current = inner.required::<Amps>("current", Need::Positive);
    let delay = inner.figure::<Seconds>("delay", Need::Positive).unwrap_or_else(|| {
        Figure::exact(Seconds::new(0.01), Origin::Default("a protection board trips within 10 ms (typical)"))
    });
    let ohms = inner.figure::<Ohms>("resistance", Need::NotNegative);
    let cut_off = inner.figure::<Volts>("cut-off", Need::Positive);
    inner.finish();
    CellBoard { protection: Some(Protection { span, current, delay }), ohms, cut_off }
}
