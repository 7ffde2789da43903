//! What lies beneath the ground that rises beside a body.
//!
//! Only the feet's middle meets a slope. So the sides of the hitbox come to be inside the ground that a ramp
//! leads up to: in the ledge at its top, in what lies under it. The *rise* beside a body is where its feet
//! would get on the way to one side: level, until a ramp comes up under them, up that ramp, and level again
//! from its end. What does not stand above the rise where it begins is *buried*: to this body it is neither
//! wall nor floor nor ceiling.

use glam::DVec2;

use super::{Heading, JOIN, Obstacle, Surroundings};
use crate::nearby::{PieceId, Slope};
use crate::space::Hitbox;
use crate::terrain::Terrain;

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// Whether an obstacle is buried to a body with its feet here.
    #[inline(always)]
    pub(crate) fn is_buried(&self, obstacle: &Obstacle, feet: DVec2) -> bool {
        let to_right = obstacle.left >= feet.x;
        let begins = if to_right { obstacle.left } else { obstacle.right };
        if (!to_right && begins > feet.x) || matches!(obstacle.id, PieceId::Mover(_)) {
            return false;
        }
        let (left, right) = (feet.x.min(begins), feet.x.max(begins));
        let way = Hitbox { left, right, top: feet.y, bottom: feet.y }.grown(JOIN);
        !self.nearby.has_no_slopes(self.terrain, &way) && self.is_beneath_rise(obstacle, feet, begins, to_right)
    }

    #[inline(never)]
    fn is_beneath_rise(&self, obstacle: &Obstacle, feet: DVec2, begins: f64, to_right: bool) -> bool {
        let mut top = obstacle.top;
        if let Some(slope) = self.slope_of(obstacle) {
            // It begins at its end, also above its underside, and leads up from there by itself.
            top = slope.ramp.end(!to_right).y;
            if feet.y <= top + JOIN && slope.ramp.end(to_right).y < top {
                return true;
            }
        }
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

    /// The slope of a tile that is a ramp.
    fn slope_of(&self, obstacle: &Obstacle) -> Option<Slope> {
        let PieceId::Ramp(id) = obstacle.id else { return None };
        let Obstacle { left, right, bottom, .. } = *obstacle;
        let mut found = None;
        self.nearby.slopes(self.terrain, &Hitbox { left, right, top: bottom, bottom }, |slope| {
            if slope.id == id {
                found = Some(*slope);
            }
        });
        found
    }

    /// Whether another ramp goes on from a ramp's end, level or down, so that the end's height no longer holds
    /// past it. One that the body drops through does so from a drawn ramp's end, and never from a solid one's.
    pub(super) fn is_end_taken_over(&self, of: &Slope, right_end: bool) -> bool {
        let (end, solid) = (of.ramp.end(right_end), of.ramp.solid);
        let area = Hitbox { left: end.x - JOIN, right: end.x + JOIN, top: end.y - JOIN, bottom: end.y + JOIN };
        let mut taken = false;
        self.nearby.slopes(self.terrain, &area, |other| {
            let ramp = &other.ramp;
            let (near, far) = (ramp.end(!right_end), ramp.end(right_end));
            let goes_on = if right_end {
                near.x <= end.x + JOIN && far.x > end.x + JOIN
            } else {
                near.x >= end.x - JOIN && far.x < end.x - JOIN
            };
            // One that begins lower leaves a sill, which holds the feet.
            let meets = other.id != of.id && goes_on && (0.0..=JOIN).contains(&(end.y - ramp.at(end.x)));
            taken |= meets && if self.passes(other) { !solid } else { far.y >= end.y };
        });
        taken
    }

    /// The feet, or where they are set if something solid that is not buried is higher than they are by no
    /// more than a join's width.
    pub(super) fn on_sill(&self, feet: DVec2) -> DVec2 {
        let half = self.body.half_width();
        let (left, right) = (feet.x - half, feet.x + half);
        let (mut top, mut met) = (feet.y, false);
        self.slopes(&Hitbox { left, right, top: feet.y - JOIN, bottom: feet.y }, |slope| {
            let ramp = &slope.ramp;
            let line = ramp.at(feet.x);
            met = true;
            if ramp.solid && right > ramp.left.x && left < ramp.right.x && line >= feet.y - JOIN {
                top = top.min(line);
            }
        });
        if !met {
            return feet;
        }
        self.obstacles(&self.area_between(feet, feet, 0.0), Heading::Up, |obstacle| {
            let sill = obstacle.top >= feet.y - JOIN && obstacle.top < top && obstacle.top < obstacle.bottom;
            if sill && obstacle.overlaps(self.body, feet) && !self.is_buried(obstacle, feet) {
                top = obstacle.top;
            }
        });
        DVec2::new(feet.x, top)
    }
}
