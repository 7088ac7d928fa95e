//! The names of pins, in one numbering and in both.

use super::Plan;
use crate::plan::wiring::pin::PinAt;

impl Plan {
    /// A pin by its board and the chip's name: `keeper.io12`.
    pub(crate) fn pin_name(&self, pin: &PinAt) -> String {
        match self.boards.get(pin.board) {
            Some(board) => format!("{}.{}", board.name.text, pin.pin),
            None => pin.pin.clone(),
        }
    }

    /// A pin in words, in both numberings where its board has both: `keeper.io12` (p13), with the marks of code.
    pub(crate) fn pin_words(&self, pin: &PinAt) -> String {
        let Some(board) = self.boards.get(pin.board) else { return format!("`{}`", pin.pin) };
        let listed = pin.index.and_then(|i| board.pins.list.get(i));
        let position = listed.and_then(|p| p.position.as_deref()).filter(|p| *p != pin.pin);
        let place = position.map_or_else(String::new, |p| format!(" ({p})"));
        format!("`{}`{place}", self.pin_name(pin))
    }
}
