//! What items are made of that holds no figures: words, and rows of standard tables.

use crate::quantity::figures::no_figures;
use crate::size::supply::Profile;
use crate::tables::cell::Cell;
use crate::tables::fuse::{FuseBody, FuseFamily, FuseSpeed};
use crate::tables::wire::{Material, WireSize};
use crate::text::Named;

no_figures!(Named, Profile, Cell, FuseBody, FuseFamily, FuseSpeed, Material, WireSize);
