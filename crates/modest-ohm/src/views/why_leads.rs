//! Where the limit of a cable comes from, and what protects it.

use super::why::Trace;
use crate::derived::protection::judge::{Guard, Protection, Reason};
use crate::derived::protection::paths::Limit;
use crate::network::layout::ConductorInfo;
use crate::plan::wiring::cable::Cable;
use crate::quantity::units::{Amps, Celsius, Fraction};
use crate::review::Review;
use crate::tables::wire::{Material, WireSize};
use crate::topology::conductors::{cable_of, contacts_of, fuse_of, return_cable_of};
use crate::topology::ratings::lead_limit;
use crate::topology::run::Run;

impl Review {
    /// What a cable may carry, where that is asked for, and what can flow through it continuously.
    pub(crate) fn lead_traces(&self, info: &ConductorInfo, with_limit: bool) -> Vec<Trace> {
        let context = self.context();
        let mut traces = Vec::new();
        let air = context.air_c(info.run);
        if let (Some(limit), true) = (lead_limit(&self.plan, info.run, air).0, with_limit) {
            let because = "the smallest of fuse × load factor, wire and contact ratings";
            let from = self.limits_of(info.run, air);
            traces.push(Trace::computed(format!("rating of the cable to {}", info.name), limit, because, from));
        }
        if let Some(p) = context.protections().iter().find(|p| p.run == info.run && p.reason != Reason::Unknown) {
            traces.push(self.protection_trace(info, p));
        }
        traces
    }

    /// Fuse, wire and contacts of a cable, each with what it carries continuously.
    pub(crate) fn limits_of(&self, run: Run, air_c: f64) -> Vec<Trace> {
        let mut from = Vec::new();
        if let Some(fuse) = fuse_of(&self.plan, run) {
            let (because, line) = self.origin_words(&fuse.rating.origin);
            let share = Fraction::new(fuse.family.load_factor() * fuse.family.warm_share(air_c));
            let value = Amps::new(fuse.continuous_a(air_c)).to_string();
            let because = format!("{} × {share} continuous; {because}", fuse.rating.low);
            from.push(Trace { what: "fuse".into(), value, because, line, from: Vec::new() });
        }
        let cables = [("wire", cable_of(&self.plan, run)), ("return wire", self.own_return(run))];
        from.extend(cables.into_iter().filter_map(|(what, cable)| self.wire_trace(what, cable?, air_c)));
        for contact in contacts_of(&self.plan, run) {
            let (Some(rating), Some(amps)) = (&contact.rating, contact.rating_a()) else { continue };
            let (because, line) = self.origin_words(&rating.origin);
            let many =
                if contact.parallel > 1 { format!("{} × {}; ", contact.parallel, rating.low) } else { String::new() };
            let (what, value) = (format!("contact, {}", contact.name), Amps::new(amps).to_string());
            from.push(Trace { what, value, because: format!("{many}{because}"), line, from: Vec::new() });
        }
        from
    }

    /// The cable of a return that goes elsewhere.
    fn own_return(&self, run: Run) -> Option<&Cable> {
        let own = cable_of(&self.plan, run);
        return_cable_of(&self.plan, run).filter(|back| own.is_none_or(|own| !std::ptr::eq(own, *back)))
    }

    /// The ampacity of a wire: the table's, times what its air, its bundle, its metal and its number make of it.
    fn wire_trace(&self, what: &str, cable: &Cable, air_c: f64) -> Option<Trace> {
        let amps = Amps::new(cable.ampacity(air_c)?);
        let line = Some(self.plan.source.place(cable.span.start).line);
        if cable.stated_ampacity().is_some() {
            let because = "its stated ampacity".to_owned();
            return Some(Trace { what: what.into(), value: amps.to_string(), because, line, from: Vec::new() });
        }
        let size = cable.size?;
        let mut factors = vec![format!("{} in free air at 30 °C", size.name())];
        let insulation = cable.insulation_c();
        if air_c > 30.0 || cable.insulation.is_some() {
            factors.push(format!("at {} with insulation rated {}", Celsius::new(air_c), Celsius::new(insulation)));
        }
        if cable.pairs > 1 {
            factors.push(format!("among {} loaded pairs", cable.pairs));
        }
        if let Some(cores) = cable.loaded_cores.filter(|cores| *cores > 3) {
            factors.push(format!("{cores} loaded cores in one sheath"));
        }
        if cable.apart {
            factors.push("single conductors laid apart".into());
        }
        if cable.parallel > 1 {
            factors.push(format!("{} in parallel", cable.parallel));
        }
        if cable.material == Material::CopperClad {
            factors.push("copper-clad aluminium".into());
        }
        let because = format!("{}: {}", table_of(size), factors.join(", "));
        Some(Trace { what: what.into(), value: amps.to_string(), because, line, from: Vec::new() })
    }

    fn protection_trace(&self, info: &ConductorInfo, p: &Protection) -> Trace {
        let mut from: Vec<Trace> = Vec::new();
        for (source, limit, most_a) in &p.sources {
            let source = &self.plan.nodes[source.0].name;
            let (value, because) = match limit {
                Limit::Between(lo, hi) => {
                    (format!("{} .. {}", Amps::new(*lo), Amps::new(*hi)), "its current limit".to_owned())
                }
                Limit::None => (Amps::new(*most_a).to_string(), "only resistance limits it".to_owned()),
                Limit::Unknown => ("unknown".to_owned(), "neither `current` nor `limit` is given".to_owned()),
            };
            from.push(Trace::computed(format!("short-circuit current of {source}"), value, because, Vec::new()));
        }
        if let (Guard::Fuse(run), Some(fuse)) = (&p.guard, &p.fuse) {
            let at = self.layout.conductors.iter().find(|c| c.run == *run).map_or("", |c| c.name.as_str());
            let opens = format!("{} × {}", fuse.rating.high, Fraction::new(fuse.blows_from()));
            from.push(Trace::computed(
                format!("the fuse of {at} blows from"),
                Amps::new(fuse.opens_a()),
                opens,
                Vec::new(),
            ));
        }
        from.push(Trace::computed(
            "guaranteed at its far end",
            Amps::new(p.least_a),
            "into a short circuit",
            Vec::new(),
        ));
        let verdict = match (p.reason, p.factory, p.outlasts_short) {
            (Reason::Protected, ..) => "it is protected",
            (_, true, _) => "a factory cable",
            (_, _, true) => "a short circuit is cleared before it overheats",
            (Reason::CannotAct, ..) => "the fuse may not blow",
            (Reason::TooLarge, ..) => "the fuse is larger than its wire allows",
            _ => "no fuse protects it",
        };
        let because = format!("its wire is rated {}: {verdict}", Amps::new(p.wire.ampacity_a));
        Trace::computed(format!("continuous current in the cable to {}", info.name), Amps::new(p.long_a), because, from)
    }
}

/// Where the ampacity of a size comes from.
fn table_of(size: WireSize) -> &'static str {
    if size.area_mm2() > 0.5 { "after VDE 0298-4" } else { "typical of thin flexible wire" }
}
