//! What a body meets around it: how far it can go along one axis, what it stands on, which walls are beside it.
//!
//! Where nothing but plain solid tiles is near, [`plain`] answers by rows and columns. Everything else is answered
//! from the list of what is near, and the tests hold the one to the other, and both to tiny steps.

mod buried;
mod cells;
mod corner;
mod faces;
mod floors;
mod follow;
mod ladders;
mod passed;
mod pieces;
mod plain;
pub mod slow;
mod walk;
mod walls;

#[cfg(test)]
mod hard_places;
#[cfg(test)]
mod list_tests;
#[cfg(test)]
mod tests;

use glam::DVec2;

use crate::nearby::{Nearby, PieceId, RampId, Slope, Solid};
use crate::platforms::{Mover, MoverId, Movers};
use crate::space::{Body, Hitbox};
use crate::terrain::Terrain;

pub(crate) use cells::Cells;
pub(crate) use floors::Floor;
pub(crate) use follow::SetDown;
pub(crate) use ladders::{Ladder, Ladders};
pub(crate) use passed::{Dropping, NO_DROP, Passed};
pub use plain::Swept;
pub(crate) use plain::{stands_on_solid, sweep_x_from, sweep_y_from, walls_beside};
pub(crate) use walk::Footing;
pub(crate) use walls::{Wall, Walls};

/// Ramps and ground that miss each other by no more than this meet, px.
pub(crate) const JOIN: f64 = 1.0 / 1024.0;

/// A terrain, and what moves in it, as one body meets them.
pub(crate) struct Surroundings<'a, T: ?Sized> {
    pub(crate) terrain: &'a T,
    pub(crate) nearby: &'a Nearby,
    pub(crate) movers: &'a Movers<'a>,
    /// The platform that carries the body along, while it does, or the prop that the body is: not met.
    pub(crate) unmet: Option<MoverId>,
    /// While the body moves: where its feet were when the tick began. A one-way top that was no higher then
    /// lifts them, one that was higher lets them through. `None`: tops as they lie now.
    pub(crate) began: Option<DVec2>,
    pub(crate) body: &'a Body,
    /// Whether ladders are there for it.
    pub(crate) ladders: bool,
    /// What it lets itself drop through.
    pub(crate) dropping: &'a Dropping,
    /// Drawn ramps that let it through on its way.
    pub(crate) passed: Option<&'a Passed<'a>>,
    /// The ladder it climbs: its own top, and those of others, do not stop it.
    pub(crate) climbing: Option<Ladder>,
}

/// Which way a body goes that may meet something solid.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Heading {
    Right,
    Left,
    Up,
}

impl Heading {
    pub(crate) fn along_x(to_right: bool) -> Heading {
        if to_right { Heading::Right } else { Heading::Left }
    }
}

/// A rectangle in a body's way. Of a ramp it is the end face, or its underside.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Obstacle {
    pub(crate) left: f64,
    pub(crate) right: f64,
    pub(crate) top: f64,
    pub(crate) bottom: f64,
    pub(crate) id: PieceId,
    /// A solid tile lies right before its face: it stops what is inside that tile, and is no wall.
    pub(crate) hidden: bool,
}

impl Obstacle {
    fn of(place: &Hitbox, id: PieceId) -> Obstacle {
        let Hitbox { left, right, top, bottom } = *place;
        Obstacle { left, right, top, bottom, id, hidden: false }
    }

    /// Whether a body with its feet here overlaps it.
    pub(super) fn overlaps(&self, body: &Body, feet: DVec2) -> bool {
        let half = body.half_width();
        feet.x > self.left - half && feet.x < self.right + half && self.overlaps_in_height(body, feet.y)
    }

    /// The same of its height alone.
    pub(super) fn overlaps_in_height(&self, body: &Body, feet_y: f64) -> bool {
        feet_y > self.top && feet_y < self.bottom + body.height
    }

    /// What a solid piece is to a body with this heading. Of a ramp, whose end may be covered, possibly nothing.
    #[inline(always)]
    fn ahead(solid: &Solid, heading: Heading) -> Option<Obstacle> {
        let (top, hidden) = match (heading, solid.id) {
            (Heading::Right, _) => (solid.faces.left_top, solid.faces.left_hidden),
            (Heading::Left, _) => (solid.faces.right_top, solid.faces.right_hidden),
            (Heading::Up, PieceId::Ramp(_)) => (solid.place.bottom, false),
            (Heading::Up, _) => (solid.place.top, false),
        };
        let Hitbox { left, right, bottom, .. } = solid.place;
        (top < f64::INFINITY).then_some(Obstacle { left, right, top, bottom, id: solid.id, hidden })
    }
}

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// A terrain in which nothing moves, for tests: with a list of what is in an area, or none.
    #[cfg(test)]
    pub(crate) fn without_movers<'a>(
        terrain: &'a T,
        body: &'a Body,
        ladders: bool,
        listed: Option<&Hitbox>,
    ) -> Surroundings<'a, T> {
        use alloc::boxed::Box;
        let movers = Box::leak(Box::new(Movers::none()));
        let nearby = Box::leak(Box::new(Nearby::unknown(terrain.features())));
        if let Some(area) = listed {
            nearby.look(terrain, area);
        }
        let (dropping, passed) = (&NO_DROP, None);
        let (unmet, began, climbing) = (None, None, None);
        Surroundings { terrain, nearby, movers, unmet, began, body, ladders, dropping, passed, climbing }
    }

    /// The box that the body covers between two places, and as much more on every side, px.
    pub(crate) fn area_between(&self, from: DVec2, to: DVec2, more: f64) -> Hitbox {
        let half = self.body.half_width() + more;
        Hitbox {
            left: from.x.min(to.x) - half,
            right: from.x.max(to.x) + half,
            top: from.y.min(to.y) - self.body.height - more,
            bottom: from.y.max(to.y) + more,
        }
    }

    /// Every obstacle that touches an area, for a body with this heading; and perhaps some that do not.
    #[inline(always)]
    pub(crate) fn obstacles(&self, area: &Hitbox, heading: Heading, mut visit: impl FnMut(&Obstacle)) {
        self.nearby.solids(self.terrain, area, |solid| {
            if let Some(obstacle) = Obstacle::ahead(solid, heading) {
                visit(&obstacle);
            }
        });
        self.movers(area, |mover| {
            // What began the tick below the feet is over no head, however far up it has come.
            let from_below = heading == Heading::Up && self.began.is_some_and(|began| began.y <= mover.old.top);
            if mover.solid && !from_below {
                visit(&Obstacle::of(&mover.now, PieceId::Mover(mover.id)));
            }
        });
    }

    /// Every platform and prop whose way in this tick touches an area, but the body's own.
    #[inline]
    pub(crate) fn movers(&self, area: &Hitbox, mut visit: impl FnMut(&Mover)) {
        if self.movers.are_any() {
            self.movers.each_near(area, &mut |mover| {
                if self.unmet != Some(mover.id) {
                    visit(mover);
                }
            });
        }
    }

    /// Every slope that may touch an area, but those the body drops through.
    #[inline(always)]
    pub(crate) fn slopes(&self, area: &Hitbox, mut visit: impl FnMut(&Slope)) {
        self.nearby.slopes(self.terrain, area, |slope| {
            if !self.passes(slope) {
                visit(slope);
            }
        });
    }

    /// Whether the body goes through a slope: a drawn ramp that it drops through, or that cannot lift it.
    #[inline(always)]
    fn passes(&self, slope: &Slope) -> bool {
        !slope.ramp.solid
            && (self.dropping.passes_ramp(&slope.ramp, self.body.half_width()) || Passed::has(self.passed, slope.id))
    }

    /// Whether a body with its feet here would overlap nothing solid that is not buried; and whether the feet
    /// are not inside a solid ramp.
    pub(crate) fn fits(&self, feet: DVec2) -> bool {
        self.overlapped(feet).is_none()
    }

    /// What a hitbox with these feet overlaps though it may not.
    pub(crate) fn overlapped(&self, feet: DVec2) -> Option<PieceId> {
        let area = self.area_between(feet, feet, 0.0);
        let mut found = None;
        self.obstacles(&area, Heading::Up, |obstacle| {
            if found.is_none() && obstacle.overlaps(self.body, feet) && !self.is_buried(obstacle, feet) {
                found = Some(obstacle.id);
            }
        });
        if found.is_none() {
            self.slopes(&area, |slope| {
                if found.is_none() && self.is_in_slope(slope, feet) {
                    found = Some(PieceId::Ramp(slope.id));
                }
            });
        }
        found
    }

    /// Whether the feet are inside a tile's ramp, or the hitbox is, below the end on the middle's side.
    fn is_in_slope(&self, slope: &Slope, feet: DVec2) -> bool {
        let (RampId::Tile { .. }, ramp) = (slope.id, &slope.ramp) else { return false };
        let foot = slope.place.bottom;
        if ramp.spans(feet.x) {
            return feet.y > ramp.at(feet.x) && feet.y <= foot;
        }
        let top = if feet.x > ramp.right_end().x { slope.faces.right_top } else { slope.faces.left_top };
        let face = Obstacle { top, ..Obstacle::of(&slope.place, PieceId::Ramp(slope.id)) };
        top < f64::INFINITY && face.overlaps(self.body, feet) && !self.is_buried(&face, feet)
    }
}
