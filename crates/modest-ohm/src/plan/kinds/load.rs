//! `[load.x]`: anything that draws current and is not a strip or a board.

pub(crate) use super::demand::{Demand, LedDraw, States};
use super::flyback::{Flyback, read_flyback};
use super::load_demand::read_demand;
use super::load_kind::LoadKind;
pub(crate) use super::load_limits::Limits;
use super::load_limits::contradictions;
use super::signal_lines::{Signal, read_signal};
use crate::plan::wiring::driven::{Contacts, Driven};
use crate::plan::wiring::feed::{Feed, read_feed};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Farads, Henries, Seconds, Volts};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Load {
    pub name: Name,
    #[figures(flat)]
    pub feed: Feed,
    pub count: usize,
    #[figures(flat)]
    pub demand: Demand,
    /// Rated voltage; without them over- and undervoltage cannot be judged.
    #[figures(range)]
    pub voltage: Option<Figure<Volts>>,
    #[figures(range)]
    pub recommended: Option<Figure<Volts>>,
    pub minimum: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    pub knee: Option<Figure<Volts>>,
    /// True where it keeps its power by itself, so that a drop inside its range is no loss.
    pub regulated: bool,
    pub rests_off: bool,
    /// Whether its supply may be switched by PWM, where the plan or its class says.
    pub pwm_supply: Option<bool>,
    /// True for a motor with electronics of its own.
    pub brushless: bool,
    /// The capacitor that it needs beside it.
    pub local_capacitor: Option<Figure<Farads>>,
    /// Volts its selector stands at.
    pub selected: Option<Figure<Volts>>,
    /// What it is by its nature; `None` where nothing is said.
    pub nature: Option<Nature>,
    /// How it is told what to do.
    pub signal: Option<Signal>,
    /// True where it shares its pin with another on purpose.
    pub mirror: bool,
    pub kind: LoadKind,
    /// What switches it.
    pub driven: Option<Driven>,
    /// Where the current of its coil goes when it is turned off.
    pub flyback: Option<Flyback>,
    pub inductance: Option<Figure<Henries>>,
    /// True where its − is its case, so that only its + can be switched.
    pub grounded: bool,
    /// True where a check of its own judges its voltage.
    pub judged_apart: bool,
    #[figures(flat)]
    pub limits: Limits,
}

/// A coil that is on for no longer than this cools in between.
const BRIEFLY_S: f64 = 10.0;

/// What a load is by its nature.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Nature {
    Motor,
    Servo,
    Coil,
    Lamp,
    Heater,
    Electronics,
    Led,
}

impl Nature {
    pub const WORDS: [(&'static str, Nature); 6] = [
        ("motor", Nature::Motor),
        ("servo", Nature::Servo),
        ("coil", Nature::Coil),
        ("lamp", Nature::Lamp),
        ("heater", Nature::Heater),
        ("electronics", Nature::Electronics),
    ];

    pub fn word(self) -> &'static str {
        Self::WORDS.iter().find(|(_, n)| *n == self).map_or("LED", |(w, _)| w)
    }
}

impl Load {
    /// One of which nothing is known but its feed and what it draws.
    pub fn plain(name: Name, kind: LoadKind, feed: Feed, demand: Demand) -> Self {
        Self {
            name,
            feed,
            count: 1,
            demand,
            voltage: None,
            recommended: None,
            minimum: None,
            absolute: None,
            knee: None,
            regulated: false,
            rests_off: false,
            pwm_supply: None,
            brushless: false,
            local_capacitor: None,
            selected: None,
            nature: kind.nature(),
            signal: None,
            mirror: false,
            kind,
            driven: None,
            flyback: None,
            inductance: None,
            grounded: false,
            judged_apart: false,
            limits: Limits::default(),
        }
    }

    /// What switches it, and how its coil is turned off.
    pub(crate) fn read_driven(&mut self, reader: &mut Reader<'_>) {
        let contacts = reader.choice("contact", &[("no", Contacts::Open), ("nc", Contacts::Closed)]);
        let by = reader.text("driver");
        if let (None, Some(_), Some(span)) = (&by, contacts, reader.own_span("contact")) {
            let message = format!("{} has `contact` and no relay", reader.what());
            reader.problem(Problem::new(span, message, "name the relay: `driver = \"foghorn\"`"));
        }
        self.driven = by.map(|by| Driven { by, contacts: contacts.unwrap_or(Contacts::Open), at: None });
        if !self.kind.has_limits() && self.kind != LoadKind::Driver {
            return;
        }
        self.inductance = reader.figure::<Henries>("inductance", Need::Positive);
        // A relay's coil has the keys of its driver.
        if !self.kind.has_limits() {
            return;
        }
        self.flyback = read_flyback(reader);
        self.grounded = reader.flag("grounded", false);
        self.limits = Limits {
            stall: if matches!(self.demand, Demand::Current(_)) {
                reader.figure("stall", Need::Positive)
            } else {
                None
            },
            never_dry: reader
                .choice("dry-running", &[("never", true), ("allowed", false)])
                .unwrap_or(self.kind.is_ruined_dry()),
            watched_by: reader.text("stopped-by"),
            on_time: reader.figure::<Seconds>("max-on-time", Need::Positive),
            stops_first: reader.choice("reverses", &[("from-rest", true), ("at-speed", false)]).unwrap_or(false),
            brakes: reader.flag("brakes", false),
            run_down: reader.figure::<Seconds>("run-down", Need::Positive),
            start_time: reader.figure::<Seconds>("start-time", Need::Positive),
            assumed_start: None,
            bound: None,
        };
        self.brushless = reader.flag("brushless", false);
        self.local_capacitor = reader.figure("local-capacitor", Need::Positive);
        self.pwm_supply = reader.choice("pwm-supply", &[("allowed", true), ("never", false)]);
        self.assume_start(reader.flag("soft-start", false), self.brushless);
    }

    /// A motor of which no start is stated takes several times its running current as it starts: which brings about
    /// more than it runs with must not pass unseen.
    fn assume_start(&mut self, gently: bool, brushless: bool) {
        let (times, why) = match (self.nature, self.kind) {
            _ if gently => ([1.2, 1.5, 2.0], "starting current 1.5 × (1.2 .. 2): soft start"),
            (Some(Nature::Motor), _) if brushless => {
                ([1.2, 1.5, 2.5], "a brushless fan or pump starts with 1.5 × (1.2 .. 2.5, typical)")
            }
            (Some(Nature::Motor), LoadKind::Pump) => {
                ([2.0, 3.0, 5.0], "a brushed pump starts with 3 × (2 .. 5, typical)")
            }
            (Some(Nature::Motor), _) => ([4.0, 6.0, 10.0], "a brushed motor starts with 6 × (4 .. 10, typical)"),
            (Some(Nature::Servo), _) => ([3.0, 4.0, 5.0], "a stalled servo draws 4 × (3 .. 5, typical)"),
            _ => return,
        };
        let Demand::Current(states) = &mut self.demand else { return };
        if states.surge.is_none() && states.peak.high.get() > 0.0 {
            states.surge = Some(Figure { origin: Origin::Default(why), ..states.peak.scaled(times[1]) });
            self.limits.assumed_start = Some(times);
        }
    }

    /// How long it takes to start, s: stated, or typical of what it is.
    pub fn start_s(&self) -> f64 {
        if let Some(stated) = &self.limits.start_time {
            return stated.typical.get();
        }
        let runs = self.rated_a();
        match (self.nature, self.kind) {
            (Some(Nature::Servo), _) => 0.15,
            (Some(Nature::Lamp), _) => 0.03,
            (_, LoadKind::Pump) => 0.2,
            _ if runs <= 0.5 => 0.1,
            _ if runs <= 5.0 => 0.2,
            _ => 0.3,
        }
    }

    /// True for what has electronics inside that pulses would switch off and on.
    pub fn wants_steady_supply(&self) -> bool {
        self.brushless || matches!(self.nature, Some(Nature::Electronics | Nature::Servo))
    }

    /// True for what has a motor in it.
    pub fn is_motor(&self) -> bool {
        matches!(self.nature, Some(Nature::Motor | Nature::Servo))
    }

    /// True where it has a coil that drives its current on when it is turned off.
    pub fn is_winding(&self) -> bool {
        matches!(self.nature, Some(Nature::Motor | Nature::Coil))
    }

    /// Knee of a constant-current load: given, or 0.8 × its minimum voltage.
    pub fn knee_v(&self) -> f64 {
        if let Some(knee) = &self.knee {
            return knee.typical.get();
        }
        let minimum = self.minimum.as_ref().or(self.recommended.as_ref()).map(|f| f.low.get());
        0.8 * minimum.unwrap_or_else(|| self.voltage.as_ref().map_or(1.25, |v| 0.8 * v.typical.get()))
    }

    /// The recommended range; an assumption where none is given.
    pub fn recommended_range(&self) -> Option<Figure<Volts>> {
        self.recommended.clone().or_else(|| {
            let rated = self.voltage.as_ref()?;
            Some(Figure {
                low: rated.typical * 0.8,
                typical: rated.typical,
                high: rated.typical * 1.1,
                origin: Origin::Default("rated voltage − 20 % .. + 10 % if no range is given"),
                bare: false,
            })
        })
    }

    /// The absolute maximum; an assumption where none is given: 1.05 × the highest recommended voltage, or more by what
    /// it is.
    pub fn absolute_maximum(&self) -> Option<Figure<Volts>> {
        self.absolute.clone().or_else(|| {
            let (share, why) = self.withstands();
            let rated = self.voltage.as_ref().map_or(0.0, |v| v.typical.get());
            let most = (share * rated).max(1.05 * self.recommended_range()?.high.get());
            Some(Figure::exact(Volts::new(most), Origin::Default(why)))
        })
    }

    /// How many times its rated voltage it stands where nothing is stated (typical).
    fn withstands(&self) -> (f64, &'static str) {
        let briefly = self.limits.on_time.as_ref().is_some_and(|t| t.high.get() <= BRIEFLY_S);
        match self.nature {
            Some(Nature::Motor) => (1.5, "1.5 × rated voltage of a motor if no maximum is given"),
            Some(Nature::Coil) if briefly => (1.5, "1.5 × rated voltage of a coil energised for up to 10 s"),
            Some(Nature::Lamp) => (1.25, "1.25 × rated voltage of a lamp if no maximum is given"),
            _ => (1.2, "1.2 × rated voltage if no maximum is given"),
        }
    }

    /// What it takes continuously at its rated voltage, A; 0 where nothing says.
    pub fn rated_a(&self) -> f64 {
        let volts = self.voltage.as_ref().map_or(0.0, |v| v.typical.get());
        match &self.demand {
            Demand::Current(s) => s.peak.typical.get(),
            Demand::Power(s) if volts > 0.0 => s.peak.typical.get() / volts,
            Demand::Resistance(s) => volts / s.peak.typical.get().max(1e-9),
            Demand::Power(_) | Demand::Leds(_) => 0.0,
        }
    }

    /// True for what a vehicle carries without electronics of its own: lamps, horns, coils, heaters, motors.
    pub fn is_plain(&self) -> bool {
        matches!(self.nature, Some(Nature::Motor | Nature::Coil | Nature::Lamp | Nature::Heater))
    }

    /// Names of the members: `span`, or `span.1`, `span.2` ….
    pub fn member(&self, index: usize) -> String {
        if self.count == 1 { self.name.text.clone() } else { format!("{}.{}", self.name.text, index + 1) }
    }
}

pub(crate) fn read_load(reader: &mut Reader<'_>, name: Name) -> Load {
    read_of_kind(reader, name, LoadKind::Load)
}

/// `[motor.x]`: a brushed motor.
pub(crate) fn read_motor(reader: &mut Reader<'_>, name: Name) -> Load {
    read_of_kind(reader, name, LoadKind::Motor)
}

/// `[pump.x]`: a motor that pumps.
pub(crate) fn read_pump(reader: &mut Reader<'_>, name: Name) -> Load {
    read_of_kind(reader, name, LoadKind::Pump)
}

/// `[servo.x]`: a motor with its own electronics, told by pulses where to go.
pub(crate) fn read_servo(reader: &mut Reader<'_>, name: Name) -> Load {
    read_of_kind(reader, name, LoadKind::Servo)
}

/// `[solenoid.x]`: a coil that pulls: a valve, a lock.
pub(crate) fn read_solenoid(reader: &mut Reader<'_>, name: Name) -> Load {
    read_of_kind(reader, name, LoadKind::Solenoid)
}

/// Reads what all kinds of loads have in common.
pub(crate) fn read_of_kind(reader: &mut Reader<'_>, name: Name, kind: LoadKind) -> Load {
    let feed = read_feed(reader).taking_pins();
    let count = if reader.has("count") { reader.whole("count", 1..=1000) } else { None }.unwrap_or(1);
    let demand = read_demand(reader);
    let voltage = reader.figure::<Volts>("voltage", Need::Positive);
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let minimum = reader.figure::<Volts>("minimum", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let knee = reader.figure::<Volts>("knee", Need::Positive);
    let nature = reader.choice("kind", &Nature::WORDS).or(kind.nature());
    // A heater or a lamp keeps no power: its power is meant at its rated voltage.
    let demand = match (demand, nature, &voltage) {
        (Demand::Power(states), Some(Nature::Heater | Nature::Lamp), Some(rated)) => {
            Demand::Resistance(states.at_rated(rated.typical))
        }
        (demand, ..) => demand,
    };
    let watts = matches!(demand, Demand::Power(_));
    let regulated = reader.flag("regulated", watts);
    let rests_off = reader.choice("at-power-on", &[("off", true), ("on", false)]).unwrap_or(false);
    let selected = reader.figure::<Volts>("selected", Need::Positive);
    let signal = read_signal(reader, count);
    let mirror = reader.flag("mirror", false);
    let mut load = Load {
        count,
        voltage,
        recommended,
        minimum,
        absolute,
        knee,
        regulated,
        rests_off,
        selected,
        nature,
        signal,
        mirror,
        ..Load::plain(name, kind, feed, demand)
    };
    load.read_driven(reader);
    contradictions(reader, &load);
    load
}
