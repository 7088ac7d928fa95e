//! Rows, trees and traces of a review, for tables, pictures and machine output.

pub(crate) mod firmware;
pub(crate) mod leads;
pub(crate) mod link_row;
pub(crate) mod parts;
pub(crate) mod pins;
pub(crate) mod profile;
pub(crate) mod release;
pub(crate) mod rows;
pub(crate) mod select;
pub(crate) mod shapes;
pub(crate) mod supply_tree;
pub(crate) mod why;
pub(crate) mod why_leads;
