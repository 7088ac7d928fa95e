//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Nothing, Texts, Values};
use crate::findings::setting::{Setting, set};

/// For `contact-overloaded`.
pub(super) const CONTACT_OVERLOADED: &[Setting] = &[
    set("Use two contacts in parallel", "contacts", Values(&["2", "3", "4"])),
    set("Use a pack with welded cells", "mounted", Texts(&["welded"])),
];

/// For `return-undersized`.
pub(super) const RETURN_UNDERSIZED: &[Setting] = &[set("Make the return as thick as the feed", "@.return", Nothing)];
