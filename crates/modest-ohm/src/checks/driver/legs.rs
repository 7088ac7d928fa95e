//! thermal-legs-open and legs-mixed: how a package is wired.

use crate::derived::context::Context;
use crate::findings::sink::{Draft, Sink};
use crate::verdict::severity::Severity;

pub(crate) fn thermal(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some(wired) = driver.thermal_legs else { continue };
        if wired {
            sink.pass(&driver.name.text, "its legs for heat are wired".into());
            continue;
        }
        sink.find(Draft {
            severity: Severity::Caution,
            subject: &driver.name.text,
            span: driver.name.span,
            at: None,
            message: format!(
                "the legs of the {} that carry its heat and its − are left open: it gets warmer, and its current has fewer ways",
                driver.words()
            ),
            cures: vec!["wire all of them to −, on copper as wide as it goes".into()],
            evidence: Vec::new(),
        });
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
        sink.find(Draft {
            severity: Severity::Fault,
            subject: &driver.name.text,
            span: wired.span.unwrap_or(driver.name.span),
            at: None,
            message: format!(
                "the {} is wired as {}, and its legs are {legs}, seen from its printed side",
                driver.words(),
                wired.text
            ),
            cures: vec![format!("turn it, or wire it as {legs}; packages of one look differ: see its sheet")],
            evidence: Vec::new(),
        });
    }
}
