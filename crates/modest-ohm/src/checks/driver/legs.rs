//! thermal-pins-open and pinout-wrong: how a package is wired.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;

pub(crate) fn thermal(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some(wired) = driver.thermal_legs else { continue };
        if wired {
            sink.pass(&driver.name.text, || "its thermal pins are connected".into());
            continue;
        }
        sink.find(Draft::caution(&driver.name).says(format!(
            "the ground pins that cool the {} are open: it runs hotter, and its current has fewer paths",
            driver.words()
        )));
    }
}

pub(crate) fn mixed(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some((wired, legs)) = &driver.legs else { continue };
        let order = |text: &str| {
            text.split([' ', ',', '-']).filter(|w| !w.is_empty()).map(str::to_lowercase).collect::<Vec<_>>()
        };
        if order(&wired.text) == order(legs) {
            sink.pass(&driver.name.text, || format!("its pinout is {legs}"));
            continue;
        }
        sink.find(Draft::fault((&driver.name.text, wired.span.unwrap_or(driver.name.span))).says(format!(
            "the {} is wired as {}; its pinout is {legs}, seen from the printed side",
            driver.words(),
            wired.text
        )));
    }
}
