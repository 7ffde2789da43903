//! Around the corner of what stops a body that is seen from above.

use glam::DVec2;

use super::{Heading, JOIN, Obstacle, Surroundings};
use crate::input::Facing;
use crate::terrain::Terrain;

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// The nearest place to one side, no further than `most`, from which the way ahead is free; and only if the way to it
    /// is. Ramps and one-way tops are none of it.
    pub(crate) fn past_corner(&self, feet: DVec2, ahead: Facing, side: Facing, most: f64) -> Option<DVec2> {
        let mut at = feet;
        loop {
            let mut clear = at;
            let area = self.area_between(at, at, JOIN);
            self.obstacles(&area, Heading::Up, |obstacle| {
                if self.is_right_ahead(obstacle, at, ahead) {
                    let past = self.past(obstacle, at, side);
                    if is_further(side, past, clear) {
                        clear = past;
                    }
                }
            });
            if clear == at {
                break;
            }
            if (clear - feet).abs().max_element() > most {
                return None;
            }
            at = clear;
        }
        let reached = match side {
            Facing::Left | Facing::Right => DVec2::new(self.first_face(feet, at.x).map_or(at.x, |face| face.x), feet.y),
            Facing::Up => DVec2::new(feet.x, self.rise(feet, at.y).place),
            Facing::Down => DVec2::new(feet.x, self.sink(feet, at.y)),
        };
        (at != feet && reached == at).then_some(at)
    }

    /// Down from `feet` to `to`, where there is no gravity: what is solid stops what would pass it.
    pub(crate) fn sink(&self, feet: DVec2, to: f64) -> f64 {
        let half = self.body.half_width();
        let area = self.area_between(feet, DVec2::new(feet.x, to), 0.0);
        let mut stop = to;
        self.obstacles(&area, Heading::Up, |obstacle| {
            let beneath = feet.x > obstacle.left - half && feet.x < obstacle.right + half;
            if beneath && obstacle.top >= feet.y && obstacle.top < stop {
                stop = obstacle.top;
            }
        });
        stop
    }

    /// Whether an obstacle is right before a body, so that it stops it.
    fn is_right_ahead(&self, obstacle: &Obstacle, feet: DVec2, ahead: Facing) -> bool {
        let by = match ahead {
            Facing::Left => DVec2::new(-JOIN, 0.0),
            Facing::Right => DVec2::new(JOIN, 0.0),
            Facing::Up => DVec2::new(0.0, -JOIN),
            Facing::Down => DVec2::new(0.0, JOIN),
        };
        obstacle.overlaps(self.body, feet + by) && !obstacle.overlaps(self.body, feet)
    }

    /// Where a body is past an obstacle on one side.
    fn past(&self, obstacle: &Obstacle, feet: DVec2, side: Facing) -> DVec2 {
        let half = self.body.half_width();
        match side {
            Facing::Left => DVec2::new(obstacle.left - half, feet.y),
            Facing::Right => DVec2::new(obstacle.right + half, feet.y),
            Facing::Up => DVec2::new(feet.x, obstacle.top),
            Facing::Down => DVec2::new(feet.x, obstacle.bottom + self.body.height),
        }
    }
}

fn is_further(side: Facing, one: DVec2, other: DVec2) -> bool {
    match side {
        Facing::Left => one.x < other.x,
        Facing::Right => one.x > other.x,
        Facing::Up => one.y < other.y,
        Facing::Down => one.y > other.y,
    }
}
