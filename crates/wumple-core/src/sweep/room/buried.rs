//! What lies beneath the ground that rises beside a body.
//!
//! Only the feet's middle meets a slope. So the sides of the hitbox come to be inside the ground that a ramp
//! leads up to: in the ledge at its top, in what lies under it. The *rise* beside a body is where its feet
//! would get on the way to one side: level, until a ramp comes up under them, up that ramp, and level again
//! from its end. What does not stand above the rise where it begins is *buried*: to this body it is neither
//! wall nor floor nor ceiling.

use glam::DVec2;

use super::{JOIN, Obstacle, RampId, Room, Thing};
use crate::geometry::Hitbox;
use crate::terrain::{Features, Ramp, Terrain};

impl<T: Terrain + ?Sized> Room<'_, T> {
    /// Whether an obstacle is buried to a body with its feet here.
    #[inline]
    pub(crate) fn is_buried(&self, obstacle: &Obstacle, feet: DVec2) -> bool {
        self.near.has(Features::RAMP | Features::LINE)
            && !matches!(obstacle.thing, Thing::Mover(_))
            && self.is_beneath_rise(obstacle, feet)
    }

    /// Whether a top holds no feet at this x: they go on down beside it, to the ramp that leads up to it.
    #[inline]
    pub(super) fn is_buried_top(&self, obstacle: &Obstacle, x: f64) -> bool {
        self.is_buried(obstacle, DVec2::new(x, obstacle.top + 2.0 * JOIN))
    }

    fn is_beneath_rise(&self, obstacle: &Obstacle, feet: DVec2) -> bool {
        let to_right = obstacle.left >= feet.x;
        if !to_right && obstacle.right > feet.x {
            return false;
        }
        let begins = if to_right { obstacle.left } else { obstacle.right };
        // What there is of a ramp begins at its end, also above its underside.
        let top = match obstacle.thing {
            Thing::Ramp(RampId::Tile { column, row }) => {
                self.terrain.tile_ramp(column, row).map_or(obstacle.top, |ramp| ramp.end(!to_right).y)
            }
            _ => obstacle.top,
        };
        let mut at = feet;
        while let Some(rising) = self.next_rising(at, begins) {
            let (end, height) = self.end_of_climb(&rising, at, begins);
            at = DVec2::new(end, height.min(at.y));
            if at.y <= top + JOIN {
                return true;
            }
        }
        false
    }

    /// Whether another ramp goes on from a ramp's end, so that the end's height no longer holds past it. That
    /// does not change while the body drops through one of them.
    pub(super) fn is_end_taken_over(&self, id: RampId, end: DVec2, right_end: bool) -> bool {
        let area = Hitbox { left: end.x - JOIN, right: end.x + JOIN, top: end.y - JOIN, bottom: end.y + JOIN };
        let mut taken = false;
        self.ramps_drawn(&area, |other, ramp: &Ramp| {
            let (near, far) = (ramp.end(!right_end).x, ramp.end(right_end).x);
            let goes_on = if right_end {
                near <= end.x + JOIN && far > end.x + JOIN
            } else {
                near >= end.x - JOIN && far < end.x - JOIN
            };
            taken |= other != id && goes_on && (ramp.at(end.x) - end.y).abs() <= JOIN;
        });
        taken
    }

    /// The top of something solid under the feet's middle that is above them by no more than a join's width.
    pub(super) fn sill(&self, feet: DVec2) -> Option<f64> {
        let area = Hitbox { left: feet.x, right: feet.x, top: feet.y - JOIN, bottom: feet.y };
        let mut found: Option<f64> = None;
        self.obstacles(&area, super::Heading::Up, |obstacle| {
            let under =
                obstacle.left <= feet.x && feet.x < obstacle.right && !matches!(obstacle.thing, Thing::Mover(_));
            if under && obstacle.top < feet.y && obstacle.top >= feet.y - JOIN {
                found = Some(found.map_or(obstacle.top, |top| top.min(obstacle.top)));
            }
        });
        found
    }
}
