//! thermal-legs-open and legs-mixed: how a package is wired.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;

pub(crate) fn thermal(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some(wired) = driver.thermal_legs else { continue };
        if wired {
            sink.pass(&driver.name.text, "its legs for heat are wired".into());
            continue;
        }
        sink.find(
            Draft::caution(&driver.name)
                .says(format!(
                    "the legs of the {} that carry its heat and its − are left open: it gets warmer, and \
                     its current has fewer ways",
                    driver.words()
                ))
                .cure("wire all of them to −, on copper as wide as it goes"),
        );
    }
}

pub(crate) fn mixed(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some((wired, legs)) = &driver.legs else { continue };
        let order = |text: &str| {
            text.split([' ', ',', '-']).filter(|w| !w.is_empty()).map(str::to_lowercase).collect::<Vec<_>>()
        };
        if order(&wired.text) == order(legs) {
            sink.pass(&driver.name.text, format!("its legs are {legs}"));
            continue;
        }
        sink.find(
            Draft::fault((&driver.name.text, wired.span.unwrap_or(driver.name.span)))
                .says(format!(
                    "the {} is wired as {}, and its legs are {legs}, seen from its printed side",
                    driver.words(),
                    wired.text
                ))
                .cure(format!("turn it, or wire it as {legs}; packages of one look differ: see its sheet")),
        );
    }
}
