//! One file a command.

pub(crate) mod arcs;
pub(crate) mod buttons;
pub(crate) mod check;
pub(crate) mod compare;
pub(crate) mod completions;
pub(crate) mod convert;
pub(crate) mod course;
pub(crate) mod demo;
pub(crate) mod draw;
pub(crate) mod fit;
mod fit_moves;
pub(crate) mod manual;
pub(crate) mod match_recording;
pub(crate) mod new;
pub(crate) mod reach;
pub(crate) mod run;
pub(crate) mod schemas;
pub(crate) mod trial;
pub(crate) mod vary;
