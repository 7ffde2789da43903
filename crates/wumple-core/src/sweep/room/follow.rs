//! Following the ground down: what a body that walked is set down on.

use glam::DVec2;

use super::{JOIN, Obstacle, RampId, Room, Thing, Top};
use crate::geometry::Hitbox;
use crate::terrain::{Ramp, Terrain};

/// No slope is followed down that is steeper, px for each px along.
const STEEPEST_FOLLOWED: f64 = 64.0;

impl<T: Terrain + ?Sized> Room<'_, T> {
    /// The height on which a body is set down that walked from one place to another and has nothing under
    /// its feet there: a ramp within the way it may be followed, a flat within `step` px, or a flat joined
    /// to a ramp that the feet left on the way. Otherwise how far it is to the next top, if that is near.
    pub(crate) fn set_down(&self, feet: DVec2, from: DVec2, step: f64) -> Result<f64, Option<f64>> {
        let along = (feet.x - from.x).abs();
        let depth = step.max(self.follow).max(along * STEEPEST_FOLLOWED) + JOIN;
        let top = self.first_top(feet.x, feet.y, feet.y + depth).ok_or(None)?;
        let by = top.y - feet.y;
        let way = Hitbox {
            left: feet.x.min(from.x),
            right: feet.x.max(from.x),
            top: feet.y.min(from.y) - JOIN,
            bottom: top.y + JOIN,
        };
        let follows = match top.ramp {
            Some(id) => by <= self.follow.max(along * self.steepest_passed(id, &way)) + JOIN,
            None => by <= step || self.has_left_ramp_to(&top, &way, from.x, feet.y),
        };
        if follows { Ok(top.y) } else { Err(Some(by)) }
    }

    /// The steepest of this ramp and those joined to it that the feet passed.
    fn steepest_passed(&self, id: RampId, way: &Hitbox) -> f64 {
        let mut followed = None;
        self.ramps(way, |other, ramp| followed = followed.or((other == id).then_some(*ramp)));
        let Some(followed) = followed else { return 0.0 };
        let is_passed = |ramp: &Ramp| ramp.left_end().x <= way.right && ramp.right_end().x >= way.left;
        let mut steepest = if is_passed(&followed) { followed.slope() } else { 0.0 };
        self.ramps(way, |other, ramp| {
            let (left, right) = (ramp.left_end(), ramp.right_end());
            let itself =
                Obstacle { left: left.x, right: right.x, top: left.y, bottom: left.y, thing: Thing::Ramp(other) };
            if is_passed(ramp) && ramp.slope() > steepest && self.is_joined(id, &followed, &itself) {
                steepest = ramp.slope();
            }
        });
        steepest
    }

    /// Whether a flat is joined to a ramp that the feet left on their way from `from` at this height: one
    /// that was at their height where the way began, or where they came to it.
    fn has_left_ramp_to(&self, top: &Top, way: &Hitbox, from: f64, height: f64) -> bool {
        let Some(thing) = top.thing else { return false };
        let flat = Obstacle { left: top.left, right: top.right, top: top.y, bottom: top.y, thing };
        let mut joined = false;
        self.ramps(way, |id, ramp| {
            let (left, right) = (ramp.left_end().x, ramp.right_end().x);
            let passed = left <= way.right && right >= way.left;
            let left_it = passed && (ramp.at(from.clamp(left, right)) - height).abs() <= JOIN;
            joined = joined || (left_it && self.is_joined(id, ramp, &flat));
        });
        joined
    }
}
