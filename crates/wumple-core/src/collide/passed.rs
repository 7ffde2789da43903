//! Tops that a body passes through: those that it lets itself drop through, and drawn ramps that cannot lift it.

use alloc::vec::Vec;

use glam::DVec2;

use crate::nearby::RampId;
use crate::platforms::MoverId;
use crate::terrain::Ramp;

/// The tops that a body lets itself drop through: those that were right under its feet when it did.
#[derive(Debug, Default, PartialEq)]
pub(crate) struct Dropping {
    /// Where its feet were.
    from: DVec2,
    /// One-way tiles and ladders at that height are passed.
    flats: bool,
    /// Drawn ramps that were under the feet there are passed.
    ramps: bool,
    /// These platforms and props are passed.
    movers: Vec<MoverId>,
}

/// So many platforms are seldom under the feet at once; room for them is made at the start.
const ROOM_FOR_MOVERS: usize = 4;

/// Through nothing: for whoever does not drop at all.
pub(crate) static NO_DROP: Dropping = Dropping::nothing();

impl Clone for Dropping {
    fn clone(&self) -> Dropping {
        Dropping { movers: self.movers.clone(), ..*self }
    }

    /// Keeps the room there is.
    fn clone_from(&mut self, other: &Dropping) {
        self.movers.clone_from(&other.movers);
        (self.from, self.flats, self.ramps) = (other.from, other.flats, other.ramps);
    }
}

impl Dropping {
    /// Through nothing.
    pub(crate) const fn nothing() -> Dropping {
        Dropping { from: DVec2::ZERO, flats: false, ramps: false, movers: Vec::new() }
    }

    /// Through what is under the feet here and does not move.
    pub(crate) fn through_terrain(from: DVec2) -> Dropping {
        Dropping { from, flats: true, ramps: true, movers: Vec::new() }
    }

    /// Makes room, so that ticks allocate nothing.
    pub(crate) fn make_room(&mut self) {
        self.movers.reserve(ROOM_FOR_MOVERS.saturating_sub(self.movers.len()));
    }

    /// The list of movers, emptied, to be filled and given to [`Dropping::begin`].
    pub(crate) fn take_movers(&mut self) -> Vec<MoverId> {
        let mut movers = core::mem::take(&mut self.movers);
        movers.clear();
        movers
    }

    /// Begins to drop through what is under the feet here.
    pub(crate) fn begin(&mut self, from: DVec2, movers: Vec<MoverId>) {
        *self = Dropping { from, flats: true, ramps: true, movers };
    }

    /// Through nothing any more.
    pub(crate) fn end_all(&mut self) {
        (self.flats, self.ramps) = (false, false);
        self.movers.clear();
    }

    /// Whether it passes anything.
    #[inline]
    pub(crate) fn is_any(&self) -> bool {
        self.flats || self.ramps || !self.movers.is_empty()
    }

    /// What was dropped through holds again once the feet are below it: flats once they are below where they were,
    /// ramps once `is_above_ramp` is false of all of them, each mover once `is_above` is false of it.
    pub(crate) fn end(&mut self, feet: DVec2, is_above_ramp: bool, is_above: impl FnMut(&MoverId) -> bool) {
        self.flats &= feet.y <= self.from.y;
        self.ramps &= is_above_ramp;
        self.movers.retain(is_above);
    }

    /// Whether one-way tiles and ladders at this height are passed.
    #[inline]
    pub(crate) fn passes_flats_at(&self, y: f64) -> bool {
        self.flats && self.from.y == y
    }

    pub(crate) fn passes_ramps(&self) -> bool {
        self.ramps
    }

    /// Whether a drawn ramp is passed by a body of this half width: it was under the feet.
    #[inline]
    pub(crate) fn passes_ramp(&self, ramp: &Ramp, half: f64) -> bool {
        let x = self.from.x;
        self.ramps
            && ramp.at(x) == self.from.y
            && (ramp.spans(x) || (x > ramp.left.x - half && x < ramp.right.x + half))
    }

    pub(crate) fn passes_mover(&self, mover: MoverId) -> bool {
        self.movers.contains(&mover)
    }
}

/// Drawn ramps that let a body through on one way, because they cannot lift it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Passed<'a> {
    pub(crate) ramp: usize,
    pub(crate) before: Option<&'a Passed<'a>>,
}

impl Passed<'_> {
    /// Whether this ramp is among them.
    pub(crate) fn has(passed: Option<&Passed<'_>>, id: RampId) -> bool {
        passed.is_some_and(|last| id == RampId::Drawn(last.ramp) || Passed::has(last.before, id))
    }
}

crate::bytes::coded!(struct Dropping { from, flats, ramps, movers });
